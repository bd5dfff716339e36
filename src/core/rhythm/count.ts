import { barOf, floorDiv, meterAt, mul, quarter, sub, toRatio, ZERO, type MeterChange, type Quarter } from '../time';

/** Syllables within a beat by how it is divided: sixteenths, triplets, sextuplets. */
const BY_PART: Readonly<Record<string, string>> = {
  '1/4': 'e',
  '1/2': '&',
  '3/4': 'a',
  '1/3': 'trip',
  '2/3': 'let',
  '1/6': 'ta',
  '5/6': 'ta',
};

/**
 * The count of an onset as it is said aloud: "1", "1 e & a", "trip let" in triplets; finer places
 * are a tick ("·"). In meters of eighths each eighth is a beat. A pickup counts the end of its bar.
 */
export function countSyllable(meters: readonly MeterChange[], at: Quarter): string {
  const { beat, part } = beatOf(meters, at);
  return part === ZERO ? String(beat) : (BY_PART[part] ?? '·');
}

/** Places within a beat as they are spoken with it. */
const SPOKEN_PART: Readonly<Record<string, string>> = {
  '1/4': 'the e of',
  '1/2': 'the and of',
  '3/4': 'the a of',
  '1/3': 'the second third of',
  '2/3': 'the last third of',
  '1/6': 'the second sixth of',
  '5/6': 'the last sixth of',
};

/** An onset as one would say where it is: "1", "the and of 2", "just after 3". */
export function spokenBeat(meters: readonly MeterChange[], at: Quarter): string {
  const { beat, part } = beatOf(meters, at);
  return part === ZERO ? String(beat) : `${SPOKEN_PART[part] ?? 'just after'} ${beat}`;
}

/** The beat (from 1) an onset falls in and how far into it, in beats. */
export function beatOf(meters: readonly MeterChange[], at: Quarter): { bar: number; beat: number; part: Quarter } {
  const { bar, offset } = barOf(meters, at);
  const meter = meterAt(meters, Math.max(0, bar));
  const beatLength = quarter(4, meter.unit);
  const into = bar < 0 ? sub(mul(beatLength, meter.beats), mul(offset, -1)) : offset;
  const beats = floorDiv(into, beatLength);
  const rest = sub(into, mul(beatLength, beats));
  return { bar, beat: beats + 1, part: mul(rest, meter.unit, 4) };
}

/** "bar 2, beat 3 &": a place in words. Bars from 1; the pickup has no number. */
export function placeInBars(meters: readonly MeterChange[], at: Quarter): string {
  const { bar, beat, part } = beatOf(meters, at);
  const syllable = part === ZERO ? '' : ` ${BY_PART[part] ?? `and ${part}`}`;
  return `${bar < 0 ? 'pickup' : `bar ${bar + 1}`}, beat ${beat}${syllable}`;
}

/** Whether an onset falls on a beat, off it on a simple division, or finer. */
export function isOnBeat(meters: readonly MeterChange[], at: Quarter): boolean {
  return toRatio(beatOf(meters, at).part).n === 0;
}
