import type { Bpm, Seconds } from '../base';
import { cmp, sub, toNumber, ZERO, type Quarter } from './quarter';

/** From `at` on, `bpm` quarter notes a minute, held until the next step. */
export interface TempoStep {
  readonly at: Quarter;
  readonly bpm: Bpm;
}

export const MIN_BPM = 10;
export const MAX_BPM = 500;

/**
 * Seconds from time 0 to a musical time through a map of tempo steps (sorted, first at or before
 * 0). Times before 0, in a pickup, run at the first tempo and come out negative.
 */
export function secondsAt(steps: readonly TempoStep[], at: Quarter): Seconds {
  const first = steps[0];
  if (!first || cmp(at, ZERO) < 0) return (toNumber(at) * 60) / (first?.bpm ?? 120);
  let seconds = 0;
  let from = ZERO;
  let bpm = first.bpm;
  for (const step of steps) {
    if (cmp(step.at, ZERO) <= 0) {
      bpm = step.bpm;
      continue;
    }
    if (cmp(step.at, at) >= 0) break;
    seconds += (toNumber(sub(step.at, from)) * 60) / bpm;
    from = step.at;
    bpm = step.bpm;
  }
  return seconds + (toNumber(sub(at, from)) * 60) / bpm;
}

/** The tempo in force at a time. */
export function bpmAt(steps: readonly TempoStep[], at: Quarter): Bpm {
  let bpm = steps[0]?.bpm ?? 120;
  for (const step of steps) if (cmp(step.at, at) <= 0) bpm = step.bpm;
  return bpm;
}
