import type { Bpm, Seconds } from '../base';
import { quantise, type Grid } from './quantise';
import type { Quarter } from '../time';

/** One tap, where it was written and how far off it was. */
export interface Tap {
  /** When it was tapped, in quarters from the start, late taps corrected. */
  readonly tapped: number;
  readonly at: Quarter;
  /** Milliseconds the tap came late (above 0) or early. */
  readonly errorMs: number;
}

export interface Tapped {
  readonly taps: readonly Tap[];
  /** How late all taps came on the whole (hand, ear and machine together), taken off before reading. */
  readonly offsetMs: number;
  readonly meanMs: number;
  readonly worstMs: number;
}

/** Parts of a beat that taps are read in. */
const FINEST = 6;

/** A steady delay beyond this is no delay but another rhythm. */
const MOST_OFFSET: Seconds = 0.12;

/**
 * What a place in the beat costs to be read, in milliseconds of displacement: a simple reading a little off beats a
 * strange one that fits.
 */
const READING: Readonly<Record<string, number>> = { 1: 0, 2: 4, 4: 8, 3: 16, 6: 26, 8: 26 };
const hardToRead = (at: Quarter): number => READING[at.split('/')[1] ?? '1'] ?? 50;

/**
 * Reads taps as a rhythm: a steady delay is found as the shift that lets the taps lie on the grid
 * with least displacement, then each is drawn to it.
 * @param seconds when each was tapped, from the start of the music, ascending
 * @param bpm quarters a minute
 */
export function readTaps(seconds: readonly Seconds[], bpm: Bpm, grid: Grid = 'auto'): Tapped {
  const perSecond = bpm / 60;
  const read = (offset: Seconds): { cost: number; taps: Tap[] } => {
    const tapped = seconds.map((one) => (one - offset) * perSecond);
    const taken = new Set<Quarter>();
    let clash = 0;
    // Nobody taps thirty-seconds where a triplet would do: they are tried only where taps would fall together.
    const coarse = quantise(tapped, grid, FINEST);
    const drawn = new Set(coarse.map((one) => one.at)).size < coarse.length ? quantise(tapped, grid) : coarse;
    const taps = drawn.map((one, i): Tap => {
      if (taken.has(one.at)) clash++;
      taken.add(one.at);
      return { tapped: tapped[i] ?? 0, at: one.at, errorMs: (-one.moved / perSecond) * 1000 };
    });
    return { cost: taps.reduce((sum, tap) => sum + Math.abs(tap.errorMs) + hardToRead(tap.at), 0) + clash * 60, taps };
  };
  let best = { offset: 0, ...read(0) };
  for (let ms = -MOST_OFFSET * 1000; ms <= MOST_OFFSET * 1000; ms += 2) {
    const one = read(ms / 1000);
    // Between equals the smaller delay.
    if (
      one.cost + Math.abs(ms) * 0.02 * seconds.length <
      best.cost + Math.abs(best.offset * 1000) * 0.02 * seconds.length
    )
      best = { offset: ms / 1000, ...one };
  }
  const errors = best.taps.map((tap) => Math.abs(tap.errorMs));
  return {
    taps: best.taps,
    offsetMs: Math.round(best.offset * 1000),
    meanMs: errors.length === 0 ? 0 : errors.reduce((a, b) => a + b, 0) / errors.length,
    worstMs: errors.length === 0 ? 0 : Math.max(...errors),
  };
}
