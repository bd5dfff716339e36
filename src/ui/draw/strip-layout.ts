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

/** The gap between onsets that nine in ten are not closer than, in quarters; at most one. */
function usualGap(events: readonly RiffEvent[]): number {
  const gaps = events.slice(1).map((e, i) => toNumber(sub(e.at, events[i]?.at ?? ZERO))).sort((a, b) => a - b);
  return Math.min(1, gaps[Math.floor(gaps.length / 10)] ?? 1);
}

/** Bars in a row so that onsets stay legible: nearly all of them at least `least` pixels apart at this width. */
export function barsThatFit(riff: Riff, width: number, least = 25): number {
  const perQuarter = least / Math.max(usualGap(riff.events), 1 / 8);
  const bar = toNumber(barStart(riff.meters, 1));
  return Math.max(1, Math.min(4, Math.floor(width / (perQuarter * bar))));
}

/** Rows filled bar by bar with as many as their notes leave room for: empty bars take little. */
export function packedRows(riff: Riff, width: number, least = 17): StripRow[] {
  const bars = rowsOf(riff, 1);
  const rows: StripRow[] = [];
  let room = 0;
  for (const bar of bars) {
    const quarters = toNumber(sub(bar.to, bar.from));
    const need = bar.events.length === 0 ? 60 : Math.max(80, (least / Math.max(usualGap(bar.events), 1 / 8)) * quarters);
    const last = rows.at(-1);
    // One time axis a row: it is as wide as its fullest bar asks of all of them.
    const widest = Math.max(room, need);
    if (last && last.bars < 8 && widest * (last.bars + 1) <= width) {
      rows[rows.length - 1] = { ...last, bars: last.bars + 1, to: bar.to, events: [...last.events, ...bar.events] };
      room = widest;
    } else {
      rows.push({ ...bar, index: rows.length });
      room = need;
    }
  }
  return rows;
}

/** Time to pixels within a row. */
export function timeScale(row: Pick<StripRow, 'from' | 'to'>, left: number, width: number): (at: Quarter) => number {
  const from = toNumber(row.from);
  const span = Math.max(1e-6, toNumber(row.to) - from);
  return (at) => left + ((toNumber(at) - from) / span) * width;
}
