import type { LevelStep } from '../form';
import { cmp, type Quarter } from '../time';

/** A gain from a sample on, held or changing evenly to the next. */
export interface GainPoint {
  readonly at: number;
  readonly gain: number;
  readonly ramp: boolean;
}

/** Samples over which a step is softened, so that it doesn't click. */
const SOFT = 400;

/** Levels as points of a pass: `sample` tells where a time lies. What began before holds from its beginning. */
export function gainPoints(levels: readonly LevelStep[], from: Quarter, sample: (at: Quarter) => number): GainPoint[] {
  const begun = levels.findLastIndex((step) => cmp(step.at, from) <= 0);
  return levels
    .slice(Math.max(0, begun))
    .map((step) => ({ at: sample(step.at), gain: step.gain, ramp: step.ramp === true }));
}

/** Scales samples that begin at `begin` by the points; without points they stay as they are. */
export function applyGain(out: Float32Array, begin: number, points: readonly GainPoint[]): void {
  if (points.length === 0) return;
  let index = points.findLastIndex((point) => point.at <= begin);
  for (let i = 0; i < out.length; i++) {
    const at = begin + i;
    while ((points[index + 1]?.at ?? Infinity) <= at) index++;
    out[i] = (out[i] as number) * gainAt(points, index, at);
  }
}

function gainAt(points: readonly GainPoint[], index: number, at: number): number {
  const point = points[index];
  const next = points[index + 1];
  if (!point) return points[0]?.gain ?? 1;
  if (point.ramp && next)
    return point.gain + ((next.gain - point.gain) * (at - point.at)) / Math.max(1, next.at - point.at);
  const before = points[index - 1];
  // A ramp has arrived where it leads; only a jump is softened.
  const share = before && !before.ramp ? Math.min(1, (at - point.at) / SOFT) : 1;
  return before && share < 1 ? before.gain + (point.gain - before.gain) * share : point.gain;
}
