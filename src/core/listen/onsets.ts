import type { Seconds } from '../base';
import { Fft } from './fft';
import { hann, Spectra, windowed } from './spectrum';

export const ONSET_LIMITS = { minRate: 8_000, maxRate: 192_000, seconds: 900 } as const;

/**
 * Frames every 5 ms of about 23 ms: short enough that two sixteenths at 200 beats are apart, long enough for a low
 * string.
 */
const HOP_SECONDS = 0.005;
const FRAME_SECONDS = 0.023;
/** Two onsets are no closer than this: a string takes as long to be struck. */
const APART: Seconds = 0.05;
/** The threshold looks so far to either side, and lies so far over the middle of what it sees. */
const AROUND = 0.15;
const OVER = 1.6;

/**
 * When something is struck in a sound: half-wave rectified spectral flux of log magnitudes with an
 * adaptive median threshold (Dixon, "Onset detection revisited", 2006), then put where the energy
 * begins to rise. Silence gives none. Times are in seconds from the first sample, ascending.
 */
export function onsetsIn(samples: Float32Array, rate: number): Seconds[] {
  if (!(rate >= ONSET_LIMITS.minRate && rate <= ONSET_LIMITS.maxRate))
    throw new RangeError(
      `a rate of ${rate} samples a second is outside ${ONSET_LIMITS.minRate} to ${ONSET_LIMITS.maxRate}`,
    );
  if (samples.length > ONSET_LIMITS.seconds * rate)
    throw new RangeError(`a sound longer than ${ONSET_LIMITS.seconds} s`);
  const size = 2 ** Math.round(Math.log2(FRAME_SECONDS * rate));
  const hop = Math.max(1, Math.round(HOP_SECONDS * rate));
  const flux = fluxOf(samples, size, hop);
  return pickOnsets(samples, rate, flux);
}

/** How much the spectrum grows every `hop` seconds, and where something is struck: what beats are sought in. */
export function onsetStrength(
  samples: Float32Array,
  rate: number,
): { readonly flux: Float64Array; readonly hop: Seconds; readonly onsets: Seconds[] } {
  const hop = Math.max(1, Math.round(HOP_SECONDS * rate));
  const flux = fluxOf(samples, 2 ** Math.round(Math.log2(FRAME_SECONDS * rate)), hop);
  return { flux, hop: hop / rate, onsets: pickOnsets(samples, rate, flux) };
}

function pickOnsets(samples: Float32Array, rate: number, flux: Float64Array): Seconds[] {
  const hop = Math.max(1, Math.round(HOP_SECONDS * rate));
  let peak = 0;
  for (const f of flux) if (f > peak) peak = f;
  if (peak < 1e-6) return [];
  const reach = Math.round(AROUND / HOP_SECONDS);
  const wait = Math.round(APART / HOP_SECONDS);
  const found: number[] = [];
  let last = -wait;
  // A struck string stands out: over its neighbourhood, and over a share of the strongest.
  const stands = (i: number): boolean => {
    const here = flux[i] ?? 0;
    if (here < 0.06 * peak) return false;
    for (let k = Math.max(0, i - 4); k <= Math.min(flux.length - 1, i + 4); k++)
      if ((flux[k] ?? 0) > here) return false;
    return here >= OVER * medianOf(flux, Math.max(0, i - reach), Math.min(flux.length, i + reach + 1)) + 0.03 * peak;
  };
  const long = new Spectra(2 ** Math.ceil(Math.log2(LOOK * rate)));
  const rises = (i: number): number | null => riseAt(samples, rate, (i * hop) / rate);
  for (let i = 0; i < flux.length; i++) {
    if (i - last < wait || !stands(i)) continue;
    // Where a plain stroke follows at once, the tones that begin are its own.
    const follows = (): boolean =>
      Array.from({ length: wait - 3 }, (_, k) => i + 4 + k).some((k) => stands(k) && rises(k) !== null);
    const near = (i * hop) / rate;
    const at = rises(i) ?? (tonesBegin(samples, rate, near, long) && !follows() ? near : null);
    if (at === null) continue;
    found.push(at);
    last = i;
  }
  return found;
}

/** What grew from frame to frame, summed over the spectrum. */
function fluxOf(samples: Float32Array, size: number, hop: number): Float64Array {
  const fft = new Fft(size);
  const window = hann(size);
  const re = new Float64Array(size);
  const im = new Float64Array(size);
  const frames = Math.max(0, Math.ceil(samples.length / hop));
  const flux = new Float64Array(frames);
  let before = new Float64Array(size / 2).fill(1);
  let now = new Float64Array(size / 2);
  const grown = (f: number): void => {
    let sum = 0;
    let ratio = 1;
    for (let k = 1; k < size / 2; k++) {
      const n = now[k] as number;
      const b = before[k] as number;
      if (n <= b) continue;
      // The sum of logarithms is the logarithm of the product, as long as it can be held.
      ratio *= n / b;
      if (ratio < 1e200) continue;
      sum += Math.log(ratio);
      ratio = 1;
    }
    // What sounds from the first sample on did not begin there as far as one can tell.
    flux[f] = f === 0 ? 0 : sum + Math.log(ratio);
    [before, now] = [now, before];
  };
  const loudness = (r: number, i: number): number => 1 + 20 * Math.sqrt(r * r + i * i);
  // Two frames go through one transform, as its real and its imaginary part.
  for (let f = 0; f < frames; f += 2) {
    windowed(samples, f * hop - size / 2, window, re);
    windowed(samples, (f + 1) * hop - size / 2, window, im);
    fft.transform(re, im);
    for (let k = 1; k < size / 2; k++)
      now[k] = loudness((re[k] as number) + (re[size - k] as number), (im[k] as number) - (im[size - k] as number));
    grown(f);
    if (f + 1 >= frames) break;
    for (let k = 1; k < size / 2; k++)
      now[k] = loudness((im[k] as number) + (im[size - k] as number), (re[size - k] as number) - (re[k] as number));
    grown(f + 1);
  }
  return flux;
}

function medianOf(values: Float64Array, from: number, to: number): number {
  const part = values.slice(from, to).sort();
  return part[part.length >> 1] ?? 0;
}

/** Energy of the sharp edges of a stretch: first differences leave out the slow swing of a low string. */
function edge(samples: Float32Array, from: number, to: number): number {
  let sum = 0;
  for (let i = Math.max(1, from); i < Math.min(samples.length, to); i++)
    sum += ((samples[i] ?? 0) - (samples[i - 1] ?? 0)) ** 2;
  return sum;
}

/** Strokes are sought so far around the frame where the spectrum grew most. */
const BEFORE: Seconds = 0.018;
const AFTER: Seconds = 0.012;

/**
 * The flux is highest near the stroke: the onset lies where the edges after are strongest against those before. Null
 * where the sound only ends there.
 */
function riseAt(samples: Float32Array, rate: number, near: Seconds): Seconds | null {
  const step = Math.max(1, Math.round(0.0005 * rate));
  const span = Math.round(0.004 * rate);
  const from = Math.max(0, Math.round((near - BEFORE) * rate));
  const to = Math.min(samples.length, Math.round((near + AFTER) * rate));
  const floor = 1e-9 + 0.002 * edge(samples, from, to);
  let best = from;
  let most = -Infinity;
  for (let s = from; s < to; s += step) {
    const rise = Math.log((edge(samples, s, s + span) + floor) / (edge(samples, s - span, s) + floor));
    if (rise > most) {
      most = rise;
      best = s;
    }
  }
  const wide = Math.round(0.02 * rate);
  return edge(samples, best, best + wide) > 1.15 * edge(samples, best - wide, best) ? best / rate : null;
}

/** What sounded before and after is looked at so long, so far from the moment between. */
const LOOK: Seconds = 0.09;
const BESIDE: Seconds = 0.01;
/** Partials that began: so much stronger than before, this share of the strongest, and so many of them. */
const GREW = 2.5;
const STRONG = 0.12;
const MANY = 2;

/**
 * Whether tones begin at a moment though the whole gets no louder: a few strings struck where many
 * were let go. Where sound only ends no partial grows.
 */
function tonesBegin(samples: Float32Array, rate: number, near: Seconds, spectra: Spectra): boolean {
  const length = Math.round(LOOK * rate);
  const { size } = spectra;
  const beside = Math.round(BESIDE * rate);
  const middle = Math.round(near * rate);
  if (middle - beside - length < 0 || middle + beside + length > samples.length) return false;
  const before = spectra.magnitudes(samples, middle - beside - length, length);
  const after = spectra.magnitudes(samples, middle + beside, length);
  const [low, high] = [Math.floor((60 * size) / rate), Math.min(size / 2 - 2, Math.ceil((1800 * size) / rate))];
  let top = 0;
  for (let k = low; k <= high; k++) top = Math.max(top, after[k] as number);
  let grew = 0;
  for (let k = low; k <= high; k++) {
    const here = after[k] as number;
    if (here < STRONG * top || here < (after[k - 1] as number) || here < (after[k + 1] as number)) continue;
    if (here > GREW * Math.max(before[k - 1] as number, before[k] as number, before[k + 1] as number)) grew++;
  }
  return grew >= MANY;
}
