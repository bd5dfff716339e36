import { expose } from 'comlink';
import type { Setup } from '@/core/instrument';
import { alternativesFor, bestWay, explainEvent, problemOf, priced, proposals, solve, type Alternative, type Blocked, type Priced } from '@/core/place';
import type { Place, Riff } from '@/core/score';
import type { TempoStep } from '@/core/time';

export interface Placement {
  readonly changes: readonly { readonly note: string; readonly place: Place | null }[];
  readonly blocked: readonly Blocked[];
  /** Per event: the hand position (fret of the index from the capo) and the reason of its cost in words. */
  readonly hands: readonly { readonly event: string; readonly hand: number; readonly why: string }[];
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
  /** `version` names the riff as it is: while it stays, one solution prices every note. */
  alternatives(riff: Riff, setup: Setup, tempo: readonly TempoStep[], version: number, event: number, note: number): Alternative[] {
    const problem = problemOf(riff, setup, tempo);
    if (last?.version !== version) last = { version, known: priced(problem) };
    return alternativesFor(problem, event, note, last.known);
  },
};

export type PlaceDoor = typeof door;
expose(door);
