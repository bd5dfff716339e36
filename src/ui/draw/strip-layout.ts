import type { Riff, RiffEvent } from '@/core/score';
import { barCount } from '@/core/score';
import { barStart, cmp, sub, toNumber, ZERO, type Quarter } from '@/core/time';

/** One row of the phrase strip: whole bars on one time axis (the first also holds the pickup). */
export interface StripRow {
  readonly index: number;
  readonly firstBar: number;
  readonly bars: number;
  readonly from: Quarter;
  readonly to: Quarter;
  readonly events: readonly RiffEvent[];
  /** The event before the row, for joins that come in from it. */
  readonly before: RiffEvent | null;
}

/** Cuts a riff into rows of `perRow` bars. */
export function rowsOf(riff: Riff, perRow: number): StripRow[] {
  const rows: StripRow[] = [];
  const count = barCount(riff);
  let e = 0;
  for (let bar = 0; bar < count; bar += perRow) {
    const bars = Math.min(perRow, count - bar);
    const to = barStart(riff.meters, bar + bars);
    const start = e;
    while (e < riff.events.length && cmp(riff.events[e]?.at ?? ZERO, to) < 0) e++;
    rows.push({
      index: rows.length,
      firstBar: bar,
      bars,
      from: bar === 0 ? sub(ZERO, riff.pickup) : barStart(riff.meters, bar),
      to,
      events: riff.events.slice(start, e),
      before: riff.events[start - 1] ?? null,
    });
  }
  return rows;
}

/** Bars in a row so that the closest onsets stay legible: at least `least` pixels apart at this width. */
export function barsThatFit(riff: Riff, width: number, least = 25): number {
  let gap = 1;
  let before: RiffEvent | null = null;
  for (const event of riff.events) {
    if (before) gap = Math.min(gap, toNumber(sub(event.at, before.at)));
    before = event;
  }
  const perQuarter = least / Math.max(gap, 1 / 8);
  const bar = toNumber(barStart(riff.meters, 1));
  return Math.max(1, Math.min(4, Math.floor(width / (perQuarter * bar))));
}

/** Time to pixels within a row. */
export function timeScale(row: Pick<StripRow, 'from' | 'to'>, left: number, width: number): (at: Quarter) => number {
  const from = toNumber(row.from);
  const span = Math.max(1e-6, toNumber(row.to) - from);
  return (at) => left + ((toNumber(at) - from) / span) * width;
}
