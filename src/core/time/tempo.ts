import type { Bpm, Seconds } from '../base';
import { toNumber, type Quarter } from './quarter';

/** From `at` on, `bpm` quarter notes a minute: held until the next step, or with `ramp` changing evenly to it. */
export interface TempoStep {
  readonly at: Quarter;
  readonly bpm: Bpm;
  readonly ramp?: true | undefined;
}

export const MIN_BPM = 10;
export const MAX_BPM = 500;

/**
 * Seconds from time 0 to a musical time through a map of tempo steps (sorted, first at or before
 * 0). Times before 0, in a pickup, run at the first tempo and come out negative.
 */
export const secondsAt = (steps: readonly TempoStep[], at: Quarter): Seconds => secondsAtNumber(steps, toNumber(at));

/** The same for a time that is no exact quarter: a swung or a tapped one. */
export function secondsAtNumber(steps: readonly TempoStep[], at: number): Seconds {
  const first = steps[0];
  if (!first || at < 0) return (at * 60) / (first?.bpm ?? 120);
  let seconds = 0;
  for (let i = 0; i < steps.length; i++) {
    const step = steps[i];
    const next = steps[i + 1];
    if (!step) break;
    const from = Math.max(0, toNumber(step.at));
    if (from > at) break;
    const to = next ? Math.max(from, toNumber(next.at)) : Infinity;
    seconds += within(step, next, to - from, Math.min(at, to) - from);
  }
  return seconds;
}

/**
 * Seconds for the first `quarters` of a stretch `length` long. With a ramp the tempo is linear in quarters, so time
 * is its integral, a logarithm.
 */
function within(step: TempoStep, next: TempoStep | undefined, length: number, quarters: number): Seconds {
  const change = step.ramp && next ? (next.bpm - step.bpm) / length : 0;
  if (Math.abs(change) < 1e-12) return (quarters * 60) / step.bpm;
  return (60 / change) * Math.log((step.bpm + change * quarters) / step.bpm);
}

/** The tempo in force at a time. */
export function bpmAt(steps: readonly TempoStep[], at: Quarter): Bpm {
  const time = toNumber(at);
  let found = 0;
  for (const [i, step] of steps.entries()) if (toNumber(step.at) <= time) found = i;
  const step = steps[found];
  const next = steps[found + 1];
  if (!step) return 120;
  if (!step.ramp || !next) return step.bpm;
  const from = toNumber(step.at);
  return step.bpm + ((next.bpm - step.bpm) * Math.max(0, time - from)) / (toNumber(next.at) - from);
}
