import type { Seconds, Semitones } from '../base';
import { Fft } from './fft';
import { hann } from './spectrum';

export const STRETCH_LIMITS = { slowest: 0.25, fastest: 1.5, semitones: 12 } as const;

/** The window is long, so that the partials of a low string stand apart in it. */
const WINDOW: Seconds = 0.18;
/** Windows overlap so many times. */
const OVERLAP = 4;
/** It is cut so long before a stroke. */
const LEAD: Seconds = 0.002;
/** The sound of a stroke is left as it is for so long. */
const STROKE: Seconds = 0.012;

/**
 * A stretch of sound at another speed, its pitch kept, or moved by `semitones`: a phase vocoder with
 * phases locked to their peaks (Laroche and Dolson 1999). Sound is drawn out between strokes only:
 * each stroke stands whole where its time falls, and what leads up to it never sounds ahead of it.
 * Pitch is moved by stretching and then reading at another rate.
 * @param speed 0.25 to 1.5 @param strokes seconds, ascending, where something is struck
 */
export function stretched(
  samples: Float32Array,
  rate: number,
  speed: number,
  strokes: readonly Seconds[],
  semitones: Semitones = 0,
): Float32Array {
  if (!(speed >= STRETCH_LIMITS.slowest && speed <= STRETCH_LIMITS.fastest))
    throw new RangeError(`speed ${speed} is outside ${STRETCH_LIMITS.slowest} to ${STRETCH_LIMITS.fastest}`);
  if (!(Math.abs(semitones) <= STRETCH_LIMITS.semitones))
    throw new RangeError(`${semitones} semitones are more than ${STRETCH_LIMITS.semitones}`);
  const higher = 2 ** (semitones / 12);
  const length = Math.max(1, Math.round(samples.length / speed));
  if (Math.abs(speed - 1) < 1e-6 && semitones === 0) return samples.slice();
  // Read `higher` times as fast afterwards, it must be drawn out as much longer now.
  const factor = higher / speed;
  const out = new Float32Array(Math.ceil(length * higher) + 4);
  const size = 2 ** Math.round(Math.log2(WINDOW * rate));
  const tools = { fft: new Fft(size), window: hann(size), size };
  const lead = Math.round(LEAD * rate);
  const cuts = [
    0,
    ...strokes
      .map((one) => Math.round(one * rate) - lead)
      .filter((s) => s > 0.03 * rate && s < samples.length - 0.03 * rate),
    samples.length,
  ];
  // It is the stroke that falls where its time does, not the cut a moment before it.
  const places = cuts.map((c, i) =>
    i === 0
      ? 0
      : i + 1 === cuts.length
        ? Math.min(out.length, Math.round(c * factor))
        : Math.round((c + lead) * factor) - lead,
  );
  for (let i = 0; i + 1 < cuts.length; i++) {
    addPart(
      out,
      samples,
      { from: cuts[i] as number, to: cuts[i + 1] as number, begin: places[i] as number, end: places[i + 1] as number },
      Math.round(STROKE * rate),
      tools,
      i + 2 < cuts.length,
    );
  }
  if (semitones === 0) return out.subarray(0, length).slice();
  const read = new Float32Array(length);
  for (let i = 0; i < length; i++) read[i] = sampleAt(out, i * higher);
  return read;
}

/** A sample between samples: a windowed sinc over 16 neighbours. */
function sampleAt(samples: Float32Array, at: number): number {
  const whole = Math.floor(at);
  const part = at - whole;
  if (part < 1e-9) return samples[whole] ?? 0;
  let sum = 0;
  for (let k = -7; k <= 8; k++) {
    const t = k - part;
    const index = whole + k;
    if (index < 0 || index >= samples.length) continue;
    sum +=
      (samples[index] as number) *
      (Math.sin(Math.PI * t) / (Math.PI * t)) *
      (0.5 + 0.5 * Math.cos((Math.PI * t) / 8.5));
  }
  return sum;
}

interface Tools {
  readonly fft: Fft;
  readonly window: Float64Array;
  readonly size: number;
}

/** Samples of the sound, and where they come to stand. */
interface Part {
  readonly from: number;
  readonly to: number;
  readonly begin: number;
  readonly end: number;
}

/** Draws out what lies between two strokes and adds it at its new place. */
function addPart(
  out: Float32Array,
  samples: Float32Array,
  { from, to, begin, end }: Part,
  stroke: number,
  { fft, window, size }: Tools,
  more: boolean,
): void {
  const hop = size / OVERLAP;
  const span = end - begin;
  if (span <= 0) return;
  const half = size / 2;
  const made = new Float64Array(span + 2 * size);
  const weight = new Float64Array(span + 2 * size);
  const re = new Float64Array(size);
  const im = new Float64Array(size);
  const phase = new Float64Array(half + 1);
  const mags = new Float64Array(half + 1);
  const last = new Float64Array(half + 1);
  const at = (i: number): number => (i >= from && i < to ? (samples[i] as number) : 0);
  const other = new Float64Array(size);
  const otherIm = new Float64Array(size);
  // The frame and the one a hop before it, which says how fast each bin turns, go through one transform.
  const load = (middle: number): void => {
    for (let i = 0; i < size; i++) {
      const w = window[i] as number;
      other[i] = at(middle - half + i) * w;
      otherIm[i] = at(middle - half + i - hop) * w;
    }
    fft.transform(other, otherIm);
    for (let k = 0; k <= half; k++) {
      const j = (size - k) % size;
      re[k] = ((other[k] as number) + (other[j] as number)) / 2;
      im[k] = ((otherIm[k] as number) - (otherIm[j] as number)) / 2;
      last[k] = Math.atan2(
        ((other[j] as number) - (other[k] as number)) / 2,
        ((otherIm[k] as number) + (otherIm[j] as number)) / 2,
      );
      mirrored(k);
    }
  };
  const mirrored = (k: number): void => {
    if (k === 0 || k === half) return;
    re[size - k] = re[k] as number;
    im[size - k] = -(im[k] as number);
  };
  // Sound to the stroke's end goes through unchanged; then time runs at its own pace.
  const source = (o: number): number => {
    const keep = Math.min(stroke, to - from);
    const t = o < keep ? o : keep + ((o - keep) * (to - from - keep)) / Math.max(1, span - keep);
    // A window must not look into the next stroke: near the end the last whole look is held.
    return from + Math.min(t, Math.max(0, to - from - Math.min(half * 0.7, (to - from) / 2)));
  };
  let first = true;
  for (let o = 0; o < span + half; o += hop) {
    const middle = Math.round(source(o));
    load(middle);
    if (first) {
      for (let k = 0; k <= half; k++) phase[k] = Math.atan2(im[k] as number, re[k] as number);
    } else {
      for (let k = 0; k <= half; k++) mags[k] = Math.hypot(re[k] as number, im[k] as number);
      turn(phase, mags, last, re, im, hop, size);
      for (let k = 0; k <= half; k++) {
        re[k] = (mags[k] as number) * Math.cos(phase[k] as number);
        im[k] = (mags[k] as number) * Math.sin(phase[k] as number);
        mirrored(k);
      }
    }
    first = false;
    fft.transform(re, im, true);
    const base = o - half + size;
    for (let i = 0; i < size; i++) {
      const w = window[i] as number;
      made[base + i] = (made[base + i] ?? 0) + (re[i] as number) * w;
      weight[base + i] = (weight[base + i] ?? 0) + w * w;
    }
  }
  const fade = Math.min(Math.round(0.004 * 44_100), span >> 2);
  for (let i = 0; i < span; i++) {
    const w = weight[size + i] as number;
    const v = w > 1e-3 ? (made[size + i] as number) / w : 0;
    // The end is let go over a few milliseconds: the next stroke stands there.
    out[begin + i] = more && i >= span - fade ? v * ((span - i) / fade) : v;
  }
}

/** Turns the phases of peaks by how fast they turn in the sound; the bins around a peak keep their place to it. */
function turn(
  phase: Float64Array,
  mags: Float64Array,
  last: Float64Array,
  re: Float64Array,
  im: Float64Array,
  hop: number,
  size: number,
): void {
  const half = size / 2;
  const peaks: number[] = [];
  for (let k = 2; k < half - 2; k++) {
    const m = mags[k] as number;
    if (
      m > (mags[k - 1] as number) &&
      m >= (mags[k + 1] as number) &&
      m > (mags[k - 2] as number) &&
      m >= (mags[k + 2] as number)
    )
      peaks.push(k);
  }
  const now = new Float64Array(half + 1);
  for (let k = 0; k <= half; k++) now[k] = Math.atan2(im[k] as number, re[k] as number);
  const next = new Float64Array(half + 1);
  let from = 0;
  for (let p = 0; p < peaks.length; p++) {
    const k = peaks[p] as number;
    const here = now[k] as number;
    const expected = (2 * Math.PI * k * hop) / size;
    let off = here - (last[k] as number) - expected;
    off -= 2 * Math.PI * Math.round(off / (2 * Math.PI));
    const turned = (phase[k] as number) + expected + off;
    const to = p + 1 < peaks.length ? Math.floor((k + (peaks[p + 1] as number)) / 2) : half;
    for (let j = from; j <= to; j++) next[j] = turned + (now[j] as number) - here;
    from = to + 1;
  }
  if (peaks.length === 0) for (let k = 0; k <= half; k++) next[k] = now[k] as number;
  phase.set(next);
}
