import type { Cents, Midi, Seconds } from '../base';
import { gripOf, strangeness, type Grip, type Reachable } from './reach';
import { decimated } from './resample';
import { Spectra } from './spectrum';

export type { Reachable } from './reach';

/** Notes that may have sounded together, lowest first. */
export interface NoteSet {
  readonly notes: readonly { readonly midi: Midi; readonly strength: number; readonly string: number; readonly fret: number }[];
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
/** Partials of a template, and how much strings of several stiffness stretch them: B in f_n = n f sqrt(1 + B n²). */
const PARTIALS = 14;
const STRETCHES = [0, 0.00012, 0.0003, 0.0006];
/** Magnitudes are pressed together, or the loudest partial would decide alone. */
const PRESS = 0.55;
/** What is believed of a set: what the sound left unexplained says, against each further note, each string jumped over, and notes that are no plain chord. */
const COSTS = { never: 0.03, note: 0.049, gap: 0.07, odd: 0.07, strange: 0.15 } as const;
/** Further notes tried at once, by how much of what is left answers to them. */
const TRIED = 14;
/** The lowest partial of a note that sounds stands within so much of the loudest one. */
const VISIBLE = 0.012;
const MOST = 6;

/**
 * What notes may have sounded from each stroke on: templates of partials for every pitch the
 * set-up has, fitted to the spectrum by non-negative least squares and added one by one while each
 * explains enough, one note a string and within the hand. Several readings, the likeliest first.
 */
export function heardSets(samples: Float32Array, rate: number, strokes: readonly Seconds[], reachable: Reachable, reference: Cents): HeardSet[] {
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
  for (const s of strokes) if (out.length === 0 || s - (out.at(-1) ?? 0) > 0.085) out.push(s);
  return out;
}

interface Column {
  readonly pitch: number;
  readonly bins: readonly number[];
  readonly values: readonly number[];
}

/** Templates of all pitches for one length of look. */
class Bank {
  private readonly made = new Map<number, Column[][][]>();
  private readonly grips = new Map<string, Grip | null>();

  constructor(private readonly pitches: readonly Midi[], private readonly rate: number, private readonly reference: Cents) {}

  /** Two templates a pitch, dull and bright: strings differ in which partials they favour. */
  private columns(seconds: number): Column[][][] {
    const key = Math.max(1, Math.round(seconds * 12));
    const known = this.made.get(key);
    if (known) return known;
    // Half the main lobe of a Hann window of this length, in bins of the padded transform.
    const lobe = (2 * SIZE) / ((key / 12) * this.rate);
    const list = this.pitches.map((pitch) => STRETCHES.map((b) => [1.5, 0.35].map((fall): Column => {
      const f0 = 440 * 2 ** ((pitch - 69 + this.reference / 100) / 12);
      const at = new Map<number, number>();
      for (let n = 1; n <= PARTIALS; n++) {
        const center = (n * f0 * Math.sqrt((1 + b * n * n) / (1 + b)) * SIZE) / this.rate;
        if (center > SIZE * 0.4) break;
        const wide = lobe * (1 + 0.04 * n);
        for (let k = Math.ceil(center - wide); k <= center + wide; k++) {
          if (k < 1) continue;
          const x = (k - center) / wide;
          at.set(k, (at.get(k) ?? 0) + (n ** -fall * Math.cos((Math.PI / 2) * x) ** 2) ** PRESS);
        }
      }
      const bins = [...at.keys()];
      const norm = Math.sqrt([...at.values()].reduce((s, v) => s + v * v, 0)) || 1;
      return { pitch, bins, values: bins.map((k) => (at.get(k) ?? 0) / norm) };
    })));
    this.made.set(key, list);
    return list;
  }

  readings(magnitudes: Float64Array, seconds: number, reachable: Reachable): NoteSet[] {
    let top = 0;
    const from = Math.floor((60 * SIZE) / this.rate / 2);
    for (let k = from; k < SIZE * 0.4; k++) top = Math.max(top, magnitudes[k] as number);
    if (top < 0.05) return [];
    const v = new Float64Array(SIZE / 2);
    const floor = floorOf(magnitudes, top);
    let all = 0;
    for (let k = from; k < SIZE * 0.4; k++) {
      v[k] = Math.max(0, (magnitudes[k] as number) - floor) ** PRESS;
      all += (v[k] as number) ** 2;
    }
    if (all <= 0) return [];
    // Each pitch by the stiffness that fits it best.
    const columns = this.columns(seconds).map((stretches) => stretches.reduce((best, one) => (fits(one, v) > fits(best, v) ? one : best)));
    const visible = columns.map((_, p) => this.visible(magnitudes, this.pitches[p] ?? 0, top));
    // Each beginning gives a reading: the best first note, and its nearest rivals.
    const gram = new Gram(columns, v);
    const firsts = columns.map((_, p) => ({ p, gain: visible[p] ? gram.explained([p]) : 0 })).sort((a, b) => b.gain - a.gain).slice(0, 3).filter((f) => f.gain > 0);
    const sets = firsts.map((f) => this.grown([f.p], gram, all, visible, reachable)).filter((s): s is NoteSet => s !== null);
    const seen = new Set<string>();
    const worthOf = new Map(sets.map((set) => [set, this.worth(set.notes.map((n) => n.midi - (this.pitches[0] ?? 0)), gram, all, reachable)]));
    return sets.sort((a, b) => (worthOf.get(b) ?? 0) - (worthOf.get(a) ?? 0)).filter((s) => {
      const key = s.notes.map((n) => n.midi).join();
      if (seen.has(key)) return false;
      seen.add(key);
      return true;
    });
  }

  /** Whether the lowest partial of a pitch stands out of what is around it. */
  private visible(magnitudes: Float64Array, pitch: Midi, top: number): boolean {
    const center = (440 * 2 ** ((pitch - 69 + this.reference / 100) / 12) * SIZE) / this.rate;
    let peak = 0;
    const reach = Math.max(1.2, center * 0.018);
    for (let k = Math.floor(center - reach); k <= Math.ceil(center + reach); k++) peak = Math.max(peak, magnitudes[k] ?? 0);
    return peak > VISIBLE * top;
  }

  /**
   * The best grip around a beginning: notes are added, taken away or moved by an octave as long as
   * that explains more of the sound than it costs in strangeness to a hand.
   */
  private grown(start: readonly number[], gram: Gram, all: number, visible: readonly boolean[], reachable: Reachable): NoteSet | null {
    let chosen: readonly number[] = start;
    let worth = this.worth(chosen, gram, all, reachable);
    for (let round = 0; round < 24; round++) {
      let best: readonly number[] | null = null;
      for (const next of this.neighbours(chosen, gram, visible, reachable)) {
        const w = this.worth(next, gram, all, reachable);
        if (w > worth + 1e-6) [best, worth] = [next, w];
      }
      if (!best) break;
      chosen = best;
    }
    const sorted = [...chosen].sort((a, b) => a - b);
    const grip = this.grip(sorted, reachable);
    if (!grip) return null;
    const strengths = gram.strengths(sorted);
    const loud = Math.max(...strengths, 1e-9);
    return {
      notes: sorted.map((p, i) => ({ midi: this.pitches[p] ?? 0, strength: Math.round(((strengths[i] ?? 0) / loud) * 100) / 100, string: grip.places[i]?.string ?? 1, fret: grip.places[i]?.fret ?? 0 })),
      explains: Math.round((gram.explained(sorted) / all) * 1000) / 1000,
    };
  }

  private *neighbours(chosen: readonly number[], gram: Gram, visible: readonly boolean[], reachable: Reachable): Generator<readonly number[]> {
    const free = (p: number): boolean => (visible[p] ?? false) && !chosen.includes(p);
    if (chosen.length < Math.min(MOST, reachable.open.length)) {
      // Those that answer most to what is left first; the rest can't be worth it.
      const left = Array.from({ length: visible.length }, (_, p) => p).filter(free).map((p) => ({ p, gain: gram.left(chosen, p) })).sort((a, b) => b.gain - a.gain).slice(0, TRIED);
      for (const { p } of left) yield [...chosen, p];
    }
    for (const p of chosen) {
      const others = chosen.filter((q) => q !== p);
      if (others.length > 0) yield others;
      for (const by of [12, -12]) if (free(p + by)) yield [...others, p + by];
    }
  }

  /** What a set is worth: the share of the sound it explains, less what it costs to believe. */
  private worth(chosen: readonly number[], gram: Gram, all: number, reachable: Reachable): number {
    const grip = this.grip(chosen, reachable);
    if (!grip) return -Infinity;
    const pitches = chosen.map((p) => this.pitches[p] ?? 0);
    const strange = strangeness(pitches);
    return -Math.log(COSTS.never + Math.max(0, 1 - gram.explained(chosen) / all)) - COSTS.note * chosen.length - COSTS.gap * grip.gaps - (strange === 0 ? 0 : strange === 1 ? COSTS.odd : COSTS.strange);
  }

  private grip(chosen: readonly number[], reachable: Reachable): Grip | null {
    const key = [...chosen].sort((a, b) => a - b).join();
    const known = this.grips.get(key);
    const grip = known === undefined ? gripOf([...chosen].sort((a, b) => a - b).map((p) => this.pitches[p] ?? 0), reachable) : known;
    if (known === undefined) this.grips.set(key, grip);
    return grip;
  }
}

const fits = (columns: readonly Column[], v: Float64Array): number => Math.max(...columns.map((c) => c.bins.reduce((s, b, i) => s + (v[b] ?? 0) * (c.values[i] ?? 0), 0)));

/** The level that most of the spectrum lies under: noise and hum. */
function floorOf(magnitudes: Float64Array, top: number): number {
  const some: number[] = [];
  for (let k = 20; k < SIZE * 0.4; k += 5) some.push(magnitudes[k] as number);
  some.sort((a, b) => a - b);
  return Math.min(0.1 * top, 1.5 * (some[some.length >> 1] ?? 0));
}

/** Products of templates with each other and with the sound, made when asked for. */
class Gram {
  private readonly products = new Map<number, number>();
  private readonly withSound: number[];

  constructor(private readonly columns: readonly (readonly Column[])[], v: Float64Array) {
    this.withSound = columns.flat().map((c) => c.bins.reduce((s, b, i) => s + (v[b] ?? 0) * (c.values[i] ?? 0), 0));
  }

  private product(a: number, b: number): number {
    if (a === b) return 1;
    const key = Math.min(a, b) * 4096 + Math.max(a, b);
    const known = this.products.get(key);
    if (known !== undefined) return known;
    const one = this.columns[a >> 1]?.[a & 1] as Column;
    const two = this.columns[b >> 1]?.[b & 1] as Column;
    const map = new Map(two.bins.map((bin, i) => [bin, two.values[i] ?? 0]));
    const sum = one.bins.reduce((s, bin, i) => s + (one.values[i] ?? 0) * (map.get(bin) ?? 0), 0);
    this.products.set(key, sum);
    return sum;
  }

  /** Non-negative least squares by turns over single weights. */
  private weights(pitches: readonly number[]): { cols: number[]; w: number[] } {
    const cols = pitches.flatMap((p) => [2 * p, 2 * p + 1]);
    const w = cols.map(() => 0);
    for (let round = 0; round < 40; round++) {
      let moved = 0;
      cols.forEach((c, i) => {
        let rest = this.withSound[c] ?? 0;
        cols.forEach((d, j) => { if (j !== i && w[j]) rest -= (w[j] ?? 0) * this.product(c, d); });
        const now = Math.max(0, rest);
        moved = Math.max(moved, Math.abs(now - (w[i] ?? 0)));
        w[i] = now;
      });
      if (moved < 1e-4 * Math.max(...w, 1e-9)) break;
    }
    return { cols, w };
  }

  /** How much of the sound's energy the templates of some pitches explain. */
  explained(pitches: readonly number[]): number {
    const { cols, w } = this.known([...pitches].sort((a, b) => a - b));
    let sum = 0;
    cols.forEach((c, i) => {
      sum += 2 * (w[i] ?? 0) * (this.withSound[c] ?? 0);
      cols.forEach((d, j) => { if (w[i] && w[j]) sum -= (w[i] ?? 0) * (w[j] ?? 0) * this.product(c, d); });
    });
    return sum;
  }

  /** How much of what some pitches leave unexplained answers to one more. */
  left(pitches: readonly number[], more: number): number {
    const { cols, w } = this.known(pitches);
    return Math.max(...[2 * more, 2 * more + 1].map((c) => (this.withSound[c] ?? 0) - cols.reduce((sum, d, j) => sum + (w[j] ?? 0) * (w[j] ? this.product(c, d) : 0), 0)));
  }

  private readonly solved = new Map<string, { cols: number[]; w: number[] }>();
  private known(pitches: readonly number[]): { cols: number[]; w: number[] } {
    const key = pitches.join();
    const there = this.solved.get(key);
    if (there) return there;
    const made = this.weights(pitches);
    this.solved.set(key, made);
    return made;
  }

  strengths(pitches: readonly number[]): number[] {
    const { w } = this.known(pitches);
    return pitches.map((_, i) => Math.hypot(w[2 * i] ?? 0, w[2 * i + 1] ?? 0));
  }
}

