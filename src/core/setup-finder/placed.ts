import type { Midi } from '../base';
import type { Setup } from '../instrument';
import { bestWay, DEFAULT_OPTIONS, solve, type PlaceEvent, type PlaceOptions, type Solution, type Way } from '../place';
import { barOf, barStart, cmp, sub } from '../time';
import { candidatesFor } from './candidates';
import { asking, asPlayed, impossibleClues, passedOver, type Asking } from './clues';
import { digestOf } from './digest';
import { strokesOf } from './quick';
import type { Candidate, FinderQuestion } from './types';
import {
  CLUE_WEIGHT,
  DOUBT,
  FULL_WEIGHTS,
  fullSigns,
  PASSED_OVER,
  SCREEN_WEIGHTS,
  scoreOfSigns,
  signsOf,
  type FullSigns,
  type Signs,
} from './weigh';

/** The work of the finder: all candidates at a glance, then the likeliest placed by the solver. */

/** How many candidates are placed in full: fewer where the phrase is long, so that the work stays bounded. */
const PLACED = { most: 16, least: 8, work: 6_000 } as const;
/** Strokes that are placed: of a longer part the bars that tell most, each once. All of it is looked at first. */
const MOST_EVENTS = 64;
/** So many of the commonest that have all the notes are placed whatever the first look says. */
const USUAL = 4;

/** A candidate with the phrase placed in it. */
export interface Placed {
  readonly candidate: Candidate;
  readonly signs: FullSigns;
  readonly against: ReadonlySet<number>;
  /** Stopped notes it has an open string for. */
  readonly passed: number;
  readonly solution: Solution;
  readonly way: Way;
}

/** What the finder weighs, before weights: for the answer, and for learning the weights. */
export interface Weighing {
  readonly events: readonly PlaceEvent[];
  readonly asked: Asking;
  readonly screened: readonly { readonly candidate: Candidate; readonly signs: Signs; readonly clues: number }[];
}

/** Every candidate at a glance: what of the phrase its open strings explain, without placing it. */
export function screen(question: FinderQuestion): Weighing {
  const asked = asking(telling(question), question.clues);
  const whole = asking(question.events, question.clues).events;
  const digest = digestOf(whole, question.meters);
  const strokes = strokesOf(whole);
  return {
    events: asked.events,
    asked,
    screened: candidatesFor(question.limits).map((candidate) => ({
      candidate,
      signs: signsOf(digest, strokes, candidate),
      clues: impossibleClues(asked, candidate).size,
    })),
  };
}

/** The best of a screening, as many as there is time for, likeliest first. */
export function shortlist({ screened, events }: Weighing): Weighing['screened'] {
  const work = events.reduce((n, event) => n + event.notes.length ** 2, 0);
  const many = Math.max(PLACED.least, Math.min(PLACED.most, Math.floor(PLACED.work / Math.max(1, work))));
  // The usual set-ups are always looked at: a first glance may think little of them.
  const usual = screened
    .filter(({ signs }) => signs.below === 0 && signs.unheld === 0 && signs.quickStuck === 0)
    .sort((a, b) => b.signs.common - a.signs.common)
    .slice(0, USUAL);
  const likely = screened
    .map((one) => ({ one, score: scoreOfSigns(one.signs, SCREEN_WEIGHTS) - CLUE_WEIGHT * one.clues }))
    .sort((a, b) => b.score - a.score)
    .slice(0, many)
    .map(({ one }) => one);
  return [...new Set([...likely, ...usual])];
}

/** A phrase placed in one candidate. */
export function placeIn(
  { asked }: Weighing,
  { candidate, signs }: Weighing['screened'][number],
  question: FinderQuestion,
  options: PlaceOptions = DEFAULT_OPTIONS,
): Placed {
  const events = asPlayed(asked, candidate);
  const setup = candidate.members[0]?.setup as Setup;
  const solution = solve({ setup, tempo: question.tempo, meters: question.meters, events, options });
  const way = bestWay(solution);
  const against = impossibleClues(asked, candidate);
  for (const { clue, events: moved } of asked.shapes) if (!oneShape(way, moved)) against.add(clue);
  question.clues.forEach((clue, index) => {
    if (clue.kind === 'ring' && solution.blocked.some((one) => clue.events.includes(one.locus.event)))
      against.add(index);
  });
  return {
    candidate,
    signs: fullSigns(signs, events, solution, way),
    against,
    passed: passedOver(asked, candidate),
    solution,
    way,
  };
}

/** Whether a way plays events as one shape: the same strings, all frets moved by the same step. */
export function oneShape(way: Way, events: readonly number[]): boolean {
  const first = way.events[events[0] ?? -1]?.notes;
  return events.every((i) => {
    const notes = way.events[i]?.notes;
    if (!first || !notes || notes.length !== first.length) return false;
    const by = (notes[0]?.fret ?? 0) - (first[0]?.fret ?? 0);
    return notes.every(
      (note, k) => note?.string === first[k]?.string && (note?.fret ?? 0) - (first[k]?.fret ?? 0) === by,
    );
  });
}

/**
 * Candidates that no ear can tell apart, likeliest first: their best ways are the same on the strings they use; or,
 * where no open string sounds, one shape on strings the same distances apart, elsewhere along the neck.
 */
export function together(placed: readonly Placed[]): Placed[][] {
  const groups = new Map<string, Placed[]>();
  for (const one of placed) {
    const key = keyOf(one);
    const group = groups.get(key);
    if (group) group.push(one);
    else groups.set(key, [one]);
  }
  return [...groups.values()].map((group) => group.sort((a, b) => scoreOfPlaced(b) - scoreOfPlaced(a)));
}

function keyOf({ candidate, way, solution }: Placed): string {
  const { strings, lowest } = usedBy(way);
  const base = lowest > 0 ? openAt(candidate, strings[0] ?? 1) : 0;
  const tuned = strings.map((string) => `${string}=${openAt(candidate, string) - base}`);
  const places = way.events.map((event) =>
    event.notes.map((note) => (note ? `${note.string}.${note.fret - lowest}` : '-')).join('+'),
  );
  return `${candidate.instrument.id}|${solution.blocked.length}|${tuned.join()}|${places.join(' ')}`;
}

const openAt = ({ open }: Candidate, string: number): Midi => open[open.length - string] ?? 0;

/** The strings a way uses, and its lowest fret: 0 where an open string sounds. */
export function usedBy(way: Way): { readonly strings: readonly number[]; readonly lowest: number } {
  const notes = way.events.flatMap((event) => event.notes.filter((note) => note !== null));
  return {
    strings: [...new Set(notes.map((note) => note.string))].sort((a, b) => a - b),
    lowest: notes.length === 0 ? 0 : Math.min(...notes.map((note) => note.fret)),
  };
}

/**
 * How many frets higher or lower a candidate plays a way that was found for another, and null where it can't: its used
 * strings have to be tuned the same, or the same distances apart where none of them is open.
 */
export function shiftOf(way: Way, from: Candidate, to: Candidate): number | null {
  if (from.instrument.id !== to.instrument.id) return null;
  const { strings, lowest } = usedBy(way);
  const first = strings[0];
  if (first === undefined) return null;
  const by = openAt(from, first) - openAt(to, first);
  if (by !== 0 && (lowest === 0 || lowest + by < 1)) return null;
  return strings.every((string) => !to.absent.includes(string) && openAt(from, string) - openAt(to, string) === by)
    ? by
    : null;
}

export const scoreOfPlaced = ({ signs, against, passed }: Placed): number =>
  (scoreOfSigns(signs, FULL_WEIGHTS) - CLUE_WEIGHT * against.size - PASSED_OVER * passed) / DOUBT;

/** Several candidates in one answer weigh together. */
export function groupScore(group: readonly Placed[]): number {
  const scores = group.map(scoreOfPlaced);
  const best = Math.max(...scores);
  return best + Math.log(scores.reduce((sum, score) => sum + Math.exp(score - best), 0));
}

/**
 * The bars that tell most, in order of time: those with clues, then those with most pitches; what a bar says that
 * another has said is left out. All of it where it is short.
 */
function telling({ events, meters, clues }: FinderQuestion): readonly PlaceEvent[] {
  if (events.length <= MOST_EVENTS) return events;
  const clued = new Set(clues.flatMap((clue) => ('events' in clue ? clue.events : [clue.event])));
  const bars = new Map<number, PlaceEvent[]>();
  for (const event of events) {
    const { bar } = barOf(meters, event.at);
    const list = bars.get(bar);
    if (list) list.push(event);
    else bars.set(bar, [event]);
  }
  const ranked = [...bars].map(([bar, list]) => {
    const pitches = new Set(list.flatMap((event) => event.notes.map((note) => note.pitch)));
    return { bar, list, worth: pitches.size + (list.some((event) => clued.has(event.id)) ? 1000 : 0) };
  });
  const seen = new Set<string>();
  const kept: PlaceEvent[] = [];
  for (const { bar, list } of ranked.sort((a, b) => b.worth - a.worth || a.bar - b.bar)) {
    const start = barStart(meters, bar);
    const key = list
      .map(
        (event) =>
          `${sub(event.at, start)}:${event.dur}:${event.ring ? 'r' : ''}${event.link ?? ''}:${event.notes.map((note) => noteKey(note.pitch, note)).join('+')}`,
      )
      .join(' ');
    const room = kept.length + list.length <= MOST_EVENTS || kept.length === 0;
    if (list.some((event) => clued.has(event.id)) || (room && !seen.has(key))) kept.push(...list);
    seen.add(key);
  }
  return kept.sort((a, b) => cmp(a.at, b.at));
}

const noteKey = (pitch: Midi, note: PlaceEvent['notes'][number]): string =>
  `${pitch}${note.bend ?? ''}${note.dead ? 'x' : ''}${note.dur ?? ''}${note.link ?? ''}`;
