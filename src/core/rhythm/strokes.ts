import { stringNumbers, type Setup } from '../instrument';
import type { Picking } from '../schools';
import { isStruck, type Riff, type RiffEvent, type Stroke } from '../score';
import {
  add,
  barOf,
  meterAt,
  mul,
  quarter,
  secondsAtNumber,
  swung,
  toNumber,
  toRatio,
  type MeterChange,
  type Quarter,
  type TempoStep,
} from '../time';

/** How one event is struck. */
export interface Struck {
  readonly event: string;
  /** Null where nothing is struck: slurred, tapped, or a hole. */
  readonly stroke: Stroke | null;
  readonly by: 'school' | 'instructor' | null;
  /** Events of one stroke share a number: "one pick, several notes". */
  readonly group: number;
}

/** Silence from which on a hand begins anew, in quarters. */
const BREATH = 1;

/**
 * Strokes of a riff by a school; what the instructor said stands. Slurred and tapped notes take
 * no stroke, so the next struck note goes on as if they had (alternating by the grid) or not been
 * there (by the note).
 */
export function strokesOf(riff: Riff, setup: Setup, school: Picking): Struck[] {
  const grid = school === 'alternate' || school === 'off-up' ? gridOf(riff) : null;
  const strings = stringNumbers(setup);
  const bass = setup.instrument.kind === 'bass';
  let group = -1;
  let last: { stroke: Stroke; event: RiffEvent } | null = null;
  return riff.events.map((event, i): Struck => {
    const before = riff.events[i - 1];
    const carried = !isStruck(before, event);
    if (event.kind === 'hole' || (carried && !event.stroke)) {
      if (event.kind === 'hole') group++;
      return { event: event.id, stroke: null, by: null, group: Math.max(0, group) };
    }
    if (event.stroke === 'same' && last) return { event: event.id, stroke: 'same', by: 'instructor', group };
    group++;
    if (event.stroke && event.stroke !== 'same') {
      last = { stroke: event.stroke, event };
      return { event: event.id, stroke: event.stroke, by: 'instructor', group };
    }
    if (event.kind === 'hit') return { event: event.id, stroke: null, by: null, group };
    const fresh =
      last === null ||
      (before !== undefined && toNumber(event.at) - toNumber(before.at) - toNumber(before.dur) >= BREATH - 1e-9);
    const stroke =
      event.kind === 'scrape'
        ? 'down'
        : bySchool(school, { event, spot: grid?.spots[i] ?? null, grid, last: fresh ? null : last, strings, bass });
    last = { stroke, event };
    return { event: event.id, stroke, by: 'school', group };
  });
}

interface Asking {
  readonly event: RiffEvent;
  readonly spot: Spot | null;
  readonly grid: Grid | null;
  readonly last: { readonly stroke: Stroke; readonly event: RiffEvent } | null;
  readonly strings: readonly number[];
  readonly bass: boolean;
}

function bySchool(school: Picking, asking: Asking): Stroke {
  const { event, last, strings, bass } = asking;
  switch (school) {
    case 'down':
      return 'down';
    case 'off-up':
      return asking.spot === null || indexOn(asking.spot, 1) === null ? 'up' : 'down';
    case 'alternate':
      return onGrid(asking);
    case 'by-note':
      return last ? other(last.stroke) : 'down';
    case 'economy': {
      if (!last) return 'down';
      const to = outer(event, 'thick');
      const from = outer(last.event, last.stroke === 'down' ? 'thin' : 'thick');
      if (to === null || from === null || to === from) return other(last.stroke);
      // Towards the thin strings the hand travels down, towards the thick ones up: the stroke goes with it.
      return to < from ? 'down' : 'up';
    }
    case 'fingers': {
      const low = outer(event, 'thick') ?? 1;
      if (bass) return last?.stroke === 'index' ? 'middle' : 'index';
      if (low >= Math.max(4, strings.length - 2)) return 'thumb';
      if (low === 1) return 'third';
      return low === 2 ? 'middle' : 'index';
    }
    case 'slap':
      return (outer(event, 'thin') ?? strings.length) <= Math.ceil(strings.length / 2) ? 'pop' : 'slap';
  }
}

const other = (stroke: Stroke): Stroke => (stroke === 'down' ? 'up' : 'down');

function outer(event: RiffEvent, side: 'thick' | 'thin'): number | null {
  const strings = event.notes.flatMap((note) => (note.place ? [note.place.string] : []));
  return strings.length === 0 ? null : side === 'thick' ? Math.max(...strings) : Math.min(...strings);
}

/** Where an event stands: its bar, and how many beats into it. */
interface Spot {
  readonly bar: number;
  readonly beats: number;
}

/**
 * The grid of a riff: where each event stands, and into how many equal parts each beat is cut by what is picked in it.
 */
interface Grid {
  readonly spots: readonly Spot[];
  readonly parts: ReadonlyMap<number, number>;
}

/** A beat as one number: no bar has four thousand beats. */
const beatKey = ({ bar, beats }: Spot): number => bar * 4096 + Math.floor(beats + 1e-9);

/** Reads the grid in one pass over the events. */
function gridOf(riff: Riff): Grid {
  const parts = new Map<number, number>();
  let bar = NaN;
  let beat = { n: 1, d: 1 };
  const spots = riff.events.map((event, i): Spot => {
    const found = barOf(riff.meters, event.at);
    if (found.bar !== bar) {
      bar = found.bar;
      beat = toRatio(feltBeat(riff.meters, bar));
    }
    const into = toRatio(found.offset);
    // A pickup counts from the bar line back.
    const spot = { bar, beats: (into.n * beat.d) / (into.d * beat.n) + (bar < 0 ? 64 : 0) };
    // Only what is picked moves the picking hand: slurred notes ask for no finer grid.
    if (!event.grace && isStruck(riff.events[i - 1], event)) {
      const own = (into.d * beat.n) / gcd(into.n * beat.d, into.d * beat.n);
      const key = beatKey(spot);
      parts.set(key, Math.min(48, lcm(parts.get(key) ?? 1, own)));
    }
    return spot;
  });
  return { spots, parts };
}

/** Down on, up off: by which unit of its beat's grid an onset falls on, counted through the bar. */
function onGrid({ spot, grid }: Asking): Stroke {
  if (!spot || !grid) return 'down';
  const own = grid.parts.get(beatKey(spot)) ?? 1;
  const index = indexOn(spot, own) ?? Math.floor(spot.beats * own);
  return index % 2 === 0 ? 'down' : 'up';
}

/** Length of a felt beat: a dotted quarter in compound meters. */
export function feltBeat(meters: readonly MeterChange[], bar: number): Quarter {
  const { beats, unit } = meterAt(meters, Math.max(0, bar));
  return unit >= 8 && beats % 3 === 0 ? quarter(12, unit) : quarter(4, unit);
}

/**
 * Which unit of a grid of so many parts to a beat a spot falls on, counted from the bar line; null where it falls
 * between.
 */
function indexOn(spot: Spot, parts: number): number | null {
  const units = spot.beats * parts;
  const whole = Math.round(units);
  return Math.abs(units - whole) < 1e-6 ? whole : null;
}

function gcd(a: number, b: number): number {
  while (b !== 0) [a, b] = [b, a % b];
  return Math.abs(a) || 1;
}
const lcm = (a: number, b: number): number => (a / gcd(a, b)) * b;

/** A run of strokes and how fast it goes. */
export interface Run {
  /** First and last struck event. */
  readonly from: string;
  readonly to: string;
  readonly strokes: number;
  readonly perSecond: number;
  /** Strings crossed between its strokes. */
  readonly crossed: number;
}

/** Strokes in the runs that are measured. */
const RUN = { least: 4, even: 1.3 } as const;

/** How a school's strokes come out at a tempo. */
export interface StrokeFigures {
  readonly strokes: number;
  /** The fastest two strokes after each other, a second. */
  readonly fastest: number;
  /**
   * The run of four strokes or more that is fastest; of equally fast ones the longest, then the one that crosses
   * most.
   */
  readonly hardest: Run | null;
  /** Strokes that carry more than one note. */
  readonly groups: number;
}

/** Counts strokes and finds the hardest run. */
export function strokeFigures(
  riff: Riff,
  struck: readonly Struck[],
  tempo: readonly TempoStep[],
  speed = 1,
): StrokeFigures {
  const times: { event: RiffEvent; at: number }[] = [];
  riff.events.forEach((event, i) => {
    const stroke = struck[i]?.stroke;
    if (!stroke || stroke === 'same' || event.grace) return;
    const second = (at: Quarter): number => secondsAtNumber(tempo, swung(riff.feel, toNumber(at))) / speed;
    const each = event.tremolo ? Math.max(1, Math.floor(toNumber(event.dur) / toNumber(event.tremolo) + 1e-9)) : 1;
    for (let k = 0; k < each; k++)
      times.push({ event, at: second(event.tremolo ? add(event.at, mul(event.tremolo, k)) : event.at) });
  });
  const gaps = times
    .slice(1)
    .map((one, i) => one.at - (times[i]?.at ?? 0))
    .map((g) => Math.max(g, 1e-6));
  let hardest: Run | null = null;
  let start = 0;
  const weigh = (from: number, to: number): void => {
    const count = to - from + 1;
    if (count < RUN.least) return;
    const [a, b] = [times[from], times[to]];
    if (!a || !b) return;
    const perSecond = (count - 1) / Math.max(1e-6, b.at - a.at);
    const crossed = crossings(times.slice(from, to + 1).map((one) => one.event));
    const run: Run = { from: a.event.id, to: b.event.id, strokes: count, perSecond, crossed };
    const better =
      hardest === null ||
      perSecond > hardest.perSecond * 1.02 ||
      (perSecond > hardest.perSecond * 0.98 &&
        (count > hardest.strokes || (count === hardest.strokes && crossed > hardest.crossed)));
    if (better) hardest = run;
  };
  // A run goes on while its strokes come at about one rate.
  for (let i = 1; i <= gaps.length; i++) {
    const ratio = (gaps[i] ?? Infinity) / (gaps[i - 1] ?? 1);
    if (i === gaps.length || ratio > RUN.even || ratio < 1 / RUN.even) {
      weigh(start, i);
      start = i;
    }
  }
  const sizes = new Map<number, number>();
  riff.events.forEach((event, i) => {
    const g = struck[i]?.group;
    if (g !== undefined && event.notes.length > 0 && !event.grace) sizes.set(g, (sizes.get(g) ?? 0) + 1);
  });
  return {
    strokes: times.length,
    fastest: gaps.length === 0 ? 0 : 1 / Math.min(...gaps),
    hardest,
    groups: [...sizes.values()].filter((n) => n > 1).length,
  };
}

function crossings(events: readonly RiffEvent[]): number {
  let sum = 0;
  events.forEach((event, i) => {
    const a = outer(events[i - 1] ?? event, 'thick');
    const b = outer(event, 'thick');
    if (a !== null && b !== null) sum += Math.abs(a - b);
  });
  return sum;
}
