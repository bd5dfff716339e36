import { holdCost, moveCost } from './cost';
import { RELAX_REACH, relaxAt } from './relax';
import { forward, makeDesk, pathTo, type Layer } from './search';
import { makeSlices, offTheNeck } from './slices';
import { makeNeck, type Neck } from './states';
import type { Blocked, PlacedEvent, Problem, Term, Way } from './types';

export interface Solution {
  readonly problem: Problem;
  readonly neck: Neck;
  readonly layers: readonly Layer[];
  readonly blocked: readonly Blocked[];
}

/**
 * Places a part: the exact optimum over all hand states by dynamic programming.
 *
 * Nothing is thrown and no note is dropped silently: notes and limits that make the whole
 * impossible are found, smallest set first at each place where the search dies, reported in
 * `blocked`, and the rest is placed without them.
 */
export function solve(problem: Problem): Solution {
  const neck = makeNeck(problem.setup, problem.options);
  const desk = makeDesk(neck);
  const off = offTheNeck(problem);
  const blocked: Blocked[] = [...off.blocked];
  let known: readonly Layer[] = [];
  // Each round gives up at least one note, link or ring, so this ends.
  for (;;) {
    const slices = makeSlices(problem, off.relaxed);
    const { layers, dead } = forward(desk, slices, known);
    if (dead < 0) return { problem, neck, layers, blocked };
    blocked.push(...relaxAt(problem, desk, slices, off.relaxed, dead));
    // What is given up lies at most a few slices back: the search goes on from before them.
    known = layers.slice(0, Math.max(0, dead - RELAX_REACH));
  }
}

/** A path of states as a way: places, hands and the reasons for every cost. */
export function wayOf(solution: Solution, path: readonly number[]): Way {
  const { problem, neck, layers } = solution;
  let total = 0;
  let hand = 0;
  const events = layers.map((layer, i): PlacedEvent => {
    const state = layer.deck.states[path[i] ?? -1];
    const event = problem.events[layer.slice.event];
    if (!state || !event) return { id: event?.id ?? '', hand: 0, notes: [], cost: 0, hold: [], move: [] };
    const hold: Term[] = [];
    const move: Term[] = [];
    let cost = holdCost(neck, layer.slice, state, hold);
    const before = layers[i - 1];
    if (before) cost += moveCost(neck, layer.frame, before.deck, path[i - 1] ?? -1, layer.deck, path[i] ?? -1, move);
    total += cost;
    if (!state.free) hand = state.hand - neck.base;
    const notes = event.notes.map((note, n) => {
      const v = layer.slice.voices.findIndex((x) => x.heldFrom < 0 && x.note === n);
      if (v < 0) return null;
      const fret = state.frets[v] ?? 0;
      const string = state.strings[v] ?? 0;
      return { pitch: note.pitch, string, fret: fret === 0 ? 0 : fret - (neck.nuts[string] ?? 0), finger: (state.fingers[v] ?? 0) as 0 | 1 | 2 | 3 | 4 };
    });
    return { id: event.id, hand, notes, cost, hold, move };
  });
  // Before the first stopped note the hand already waits where it will be needed.
  const firstHand = events.find((e) => e.hand > 0)?.hand ?? 0;
  return { cost: total, events: events.map((e) => (e.hand === 0 ? { ...e, hand: firstHand } : e)) };
}

/** The best way. */
export const bestWay = (solution: Solution): Way => wayOf(solution, pathTo(solution.layers));
