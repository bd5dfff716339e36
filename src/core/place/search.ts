import { holdCost, isBound, MOVE_PARTS, moveAllowed, moveFrames, moveParts, type MoveFrame } from './cost';
import type { Slice } from './slices';
import { makeDeck, statesOf, type Deck, type Neck, type State } from './states';

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
}

/** States and their holding costs are the same for equal tasks: a riff repeats itself. */
function deckCache(neck: Neck): (slice: Slice) => { deck: Deck; hold: Float64Array } {
  const cache = new Map<string, { deck: Deck; hold: Float64Array }>();
  return (slice) => {
    const key = slice.voices
      .map((v) => `${v.pitch}${v.heldFrom >= 0 ? 'h' : ''}${v.lock ? `@${v.lock.string}.${v.lock.fret}.${v.lock.finger ?? ''}` : ''}${v.without ? `-${v.without}` : ''}`)
      .join(' ');
    const known = cache.get(key);
    if (known) return known;
    const states = statesOf(neck, slice.voices);
    const made = { deck: makeDeck(states), hold: Float64Array.from(states, (s) => holdCost(neck, slice, s)) };
    cache.set(key, made);
    return made;
  };
}

/** What the held notes of a slice must look like, as one key, so that only matching states are compared. */
const heldKey = (voices: readonly number[], state: State | undefined): string =>
  voices.map((v) => `${state?.strings[v]}.${state?.frets[v]}.${state?.fingers[v]}`).join(' ');

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
    // Without held notes every state of the slice before may lead here; else only those that hold the same.
    const reachable = before.order;
    const groups = heldNow.length === 0 ? null : groupBy(reachable.subarray(0, before.alive), (a) => heldKey(heldThen, before.deck.states[a]));
    const bound = isBound(slice);
    for (let b = 0; b < states.length; b++) {
      const group = groups ? groups.get(heldKey(heldNow, states[b])) : reachable;
      if (group) from[b] = cheapestInto(neck, slice, frame, before, group, deck, b, bound, best);
      best[b] = (best[b] ?? 0) + (hold[b] ?? 0);
    }
  }
  const order = sortedBy(best);
  let alive = 0;
  while (alive < order.length && best[order[alive] ?? 0] !== Infinity) alive++;
  const firstAt = new Int16Array(neck.press.length).fill(-1);
  for (let i = alive - 1; i >= 0; i--) firstAt[deck.hand[order[i] ?? 0] ?? 0] = order[i] ?? 0;
  return { slice, frame, deck, hold, best, from, order, alive, firstAt };
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
  const { costs } = neck.options;
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
    moveParts(costs, frame, before.deck, a, deck, b, parts);
    const cost = near + (parts[0] ?? 0) + (parts[1] ?? 0) + (parts[2] ?? 0) + (parts[3] ?? 0) + (parts[4] ?? 0);
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

/**
 * The forward search over slices, after the layers already known. `dead` is the first slice
 * that no state of the one before can reach, or -1.
 */
export function forward(desk: Desk, slices: readonly Slice[], known: readonly Layer[] = []): { layers: Layer[]; dead: number } {
  const layers = [...known];
  for (let i = known.length; i < slices.length; i++) {
    const slice = slices[i];
    if (!slice) break;
    const { deck, hold } = desk.decks(slice);
    const layer = layerFor(desk.neck, slice, desk.frames(slice), deck, hold, layers.at(-1));
    if (layer.alive === 0) return { layers, dead: i };
    layers.push(layer);
  }
  return { layers, dead: -1 };
}

/** Whether slices `from` to `to` can be played in one go, nothing binding the first to what was before. */
export const playable = (desk: Desk, slices: readonly Slice[], from: number, to: number): boolean =>
  forward(desk, slices.slice(from, to + 1)).dead < 0;

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
