import type { Cents, Semitones } from '../../base';
import { BEND_LIMITS, bendShapes, type BendPoint, type Technique } from '../../score';
import type { MidiNote } from './read';

/** What the pitch wheel does to a note, as a guitarist does it. */
export interface WheelTold {
  readonly technique: Technique;
  /** Sounded so far off its pitch throughout. */
  readonly cents: Cents;
  /** How far into its length (0 to 1) it is halfway to where it is bent. */
  readonly halfway: number;
  /** It slides so far, from so far into its length (0 to 1). */
  readonly slide: { readonly by: Semitones; readonly from: number } | null;
}

/** Nobody hears less, and no wheel of a keyboard holds still. */
const LEAST: Cents = 25;
/** A wheel that rests no further off than this is a note out of tune, not one bent before it is struck. */
const OFF: Cents = 60;
/** A wheel nearer than this to a whole semitone is on it. */
const NEAR: Cents = 12;
/** Further than this no finger bends: it slides. */
const MOST_BENT: Cents = 300;

/**
 * Reads a wheel's way over one note: shaken, bent (up, let down again, bent before it is struck), or slid to another
 * fret where it goes down or further than a finger bends and stays on a whole semitone.
 */
export function wheelOf(note: MidiNote): WheelTold {
  const nothing: WheelTold = { technique: {}, cents: 0, halfway: 0, slide: null };
  const { bends } = note;
  if (!bends) return nothing;
  const length = note.end - note.at;
  const share = (at: number): number => Math.min(1, Math.max(0, (at - note.at) / length));
  const cents = bends.map((step) => step.cents);
  const [low, high] = [Math.min(...cents), Math.max(...cents)];
  const [first, last] = [cents[0] ?? 0, cents.at(-1) ?? 0];
  if (high - low <= 2 && Math.abs(first) <= OFF) return { ...nothing, cents: first };
  if (Math.max(-low, high) < LEAST) return nothing;
  const turns = turnsOf(cents);
  if (turns >= 4 && high - low <= 220 && Math.abs(first) < 40)
    return { ...nothing, technique: { vibrato: Math.min(200, Math.max(5, Math.round((high - low) / 2))) } };
  const whole = Math.round(last / 100);
  if (
    whole !== 0 &&
    Math.abs(last - whole * 100) <= NEAR &&
    (whole < 0 || last > MOST_BENT) &&
    Math.abs(first) < LEAST
  ) {
    const crossed = bends.find((step) => Math.abs(step.cents) >= Math.abs(last) / 2);
    return { ...nothing, slide: { by: whole, from: share(crossed?.at ?? note.end) } };
  }
  if (high < BEND_LIMITS.least) return nothing;
  const bend = Math.min(BEND_LIMITS.most, high);
  const started = first > high - LEAST;
  const released = last < LEAST && high > LEAST;
  if (started || released) {
    const shapes = bendShapes(bend);
    const shape = started ? (released ? 'prebend-released' : 'prebend') : turns >= 3 ? 'again' : 'released';
    return { ...nothing, technique: { bend, bendCurve: [...shapes[shape]] } };
  }
  if (last > high - LEAST) {
    const crossed = bends.find((step) => step.cents >= high / 2);
    return { ...nothing, technique: { bend }, halfway: share(crossed?.at ?? note.at) };
  }
  return { ...nothing, technique: { bend, bendCurve: curveOf(bends, share, bend) } };
}

/** How often the wheel turns back by more than can be chance. */
function turnsOf(cents: readonly number[]): number {
  let turns = 0;
  let direction = 0;
  let extreme = cents[0] ?? 0;
  for (const one of cents) {
    if (direction >= 0 && one > extreme) {
      extreme = one;
      direction ||= 1;
    } else if (direction <= 0 && one < extreme) {
      extreme = one;
      direction ||= -1;
    } else if (Math.abs(one - extreme) > LEAST / 2) {
      direction = one > extreme ? 1 : -1;
      extreme = one;
      turns++;
    }
  }
  return turns;
}

const MOST_POINTS = 12;

/** A way of its own in at most twelve points: the beginning, where it turns, the end. */
function curveOf(
  bends: readonly { at: number; cents: number }[],
  share: (at: number) => number,
  bend: number,
): BendPoint[] {
  const points = bends.map((step) => ({
    at: Math.round(share(step.at) * 100),
    cents: Math.min(bend, Math.max(0, step.cents)),
  }));
  const kept = points.filter((point, i) => {
    const [before, after] = [points[i - 1], points[i + 1]];
    if (!before || !after) return true;
    return (point.cents - before.cents) * (after.cents - point.cents) <= 0 && point.cents !== before.cents;
  });
  const once = kept.filter((point, i) => kept[i + 1]?.at !== point.at);
  const most = once.slice(0, MOST_POINTS);
  // The highest point is as far as the bend goes.
  const top = most.reduce((best, point, i) => ((most[best]?.cents ?? 0) >= point.cents ? best : i), 0);
  const made = most.map((point, i) => (i === top ? { ...point, cents: bend } : point));
  return made.length >= 2 ? made : [...bendShapes(bend).released];
}
