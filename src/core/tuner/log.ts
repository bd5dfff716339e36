import type { Cents, NutFret, Seconds, StringNumber } from '../base';
import type { ReadingKind, TunerReading } from './types';

/** How a capo presses one string sharp at one fret, as read. */
export interface Sharpening {
  readonly string: StringNumber;
  readonly capo: NutFret;
  readonly cents: Cents;
  readonly pairs: number;
}

export interface Drift {
  readonly string: StringNumber;
  /** Mean change from one open reading to the next. */
  readonly each: Cents;
  readonly readings: number;
}

/** Two readings that can't both be true. */
export interface Contradiction {
  readonly readings: readonly [string, string];
  readonly why: string;
}

/** The 12th-fret check of one string: stopped against its harmonic. */
export interface Octave {
  readonly string: StringNumber;
  readonly cents: Cents;
  readonly verdict: 'true' | 'short' | 'long';
}

export interface LogReport {
  readonly sharpening: readonly Sharpening[];
  /** Mean over all strings, by fret. */
  readonly mean: readonly { readonly capo: NutFret; readonly cents: Cents; readonly strings: number }[];
  readonly drifting: readonly Drift[];
  readonly contradictions: readonly Contradiction[];
  readonly octaves: readonly Octave[];
  /** What it means, in sentences. */
  readonly words: readonly string[];
}

/** Readings belong together within this time; those taken sooner than this after each other should agree. */
const TOGETHER: Seconds = 30 * 60;
const AT_ONCE: Seconds = 120;
const AGREE: Cents = 8;
/** A drift worth a word, and an octave that is off. */
const DRIFTS: Cents = 3;
const OCTAVE_TRUE: Cents = 3;
const OCTAVE_BAD: Cents = 10;

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / Math.max(1, values.length);

/** Judges an instrument's tuner log. Readings in any order; the report does not depend on it. */
export function judgeLog(unsorted: readonly TunerReading[]): LogReport {
  const readings = [...unsorted].sort((a, b) => a.at - b.at || a.id.localeCompare(b.id));
  const sharpening = sharpenings(readings);
  const frets = [...new Set(sharpening.map((one) => one.capo))].sort((a, b) => a - b);
  const means = frets.map((capo) => {
    const own = sharpening.filter((one) => one.capo === capo);
    return { capo, cents: mean(own.map((one) => one.cents)), strings: own.length };
  });
  const drifting = drifts(readings);
  const contradictions = contradicting(readings);
  const octaves = octaveChecks(readings);
  return {
    sharpening,
    mean: means,
    drifting,
    contradictions,
    octaves,
    words: wordsFor(means, sharpening, drifting, contradictions, octaves),
  };
}

/** Pairs every reading with the capo with the nearest open one of its string in time. */
function sharpenings(readings: readonly TunerReading[]): Sharpening[] {
  const found = new Map<string, { string: StringNumber; capo: NutFret; cents: number[] }>();
  for (const on of readings) {
    if (on.kind !== 'capo') continue;
    const open = nearest(readings, on, 'open');
    if (!open) continue;
    const key = `${on.string} ${on.capo}`;
    const entry = found.get(key) ?? { string: on.string, capo: on.capo, cents: [] };
    entry.cents.push(on.cents - open.cents);
    found.set(key, entry);
  }
  return [...found.values()]
    .map((one) => ({ string: one.string, capo: one.capo, cents: mean(one.cents), pairs: one.cents.length }))
    .sort((a, b) => a.capo - b.capo || b.string - a.string);
}

function nearest(readings: readonly TunerReading[], to: TunerReading, kind: ReadingKind): TunerReading | null {
  let best: TunerReading | null = null;
  for (const reading of readings) {
    if (reading.kind !== kind || reading.string !== to.string || Math.abs(reading.at - to.at) > TOGETHER) continue;
    if (best === null || Math.abs(reading.at - to.at) < Math.abs(best.at - to.at)) best = reading;
  }
  return best;
}

function drifts(readings: readonly TunerReading[]): Drift[] {
  const strings = [...new Set(readings.map((reading) => reading.string))].sort((a, b) => b - a);
  return strings.flatMap((string): Drift[] => {
    const open = readings.filter((reading) => reading.kind === 'open' && reading.string === string);
    const steps = open.slice(1).map((reading, i) => reading.cents - (open[i]?.cents ?? 0));
    if (steps.length < 2) return [];
    const each = mean(steps);
    const agreeing = steps.filter((s) => Math.sign(s) === Math.sign(each)).length;
    return Math.abs(each) >= DRIFTS && agreeing >= steps.length * 0.75 ? [{ string, each, readings: open.length }] : [];
  });
}

function contradicting(readings: readonly TunerReading[]): Contradiction[] {
  const out: Contradiction[] = [];
  readings.forEach((a, i) => {
    for (const b of readings.slice(i + 1)) {
      if (b.at - a.at > AT_ONCE) break;
      if (a.string !== b.string) continue;
      const apart = Math.abs(a.cents - b.cents);
      if (a.kind === b.kind && a.capo === b.capo && apart > AGREE) {
        out.push({
          readings: [a.id, b.id],
          why: `String ${a.string} was read twice within ${Math.round(b.at - a.at)} s, ${apart.toFixed(1)} cents apart: a peg was turned between, or one is wrong.`,
        });
      } else if (a.kind !== b.kind && [a.kind, b.kind].every((one) => one === 'open' || one === 'capo')) {
        const capo = a.kind === 'capo' ? a : b;
        const open = a.kind === 'capo' ? b : a;
        if (capo.cents < open.cents - 3)
          out.push({
            readings: [open.id, capo.id],
            why: `String ${a.string} reads ${(open.cents - capo.cents).toFixed(1)} cents flatter with the capo at fret ${capo.capo} than open: a capo can't flatten a string. It slipped, or one reading is of another string.`,
          });
      } else if (
        a.kind !== b.kind &&
        [a.kind, b.kind].every((one) => one === 'open' || one === 'harmonic12') &&
        apart > 5
      ) {
        out.push({
          readings: [a.id, b.id],
          why: `The 12th-fret harmonic of string ${a.string} and its open string differ by ${apart.toFixed(1)} cents: they are the same length of string. A worn string, or a touch beside the node.`,
        });
      }
    }
  });
  return out;
}

function octaveChecks(readings: readonly TunerReading[]): Octave[] {
  const latest = new Map<StringNumber, Octave>();
  for (const stopped of readings) {
    if (stopped.kind !== 'stopped12') continue;
    const harmonic = nearest(readings, stopped, 'harmonic12');
    if (!harmonic) continue;
    const cents = stopped.cents - harmonic.cents;
    latest.set(stopped.string, {
      string: stopped.string,
      cents,
      verdict: Math.abs(cents) <= OCTAVE_TRUE ? 'true' : cents > 0 ? 'short' : 'long',
    });
  }
  return [...latest.values()].sort((a, b) => b.string - a.string);
}

function wordsFor(
  means: LogReport['mean'],
  sharpening: readonly Sharpening[],
  drifting: readonly Drift[],
  contradictions: readonly Contradiction[],
  octaves: readonly Octave[],
): string[] {
  const words: string[] = [];
  for (const one of means) {
    const own = sharpening.filter((other) => other.capo === one.capo);
    const worst = [...own].sort((a, b) => b.cents - a.cents)[0];
    words.push(
      `With the capo at fret ${one.capo} this instrument goes ${one.cents.toFixed(1)} cents sharp on the whole${worst && own.length > 1 ? `, string ${worst.string} most (${worst.cents.toFixed(1)})` : ''}.`,
    );
  }
  for (const one of drifting)
    words.push(
      `String ${one.string} goes ${Math.abs(one.each).toFixed(1)} cents ${one.each < 0 ? 'flat' : 'sharp'} from reading to reading: ${one.each < 0 ? 'a new or worn string, or a peg that slips' : 'it is warming less than the others, or settles after a bend'}.`,
    );
  if (contradictions.length > 0)
    words.push(
      `${contradictions.length} pair${contradictions.length === 1 ? '' : 's'} of readings can’t both be true; take them again before you trust the rest.`,
    );
  const off = octaves.filter((one) => one.verdict !== 'true');
  for (const one of off) {
    words.push(
      `String ${one.string}, stopped at the 12th fret, is ${Math.abs(one.cents).toFixed(1)} cents ${one.cents > 0 ? 'sharp' : 'flat'} of its harmonic: the string is a little too ${one.verdict === 'short' ? 'short; its saddle belongs further back' : 'long; its saddle belongs further forward'}.`,
    );
  }
  if (
    off.some((one) => Math.abs(one.cents) > OCTAVE_BAD) ||
    (off.length >= 3 && new Set(off.map((one) => one.verdict)).size === 1)
  ) {
    words.push(
      'So much, or on so many strings, points to old strings, the neck or the nut: new strings first, then a qualified repairer.',
    );
  } else if (octaves.length > 0 && off.length === 0) {
    words.push('The octaves at the 12th fret are true.');
  }
  return words;
}
