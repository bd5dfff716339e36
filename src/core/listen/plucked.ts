/** How strings are set sounding: how fast their partials fall off, and at which share of its length a string is plucked. */
export interface Manner {
  readonly fall: number;
  readonly point: number;
}

/** Manners tried: with no notches at all, and plucked from close to the bridge to over the neck. */
export const MANNERS: readonly Manner[] = [0, 0.05, 0.08, 0.12, 0.17, 0.24].flatMap((point) => [0.4, 0.8, 1.2, 1.6, 2].map((fall) => ({ fall, point })));

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

/** Partials of one string plucked in one manner. */
export interface Template {
  readonly bins: Int32Array;
  readonly values: Float64Array;
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
  private mark = 0;
  private readonly all: number;

  /** `templates`: those made so far, for any sound looked at with the same resolution; more are added. */
  constructor(private readonly sound: Sounding, private readonly templates = new Map<string, Template>()) {
    this.y = new Float64Array(sound.roots.length);
    this.seen = new Int32Array(sound.roots.length);
    this.all = sound.roots.reduce((sum, r) => sum + r * r, 0);
  }

  private template(note: number, { fall, point }: Manner): Template {
    const { end, perHertz, lobe, string } = this.sound;
    const { hertz, stiffness } = string(note);
    const key = `${hertz} ${stiffness} ${lobe} ${fall} ${point}`;
    const known = this.templates.get(key);
    if (known) return known;
    const at = new Map<number, number>();
    for (let n = 1; n <= PARTIALS; n++) {
      const center = n * hertz * Math.sqrt((1 + stiffness * n * n) / (1 + stiffness)) * perHertz;
      if (center > end) break;
      const level = n ** -fall * (point === 0 ? 1 : Math.sqrt(Math.sin(n * Math.PI * point) ** 2 + IN_NODES) / Math.sin(Math.PI * point));
      // High partials of real strings lie less sharply.
      const wide = lobe * (1 + 0.04 * n);
      for (let k = Math.max(1, Math.ceil(center - wide)); k <= center + wide; k++) at.set(k, (at.get(k) ?? 0) + level * Math.cos((Math.PI / 2) * ((k - center) / wide)) ** 2);
    }
    const values = Float64Array.from(at.values());
    const made = { bins: Int32Array.from(at.keys()), values, sum: values.reduce((a, b) => a + b, 0) };
    this.templates.set(key, made);
    return made;
  }

  /** The share of the sound some notes explain, at most 1, and the level of each. */
  fit(notes: readonly number[], manner: Manner, rounds = ROUNDS): { readonly explained: number; readonly levels: readonly number[] } {
    const { y, seen } = this;
    const { roots } = this.sound;
    const templates = notes.map((n) => this.template(n, manner));
    const mark = ++this.mark;
    const touched: number[] = [];
    for (const { bins } of templates) {
      for (const k of bins) {
        if (seen[k] === mark) continue;
        seen[k] = mark;
        touched.push(k);
      }
    }
    const levels = notes.map(() => 1);
    const mix = (): void => {
      for (const k of touched) y[k] = 1e-9;
      templates.forEach(({ bins, values }, j) => {
        const level = levels[j] as number;
        for (let i = 0; i < bins.length; i++) y[bins[i] as number] = (y[bins[i] as number] as number) + level * (values[i] as number);
      });
    };
    mix();
    // All equally loud to begin with, as loud as fits.
    let [match, size] = [0, 0];
    for (const k of touched) {
      match += (roots[k] as number) * Math.sqrt(y[k] as number);
      size += y[k] as number;
    }
    levels.fill((match / Math.max(size, 1e-12)) ** 2);
    for (let round = 0; round < rounds; round++) {
      mix();
      for (const k of touched) y[k] = (roots[k] as number) / Math.sqrt(y[k] as number);
      templates.forEach(({ bins, values, sum }, j) => {
        let pull = 0;
        for (let i = 0; i < bins.length; i++) pull += (values[i] as number) * (y[bins[i] as number] as number);
        levels[j] = (levels[j] as number) * (pull / sum) ** 2;
      });
    }
    mix();
    let left = this.all;
    for (const k of touched) left += (Math.sqrt(y[k] as number) - (roots[k] as number)) ** 2 - (roots[k] as number) ** 2;
    return { explained: this.all > 0 ? 1 - left / this.all : 0, levels };
  }

  /** The manner in which some notes explain most: the best of those tried, and the best around it. */
  manner(notes: readonly number[]): Manner {
    let best: Manner = { fall: 1, point: 0 };
    let most = -Infinity;
    const tryOut = (manner: Manner): void => {
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
