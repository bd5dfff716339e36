import { holdCost } from './hold';
import { isBound, MOVE_PARTS, moveAllowed, moveFrames, moveParts, type MoveFrame } from './move';
import type { Neck } from './neck';
import type { Slice } from './slices';
import { makeDeck, statesOf, type Deck, type Shapes, type State } from './states';
import type { PlacedEvent } from './types';

/** One column of the search: all states of a slice with the best cost of getting there. */
export interface Layer {
  readonly slice: Slice;
  readonly frame: MoveFrame;
  readonly deck: Deck;
  readonly hold: Float64Array;
  /** Least cost of everything up to and including this state; Infinity where it can't be reached. */
  readonly best: Float64Array;
  /** The state before on that cheapest path. */
  readonly from: Int32Array;
  /** States in order of `best`, for early stops. */
  readonly order: Int32Array;
  /** How many states can be reached: they come first in `order`. */
  readonly alive: number;
  /** The cheapest state with the hand at each fret from the nut, -1 where none is. */
  readonly firstAt: Int16Array;
  /** To be added to every `best`: a layer kept from an earlier search, where all that came before got dearer by so much. */
  readonly offset: number;
  /** Placed events made of this layer, by the state before and its own. */
  readonly placed: Map<number, PlacedEvent>;
}

/** Least cost of everything up to and including a state. */
export const bestOf = (layer: Layer, state: number): number => (layer.best[state] ?? Infinity) + layer.offset;

/** More tasks than this are forgotten: a long session of edits must not fill the memory. */
const DECKS_KEPT = 6000;

/** States and their holding costs are the same for equal tasks: a riff repeats itself. */
function deckCache(neck: Neck): (slice: Slice) => { deck: Deck; hold: Float64Array } {
  const cache = new Map<string, { deck: Deck; hold: Float64Array }>();
  const shapes: Shapes = new Map();
  return (slice) => {
    const known = cache.get(slice.key);
    if (known) return known;
    if (cache.size > DECKS_KEPT) cache.clear();
    const states = statesOf(neck, slice);
    const made = { deck: makeDeck(states, shapes), hold: Float64Array.from(states, (s) => holdCost(neck, slice, s)) };
    cache.set(slice.key, made);
    return made;
  };
}

/** What the held notes of a slice must look like, as one key, so that only matching states are compared; of a harmonic only its string. */
const heldKey = (voices: readonly number[], loose: readonly boolean[], state: State | undefined): string =>
  voices.map((v, i) => (loose[i] ? String(state?.strings[v]) : `${state?.strings[v]}.${state?.frets[v]}.${state?.fingers[v]}`)).join(' ');

function groupBy(list: Int32Array, keyOf: (item: number) => string): Map<string, number[]> {
  const groups = new Map<string, number[]>();
  for (const item of list) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}

function layerFor(neck: Neck, slice: Slice, frame: MoveFrame, deck: Deck, hold: Float64Array, before: Layer | undefined): Layer {
  const { states } = deck;
  const best = new Float64Array(states.length).fill(Infinity);
  const from = new Int32Array(states.length).fill(-1);
  if (!before) {
    best.set(hold);
  } else {
    const heldNow = slice.voices.map((v, i) => (v.heldFrom >= 0 ? i : -1)).filter((i) => i >= 0);
    const heldThen = heldNow.map((i) => slice.voices[i]?.heldFrom ?? 0);
    const loose = heldNow.map((i) => slice.voices[i]?.kind === 'harmonic');
    // Without held notes every state of the slice before may lead here; else only those that hold the same.
    const reachable = before.order;
    const groups = heldNow.length === 0 ? null : groupBy(reachable.subarray(0, before.alive), (a) => heldKey(heldThen, loose, before.deck.states[a]));
    const bound = isBound(slice);
    for (let b = 0; b < states.length; b++) {
      const group = groups ? groups.get(heldKey(heldNow, loose, states[b])) : reachable;
      if (group) from[b] = cheapestInto(neck, slice, frame, before, group, deck, b, bound, best);
      best[b] = (best[b] ?? 0) + (hold[b] ?? 0);
    }
  }
  const order = sortedBy(best);
  let alive = 0;
  while (alive < order.length && best[order[alive] ?? 0] !== Infinity) alive++;
  const firstAt = new Int16Array(neck.press.length).fill(-1);
  for (let i = alive - 1; i >= 0; i--) firstAt[deck.hand[order[i] ?? 0] ?? 0] = order[i] ?? 0;
  return { slice, frame, deck, hold, best, from, order, alive, firstAt, offset: 0, placed: new Map() };
}

/** Indices in order of their values, the earlier first on a tie. Insertion sort: decks are small and this runs for each slice. */
function sortedBy(values: Float64Array): Int32Array {
  const order = new Int32Array(values.length);
  for (let i = 0; i < values.length; i++) {
    const value = values[i] ?? 0;
    let j = i;
    for (; j > 0 && (values[order[j - 1] ?? 0] ?? 0) > value; j--) order[j] = order[j - 1] ?? 0;
    order[j] = i;
  }
  return order;
}

const parts = new Float64Array(MOVE_PARTS);

/** Finds the cheapest state before `b`, writes the cost of the path to `best[b]` and returns that state, or -1. */
function cheapestInto(
  neck: Neck, slice: Slice, frame: MoveFrame, before: Layer, group: ArrayLike<number>, deck: Deck, b: number, bound: boolean, best: Float64Array,
): number {
  const { costs } = neck;
  const { hand, free } = before.deck;
  const staying = deck.free[b] === 1;
  const target = deck.hand[b] ?? 0;
  // Travel is the same there and back, so one row of the table serves all states before.
  const row = target * frame.width;
  let least = Infinity;
  let origin = -1;
  // The cheapest state with the hand already there goes first: it mostly wins, and cuts the rest short.
  const start = group === before.order ? (before.firstAt[target] ?? -1) : -1;
  for (let i = start >= 0 ? -1 : 0; i < before.alive; i++) {
    if (i >= group.length) break;
    const a = (i < 0 ? start : group[i]) ?? 0;
    const sofar = (before.best[a] ?? Infinity) + before.offset;
    if (sofar >= least) break;
    const at = hand[a] ?? 0;
    if (staying && at !== target) continue;
    const near = staying ? sofar : sofar + ((free[a] === 1 ? frame.free : frame.busy)[row + at] ?? 0);
    if (near >= least || (bound && !mayMove(slice, before.deck.states[a], deck.states[b]))) continue;
    const cost = near + moveParts(costs, frame, before.deck, a, deck, b, parts);
    if (cost < least) {
      least = cost;
      origin = a;
    }
  }
  best[b] = least;
  return origin;
}

const mayMove = (slice: Slice, from: State | undefined, to: State | undefined): boolean =>
  from !== undefined && to !== undefined && moveAllowed(slice, from, to);


/** What one search shares: tables by time and states by task. */
export interface Desk {
  readonly neck: Neck;
  readonly frames: (slice: Slice) => MoveFrame;
  readonly decks: (slice: Slice) => { deck: Deck; hold: Float64Array };
}

export const makeDesk = (neck: Neck): Desk => ({ neck, frames: moveFrames(neck), decks: deckCache(neck) });

/** An earlier search over nearly the same slices, to be reused where nothing changed. */
export interface Earlier {
  readonly layers: readonly Layer[];
}

/** How often a long search lets others have a turn, in slices. */
const TURN = 24;

/**
 * The forward search over slices, after the layers already known. `dead` is the first slice
 * that no state of the one before can reach, or -1. Yields now and then, so that a caller can
 * breathe, or give up.
 *
 * Layers of an `earlier` search are taken over while the tasks are the same from the start; and
 * again from where the costs of all states differ from the earlier ones by one and the same
 * amount and the tasks to the end are the same: from there on every decision is the same too.
 */
export function* searching(desk: Desk, slices: readonly Slice[], known: readonly Layer[] = [], earlier: Earlier | null = null): Generator<void, { layers: Layer[]; dead: number }> {
  const layers = [...known];
  if (earlier && known.length === 0) {
    for (let i = 0; i < slices.length; i++) {
      const slice = slices[i];
      const old = earlier.layers[i];
      if (!slice || !old || !alike(slice, old.slice)) break;
      layers.push(old.slice.event === slice.event ? old : { ...old, slice });
    }
  }
  const shift = earlier ? earlier.layers.length - slices.length : 0;
  const tail = earlier ? alikeTail(slices, earlier.layers, shift) : slices.length;
  for (let i = layers.length; i < slices.length; i++) {
    if (i % TURN === 0) yield;
    const slice = slices[i];
    if (!slice) break;
    const { deck, hold } = desk.decks(slice);
    const layer = layerFor(desk.neck, slice, desk.frames(slice), deck, hold, layers.at(-1));
    if (layer.alive === 0) return { layers, dead: i };
    layers.push(layer);
    const old = i >= tail ? earlier?.layers[i + shift] : undefined;
    const by = old ? evenly(layer, old) : null;
    if (by === null) continue;
    for (let j = i + 1; j < slices.length; j++) {
      const rest = earlier?.layers[j + shift];
      const task = slices[j];
      if (rest && task) layers.push({ ...rest, slice: task, offset: rest.offset + by });
    }
    break;
  }
  return { layers, dead: -1 };
}

const alike = (a: Slice, b: Slice): boolean => a.key === b.key && a.moveKey === b.moveKey;

/** The first slice from which on all tasks are those of the earlier search. */
function alikeTail(slices: readonly Slice[], old: readonly Layer[], shift: number): number {
  let i = slices.length;
  while (i > 0) {
    const a = slices[i - 1];
    const b = old[i - 1 + shift]?.slice;
    if (!a || !b || !alike(a, b)) break;
    i--;
  }
  return i;
}

/** By how much all costs of a layer differ from an earlier one of the same states; null where it is not one amount for all. */
function evenly(layer: Layer, old: Layer): number | null {
  if (layer.deck !== old.deck || layer.alive !== old.alive) return null;
  const first = layer.order[0] ?? -1;
  const by = bestOf(layer, first) - bestOf(old, first);
  for (let s = 0; s < layer.best.length; s++) {
    const now = layer.best[s] ?? Infinity;
    const then = old.best[s] ?? Infinity;
    if (now === Infinity && then === Infinity) continue;
    if (!(Math.abs(now + layer.offset - then - old.offset - by) < 1e-9)) return null;
  }
  return by;
}

/** The search in one go. */
export function forward(desk: Desk, slices: readonly Slice[], known: readonly Layer[] = []): { layers: Layer[]; dead: number } {
  return ended(searching(desk, slices, known));
}

/** Runs a computation that yields to its end. */
export function ended<T>(steps: Generator<unknown, T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** Whether slices can be played in one go. */
export const playable = (desk: Desk, slices: readonly Slice[]): boolean => forward(desk, slices).dead < 0;

/** The states of the cheapest path that ends in `last` (default: the cheapest of all), one a layer. */
export function pathTo(layers: readonly Layer[], last = layers.at(-1)?.order[0] ?? -1): number[] {
  const path: number[] = new Array<number>(layers.length).fill(-1);
  let state = last;
  for (let i = layers.length - 1; i >= 0; i--) {
    path[i] = state;
    state = layers[i]?.from[state] ?? -1;
  }
  return path;
}
