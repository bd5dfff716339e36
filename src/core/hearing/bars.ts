import type { Seconds } from '../base';
import {
  add,
  barLength,
  barOf,
  barStart,
  meterAt,
  minQuarter,
  quarter,
  toNumber,
  ZERO,
  type MeterChange,
  type Quarter,
  type TempoStep,
} from '../time';
import type { Mark } from './clip';

/**
 * Bars on a clip: time runs evenly between laid bar lines and beyond the outer ones at the pace of
 * the bar next to them, so that a tempo that drifts is followed.
 */
export class BarMap {
  private readonly points: readonly { readonly time: Quarter; readonly q: number; readonly at: Seconds }[];

  /** @param marks ascending; two at least, or one with a tempo */
  constructor(
    private readonly meters: readonly MeterChange[],
    marks: readonly Mark[],
    bpm: number | null = null,
  ) {
    const points = marks.map((one) => {
      const time = barStart(meters, one.bar);
      return { time, q: toNumber(time), at: one.at };
    });
    const [only] = points;
    // One line is enough where the tempo is known.
    this.points =
      only && points.length === 1 && bpm
        ? [only, { time: add(only.time, quarter(4)), q: only.q + 4, at: only.at + (4 * 60) / bpm }]
        : points;
  }

  get known(): boolean {
    return this.points.length > 1;
  }

  /** Quarters of the riff at a time of the clip. */
  quarters(at: Seconds): number {
    const [a, b] = this.around((one) => one.at, at);
    return a.q + ((at - a.at) * (b.q - a.q)) / (b.at - a.at);
  }

  seconds(quarters: number): Seconds {
    const [a, b] = this.around((one) => one.q, quarters);
    return a.at + ((quarters - a.q) * (b.at - a.at)) / (b.q - a.q);
  }

  private around(
    of: (one: { q: number; at: number }) => number,
    value: number,
  ): [{ q: number; at: number }, { q: number; at: number }] {
    let i = 1;
    while (i + 1 < this.points.length && of(this.points[i] as { q: number; at: number }) < value) i++;
    const a = this.points[i - 1];
    const b = this.points[i];
    if (!a || !b) throw new RangeError('no bars are laid on this clip');
    return [a, b];
  }

  /** Quarters a minute in each bar that has both its lines laid, and how far the fastest is from the slowest. */
  tempi(): { readonly bar: number; readonly bpm: number }[] {
    return this.points.slice(1).map((one, i) => {
      const before = this.points[i] as { q: number; at: number };
      return { bar: i, bpm: Math.round((600 * (one.q - before.q)) / (one.at - before.at)) / 10 };
    });
  }

  /** The clip's own tempo as a map for sounding: what is played by it falls on the recording, bar for bar. */
  tempo(): TempoStep[] {
    return this.points.slice(0, -1).map((one, i) => {
      const next = this.points[i + 1] as { q: number; at: number };
      return { at: i === 0 ? minQuarter(ZERO, one.time) : one.time, bpm: (60 * (next.q - one.q)) / (next.at - one.at) };
    });
  }

  /** The bar a time of the clip falls into, and where it begins and ends there. */
  barAt(at: Seconds): { readonly bar: number; readonly from: Seconds; readonly to: Seconds } {
    const { bar } = barOf(this.meters, quarter(Math.round(this.quarters(at) * 9600), 9600));
    return {
      bar,
      from: this.seconds(toNumber(barStart(this.meters, bar))),
      to: this.seconds(toNumber(barStart(this.meters, bar + 1))),
    };
  }

  /** Where bar lines stand in the clip, from `from` to `to` seconds. */
  lines(from: Seconds, to: Seconds): { readonly bar: number; readonly at: Seconds }[] {
    const out: { bar: number; at: Seconds }[] = [];
    let bar = Math.max(0, Math.floor(this.quarters(from) / toNumber(barLength(meterAt(this.meters, 0)))) - 2);
    for (let guard = 0; guard < 4000; guard++, bar++) {
      const at = this.seconds(toNumber(barStart(this.meters, bar)));
      if (at > to) break;
      if (at >= from) out.push({ bar, at });
    }
    return out;
  }
}

/** Bar lines from beats: every `beats`-th, counted from the beat nearest to `first`. */
export function marksOfBeats(beats: readonly Seconds[], first: Seconds, perBar: number): Mark[] {
  if (beats.length < 2) return [];
  let start = 0;
  beats.forEach((b, i) => {
    if (Math.abs(b - first) < Math.abs((beats[start] ?? 0) - first)) start = i;
  });
  const marks: Mark[] = [];
  for (let i = start, bar = 0; i < beats.length; i += perBar, bar++)
    marks.push({ bar, at: Math.round((beats[i] ?? 0) * 1000) / 1000 });
  return marks;
}

/** The beats at half or double the level. */
export function otherLevel(beats: readonly Seconds[], factor: 2 | 0.5): Seconds[] {
  if (factor === 0.5) return beats.filter((_, i) => i % 2 === 0);
  return beats.flatMap((b, i) => {
    const next = beats[i + 1];
    return next === undefined ? [b] : [b, (b + next) / 2];
  });
}
