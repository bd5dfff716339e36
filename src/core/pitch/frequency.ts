import type { Cents, Hertz, Midi } from '../base';

/** Reference pitches accepted for A4, in hertz. */
export const MIN_A4: Hertz = 380;
export const MAX_A4: Hertz = 480;
export const DEFAULT_A4: Hertz = 440;

/**
 * Frequency of a pitch in equal temperament: A4 x 2^((m-69)/12 + cents/1200).
 * @param midi note number, any real value
 * @param a4 reference in Hz, 380-480; RangeError outside
 */
export function frequency(midi: Midi, cents: Cents = 0, a4: Hertz = DEFAULT_A4): Hertz {
  if (!(a4 >= MIN_A4 && a4 <= MAX_A4)) throw new RangeError(`A4 must be ${MIN_A4}-${MAX_A4} Hz, not ${a4}`);
  return a4 * 2 ** ((midi - 69) / 12 + cents / 1200);
}
