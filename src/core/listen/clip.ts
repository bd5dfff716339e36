import type { Midi, Seconds } from '../base';
import { beatsOf, type Beats } from './beats';
import { heardLine, type HeardNote } from './line';
import { onsetStrength } from './onsets';
import { referenceOf, type Reference } from './reference';
import { heardSets, type HeardSet, type Reachable } from './sets';

export interface ListenOptions {
  /** With a set-up chords are listened for too, one note a string. */
  readonly reachable: Reachable | null;
  /** Pitches sought in lines where no set-up is given. */
  readonly low: Midi;
  readonly high: Midi;
  readonly progress?: (share: number) => void;
}

/** All that was heard in a recording. Nothing of it is decided. */
export interface Listened {
  readonly seconds: Seconds;
  readonly reference: Reference | null;
  readonly beats: Beats | null;
  readonly strokes: readonly Seconds[];
  readonly notes: readonly HeardNote[];
  readonly sets: readonly HeardSet[];
}

/**
 * Listens to a whole sound: reference first, then in that reference to strokes, beats, line and chords. Throws
 * RangeError for a rate or length outside ONSET_LIMITS.
 */
export function listenTo(samples: Float32Array, rate: number, options: ListenOptions): Listened {
  const { reachable } = options;
  const progress = options.progress ?? ((): void => undefined);
  const struck = onsetStrength(samples, rate);
  progress(0.15);
  const reference = referenceOf(samples, rate);
  progress(0.2);
  const beats = beatsOf(samples, rate, null, struck);
  progress(0.25);
  const low = reachable ? Math.min(...reachable.open) : options.low;
  const high = reachable ? Math.max(...reachable.open) + reachable.frets : options.high;
  const cents = reference && reference.certainty > 0.3 ? reference.cents : 0;
  const { notes } = heardLine(samples, rate, {
    low,
    high,
    reference: cents,
    strikes: struck.onsets,
    progress: (s) => progress(0.25 + 0.55 * s),
  });
  const sets = reachable ? heardSets(samples, rate, struck.onsets, reachable, cents) : [];
  progress(1);
  return { seconds: samples.length / rate, reference, beats, strokes: struck.onsets, notes, sets };
}
