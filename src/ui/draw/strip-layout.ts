import equal from 'fast-deep-equal';
import { type Riff, type RiffEvent, barCount } from '@/core/score';
import { barStart, sub, toNumber, ZERO, type Quarter } from '@/core/time';

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
  const times = riff.events.map((event) => toNumber(event.at));
  const count = barCount(riff);
  let e = 0;
  for (let bar = 0; bar < count; bar += perRow) {
    const bars = Math.min(perRow, count - bar);
    const to = barStart(riff.meters, bar + bars);
    const start = e;
    // Floats order exact times of one riff as well as rationals do: they differ by far more than rounding.
    const end = toNumber(to) - 1e-9;
    while (e < riff.events.length && (times[e] ?? 0) < end) e++;
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

/**
 * Cuts versions of a riff one after another. Where only what stands at each time changed, the cuts
 * are those of before, and rows that are the same are the same objects: this runs with every key.
 */
export function rowCutter(): (riff: Riff, perRow: number) => readonly StripRow[] {
  let last: { readonly riff: Riff; readonly perRow: number; readonly rows: readonly StripRow[] } | null = null;
  return (riff, perRow) => {
    const same = last !== null && last.perRow === perRow && sameTimes(last.riff, riff);
    let start = 0;
    const rows =
      last === null || !same
        ? rowsOf(riff, perRow)
        : last.rows.map((row) => {
            const from = start;
            start += row.events.length;
            const before = riff.events[from - 1] ?? null;
            if (row.before === before && row.events.every((event, i) => event === riff.events[from + i])) return row;
            return { ...row, events: riff.events.slice(from, start), before };
          });
    last = { riff, perRow, rows };
    return rows;
  };
}

const sameTimes = (a: Riff, b: Riff): boolean =>
  a.meters === b.meters &&
  a.bars === b.bars &&
  a.pickup === b.pickup &&
  a.events.length === b.events.length &&
  a.events.every((event, i) => event === b.events[i] || event.at === b.events[i]?.at);

/** The gap between onsets that nine in ten are not closer than, in quarters; at most one. */
function usualGap(events: readonly RiffEvent[]): number {
  const counted = events.filter((event) => !event.grace);
  const times = counted.map((event) => toNumber(event.at));
  const gaps = times
    .slice(1)
    .map((t, i) => t - (times[i] ?? 0))
    .sort((a, b) => a - b);
  return Math.min(1, gaps[Math.floor(gaps.length / 10)] ?? 1);
}

/** Bars in a row so that onsets stay legible: nearly all of them at least `least` pixels apart at this width. */
export function barsThatFit(riff: Riff, width: number, least = 17): number {
  const perQuarter = least / Math.max(usualGap(riff.events), 1 / 8);
  const bar = toNumber(barStart(riff.meters, 1));
  const fit = Math.max(1, Math.min(4, Math.floor(width / (perQuarter * bar))));
  // Music goes in twos and fours: three in a row only where the riff does.
  return fit === 3 && barCount(riff) % 3 !== 0 ? 2 : fit;
}

/** Height of a fret figure so that neighbours stay apart: 20 pixels where there is room, 11 at least. */
export function figureSize(riff: Riff, width: number, perRow: number): number {
  const bar = toNumber(barStart(riff.meters, 1));
  const gap = (Math.max(usualGap(riff.events), 1 / 8) * width) / (perRow * bar);
  // Two figures of 0.56 of the height each, and a little air.
  return Math.max(11, Math.min(20, Math.round(gap * 0.8 * 2) / 2));
}

/** A row as a lane sees it: of its events only the fields the lane names, so that it can't show what it does not. */
export type LaneRow<Field extends keyof RiffEvent = never> = Omit<StripRow, 'events' | 'before'> & {
  readonly events: readonly Pick<RiffEvent, 'id' | Field>[];
};

/**
 * Whether a lane of a row is drawn the same from what it is given: its frame, its other properties, and of its events
 * the fields it names, by value. With no field the events are left out.
 */
export function sameLane<Field extends keyof RiffEvent, Props extends { readonly row: LaneRow<Field> }>(
  ...fields: readonly Field[]
): (before: Props, after: Props) => boolean {
  const sameEvent = (a: Pick<RiffEvent, Field>, b: Pick<RiffEvent, Field> | undefined): boolean =>
    a === b || (b !== undefined && fields.every((field) => equal(a[field], b[field])));
  return (before, after) => {
    const { row: a, ...restA } = before;
    const { row: b, ...restB } = after;
    return (
      (a === b ||
        (a.firstBar === b.firstBar &&
          a.bars === b.bars &&
          a.from === b.from &&
          a.to === b.to &&
          a.events.length === b.events.length &&
          a.events.every((event, i) => event.id === b.events[i]?.id && sameEvent(event, b.events[i])))) &&
      (Object.keys(restA) as (keyof typeof restA)[]).every((key) => restA[key] === restB[key])
    );
  };
}

/** Rows filled bar by bar with as many as their notes leave room for: empty bars take little. */
export function packedRows(riff: Riff, width: number, least = 17): StripRow[] {
  const bars = rowsOf(riff, 1);
  const rows: StripRow[] = [];
  let room = 0;
  for (const bar of bars) {
    const quarters = toNumber(sub(bar.to, bar.from));
    const need =
      bar.events.length === 0 ? 60 : Math.max(80, (least / Math.max(usualGap(bar.events), 1 / 8)) * quarters);
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
