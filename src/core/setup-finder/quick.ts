import type { Midi } from '../base';
import type { PlaceEvent } from '../place';
import type { Candidate } from './types';

/** A first idea of how a phrase lies under the hand, for hundreds of candidates: no fingers, no reasons. */
export interface QuickWay {
  /** Frets the hand travels a stroke. */
  readonly travel: number;
  /** Share of notes that are open. */
  readonly open: number;
  /** Share of strokes that no grip plays. */
  readonly stuck: number;
  /** Mean fret of the stopped notes, in octaves of the neck. */
  readonly height: number;
}

/** A way to stop the notes of one stroke: how many open, and the frets between which the index may stand. */
interface Grip {
  readonly open: number;
  /** Lowest and highest place of the index; both 0 where all is open. */
  readonly low: number;
  readonly high: number;
}

const WINDOW = 4;
const HIGHEST = 20;
/** Kept for a stroke: those with most open strings, and the rest spread along the neck. */
const MOST_GRIPS = 8;
/** An open string is worth so many frets of travel, a fret further up the neck so much of one. */
const OPEN_WORTH = 0.6;
const HEIGHT_COST = 0.08;

/** The strokes of a phrase as sets of pitches, equal ones as one number, for many candidates. */
export interface Strokes {
  readonly sets: readonly { readonly pitches: readonly Midi[]; readonly stopped: boolean }[];
  readonly order: readonly number[];
}

export function strokesOf(events: readonly PlaceEvent[]): Strokes {
  const known = new Map<string, number>();
  const sets: Strokes['sets'][number][] = [];
  const order: number[] = [];
  for (const event of events) {
    const notes = event.notes.filter((note) => !note.dead && !note.tapped && !note.harmonic);
    if (notes.length === 0) continue;
    const pitches = notes.map((note) => note.pitch).sort((a, b) => a - b);
    const stopped = notes.some((note) => note.bend || (note.least ?? 0) > 0);
    const key = `${pitches.join()}${stopped ? '!' : ''}`;
    let at = known.get(key);
    if (at === undefined) {
      at = sets.length;
      known.set(key, at);
      sets.push({ pitches, stopped });
    }
    order.push(at);
  }
  return { sets, order };
}

/** The cheapest row of grips: travel of the hand less what open strings save. */
export function quickWay({ sets, order }: Strokes, candidate: Candidate): QuickWay {
  const opens = candidate.open.filter((_, i) => !candidate.absent.includes(candidate.open.length - i));
  const grips = sets.map((set) => gripsOf(set.pitches, opens, set.stopped));
  let before: { cost: number; travel: number; open: number; height: number; low: number; high: number }[] = [];
  let stuck = 0;
  let notes = 0;
  for (const at of order) {
    const here = grips[at] ?? [];
    notes += sets[at]?.pitches.length ?? 0;
    if (here.length === 0) {
      stuck++;
      continue;
    }
    if (before.length === 0) {
      before = here.map(({ open, low, high }) => ({
        ...{ travel: 0, open, low, high, height: low === 0 ? 0 : high },
        cost: -OPEN_WORTH * open + HEIGHT_COST * high,
      }));
      continue;
    }
    before = here.map((grip) => {
      let best = before[0] as (typeof before)[number];
      let least = Infinity;
      let by = 0;
      for (const one of before) {
        const travel = grip.low === 0 || one.low === 0 ? 0 : Math.max(0, grip.low - one.high, one.low - grip.high);
        if (one.cost + travel < least) {
          least = one.cost + travel;
          best = one;
          by = travel;
        }
      }
      // With all open the hand stays where it is.
      const stays = grip.low === 0;
      return {
        cost: least - OPEN_WORTH * grip.open + HEIGHT_COST * grip.high,
        travel: best.travel + by,
        open: best.open + grip.open,
        height: best.height + (stays ? 0 : grip.high),
        low: stays ? best.low : grip.low,
        high: stays ? best.high : grip.high,
      };
    });
  }
  const end = before.reduce<(typeof before)[number] | null>((a, b) => (a === null || b.cost < a.cost ? b : a), null);
  const strokes = Math.max(1, order.length);
  return {
    travel: (end?.travel ?? 0) / strokes,
    open: (end?.open ?? 0) / Math.max(1, notes),
    stuck: stuck / strokes,
    height: (end?.height ?? 0) / strokes / 12,
  };
}

function gripsOf(pitches: readonly Midi[], opens: readonly Midi[], stopped: boolean): Grip[] {
  if (pitches.length > opens.length) return [];
  const found: Grip[] = [];
  const visit = (i: number, used: number, least: number, most: number, open: number): void => {
    const pitch = pitches[i];
    if (pitch === undefined) {
      found.push(most === 0 ? { open, low: 0, high: 0 } : { open, low: Math.max(1, most - WINDOW + 1), high: least });
      return;
    }
    for (let s = 0; s < opens.length; s++) {
      if (used & (1 << s)) continue;
      const fret = pitch - (opens[s] ?? 0);
      if (fret === 0 && !stopped) visit(i + 1, used | (1 << s), least, most, open + 1);
      else if (fret > 0 && fret <= HIGHEST) {
        const [a, b] = [Math.min(least, fret), Math.max(most, fret)];
        if (b - a <= WINDOW) visit(i + 1, used | (1 << s), a, b, open);
      }
    }
  };
  visit(0, 0, 99, 0, 0);
  if (found.length <= MOST_GRIPS) return found;
  return found.sort((a, b) => b.open - a.open || a.high - b.high).slice(0, MOST_GRIPS);
}
