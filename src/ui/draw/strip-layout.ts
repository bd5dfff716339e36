import equal from 'fast-deep-equal';
import { type Riff, type RiffEvent, barCount } from '@/core/score';
import { barStart, sub, toNumber, ZERO, type Quarter } from '@/core/time';
import { leastWidth, sizeThatFits, type Figures } from './spacing';

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

/** Heights of figures one reads a metre away: with room, and at least, where bars share a row. */
const READABLE = { usual: 20, least: 12 } as const;
/** So many rows of ten have to be readable; a few dense ones draw their figures smaller. */
const MOST_ROWS = 0.9;

/** Bars in a row so that nearly all rows are readable: one to four, or as many as were asked for. */
export function barsThatFit(riff: Riff, width: number, text: Figures['text']): number {
  for (const perRow of [4, 3, 2]) {
    // Music goes in twos and fours: three in a row only where the riff does.
    if (perRow === 3 && barCount(riff) % 3 !== 0) continue;
    const rows = rowsOf(riff, perRow);
    const fits = rows.filter((row) => leastWidth(row, riff.meters, { size: READABLE.least, text }) <= width).length;
    if (fits >= rows.length * MOST_ROWS) return perRow;
  }
  return 1;
}

/** Height of the figures of nearly all rows: 20 pixels where there is room. */
export function figureSize(riff: Riff, width: number, perRow: number, text: Figures['text']): number {
  const sizes = rowsOf(riff, perRow)
    .map((row) => sizeThatFits(row, riff.meters, width, text, READABLE.usual))
    .sort((a, b) => b - a);
  return sizes[Math.min(sizes.length - 1, Math.floor(sizes.length * MOST_ROWS))] ?? READABLE.usual;
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

/** What a bar takes in print beyond the least, so that its rhythm is seen; and an empty bar, and any other. */
const PRINT_ROOM = { loose: 1.35, empty: 60, least: 80, bars: 8 } as const;

/** Rows filled bar by bar with as many as their notes leave room for: empty bars take little. */
export function packedRows(riff: Riff, width: number, figures: Figures): StripRow[] {
  const rows: StripRow[] = [];
  let room = 0;
  for (const bar of rowsOf(riff, 1)) {
    const need =
      bar.events.length === 0
        ? PRINT_ROOM.empty
        : Math.max(PRINT_ROOM.least, leastWidth(bar, riff.meters, figures) * PRINT_ROOM.loose);
    const last = rows.at(-1);
    if (last && last.bars < PRINT_ROOM.bars && room + need <= width) {
      rows[rows.length - 1] = { ...last, bars: last.bars + 1, to: bar.to, events: [...last.events, ...bar.events] };
      room += need;
    } else {
      rows.push({ ...bar, index: rows.length });
      room = need;
    }
  }
  return rows;
}
