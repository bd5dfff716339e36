import { expose } from 'comlink';
import type { Finger } from '@/core/base';
import type { Setup } from '@/core/instrument';
import { alternativesFor, bestWay, bestWays, differing, explainEvent, LOOKED_THROUGH, problemOf, priced, proposals, solve, wayFacts, type Alternative, type Blocked, type Priced, type WayFacts } from '@/core/place';
import type { Place, Riff } from '@/core/score';
import type { TempoStep } from '@/core/time';

export interface Placement {
  readonly changes: readonly { readonly note: string; readonly place: Place | null }[];
  readonly blocked: readonly Blocked[];
  /** Per event: the hand position (fret of the index from the capo) and the reason of its cost in words. */
  readonly hands: readonly { readonly event: string; readonly hand: number; readonly why: string }[];
}

/** One way of playing the events chosen: what it costs above the best, its figures, and every place. */
export interface WayAnswer {
  readonly extra: number;
  readonly facts: WayFacts;
  /** Hand position of every event of the riff. */
  readonly hands: readonly number[];
  readonly places: readonly { readonly event: string; readonly note: string; readonly string: number; readonly fret: number; readonly finger: Finger }[];
}

let last: { readonly version: number; readonly known: Priced } | null = null;

/** The door to core/place: one question at a time, plain data in and out. */
const door = {
  solve(riff: Riff, setup: Setup, tempo: readonly TempoStep[]): Placement {
    const solution = solve(problemOf(riff, setup, tempo));
    const way = bestWay(solution);
    return {
      changes: proposals(riff, way),
      blocked: solution.blocked,
      hands: way.events.map((e, i) => ({ event: e.id, hand: e.hand, why: explainEvent(e, way.events[i - 1] ?? null) })),
    };
  },
  /** A few ways of playing chosen events that differ as a player would say, everything else as it lies now. */
  ways(riff: Riff, setup: Setup, tempo: readonly TempoStep[], chosen: readonly string[], howMany: number): WayAnswer[] {
    const problem = problemOf(riff, setup, tempo);
    const events = problem.events.map((e, i) => {
      if (chosen.includes(e.id)) return e;
      return { ...e, notes: e.notes.map((n, j) => { const place = riff.events[i]?.notes[j]?.place; return place ? { ...n, lock: { string: place.string, fret: place.fret, finger: n.lock?.finger ?? null } } : n; }) };
    });
    const solution = solve({ ...problem, events });
    const ways = differing(bestWays(solution, LOOKED_THROUGH), howMany);
    const least = ways[0]?.cost ?? 0;
    return ways.map((way) => ({
      extra: way.cost - least,
      facts: wayFacts(solution, way),
      hands: way.events.map((e) => e.hand),
      places: riff.events.flatMap((e, i) => (chosen.includes(e.id) ? e.notes.flatMap((n, j) => { const to = way.events[i]?.notes[j]; return to ? [{ event: e.id, note: n.id, string: to.string, fret: to.fret, finger: to.finger }] : []; }) : [])),
    }));
  },
  /** `version` names the riff as it is: while it stays, one solution prices every note. */
  alternatives(riff: Riff, setup: Setup, tempo: readonly TempoStep[], version: number, event: number, note: number): Alternative[] {
    const problem = problemOf(riff, setup, tempo);
    if (last?.version !== version) last = { version, known: priced(problem) };
    return alternativesFor(problem, event, note, last.known);
  },
};

export type PlaceDoor = typeof door;
expose(door);
