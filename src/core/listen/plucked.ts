import { inner, TemplateMaker, type Template } from './templates';

/**
 * How strings are set sounding: how fast their partials fall off, and at which share of its length a string is
 * plucked.
 */
export interface PluckStyle {
  readonly fall: number;
  readonly point: number;
}

/** Manners tried: with no notches at all, and plucked from close to the bridge to over the neck. */
export const MANNERS: readonly PluckStyle[] = [0, 0.05, 0.08, 0.12, 0.17, 0.24].flatMap((point) =>
  [0.4, 0.8, 1.2, 1.6, 2].map((fall) => ({ fall, point })),
);

/** What the sound is made of, as this fit sees it. */
export interface Sounding {
  /** Square roots of the magnitudes, a bin each. */
  readonly roots: Float64Array;
  /** Bins from which on nothing is looked at. */
  readonly end: number;
  /** The bin of a frequency of one hertz. */
  readonly perHertz: number;
  /** Half the main lobe of the window, in bins. */
  readonly lobe: number;
  /** Frequency of a note's string in hertz and its stiffness B: f_n = n f √(1 + B n²). */
  readonly string: (note: number) => { readonly hertz: number; readonly stiffness: number };
}

/** Partials of one string plucked in one manner, and all they hold. */
export interface PluckedString extends Template {
  readonly sum: number;
}

const PARTIALS = 14;
/** Not even at a node is a partial quite silent: strings are plucked over a width, and pickups are no points. */
const IN_NODES = 0.03;
const ROUNDS = 12;
/** Enough to tell manners apart. */
const FEW = 4;

/**
 * How notes plucked in one manner explain a sound together. A string plucked at a share β of its
 * length sounds its n-th partial as |sin nπβ| (the ideal plucked string), falling further by a power
 * of n; magnitudes of notes add up before they are compared. Levels by multiplicative updates for
 * least squares of square roots (as in non-negative matrix factorisation), each step never worse.
 */
export class Plucked {
  private readonly y: Float64Array;
  private readonly seen: Int32Array;
  private readonly touched: Int32Array;
  private mark = 0;
  private readonly all: number;
  private readonly maker: TemplateMaker;

  /** `templates`: those made so far, for any sound looked at with the same resolution; more are added. */
  constructor(
    private readonly sound: Sounding,
    private readonly templates = new Map<string, PluckedString>(),
  ) {
    this.maker = new TemplateMaker(sound.end);
    this.y = new Float64Array(sound.roots.length);
    this.seen = new Int32Array(sound.roots.length);
    this.touched = new Int32Array(sound.roots.length);
    this.all = sound.roots.reduce((sum, r) => sum + r * r, 0);
  }

  private template(note: number, { fall, point }: PluckStyle): PluckedString {
    const { perHertz, lobe, string } = this.sound;
    const { hertz, stiffness } = string(note);
    const key = `${hertz} ${stiffness} ${lobe} ${fall} ${point}`;
    const known = this.templates.get(key);
    if (known) return known;
    const template = this.maker.made(PARTIALS, lobe, 'whole', (n) => ({
      bin: n * hertz * Math.sqrt((1 + stiffness * n * n) / (1 + stiffness)) * perHertz,
      level:
        n ** -fall *
        (point === 0 ? 1 : Math.sqrt(Math.sin(n * Math.PI * point) ** 2 + IN_NODES) / Math.sin(Math.PI * point)),
    }));
    const made = { ...template, sum: template.values.reduce((a, b) => a + b, 0) };
    this.templates.set(key, made);
    return made;
  }

  /** The share of the sound some notes explain, at most 1, and the level of each. */
  fit(
    notes: readonly number[],
    manner: PluckStyle,
    rounds = ROUNDS,
  ): { readonly explained: number; readonly levels: readonly number[] } {
    const { y: values, touched } = this;
    const { roots } = this.sound;
    const templates = notes.map((n) => this.template(n, manner));
    const count = this.touch(templates);
    const levels = new Float64Array(notes.length).fill(1);
    this.mix(templates, levels, count);
    // All equally loud to begin with, as loud as fits.
    let [match, size] = [0, 0];
    for (let i = 0; i < count; i++) {
      const k = touched[i] as number;
      match += (roots[k] as number) * Math.sqrt(values[k] as number);
      size += values[k] as number;
    }
    levels.fill((match / Math.max(size, 1e-12)) ** 2);
    for (let round = 0; round < rounds; round++) {
      this.mix(templates, levels, count);
      for (let i = 0; i < count; i++) {
        const k = touched[i] as number;
        values[k] = (roots[k] as number) / Math.sqrt(values[k] as number);
      }
      for (let j = 0; j < templates.length; j++) {
        const template = templates[j] as PluckedString;
        levels[j] = (levels[j] as number) * (inner(template, values) / template.sum) ** 2;
      }
    }
    this.mix(templates, levels, count);
    let left = this.all;
    for (let i = 0; i < count; i++) {
      const k = touched[i] as number;
      left += (Math.sqrt(values[k] as number) - (roots[k] as number)) ** 2 - (roots[k] as number) ** 2;
    }
    return { explained: this.all > 0 ? 1 - left / this.all : 0, levels: [...levels] };
  }

  /** Notes down the bins any of some templates holds; how many. */
  private touch(templates: readonly PluckedString[]): number {
    const { seen, touched } = this;
    const mark = ++this.mark;
    let count = 0;
    for (const { bins } of templates) {
      for (let i = 0; i < bins.length; i++) {
        const k = bins[i] as number;
        if (seen[k] === mark) continue;
        seen[k] = mark;
        touched[count++] = k;
      }
    }
    return count;
  }

  /** What some strings sound together, in the first so many of the bins noted down. */
  private mix(templates: readonly PluckedString[], levels: Float64Array, count: number): void {
    const { y: one, touched } = this;
    for (let i = 0; i < count; i++) one[touched[i] as number] = 1e-9;
    for (let j = 0; j < templates.length; j++) {
      const { bins, values } = templates[j] as PluckedString;
      const level = levels[j] as number;
      for (let i = 0; i < bins.length; i++) {
        const k = bins[i] as number;
        one[k] = (one[k] as number) + level * (values[i] as number);
      }
    }
  }

  /** The manner in which some notes explain most: the best of those tried, and the best around it. */
  manner(notes: readonly number[]): PluckStyle {
    let best: PluckStyle = { fall: 1, point: 0 };
    let most = -Infinity;
    const tryOut = (manner: PluckStyle): void => {
      const { explained } = this.fit(notes, manner, FEW);
      if (explained > most) [best, most] = [manner, explained];
    };
    MANNERS.forEach(tryOut);
    for (const step of [1, 0.5]) {
      const { fall, point } = best;
      for (const f of [-0.2, 0.2]) tryOut({ fall: rounded(fall + step * f), point });
      for (const p of [-0.16, 0.16]) tryOut({ fall: best.fall, point: rounded(point * (1 + step * p)) });
    }
    return best;
  }
}

/** So that templates are shared. */
const rounded = (x: number): number => Math.round(x * 1000) / 1000;
