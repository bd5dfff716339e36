import equal from 'fast-deep-equal';
import type { Setup } from '../instrument';
import { type Ahead, lookBack } from './backward';
import { holdCost } from './hold';
import { moveCost } from './move';
import { makeNeck, type Neck } from './neck';
import { RELAX_REACH, relaxAt } from './relax';
import { alike, bestOf, ended, makeWorkspace, pathTo, searching, type Workspace, type Layer } from './search';
import { renewSlices } from './renew';
import type { Slice } from './slice';
import { makeSlices, offTheNeck, type Relaxed } from './slices';
import type { Blocked, PlacedEvent, PlaceOptions, Problem, Term, Way } from './types';

export interface Solution {
  readonly problem: Problem;
  readonly neck: Neck;
  readonly desk: Workspace;
  readonly layers: readonly Layer[];
  readonly blocked: readonly Blocked[];
  /** What was given up to place the rest. */
  readonly relaxed: Relaxed;
  /** The states of the cheapest path. */
  readonly path: readonly number[];
  /** Layers whose `best` counts what comes before; those after were taken over and only say what is asked. */
  readonly fresh: number;
  /** What lies ahead of each state, known from `aheadFrom` on. */
  readonly ahead: Ahead[];
  readonly aheadFrom: number;
}

/**
 * Places a part: the exact optimum over all hand states by dynamic programming.
 *
 * Nothing is thrown and no note is dropped silently: notes and limits that make the whole
 * impossible are found, smallest set first at each place where the search dies, reported in
 * `blocked`, and the rest is placed without them. What did not change since an `earlier` solution
 * is taken from it; the result is the same.
 */
export const solve = (problem: Problem, earlier: Solution | null = null): Solution => ended(solving(problem, earlier));

/** The same in steps: yields now and then, so that a worker can take a newer question and drop this one. */
export function* solving(asked: Problem, earlier: Solution | null = null): Generator<void, Solution> {
  const reuse = earlier && sameNeck(earlier, asked.setup, asked.options) ? earlier : null;
  // The same neck as one object: what is known of it need not be found again.
  const problem = reuse ? { ...asked, setup: reuse.problem.setup, options: reuse.problem.options } : asked;
  const off = offTheNeck(problem);
  if (reuse && reuse.blocked.length === 0 && off.blocked.length === 0 && sameTime(reuse.problem, problem)) {
    const found = yield* again(reuse, problem, off.relaxed);
    if (found) return found;
  }
  const neck = reuse?.neck ?? makeNeck(problem.setup, problem.options);
  const desk = reuse?.desk ?? makeWorkspace(neck);
  const blocked: Blocked[] = [...off.blocked];
  let known: readonly Layer[] = [];
  // Each round gives up at least one note, link or ring, so this ends.
  for (;;) {
    const slices = makeSlices(problem, off.relaxed);
    const { layers, dead } = yield* searching(desk, slices, known);
    if (dead < 0)
      return {
        problem,
        neck,
        desk,
        layers,
        blocked,
        relaxed: off.relaxed,
        path: pathTo(layers),
        fresh: layers.length,
        ahead: [],
        aheadFrom: layers.length,
      };
    blocked.push(...relaxAt(problem, desk, slices, off.relaxed, dead));
    // What is given up lies at most a few slices back: the search goes on from before them.
    known = layers.slice(0, Math.max(0, dead - RELAX_REACH));
  }
}

/**
 * A solution after an edit. Up to the edit the earlier search stands; after it, what lies ahead of
 * every state stands, since it depends on nothing before. So only what lies between is searched,
 * and the two are joined where they meet: exact, in time that grows with the edit and its distance
 * from the last one, not with the part. Null where the part as a whole has to be looked at.
 */
function* again(before: Solution, problem: Problem, relaxed: Relaxed): Generator<void, Solution | null> {
  const { neck, desk } = before;
  const old = before.layers;
  const slices = renewSlices(
    problem,
    before.problem,
    old.map((layer) => layer.slice),
  );
  const shift = old.length - slices.length;
  let head = 0;
  while (head < Math.min(before.fresh, slices.length) && alikeAt(slices, head, old, head)) head++;
  let meet = slices.length;
  while (meet > head && alikeAt(slices, meet - 1, old, meet - 1 + shift)) meet--;
  const kept = old
    .slice(0, head)
    .map((layer, i): Layer => (layer.slice === slices[i] ? layer : { ...layer, slice: slices[i] ?? layer.slice }));
  // At the meeting place the tasks are those of before, and so are the states.
  const { layers, dead } = yield* searching(desk, slices.slice(0, meet + 1), kept);
  if (dead >= 0) return null;
  const at = layers[meet];
  const then = old[meet + shift];
  if (!at || !then)
    return {
      problem,
      neck,
      desk,
      layers,
      blocked: [],
      relaxed,
      path: pathTo(layers),
      fresh: layers.length,
      ahead: [],
      aheadFrom: layers.length,
    };
  if (at.deck !== then.deck) return null;
  const ahead = [...before.ahead];
  const aheadFrom = Math.min(before.aheadFrom, meet + shift);
  lookBack(neck, old, ahead, before.aheadFrom, aheadFrom);
  const beyond = ahead[meet + shift];
  let best = -1;
  let least = Infinity;
  at.deck.states.forEach((_, index) => {
    const total = bestOf(at, index) + (beyond?.cost[index] ?? Infinity);
    if (total < least) {
      least = total;
      best = index;
    }
  });
  if (best < 0) return null;
  const path = pathTo(layers, best);
  for (let i = meet, s = best; i < slices.length - 1; i++) {
    s = ahead[i + shift]?.next[s] ?? -1;
    path.push(s);
  }
  const rest = slices.slice(meet + 1).map((slice, i): Layer => {
    const layer = old[meet + 1 + i + shift] as Layer;
    return layer.slice === slice ? layer : { ...layer, slice };
  });
  return {
    problem,
    neck,
    desk,
    layers: [...layers, ...rest],
    blocked: [],
    relaxed,
    path,
    fresh: meet + 1,
    ahead: shift === 0 ? ahead : moved(ahead, shift, slices.length),
    aheadFrom: meet,
  };
}

const alikeAt = (slices: readonly Slice[], i: number, old: readonly Layer[], j: number): boolean => {
  const a = slices[i];
  const b = old[j]?.slice;
  return a !== undefined && b !== undefined && alike(a, b);
};

/** What lies ahead, counted from the end, for a part that has become longer or shorter. */
function moved(ahead: readonly Ahead[], shift: number, length: number): Ahead[] {
  const out = new Array<Ahead>(length);
  for (let i = Math.max(0, -shift); i < length; i++) {
    const one = ahead[i + shift];
    if (one) out[i] = one;
  }
  return out;
}

const sameTime = (a: Problem, b: Problem): boolean => equal(a.tempo, b.tempo) && equal(a.meters, b.meters);

/** Whether neck, hand and weights are those of an earlier solution. */
const sameNeck = ({ problem }: Solution, setup: Setup, options: PlaceOptions): boolean =>
  equal(problem.setup, setup) && equal(problem.options, options);

/** A path of states as a way: places, hands and the reasons for every cost. */
export function wayOf(solution: Solution, path: readonly number[]): Way {
  const { problem, layers } = solution;
  let total = 0;
  let hand = 0;
  const events = layers.map((layer, i): PlacedEvent => {
    const event = problem.events[layer.slice.event];
    const state = layer.deck.states[path[i] ?? -1];
    if (!state || !event) return { id: event?.id ?? '', hand: 0, notes: [], cost: 0, hold: [], move: [] };
    const key = ((path[i - 1] ?? -1) + 1) * 65_536 + (path[i] ?? 0);
    let made = layer.placed.get(key);
    if (!made) layer.placed.set(key, (made = placedEvent(solution, i, path[i - 1] ?? -1, path[i] ?? -1)));
    total += made.cost;
    if (!state.free) hand = made.hand;
    return made.id === event.id && made.hand === hand ? made : { ...made, id: event.id, hand };
  });
  // Before the first stopped note the hand already waits where it will be needed.
  const firstHand = events.find((event) => event.hand > 0)?.hand ?? 0;
  return {
    cost: total,
    events:
      firstHand === events[0]?.hand
        ? events
        : events.map((event) => (event.hand === 0 ? { ...event, hand: firstHand } : event)),
  };
}

function placedEvent({ problem, neck, layers }: Solution, i: number, from: number, to: number): PlacedEvent {
  const layer = layers[i];
  const state = layer?.deck.states[to];
  const event = problem.events[layer?.slice.event ?? -1];
  if (!layer || !state || !event) return { id: '', hand: 0, notes: [], cost: 0, hold: [], move: [] };
  const hold: Term[] = [];
  const move: Term[] = [];
  const before = layers[i - 1];
  let cost = holdCost(neck, layer.slice, state, hold);
  if (before) cost += moveCost(neck, layer.frame, before.deck, from, layer.deck, to, move);
  const { voices } = layer.slice;
  const notes = event.notes.map((note, index) => {
    const v = voices.findIndex((voice) => voice.heldFrom < 0 && voice.over < 0 && voice.note === index);
    const voice = voices[v];
    if (!voice) return null;
    const string = state.strings[v] ?? 0;
    const place = voice.places.find(
      (place) =>
        place.string === string &&
        (voice.kind === 'dead' || voice.kind === 'tapped' || (place.open ? 0 : place.fretFromNut) === state.frets[v]),
    );
    const trill = voices.findIndex((voice) => voice.over === v);
    return {
      pitch: note.pitch,
      string,
      fret: place?.fret ?? 0,
      finger: (state.fingers[v] ?? 0) as PlacedFinger,
      ...(trill >= 0 ? { trillFinger: (state.fingers[trill] ?? 0) as PlacedFinger } : {}),
    };
  });
  return { id: event.id, hand: state.free ? 0 : state.hand - neck.base, notes, cost, hold, move };
}

type PlacedFinger = 0 | 1 | 2 | 3 | 4 | 5;

/** The best way. */
export const bestWay = (solution: Solution): Way => wayOf(solution, solution.path);

/** A solution whose every layer counts what comes before: searched anew where an edit left some out. */
export const settled = (solution: Solution): Solution =>
  solution.fresh === solution.layers.length ? solution : solve(solution.problem);
