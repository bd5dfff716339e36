import { apart } from './neck';
import { termWords } from './explain';
import type { Solution } from './solve';
import type { PlaceEvent, Way } from './types';

/** A way of playing in the figures a player compares. */
export interface WayFacts {
  /** Notes played open. */
  readonly open: number;
  /** Times the hand moves along the neck, and the farthest it does, in mm between press points. */
  readonly shifts: number;
  readonly farthestMm: number;
  /** The widest stretch held, in mm; 0 where none goes beyond comfort. */
  readonly widestMm: number;
  /** Lowest and highest hand position, frets from where the neck counts. */
  readonly lowest: number;
  readonly highest: number;
  /** The move that costs most, in words with its event; null where every move is easy. */
  readonly hardest: { readonly event: string; readonly words: string } | null;
}

/** Notes played open; a click on a damped string is none. */
export const openNotes = (asked: readonly PlaceEvent[], way: Way): number =>
  way.events.reduce(
    (sum, event, i) =>
      sum + event.notes.filter((place, index) => place?.fret === 0 && !asked[i]?.notes[index]?.dead).length,
    0,
  );

/** Moves cheaper than this are no effort worth a word. */
const WORTH = 0.8;

export function wayFacts(solution: Solution, way: Way): WayFacts {
  const { neck } = solution;
  let shifts = 0;
  let farthestMm = 0;
  let widestMm = 0;
  let hardest: WayFacts['hardest'] = null;
  let most = WORTH;
  const hands = way.events.map((event) => event.hand).filter((fret) => fret > 0);
  way.events.forEach((event, i) => {
    for (const term of event.hold) if (term.name === 'stretch') widestMm = Math.max(widestMm, term.amount);
    const before = way.events[i - 1];
    if (before && before.hand > 0 && event.hand > 0 && before.hand !== event.hand) {
      shifts++;
      farthestMm = Math.max(farthestMm, apart(neck, before.hand + neck.base, event.hand + neck.base));
    }
    const cost = event.move.reduce((sum, term) => sum + term.cost, 0);
    const worst = [...event.move].sort((a, b) => b.cost - a.cost)[0];
    if (worst && cost > most) {
      most = cost;
      hardest = { event: event.id, words: termWords(worst) };
    }
  });
  return {
    open: openNotes(solution.problem.events, way),
    shifts,
    farthestMm,
    widestMm,
    lowest: hands.length > 0 ? Math.min(...hands) : 0,
    highest: hands.length > 0 ? Math.max(...hands) : 0,
    hardest,
  };
}

/** Ways looked through for a few that differ. */
export const LOOKED_THROUGH = 60;

/**
 * The first way and those after it that a player would call another: at least a fifth of the
 * notes on other strings than in any way kept before, or the hand two frets away on average.
 */
export function differing(ways: readonly Way[], howMany: number): Way[] {
  const kept: Way[] = [];
  for (const way of ways) {
    if (kept.length >= howMany) break;
    if (kept.every((other) => unlike(other, way))) kept.push(way);
  }
  return kept;
}

/** Whether a player would call one way another than the other. */
export function unlike(a: Way, b: Way): boolean {
  let notes = 0;
  let moved = 0;
  let away = 0;
  a.events.forEach((event, i) => {
    const other = b.events[i];
    away += Math.abs(event.hand - (other?.hand ?? event.hand));
    event.notes.forEach((note, index) => {
      notes++;
      if (note?.string !== other?.notes[index]?.string) moved++;
    });
  });
  return moved >= notes * 0.2 || away >= a.events.length * 2;
}
