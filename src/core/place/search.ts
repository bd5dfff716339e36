import { holdCost } from './hold';
import { isBound, moveAllowed, moveFrames, moveParts, type MoveFrame } from './move';
import type { Neck } from './neck';
import type { Slice } from './slice';
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
  /** Placed events made of this layer, by the state before and its own. */
  readonly placed: Map<number, PlacedEvent>;
}

/** Least cost of everything up to and including a state. */
export const bestOf = (layer: Layer, state: number): number => layer.best[state] ?? Infinity;

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
    const made = {
      deck: makeDeck(
        states,
        shapes,
        slice.voices.some((voice) => voice.heldFrom >= 0),
      ),
      hold: Float64Array.from(states, (state) => holdCost(neck, slice, state)),
    };
    cache.set(slice.key, made);
    return made;
  };
}

/**
 * What the held notes of a slice must look like, as one key, so that only matching states are compared; of a harmonic
 * only its string.
 */
const heldKey = (voices: readonly number[], loose: readonly boolean[], state: State | undefined): string =>
  voices
    .map((v, i) =>
      loose[i] ? String(state?.strings[v]) : `${state?.strings[v]}.${state?.frets[v]}.${state?.fingers[v]}`,
    )
    .join(' ');

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

function layerFor(
  { neck, room }: Workspace,
  slice: Slice,
  frame: MoveFrame,
  deck: Deck,
  hold: Float64Array,
  before: Layer | undefined,
): Layer {
  const { states } = deck;
  const best = room.floats(states.length).fill(Infinity);
  const from = room.ints(states.length).fill(-1);
  if (!before) {
    best.set(hold);
  } else {
    const heldNow = slice.voices.map((voice, i) => (voice.heldFrom >= 0 ? i : -1)).filter((i) => i >= 0);
    const heldThen = heldNow.map((i) => slice.voices[i]?.heldFrom ?? 0);
    const loose = heldNow.map((i) => slice.voices[i]?.kind === 'harmonic');
    // Without held notes every state of the slice before may lead here; else only those that hold the same.
    const reachable = before.order;
    const groups =
      heldNow.length === 0
        ? null
        : groupBy(reachable.subarray(0, before.alive), (a) => heldKey(heldThen, loose, before.deck.states[a]));
    const bound = isBound(slice);
    for (let b = 0; b < states.length; b++) {
      const group = groups ? groups.get(heldKey(heldNow, loose, states[b])) : reachable;
      if (group) from[b] = cheapestInto(neck, slice, frame, before, group, deck, b, bound, best);
      best[b] = (best[b] ?? 0) + (hold[b] ?? 0);
    }
  }
  const order = sortedBy(best, room.ints(best.length));
  let alive = 0;
  while (alive < order.length && best[order[alive] ?? 0] !== Infinity) alive++;
  const firstAt = room.shorts(neck.press.length).fill(-1);
  for (let i = alive - 1; i >= 0; i--) firstAt[deck.hand[order[i] ?? 0] ?? 0] = order[i] ?? 0;
  return { slice, frame, deck, hold, best, from, order, alive, firstAt, placed: new Map() };
}

/**
 * Indices in order of their values, the earlier first on a tie. Insertion sort: decks are small and this runs for
 * each slice.
 */
function sortedBy(values: Float64Array, order: Int32Array): Int32Array {
  for (let i = 0; i < values.length; i++) {
    const value = values[i] ?? 0;
    let j = i;
    for (; j > 0 && (values[order[j - 1] ?? 0] ?? 0) > value; j--) order[j] = order[j - 1] ?? 0;
    order[j] = i;
  }
  return order;
}

/** Finds the cheapest state before `b`, writes the cost of the path to `best[b]` and returns that state, or -1. */
function cheapestInto(
  neck: Neck,
  slice: Slice,
  frame: MoveFrame,
  before: Layer,
  group: ArrayLike<number>,
  deck: Deck,
  b: number,
  bound: boolean,
  best: Float64Array,
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
    const sofar = before.best[a] ?? Infinity;
    if (sofar >= least) break;
    const at = hand[a] ?? 0;
    if (staying && at !== target) continue;
    const near = staying ? sofar : sofar + ((free[a] === 1 ? frame.free : frame.busy)[row + at] ?? 0);
    if (near >= least || (bound && !mayMove(slice, before.deck.states[a], deck.states[b]))) continue;
    const cost = near + moveParts(costs, frame, before.deck, a, deck, b, neck.terms);
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
export interface Workspace {
  readonly neck: Neck;
  readonly frames: (slice: Slice) => MoveFrame;
  readonly decks: (slice: Slice) => { deck: Deck; hold: Float64Array };
  readonly room: Room;
}

/**
 * Room for the numbers of layers, cut from large pieces: thousands of small arrays would cost more to make than to
 * fill.
 */
interface Room {
  readonly floats: (length: number) => Float64Array;
  readonly ints: (length: number) => Int32Array;
  readonly shorts: (length: number) => Int16Array;
}

const PIECE = 16_384;

function makeRoom(): Room {
  const cutter = <T extends Float64Array | Int32Array | Int16Array>(make: (length: number) => T) => {
    let piece = make(PIECE);
    let used = 0;
    return (length: number): T => {
      if (length > PIECE) return make(length);
      if (used + length > PIECE) {
        piece = make(PIECE);
        used = 0;
      }
      used += length;
      return piece.subarray(used - length, used) as T;
    };
  };
  return {
    floats: cutter((n) => new Float64Array(n)),
    ints: cutter((n) => new Int32Array(n)),
    shorts: cutter((n) => new Int16Array(n)),
  };
}

export const makeWorkspace = (neck: Neck): Workspace => ({
  neck,
  frames: moveFrames(neck),
  decks: deckCache(neck),
  room: makeRoom(),
});

/** How often a long search lets others have a turn, in slices. */
const TURN = 24;

/**
 * The forward search over slices, after the layers already known. `dead` is the first slice
 * that no state of the one before can reach, or -1. Yields now and then, so that a caller can
 * breathe, or give up.
 */
export function* searching(
  desk: Workspace,
  slices: readonly Slice[],
  known: readonly Layer[] = [],
): Generator<void, { layers: Layer[]; dead: number }> {
  const layers = [...known];
  for (let i = layers.length; i < slices.length; i++) {
    if (i % TURN === 0) yield;
    const slice = slices[i];
    if (!slice) break;
    const { deck, hold } = desk.decks(slice);
    const layer = layerFor(desk, slice, desk.frames(slice), deck, hold, layers.at(-1));
    if (layer.alive === 0) return { layers, dead: i };
    layers.push(layer);
  }
  return { layers, dead: -1 };
}

/** Whether two slices ask the same of the hand, and are reached in the same manner. */
export const alike = (a: Slice, b: Slice): boolean => a === b || (a.key === b.key && a.moveKey === b.moveKey);

/** The search in one go. */
export function forward(
  desk: Workspace,
  slices: readonly Slice[],
  known: readonly Layer[] = [],
): { layers: Layer[]; dead: number } {
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
export const playable = (desk: Workspace, slices: readonly Slice[]): boolean => forward(desk, slices).dead < 0;

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
