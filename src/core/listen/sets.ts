import type { Cents, Midi, Seconds } from '../base';
import { Gram } from './gram';
import { Plucked, type PluckStyle, type PluckedString } from './plucked';
import { gripOf, strangeness, type Grip, type Reachable } from './reach';
import { decimated } from './resample';
import { Spectra } from './spectrum';
import { inner, TemplateMaker, type Template } from './templates';

export type { Reachable } from './reach';

/** Notes that may have sounded together, lowest first. */
export interface NoteSet {
  readonly notes: readonly {
    readonly midi: Midi;
    readonly strength: number;
    readonly string: number;
    readonly fret: number;
  }[];
  /** Share of the sound these notes explain, 0 to 1. */
  readonly explains: number;
}

export interface HeardSet {
  readonly at: Seconds;
  readonly until: Seconds;
  /** The likeliest first. */
  readonly readings: readonly NoteSet[];
}

const RATE = 11_000;
const SIZE = 4096;
/** The last bin looked at: above it the filter that took the rate down has its slope. */
const END = SIZE * 0.4;
/** Partials of a template, and how much strings of several stiffness stretch them: B in f_n = n f sqrt(1 + B n²). */
const PARTIALS = 14;
const STRETCHES = [0, 0.00012, 0.0003, 0.0006];
/**
 * What is believed of a set: what the sound left unexplained says, against each further note, each string jumped
 * over, notes that are no plain chord, and notes hardly loud enough to have been played.
 */
interface Costs {
  readonly never: number;
  readonly note: number;
  readonly gap: number;
  readonly odd: number;
  readonly strange: number;
  readonly weak: number;
}
/** For a first look, with templates that fit anything; and for the second, by how strings are plucked. */
const FIRST: Costs = { never: 0.03, note: 0.049, gap: 0.07, odd: 0.07, strange: 0.15, weak: 0 };
const SECOND: Costs = { never: 0.06, note: 0.02, gap: 0.04, odd: 0.05, strange: 0.12, weak: 0.15 };
/** A note below this share of the loudest is hardly one of a grip. */
const WEAK = 0.22;
/** Further notes tried at once, by how much of what is left answers to them. */
const TRIED = 14;
/** The lowest partial of a note that sounds stands within so much of the loudest one. */
const VISIBLE = 0.012;
const MOST = 6;

/**
 * What notes may have sounded from each stroke on: templates of partials for every pitch the
 * set-up has, fitted to the spectrum by non-negative least squares and added one by one while each
 * explains enough, one note a string and within the hand; then looked through once more by how
 * strings plucked in one manner sound. Several readings, the likeliest first.
 */
export function heardSets(
  samples: Float32Array,
  rate: number,
  strokes: readonly Seconds[],
  reachable: Reachable,
  reference: Cents,
): HeardSet[] {
  const sound = decimated(samples, rate, RATE);
  const spectra = new Spectra(SIZE);
  const low = Math.min(...reachable.open);
  const high = Math.max(...reachable.open) + reachable.frets;
  const pitches = Array.from({ length: high - low + 1 }, (_, i) => low + i);
  const bank = new Bank(pitches, sound.rate, reference);
  const gathered = together(strokes);
  const out: HeardSet[] = [];
  gathered.forEach((at, i) => {
    const until = gathered[i + 1] ?? Math.min(at + 1.5, samples.length / rate);
    // After the pick's noise, before the next stroke; what rings longer says no more.
    const from = at + 0.04;
    const seconds = Math.min(0.36, until - from - 0.005);
    if (seconds < 0.07) return;
    const magnitudes = spectra.magnitudes(sound.x, Math.round(from * sound.rate), Math.round(seconds * sound.rate));
    const readings = bank.readings(magnitudes, seconds, reachable);
    if (readings.length > 0) out.push({ at, until, readings });
  });
  return out;
}

/** Strings of one chord are struck a few milliseconds apart. */
function together(strokes: readonly Seconds[]): Seconds[] {
  const out: Seconds[] = [];
  for (const one of strokes) if (out.length === 0 || one - (out.at(-1) ?? 0) > 0.085) out.push(one);
  return out;
}

/** How some pitches explain a sound: what share of it, and how loud each is. */
type Look = (set: readonly number[]) => { readonly explained: number; readonly levels: readonly number[] };

/** A set that was found, what it explains, and what it is worth. */
interface Found extends ReturnType<Look> {
  readonly set: readonly number[];
  readonly worth: number;
}

const byWorth = (a: Found, b: Found): number => b.worth - a.worth;

/** Looks of nearly one length share their templates. */
const twelfths = (seconds: number): number => Math.max(1, Math.round(seconds * 12));
const inOrder = (set: readonly number[]): readonly number[] => [...set].sort((a, b) => a - b);

/** Templates of all pitches for one length of look. */
class Bank {
  private readonly made = new Map<number, Template[][][]>();
  private readonly maker = new TemplateMaker(END);
  private readonly grips = new Map<string, Grip | null>();
  private readonly plucks = new Map<string, PluckedString>();

  constructor(
    private readonly pitches: readonly Midi[],
    private readonly rate: number,
    private readonly reference: Cents,
  ) {}

  /** Half the main lobe of a Hann window of this length, in bins of the padded transform. */
  private lobe(seconds: number): number {
    return (2 * SIZE) / ((twelfths(seconds) / 12) * this.rate);
  }

  /** Two templates a pitch, dull and bright: strings differ in which partials they favour. */
  private templates(seconds: number): Template[][][] {
    const key = twelfths(seconds);
    const known = this.made.get(key);
    if (known) return known;
    const lobe = this.lobe(seconds);
    const list = this.pitches.map((pitch) =>
      STRETCHES.map((b) =>
        [1.5, 0.35].map((fall): Template => {
          const f0 = 440 * 2 ** ((pitch - 69 + this.reference / 100) / 12);
          const { bins, values } = this.maker.made(PARTIALS, lobe, 'root', (n) => ({
            bin: (n * f0 * Math.sqrt((1 + b * n * n) / (1 + b)) * SIZE) / this.rate,
            level: Math.sqrt(n ** -fall),
          }));
          const norm = Math.sqrt(values.reduce((sum, v) => sum + v * v, 0)) || 1;
          return { bins, values: values.map((v) => v / norm) };
        }),
      ),
    );
    this.made.set(key, list);
    return list;
  }

  readings(magnitudes: Float64Array, seconds: number, reachable: Reachable): NoteSet[] {
    let top = 0;
    const from = Math.floor((60 * SIZE) / this.rate / 2);
    for (let k = from; k < END; k++) top = Math.max(top, magnitudes[k] as number);
    if (top < 0.05) return [];
    // Square roots: magnitudes as they are would let the loudest partial decide alone.
    const roots = new Float64Array(SIZE / 2);
    const floor = floorOf(magnitudes, top);
    let all = 0;
    for (let k = from; k < END; k++) {
      roots[k] = Math.sqrt(Math.max(0, (magnitudes[k] as number) - floor));
      all += (roots[k] as number) ** 2;
    }
    if (all <= 0) return [];
    // Each pitch by the stiffness that fits it best.
    const fitting = this.templates(seconds).map((stretches) =>
      stretches
        .map((templates, i) => ({
          templates,
          stiffness: STRETCHES[i] ?? 0,
          fits: Math.max(...templates.map((one) => inner(one, roots))),
        }))
        .reduce((a, b) => (b.fits > a.fits ? b : a)),
    );
    const visible = fitting.map((_, index) => this.visible(magnitudes, this.pitches[index] ?? 0, top));
    const gram = new Gram(
      fitting.map((b) => b.templates),
      roots,
    );
    const firstLook: Look = (set) => ({ explained: gram.explained(set) / all, levels: gram.strengths(set) });
    // Each beginning gives a reading: the best first note, and its nearest rivals.
    const firsts = fitting
      .map((_, index) => ({ p: index, gain: visible[index] ? gram.explained([index]) : 0 }))
      .sort((a, b) => b.gain - a.gain)
      .slice(0, 3)
      .filter((one) => one.gain > 0);
    const begun = firsts
      .map((one) => this.grown([one.p], firstLook, FIRST, gram, visible, reachable))
      .sort((a, b) => firstLook(b).explained - firstLook(a).explained);
    const [likeliest] = begun;
    if (!likeliest) return [];
    const plucked = new Plucked(
      {
        roots,
        end: END,
        perHertz: SIZE / this.rate,
        lobe: this.lobe(seconds),
        string: (p) => ({
          hertz: 440 * 2 ** (((this.pitches[p] ?? 0) - 69 + this.reference / 100) / 12),
          stiffness: fitting[p]?.stiffness ?? 0,
        }),
      },
      this.plucks,
    );
    const second = (starts: readonly (readonly number[])[], manner: PluckStyle): Found[] =>
      this.secondLook(starts, plucked, manner, gram, visible, reachable);
    const manner = plucked.manner(likeliest);
    const found = second(begun, manner);
    const best = found[0];
    if (best && best.set.join() !== likeliest.join()) {
      // The manner was that of another set: perhaps these notes were plucked otherwise.
      const other = plucked.manner(best.set);
      if (other.fall !== manner.fall || other.point !== manner.point) found.push(...second([best.set], other));
    }
    const seen = new Set<string>();
    return found.sort(byWorth).flatMap(({ set, explained, levels }) => {
      const grip = this.grip(set, reachable);
      if (!grip || seen.has(set.join())) return [];
      seen.add(set.join());
      const loud = Math.max(...levels, 1e-9);
      return [
        {
          notes: set.map((p, i) => ({
            midi: this.pitches[p] ?? 0,
            strength: Math.round(((levels[i] ?? 0) / loud) * 100) / 100,
            string: grip.places[i]?.string ?? 1,
            fret: grip.places[i]?.fret ?? 0,
          })),
          explains: Math.max(0, Math.round(explained * 1000) / 1000),
        },
      ];
    });
  }

  /** Beginnings looked through once more, by how strings plucked in one manner sound: the best first. */
  private secondLook(
    starts: readonly (readonly number[])[],
    plucked: Plucked,
    manner: PluckStyle,
    gram: Gram,
    visible: readonly boolean[],
    reachable: Reachable,
  ): Found[] {
    const known = new Map<string, ReturnType<Look>>();
    const look: Look = (set) => {
      const key = set.join();
      const fit = known.get(key) ?? plucked.fit(set, manner);
      known.set(key, fit);
      return fit;
    };
    return starts
      .map((start) => {
        const set = this.grown(start, look, SECOND, gram, visible, reachable);
        return { set, ...look(set), worth: this.worth(set, look, SECOND, reachable) };
      })
      .sort(byWorth);
  }

  /** Whether the lowest partial of a pitch stands out of what is around it. */
  private visible(magnitudes: Float64Array, pitch: Midi, top: number): boolean {
    const center = (440 * 2 ** ((pitch - 69 + this.reference / 100) / 12) * SIZE) / this.rate;
    let peak = 0;
    const reach = Math.max(1.2, center * 0.018);
    for (let k = Math.floor(center - reach); k <= Math.ceil(center + reach); k++)
      peak = Math.max(peak, magnitudes[k] ?? 0);
    return peak > VISIBLE * top;
  }

  /**
   * The best grip around a beginning, as pitches in order: notes are added, taken away or moved by an
   * octave as long as that explains more of the sound than it costs to believe.
   */
  private grown(
    start: readonly number[],
    look: Look,
    costs: Costs,
    gram: Gram,
    visible: readonly boolean[],
    reachable: Reachable,
  ): readonly number[] {
    let chosen = start;
    let worth = this.worth(chosen, look, costs, reachable);
    for (let round = 0; round < 24; round++) {
      let best: readonly number[] | null = null;
      for (const next of this.neighbours(chosen, gram, visible, reachable)) {
        const w = this.worth(next, look, costs, reachable);
        if (w > worth + 1e-6) [best, worth] = [next, w];
      }
      if (!best) break;
      chosen = best;
    }
    return chosen;
  }

  private *neighbours(
    chosen: readonly number[],
    gram: Gram,
    visible: readonly boolean[],
    reachable: Reachable,
  ): Generator<readonly number[]> {
    const free = (p: number): boolean => (visible[p] ?? false) && !chosen.includes(p);
    if (chosen.length < Math.min(MOST, reachable.open.length)) {
      // Those that answer most to what is left first; the rest can't be worth it.
      const left = Array.from({ length: visible.length }, (_, p) => p)
        .filter(free)
        .map((p) => ({ p, gain: gram.left(chosen, p) }))
        .sort((a, b) => b.gain - a.gain)
        .slice(0, TRIED);
      for (const { p } of left) yield inOrder([...chosen, p]);
    }
    for (const p of chosen) {
      const others = chosen.filter((q) => q !== p);
      if (others.length > 0) yield others;
      for (const by of [12, -12]) if (free(p + by)) yield inOrder([...others, p + by]);
    }
  }

  /** What a set is worth: the share of the sound it explains, less what it costs to believe. */
  private worth(chosen: readonly number[], look: Look, costs: Costs, reachable: Reachable): number {
    const grip = this.grip(chosen, reachable);
    if (!grip) return -Infinity;
    const { explained, levels } = look(chosen);
    const strange = strangeness(chosen.map((p) => this.pitches[p] ?? 0));
    const loud = Math.max(...levels, 1e-9);
    const weak = levels.reduce((sum, level) => sum + Math.max(0, 1 - level / (WEAK * loud)), 0);
    return (
      -Math.log(costs.never + Math.max(0, 1 - explained)) -
      costs.note * chosen.length -
      costs.gap * grip.gaps -
      costs.weak * weak -
      (strange === 0 ? 0 : strange === 1 ? costs.odd : costs.strange)
    );
  }

  private grip(chosen: readonly number[], reachable: Reachable): Grip | null {
    const key = chosen.join();
    const known = this.grips.get(key);
    const grip =
      known === undefined
        ? gripOf(
            chosen.map((p) => this.pitches[p] ?? 0),
            reachable,
          )
        : known;
    if (known === undefined) this.grips.set(key, grip);
    return grip;
  }
}

/** The level that most of the spectrum lies under: noise and hum. */
function floorOf(magnitudes: Float64Array, top: number): number {
  const some: number[] = [];
  for (let k = 20; k < END; k += 5) some.push(magnitudes[k] as number);
  some.sort((a, b) => a - b);
  return Math.min(0.1 * top, 1.5 * (some[some.length >> 1] ?? 0));
}
