import type { Midi } from '../base';
import type { PlaceEvent, Solution, Way } from '../place';
import type { Digest } from './digest';
import { quickWay, type Strokes } from './quick';
import type { Candidate } from './types';

/** What speaks for or against a candidate, as numbers between about 0 and 1. */
export interface Signs {
  /** Share of notes below its lowest string. */
  readonly below: number;
  /** 1 where the lowest note is its lowest open string. */
  readonly lowOpen: number;
  /** How far the lowest note lies above it, in octaves. */
  readonly gap: number;
  /** Share of strokes that an open string could sound; of those that ring; and of the pitch that comes oftenest. */
  readonly open: number;
  readonly ringOpen: number;
  readonly pedalOpen: number;
  /** Share of its strings whose open pitch is in the phrase. */
  readonly cover: number;
  /** Share of chords and ringing sets that no grip holds. */
  readonly unheld: number;
  /** Mean share of open strings in the grips that hold them. */
  readonly setOpen: number;
  readonly common: number;
  /** A first idea of the hand: frets of travel a stroke, share of open notes, strokes no grip plays, height. */
  readonly quickTravel: number;
  readonly quickOpen: number;
  readonly quickStuck: number;
  readonly quickHeight: number;
}

/** What is known once the phrase has been placed in it. */
export interface FullSigns extends Pick<Signs, 'below' | 'lowOpen' | 'common'> {
  /** Cost of the best way a stroke. */
  readonly cost: number;
  /** Share of strokes where something can't be done. */
  readonly blocked: number;
  /** Share of notes the best way plays open, and of the notes that ring. */
  readonly wayOpen: number;
  readonly wayRing: number;
}

export type SignWeights<S> = Readonly<Record<keyof S, number>>;

/**
 * Learnt by bench/finder on composed phrases; see docs/decisions/016. Natural logarithms of odds per unit; how common a
 * set-up is counts as it is.
 */
export const SCREEN_WEIGHTS: SignWeights<Signs> = {
  below: -30.39,
  lowOpen: 1.23,
  gap: 0.64,
  open: -0.66,
  ringOpen: 7,
  pedalOpen: 0.36,
  cover: 0.85,
  unheld: -4.38,
  setOpen: 2.05,
  common: 1,
  quickTravel: -2.89,
  quickOpen: 0.73,
  quickStuck: -11.31,
  quickHeight: -1.6,
};

export const FULL_WEIGHTS: SignWeights<FullSigns> = {
  below: -40,
  lowOpen: 1.4,
  common: 1,
  cost: -2.17,
  blocked: -22.02,
  wayOpen: 1.86,
  wayRing: 4.87,
};

/** Shares came out too sure by so much on other phrases of the idioms the weights were learnt on. */
export const DOUBT = 1.2;

/** What a clue that a candidate can't explain takes from it. */
export const CLUE_WEIGHT = 7;

/** What a note that is stopped though an open string has it takes. */
export const PASSED_OVER = 1.2;

const MAX_WINDOW = 4;

export function signsOf(digest: Digest, strokes: Strokes, candidate: Candidate): Signs {
  const opens = candidate.open.filter((_, i) => !candidate.absent.includes(candidate.open.length - i));
  const set = new Set(opens);
  const low = Math.min(...opens);
  let below = 0;
  let open = 0;
  let all = 0;
  let ringOpen = 0;
  let ringAll = 0;
  for (const [pitch, times] of digest.pitches) {
    all += times;
    if (pitch < low) below += times;
    if (set.has(pitch)) open += times;
  }
  for (const [pitch, times] of digest.ringing) {
    ringAll += times;
    if (set.has(pitch)) ringOpen += times;
  }
  let unheld = 0;
  let setOpen = 0;
  let sets = 0;
  for (const { pitches, times } of digest.sets) {
    sets += times;
    const most = mostOpen(pitches, opens);
    if (most === null) unheld += times;
    else setOpen += (times * most) / pitches.length;
  }
  const quick = quickWay(strokes, candidate);
  const share = (n: number, of: number): number => (of > 0 ? n / of : 0);
  return {
    below: share(below, all),
    lowOpen: digest.lowest === low ? 1 : 0,
    gap: Math.min(1.5, Math.max(0, (digest.lowest - low) / 12)),
    open: share(open, all),
    ringOpen: share(ringOpen, ringAll),
    pedalOpen: digest.pedal !== null && set.has(digest.pedal) ? 1 : 0,
    cover: share(opens.filter((pitch) => digest.pitches.has(pitch)).length, opens.length),
    unheld: share(unheld, sets),
    setOpen: share(setOpen, sets),
    common: candidate.common,
    quickTravel: Math.min(4, quick.travel),
    quickOpen: quick.open,
    quickStuck: quick.stuck,
    quickHeight: quick.height,
  };
}

/**
 * The most open strings of any grip that sounds all of these pitches on strings of their own, fingers within four
 * frets; null where there is none.
 */
function mostOpen(pitches: readonly Midi[], opens: readonly Midi[]): number | null {
  if (pitches.length > opens.length) return null;
  let best = -1;
  const visit = (i: number, used: number, least: number, most: number, open: number): void => {
    if (open + pitches.length - i <= best) return;
    const pitch = pitches[i];
    if (pitch === undefined) {
      best = open;
      return;
    }
    opens.forEach((base, s) => {
      if (used & (1 << s)) return;
      const fret = pitch - base;
      if (fret === 0) visit(i + 1, used | (1 << s), least, most, open + 1);
      else if (fret > 0 && fret <= 19) {
        const [a, b] = [Math.min(least, fret), Math.max(most, fret)];
        if (b - a <= MAX_WINDOW) visit(i + 1, used | (1 << s), a, b, open);
      }
    });
  };
  visit(0, 0, 99, 0, 0);
  return best < 0 ? null : best;
}

/** Notes that are struck, damped ones left out. */
const struck = (events: readonly PlaceEvent[]): number =>
  events.reduce((n, event) => n + event.notes.filter((note) => !note.dead).length, 0);

export function fullSigns(signs: Signs, events: readonly PlaceEvent[], solution: Solution, way: Way): FullSigns {
  const strokes = Math.max(1, events.length);
  let open = 0;
  let ringing = 0;
  let ringingOpen = 0;
  way.events.forEach((event, i) =>
    event.notes.forEach((place, k) => {
      const from = events[i];
      if (from?.ring) ringing++;
      if (place?.fret !== 0 || from?.notes[k]?.dead) return;
      open++;
      if (from?.ring) ringingOpen++;
    }),
  );
  const { below, lowOpen, common } = signs;
  return {
    ...{ below, lowOpen, common },
    cost: Math.min(6, way.cost / strokes),
    blocked: Math.min(1, solution.blocked.length / strokes),
    wayOpen: open / Math.max(1, struck(events)),
    wayRing: ringingOpen / Math.max(1, ringing),
  };
}

/** A weighted sum of signs. */
export function scoreOfSigns<S extends object>(signs: S, weights: SignWeights<S>): number {
  let sum = 0;
  for (const name of Object.keys(weights) as (keyof S)[]) sum += weights[name] * (signs[name] as number);
  return sum;
}
