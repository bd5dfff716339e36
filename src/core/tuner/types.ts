import type { Cents, Hertz, Midi, NutFret, Seconds, StringNumber } from '../base';

/** What a string should sound now. */
export interface Target {
  readonly string: StringNumber;
  readonly midi: Midi;
  readonly hz: Hertz;
}

/** Which way a string was sounded for a reading. */
export type ReadingKind = 'open' | 'capo' | 'harmonic12' | 'stopped12';

/** One line of the tuner log. */
export interface TunerReading {
  readonly id: string;
  readonly string: StringNumber;
  readonly kind: ReadingKind;
  /** Fret of the capo while it was read, 0 without. */
  readonly capo: NutFret;
  /** From the target, sharp above 0. */
  readonly cents: Cents;
  /** Seconds since the epoch. */
  readonly at: Seconds;
}
