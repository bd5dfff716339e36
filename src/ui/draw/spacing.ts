import type { Note, RiffEvent } from '@/core/score';
import { barStart, toNumber, type MeterChange, type Quarter } from '@/core/time';

/**
 * Where onsets stand in a row: true to time where there is room, and moved apart as little as may be where there
 * isn't, so that no figure runs into its neighbour.
 */

/** A row as far as spacing needs it. */
interface RowTimes {
  readonly firstBar: number;
  readonly bars: number;
  readonly from: Quarter;
  readonly to: Quarter;
  readonly events: readonly RiffEvent[];
}

/** Figures as they are measured: the height of a fret, and what stands for a note. */
export interface Figures {
  readonly size: number;
  readonly text: (note: Note) => string;
}

/** Widths of a figure by its height: each sign, and the air in its box. The face is a monospaced one. */
const SIGN = 0.56;
const AIR = 0.28;
/**
 * Pixels that stay free between two boxes, and what takes room beside a figure: a slide from or to nowhere, and the
 * stroke of a slide to the next.
 */
const BETWEEN = 1.5;
const SLIDE = 9;
const SLID = 7;
/** A bar line stands so far before its first onset. */
const BAR_ROOM = 14;
/** Grace notes are drawn smaller. */
export const GRACE_SIZE = 0.68;
/** Figures between these heights are tried, the largest that fits is taken. */
const SIZES = { most: 20, least: 5, step: 0.5 } as const;

export const figureWidth = (text: string, size: number): number => SIGN * size * text.length + AIR * size;

interface Room {
  readonly left: number;
  readonly right: number;
}

function roomOf(event: RiffEvent, { size, text }: Figures): Room {
  const scaled = event.grace ? size * GRACE_SIZE : size;
  let left = 0;
  let right = 0;
  for (const note of event.notes) {
    const half = (note.place ? figureWidth(text(note), scaled) : scaled) / 2;
    left = Math.max(left, half + (note.technique?.slideIn ? SLIDE : 0));
    const slid = note.join === 'slide' || note.join === 'shift' ? SLID : 0;
    right = Math.max(right, half + (note.technique?.slideOut ? SLIDE : slid));
  }
  return event.notes.length > 0 ? { left, right } : { left: 7, right: 14 };
}

/** One onset or bar line of a row. */
interface Node {
  readonly time: number;
  readonly room: Room | null;
  readonly bar: boolean;
}

type Meters = readonly MeterChange[];

function nodesOf(row: RowTimes, meters: Meters, figures: Figures): Node[] {
  const bars = new Set<number>();
  for (let bar = row.firstBar; bar <= row.firstBar + row.bars; bar++) bars.add(toNumber(barStart(meters, bar)));
  const nodes: Node[] = row.events.map((event) => {
    const time = toNumber(event.at);
    return { time, room: roomOf(event, figures), bar: bars.delete(time) };
  });
  for (const time of [toNumber(row.from), ...bars])
    if (!nodes.some((node) => node.time === time))
      nodes.push({ time, room: null, bar: bars.has(time) && time > toNumber(row.from) });
  return nodes.sort((a, b) => a.time - b.time);
}

/** How far a node has to stand from the one before it. */
function gapBefore(before: Node | undefined, node: Node): number {
  if (!before) return 0;
  const right = before.room?.right ?? 0;
  const left = node.room?.left ?? 0;
  const apart = right > 0 && left > 0 ? right + left + BETWEEN : right;
  return Math.max(1, node.bar ? Math.max(apart, right + BAR_ROOM + BETWEEN) : apart);
}

/** The least width a row's figures take. */
export function leastWidth(row: RowTimes, meters: Meters, figures: Figures): number {
  const nodes = nodesOf(row, meters, figures);
  return nodes.reduce((sum, node, i) => sum + gapBefore(nodes[i - 1], node), 0);
}

/** The largest height of figures, up to `most`, at which a row's figures don't touch in a width. */
export function sizeThatFits(
  row: RowTimes,
  meters: Meters,
  width: number,
  text: Figures['text'],
  most: number = SIZES.most,
): number {
  // What a row takes grows evenly with the height but for a constant: two looks tell nearly where it fits.
  let size = most;
  for (let tries = 0; tries < 40 && size > SIZES.least; tries++) {
    const need = leastWidth(row, meters, { size, text });
    if (need <= width) return size;
    size = Math.max(
      SIZES.least,
      Math.min(size - SIZES.step, Math.floor((size * width) / need / SIZES.step) * SIZES.step),
    );
  }
  return size;
}

/** Times of a row to pixels and back. */
export interface RowScale {
  (at: Quarter): number;
  /** Any time in quarters, as of a playhead. */
  readonly time: (quarters: number) => number;
  /** The time at a pixel, in quarters. */
  readonly invert: (px: number) => number;
}

/**
 * The scale of a row between `left` and `left + width`: each onset as near to its true place as the figures allow
 * (least squares under least distances: isotonic regression of what is left when the distances are taken away), and
 * time even between onsets.
 */
export function spacedScale(row: RowTimes, meters: Meters, left: number, width: number, figures: Figures): RowScale {
  const from = toNumber(row.from);
  const span = Math.max(1e-6, toNumber(row.to) - from);
  const nodes = nodesOf(row, meters, figures);
  const gaps = nodes.map((node, i) => gapBefore(nodes[i - 1], node));
  const total = gaps.reduce((sum, gap) => sum + gap, 0);
  const squeeze = total > width ? width / total : 1;
  let before = 0;
  const offsets = gaps.map((gap) => (before += gap * squeeze));
  const loose = isotonic(nodes.map((node, i) => left + ((node.time - from) / span) * width - (offsets[i] ?? 0)));
  const most = left + width - total * squeeze;
  const at = loose.map((value, i) => Math.min(most, Math.max(left, value)) + (offsets[i] ?? 0));
  const times = nodes.map((node) => node.time);
  const time = (quarters: number): number => between(times, at, quarters, width / span);
  const scale = (quarter: Quarter): number => time(toNumber(quarter));
  return Object.assign(scale, { time, invert: (px: number) => between(at, times, px, span / width) });
}

/** The values nearest to some, by least squares, that never fall (pool adjacent violators). */
function isotonic(values: readonly number[]): number[] {
  const pools: { sum: number; count: number }[] = [];
  for (const value of values) {
    let pool = { sum: value, count: 1 };
    for (let last = pools.at(-1); last && last.sum / last.count > pool.sum / pool.count; last = pools.at(-1)) {
      pools.pop();
      pool = { sum: last.sum + pool.sum, count: last.count + pool.count };
    }
    pools.push(pool);
  }
  return pools.flatMap(({ sum, count }) => new Array<number>(count).fill(sum / count));
}

/** Reads a piecewise straight line through points, and on with a slope beyond its ends. */
function between(xs: readonly number[], ys: readonly number[], x: number, slope: number): number {
  const first = xs[0] ?? 0;
  if (x <= first) return (ys[0] ?? 0) + (x - first) * slope;
  let low = 0;
  let high = xs.length - 1;
  if (x >= (xs[high] ?? 0)) return (ys[high] ?? 0) + (x - (xs[high] ?? 0)) * slope;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((xs[middle] ?? 0) <= x) low = middle;
    else high = middle;
  }
  const [x0, x1, y0, y1] = [xs[low] ?? 0, xs[high] ?? 0, ys[low] ?? 0, ys[high] ?? 0];
  return x1 - x0 < 1e-9 ? y1 : y0 + ((x - x0) / (x1 - x0)) * (y1 - y0);
}
