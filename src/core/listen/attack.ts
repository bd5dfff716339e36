import type { Seconds } from '../base';

/** A pick is sought so far around a beginning, in looks of 4 ms. */
const AROUND: Seconds = 0.012;
const LOOK: Seconds = 0.004;
const STEP: Seconds = 0.002;
/**
 * Decibels a pick stands over what sounded before, and over the note it sets off: surely where it is none, and where
 * both are needed to tell.
 */
const NO_PICK = 3;
const OVER_BEFORE = 7;
const OVER_NOTE = 6;
/** A finger makes a string hardly brighter than it was. */
const BRIGHTER = 3;
/** Below this rate too little of a pick's noise is left in a recording. */
const LEAST_RATE = 16_000;

/**
 * Power of the sharp edges of a stretch, a sample: second differences rise by 12 dB an octave and leave little of the
 * strings.
 */
function sharpness(samples: Float32Array, rate: number, from: Seconds, to: Seconds): number {
  const first = Math.max(2, Math.round(from * rate));
  const last = Math.min(samples.length, Math.round(to * rate));
  let sum = 0;
  for (let i = first; i < last; i++)
    sum += ((samples[i] as number) - 2 * (samples[i - 1] as number) + (samples[i - 2] as number)) ** 2;
  return sum / Math.max(1, last - first);
}

/**
 * Whether a note that begins while another sounds was set off without a pick: hammered on or pulled
 * off. A pick leaves a short noise at the beginning that the string's own sound does not have; a
 * finger leaves hardly any. Where a drum falls on it, or the rate is too low, it is taken for struck.
 */
export function hammered(samples: Float32Array, rate: number, at: Seconds): boolean {
  if (rate < LEAST_RATE) return false;
  let burst = 0;
  for (let t = at - AROUND; t <= at + AROUND; t += STEP) burst = Math.max(burst, sharpness(samples, rate, t, t + LOOK));
  const before = sharpness(samples, rate, at - 0.05, at - 0.015);
  const note = sharpness(samples, rate, at + 0.035, at + 0.075);
  const over = (one: number, other: number): number => 10 * Math.log10((one + 1e-15) / (other + 1e-15));
  const stands = over(burst, before);
  return over(note, before) < BRIGHTER && (stands < NO_PICK || (stands < OVER_BEFORE && over(burst, note) < OVER_NOTE));
}
