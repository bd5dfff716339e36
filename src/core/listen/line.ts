import type { Cents, Midi, Seconds } from '../base';
import { hammered } from './attack';
import { Fft } from './fft';
import { onsetsIn } from './onsets';
import { decimated, type Sound } from './resample';
import { hann, windowed } from './spectrum';
import { TRACK_HOP, trackLine, type PitchFrame } from './track';

/** A note as it was heard: nobody has decided yet what it is. */
export interface HeardNote {
  readonly at: Seconds;
  readonly until: Seconds;
  /** Nearest pitch by the reference, and how far from it the steady part lies. */
  readonly midi: Midi;
  readonly cents: Cents;
  /** 0 to 1. */
  readonly certainty: number;
  /** Loudness against the loudest note, 0 to 1. */
  readonly strength: number;
  /** How it begins: struck, or with the string sounding on. */
  readonly begins: 'struck' | 'joined';
  /** What the pitch does while it sounds, where it does anything. */
  readonly manner: PlayedHow | null;
  /** Cents from `midi` every 10 ms, from `at`. */
  readonly curve: readonly number[];
}

export type PlayedHow =
  | { readonly kind: 'bend'; readonly cents: Cents; readonly released: boolean }
  | { readonly kind: 'slide'; readonly from: Midi }
  | { readonly kind: 'vibrato'; readonly width: Cents; readonly hz: number };

/** The shortest note believed. */
const SHORTEST: Seconds = 0.045;
/** A string that rings on only falls; struck again, its partials stand no lower than before. */
const AGAIN = 1;
/** Notes kept where drums sound: as strong against the strongest, and as long. */
const UNDER_DRUMS_KEPT = { strength: 0.2, seconds: 0.08 } as const;
/** With drums the beating of partials is read with more care. */
const UNDER_DRUMS = 1.04;

export interface LineOptions {
  /** Pitches the instrument has. */
  readonly low: Midi;
  readonly high: Midi;
  /** How far the recording is tuned from A 440. */
  readonly reference: Cents;
  /** When something is struck, where that is known already. */
  readonly strikes?: readonly Seconds[];
  readonly progress?: (share: number) => void;
}

/** The notes of a single line. A sound without notes gives none. */
export function heardLine(
  samples: Float32Array,
  rate: number,
  options: LineOptions,
): { readonly notes: HeardNote[]; readonly frames: PitchFrame[] } {
  const shift = options.reference / 100;
  const slow = decimated(samples, rate, 11_000);
  const frames = trackLine(slow.x, slow.rate, { low: options.low + shift, high: options.high + shift }, (s) =>
    options.progress?.(0.8 * s),
  ).map((one) => ({ ...one, midi: one.midi === null ? null : one.midi - shift }));
  const strikes = options.strikes ?? onsetsIn(samples, rate);
  const combs = new Combs(slow, shift);
  const runs = runsOf(frames);
  const first = runs.flatMap((run) => cutRun(run, frames, strikes, combs, AGAIN));
  // Strokes that no string answers to are drums.
  const answered = strikes.filter((one) => first.some((cut) => Math.abs(cut.at - one) < 0.001)).length;
  const drums = strikes.length - answered > 0.2 * strikes.length;
  const cuts = drums
    ? unmasked(
        runs.flatMap((run) => cutRun(run, frames, strikes, combs, UNDER_DRUMS)),
        frames,
      ).filter((cut) => !isDrum(cut, frames, combs))
    : first;
  const notes = cuts
    .filter((cut) => !isHum(cut, frames, combs, shift))
    .map((cut) => noteOf(cut, frames, combs))
    .filter((one): one is HeardNote & { energy: number } => one !== null);
  const top = Math.max(1e-12, ...notes.map((one) => one.energy));
  options.progress?.(1);
  // What lies 45 dB under the loudest note is not the part.
  // Among drums what is soft or short is more often theirs than a string's.
  const softest = drums ? UNDER_DRUMS_KEPT.strength ** 2 : 0.006;
  const shortest = drums ? UNDER_DRUMS_KEPT.seconds : 0;
  const kept = notes
    .filter((one) => one.energy > top * softest && one.until - one.at > shortest)
    .map(({ energy, ...n }) => ({ ...n, strength: Math.min(1, Math.sqrt(energy / top)) }));
  // Where nothing was struck that one could hear, a note is joined only if there is one to be joined to; a drum
  // between two hides the pick of the second.
  const joined = (note: HeardNote, before: HeardNote | undefined): boolean =>
    follows(before, note) && (note.begins === 'joined' || (!drums && hammered(samples, rate, note.at)));
  return { notes: kept.map((one, i) => ({ ...one, begins: joined(one, kept[i - 1]) ? 'joined' : 'struck' })), frames };
}

/** Frets a finger reaches on the string that sounds. */
const REACH = 5;
/** Whether a note may have been hammered on or pulled off: another of the same string sounded until then. */
const follows = (before: HeardNote | undefined, note: HeardNote): boolean =>
  before !== undefined &&
  note.at - before.until < 0.05 &&
  note.midi !== before.midi &&
  (note.manner?.kind === 'slide' || Math.abs(note.midi - before.midi) <= REACH);

interface Run {
  readonly from: number;
  readonly to: number;
}

/**
 * Stretches of frames that sound, one pitch or moving evenly; a leap of most of a semitone within two frames parts
 * them.
 */
function runsOf(frames: readonly PitchFrame[]): Run[] {
  const runs: Run[] = [];
  let from = -1;
  for (let f = 0; f <= frames.length; f++) {
    const here = frames[f]?.midi ?? null;
    const before = f > 0 ? (frames[f - 1]?.midi ?? null) : null;
    const leap = here !== null && before !== null && Math.abs(here - before) > 0.7;
    if (from >= 0 && (here === null || leap)) {
      runs.push({ from, to: f });
      from = -1;
    }
    if (here !== null && from < 0) from = f;
  }
  return runs.filter((one) => (one.to - one.from) * TRACK_HOP >= SHORTEST);
}

interface Cut extends Run {
  readonly at: Seconds;
  readonly struck: boolean;
}

/** Parts a run where the string is struck again or the pitch settles elsewhere. */
function cutRun(
  run: Run,
  frames: readonly PitchFrame[],
  strikes: readonly Seconds[],
  combs: Combs,
  again: number,
): Cut[] {
  const begin = run.from * TRACK_HOP;
  const near = nearest(strikes, begin, 0.11, 0.05);
  const out: Cut[] = [];
  let from = run.from;
  let at = near ?? begin;
  let struck = near !== null;
  const push = (to: number): void => {
    if ((to - from) * TRACK_HOP >= SHORTEST) out.push({ from, to, at, struck });
  };
  for (const strike of strikes) {
    const f = Math.round(strike / TRACK_HOP);
    if (f <= from + 4 || f >= run.to - 3) continue;
    const midi = median(frames.slice(f, f + 8).flatMap((one) => (one.midi === null ? [] : [one.midi])));
    // A drum grows everywhere; a string struck anew grows on its own partials.
    if (combs.rise(strike, midi) < again) continue;
    push(f);
    from = f;
    at = strike;
    struck = true;
  }
  push(run.to);
  return out.flatMap((cut) => settled(cut, frames));
}

/** Parts a cut where its pitch steps to another and stays: a hammer-on or pull-off within a run. */
function settled(cut: Cut, frames: readonly PitchFrame[]): Cut[] {
  const pitch = (f: number): number => frames[f]?.midi ?? 0;
  for (let f = cut.from + 5; f < cut.to - 5; f++) {
    const before = median([5, 4, 3, 2].map((k) => pitch(f - k)));
    const after = median([2, 3, 4, 5].map((k) => pitch(f + k)));
    const quick = Math.abs(pitch(f + 1) - pitch(f - 1)) > 0.55 * Math.abs(after - before);
    if (Math.abs(after - before) > 0.75 && quick)
      return [{ ...cut, to: f }, ...settled({ ...cut, from: f, at: f * TRACK_HOP, struck: false }, frames)];
  }
  return [cut];
}

/** No string stands so long without falling. */
const STANDS: Seconds = 3;
const MAINS = [50, 60];
/** For so long a drum may hide the pitch of a string struck with it. */
const MASKED: Seconds = 0.17;

/** Under a drum a stroke's pitch shows late, and a wrong one first: the stroke is the later pitch's. */
function unmasked(cuts: readonly Cut[], frames: readonly PitchFrame[]): Cut[] {
  const out: Cut[] = [];
  for (const cut of cuts) {
    const last = out.at(-1);
    const gap = last ? cut.at - last.at : Infinity;
    const leap = last ? Math.abs(pitchOf(last, frames) - pitchOf(cut, frames)) : 0;
    if (last && last.struck && !cut.struck && gap < MASKED && leap > 4.5)
      out[out.length - 1] = { ...cut, at: last.at, struck: true };
    else out.push(cut);
  }
  return out;
}

const pitchOf = (cut: Run, frames: readonly PitchFrame[]): number =>
  median(frames.slice(cut.from, cut.to).map((one) => one.midi ?? 0));

/** A drum's tone is nearly pure, and falls. */
function isDrum(cut: Cut, frames: readonly PitchFrame[], combs: Combs): boolean {
  const midi = pitchOf(cut, frames);
  return midi < 50 && combs.purity(cut.at + 0.03, midi) > 40;
}

/** What stands as loud for seconds at a multiple of the mains' frequency is the mains. */
function isHum(cut: Cut, frames: readonly PitchFrame[], combs: Combs, shift: number): boolean {
  const until = cut.to * TRACK_HOP;
  if (until - cut.at < STANDS) return false;
  const midi = pitchOf(cut, frames);
  const hertz = 440 * 2 ** ((midi + shift - 69) / 12);
  if (!MAINS.some((m) => [1, 2, 3].some((k) => Math.abs(1200 * Math.log2(hertz / (k * m))) < 12))) return false;
  const levels = [0.15, 0.5, 0.85].map((share) => combs.energy(cut.at + share * (until - cut.at), midi));
  return Math.min(...levels) > 0.7 * Math.max(...levels);
}

function nearest(list: readonly Seconds[], at: Seconds, before: Seconds, after: Seconds): Seconds | null {
  let best: Seconds | null = null;
  for (const one of list)
    if (one >= at - before && one <= at + after && (best === null || Math.abs(one - at) < Math.abs(best - at)))
      best = one;
  return best;
}

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;

function noteOf(
  cut: Cut,
  frames: readonly PitchFrame[],
  combs: Combs,
): (Omit<HeardNote, 'strength'> & { energy: number; strength: number }) | null {
  const inside = frames.slice(cut.from, cut.to);
  const pitches = inside.map((one) => one.midi ?? 0);
  // The first frames of a stroke are not its pitch yet.
  const steady = pitches.slice(Math.min(3, pitches.length >> 1));
  const start = median(steady.slice(0, Math.max(3, Math.min(8, steady.length))));
  const middle = median(steady);
  const manner = mannerOf(pitches, start);
  const rests =
    manner?.kind === 'bend'
      ? start
      : manner?.kind === 'slide'
        ? median(steady.slice(-Math.max(3, steady.length >> 2)))
        : middle;
  const midi = Math.round(rests);
  const clarity = inside.reduce((s, one) => s + one.clarity, 0) / inside.length;
  const energy = combs.energy(cut.at + 0.02, midi + (rests - midi));
  return {
    at: cut.at,
    until: cut.to * TRACK_HOP,
    midi,
    cents: Math.round((rests - midi) * 1000) / 10,
    certainty: Math.max(0.05, Math.min(0.99, clarity * (1 - Math.abs(rests - midi)))),
    begins: cut.struck ? 'struck' : 'joined',
    manner,
    curve: pitches.map((one) => Math.round((one - midi) * 100)),
    energy,
    strength: 0,
  };
}

/** What a pitch does: shakes, is bent, or comes from elsewhere. */
function mannerOf(pitches: readonly number[], start: number): PlayedHow | null {
  const steady = pitches.slice(3);
  if (steady.length < 8) return null;
  const first = pitches[2] ?? start;
  const end = median(steady.slice(-Math.max(3, steady.length >> 2)));
  const top = Math.max(...steady.map((_, i) => median(steady.slice(Math.max(0, i - 2), i + 3))));
  const rise = top - start;
  // A bend leaves a pitch that stood and takes its time; a slide comes in from elsewhere, or goes further than a
  // string is bent.
  const stood = Math.abs(first - start) < 0.35 && Math.abs((steady[4] ?? start) - start) < 0.35;
  if (Math.abs(first - end) > 1.6 && Math.abs(start - end) > 0.8 && !(stood && rise > 0 && rise < 3.4))
    return { kind: 'slide', from: Math.round(first) };
  if (Math.abs(first - end) > 1.6 && !stood) return { kind: 'slide', from: Math.round(first) };
  const shake = vibratoIn(steady);
  if (shake && rise < 0.9) return shake;
  if (rise > 0.32 && rise < 4.3) return { kind: 'bend', cents: Math.round(rise * 4) * 25, released: top - end > 0.3 };
  return null;
}

/** Turns of the pitch around its own slow course, four a second or more. */
function vibratoIn(pitches: readonly number[]): PlayedHow | null {
  const slow = pitches.map(
    (_, i) =>
      pitches.slice(Math.max(0, i - 9), i + 10).reduce((a, b) => a + b, 0) /
      (Math.min(pitches.length, i + 10) - Math.max(0, i - 9)),
  );
  const swing = pitches.map((p, i) => p - (slow[i] ?? p));
  let turns = 0;
  for (let i = 1; i < swing.length; i++) if ((swing[i] ?? 0) * (swing[i - 1] ?? 0) < 0) turns++;
  const hz = turns / 2 / (pitches.length * TRACK_HOP);
  const sorted = swing.map(Math.abs).sort((a, b) => a - b);
  const width = 2 * (sorted[Math.floor(sorted.length * 0.8)] ?? 0);
  return turns >= 4 && hz > 3 && hz < 9 && width > 0.14
    ? { kind: 'vibrato', width: Math.round(width * 20) * 5, hz: Math.round(hz * 10) / 10 }
    : null;
}

/** Energy on the partials of a pitch, against what lies between them: blind to drums. */
class Combs {
  private readonly x: Float32Array;
  private readonly rate: number;
  private readonly fft: Fft;
  private readonly window: Float64Array;

  constructor(
    sound: Sound,
    private readonly shift: number,
  ) {
    this.x = sound.x;
    this.rate = sound.rate;
    const size = 2 ** Math.round(Math.log2(0.09 * sound.rate));
    this.fft = new Fft(size);
    this.window = hann(size);
  }

  /** Power on partials `first` to `last` of a pitch over 90 ms from `at`, less what lies between them. */
  private look(at: Seconds, midi: Midi, first: number, last: number): number {
    const { size } = this.fft;
    const re = new Float64Array(size);
    const im = new Float64Array(size);
    windowed(this.x, Math.round(at * this.rate), this.window, re);
    this.fft.transform(re, im);
    const power = (bin: number): number => (re[bin] ?? 0) ** 2 + (im[bin] ?? 0) ** 2;
    const base = (440 * 2 ** ((midi + this.shift - 69) / 12) * size) / this.rate;
    let on = 0;
    for (let n = first; n <= last && n * base < size * 0.42; n++) {
      const b = Math.round(n * base);
      const peak = Math.max(power(b - 1), power(b), power(b + 1));
      const between = Math.min(power(Math.round((n - 0.5) * base)), power(Math.round((n + 0.5) * base)));
      on += Math.max(0, peak - 2 * between);
    }
    return on;
  }

  /** Power on the first ten partials. */
  energy(at: Seconds, midi: Midi): number {
    return this.look(at, midi, 1, 10);
  }

  /** Power on the lowest partial against those above it. */
  purity(at: Seconds, midi: Midi): number {
    return this.look(at, midi, 1, 1) / Math.max(1e-12, this.look(at, midi, 2, 12));
  }

  /**
   * How much the low or the high partials grow from just before a moment to just after: the high ones die sooner and
   * show a new stroke better.
   */
  rise(at: Seconds, midi: Midi): number {
    const grow = (first: number, last: number): number =>
      Math.sqrt(this.look(at + 0.008, midi, first, last) / Math.max(1e-12, this.look(at - 0.1, midi, first, last)));
    return Math.max(grow(1, 4), grow(5, 14));
  }
}
