import type { Setup } from '../instrument';
import { holdCost } from './hold';
import { moveCost } from './move';
import { makeNeck, type Neck } from './neck';
import { RELAX_REACH, relaxAt } from './relax';
import { ended, makeDesk, pathTo, searching, type Desk, type Layer } from './search';
import { makeSlices, offTheNeck, type Relaxed } from './slices';
import type { Blocked, PlacedEvent, PlaceOptions, Problem, Term, Way } from './types';

export interface Solution {
  readonly problem: Problem;
  readonly neck: Neck;
  readonly desk: Desk;
  readonly layers: readonly Layer[];
  readonly blocked: readonly Blocked[];
  /** What was given up to place the rest. */
  readonly relaxed: Relaxed;
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
export function* solving(problem: Problem, earlier: Solution | null = null): Generator<void, Solution> {
  const reuse = earlier && sameDesk(earlier, problem.setup, problem.options) ? earlier : null;
  const neck = reuse?.neck ?? makeNeck(problem.setup, problem.options);
  const desk = reuse?.desk ?? makeDesk(neck);
  const off = offTheNeck(problem);
  const blocked: Blocked[] = [...off.blocked];
  let known: readonly Layer[] = [];
  // Each round gives up at least one note, link or ring, so this ends.
  for (;;) {
    const slices = makeSlices(problem, off.relaxed);
    const { layers, dead } = yield* searching(desk, slices, known, known.length === 0 ? reuse : null);
    if (dead < 0) return { problem, neck, desk, layers, blocked, relaxed: off.relaxed };
    blocked.push(...relaxAt(problem, desk, slices, off.relaxed, dead));
    // What is given up lies at most a few slices back: the search goes on from before them.
    known = layers.slice(0, Math.max(0, dead - RELAX_REACH));
  }
}

/** Whether neck, hand and weights are those of an earlier solution. */
const sameDesk = (earlier: Solution, setup: Setup, options: PlaceOptions): boolean =>
  (earlier.problem.setup === setup || JSON.stringify(earlier.problem.setup) === JSON.stringify(setup)) &&
  (earlier.problem.options === options || JSON.stringify(earlier.problem.options) === JSON.stringify(options));

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
  const firstHand = events.find((e) => e.hand > 0)?.hand ?? 0;
  return { cost: total, events: firstHand === events[0]?.hand ? events : events.map((e) => (e.hand === 0 ? { ...e, hand: firstHand } : e)) };
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
  const notes = event.notes.map((note, n) => {
    const v = voices.findIndex((x) => x.heldFrom < 0 && x.over < 0 && x.note === n);
    const voice = voices[v];
    if (!voice) return null;
    const string = state.strings[v] ?? 0;
    const place = voice.places.find((p) => p.string === string && (voice.kind === 'dead' || (p.open ? 0 : p.fretFromNut) === state.frets[v]));
    const trill = voices.findIndex((x) => x.over === v);
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
export const bestWay = (solution: Solution): Way => wayOf(solution, pathTo(solution.layers));
