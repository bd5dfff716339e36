import type { Riff } from '../score';
import { secondsAtNumber, swung, toNumber, type FeelStep, type Quarter, type TempoStep } from '../time';

export interface RenderOptions {
  readonly rate: number;
  /** Share of the written tempo, 0.25 to 1.5. */
  readonly speed: number;
  /** What is rendered: from and to, in the riff's time. */
  readonly from: Quarter;
  readonly to: Quarter;
  readonly click: boolean;
  /** Beats counted before the music starts. */
  readonly countIn: number;
  readonly seed: number;
}

/** Seconds from `from` to `at` at a speed, swung as the feel says. */
export function playSeconds(
  tempo: readonly TempoStep[],
  from: Quarter,
  at: Quarter,
  speed: number,
  feel?: readonly FeelStep[],
): number {
  return playSecondsTo(tempo, toNumber(from), toNumber(at), speed, feel);
}

/** The same for times that are no exact quarters. */
export function playSecondsTo(
  tempo: readonly TempoStep[],
  from: number,
  at: number,
  speed: number,
  feel?: readonly FeelStep[],
): number {
  return (secondsAtNumber(tempo, swung(feel, at)) - secondsAtNumber(tempo, swung(feel, from))) / speed;
}

/** Seconds of the render at a musical time. */
export type Clock = (at: Quarter) => number;

export const clockOf =
  (riff: Riff, tempo: readonly TempoStep[], { from, speed }: RenderOptions, lead: number): Clock =>
  (at) =>
    lead + playSecondsTo(tempo, toNumber(from), toNumber(at), speed, riff.feel);
