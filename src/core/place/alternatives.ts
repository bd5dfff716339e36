import { backward, type Ahead } from './backward';
import { explainDifference } from './explain';
import { harmonicsOf, positionsOf } from './positions';
import { bestOf, pathTo } from './search';
import { solve, wayOf, type Solution } from './solve';
import type { PlaceOnNeck, Problem, Way } from './types';

/** One place of a note, and what the whole phrase costs when the note lies there. */
export interface Alternative extends PlaceOnNeck {
  /** Cost above the cheapest place of this note; null where no hand can do it in this phrase. */
  readonly extra: number | null;
  /** Fret of the index from the capo, where it can be played. */
  readonly hand: number | null;
  readonly reason: string;
  /** Of `extra`: what this note and the move to it cost more, and what comes before and after it. */
  readonly now: number;
  readonly later: number;
  readonly before: number;
}

/** A solved phrase with the costs ahead of every state: prices many notes of one phrase quickly. */
export interface Priced {
  readonly solution: Solution;
  readonly ahead: readonly Ahead[];
  readonly best: Way;
}

/** Solves a phrase for pricing. */
export function priced(problem: Problem): Priced {
  const solution = solve(problem);
  return { solution, ahead: backward(solution.neck, solution.layers), best: wayOf(solution, pathTo(solution.layers)) };
}

/**
 * Every place of one note on the neck with its price: the cheapest way of playing the whole
 * phrase with the note there, against the cheapest of all, and the reason in words. A lock on
 * the note itself is set aside, so that a decision can be compared with what it forgoes. `known`
 * is the same problem priced before, used where the note is not locked.
 */
export function alternativesFor(
  problem: Problem,
  event: number,
  note: number,
  known: Priced | null = null,
): Alternative[] {
  const wanted = problem.events[event]?.notes[note];
  if (!wanted) return [];
  const events = problem.events.map((other, i) =>
    i === event
      ? { ...other, notes: other.notes.map((one, index) => (index === note ? { ...one, lock: null } : one)) }
      : other,
  );
  const { solution, ahead, best: bestWay } = known && !wanted.lock ? known : priced({ ...problem, events });
  const places = wanted.harmonic ? harmonicsOf(problem.setup, wanted.pitch) : positionsOf(problem.setup, wanted.pitch);
  const layer = solution.layers[event];
  const voice =
    layer?.slice.voices.findIndex((voice) => voice.heldFrom < 0 && voice.over < 0 && voice.note === note) ?? -1;
  if (!layer || voice < 0)
    return places.map((place) => ({
      ...place,
      extra: null,
      hand: null,
      now: 0,
      later: 0,
      before: 0,
      reason: 'It can’t be played together with what sounds here.',
    }));
  const here = ahead[event];
  return places
    .map((place): Alternative => {
      const fret = place.open || wanted.dead || wanted.tapped ? 0 : place.fretFromNut;
      let least = Infinity;
      let through = -1;
      layer.deck.states.forEach((state, i) => {
        if (state.strings[voice] !== place.string || state.frets[voice] !== fret) return;
        const total = bestOf(layer, i) + (here?.cost[i] ?? Infinity);
        if (total < least) {
          least = total;
          through = i;
        }
      });
      if (through < 0 || least === Infinity)
        return {
          ...place,
          extra: null,
          hand: null,
          now: 0,
          later: 0,
          before: 0,
          reason: 'No hand can join it to what sounds before, with or after it.',
        };
      const way = wayOf(solution, pathThrough(solution, ahead, event, through));
      const hand = way.events[event]?.hand ?? null;
      const extra = Math.max(0, way.cost - bestWay.cost);
      const by = (from: number, to: number): number =>
        way.events
          .slice(from, to)
          .reduce((sum, event, i) => sum + event.cost - (bestWay.events[from + i]?.cost ?? 0), 0);
      return {
        ...place,
        extra: extra < 1e-9 ? 0 : extra,
        hand,
        now: by(event, event + 1),
        later: by(event + 1, way.events.length),
        before: by(0, event),
        reason: explainDifference(bestWay, way, event),
      };
    })
    .sort((a, b) => (a.extra ?? Infinity) - (b.extra ?? Infinity));
}

/** The cheapest path through one state. */
export function pathThrough(solution: Solution, ahead: readonly Ahead[], at: number, state: number): number[] {
  const path = pathTo(solution.layers.slice(0, at + 1), state);
  let s = state;
  for (let i = at; i < solution.layers.length - 1; i++) {
    s = ahead[i]?.next[s] ?? -1;
    path.push(s);
  }
  return path;
}
