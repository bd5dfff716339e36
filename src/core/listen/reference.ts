import type { Cents, Hertz } from '../base';
import { decimated } from './resample';
import { peaksIn, Spectra } from './spectrum';

interface Peak {
  readonly bin: number;
  readonly magnitude: number;
}

export interface Reference {
  readonly a4Hz: Hertz;
  /** From A 440, within a quarter tone: which note it is a quarter tone from can't be heard. */
  readonly cents: Cents;
  /** 0 to 1: how well all that sounds agrees. */
  readonly certainty: number;
}

/** Partials looked at, in hertz: below lie hum and drums, above the partials of stiff strings run sharp. */
const FROM = 70;
const TO = 480;
/** What is smoothed over, in quarter cents. */
const WIDTH = 8;

/** Where strings may begin: partials are told by those under them. */
const LOWEST = 29;
/**
 * How far the n-th partial lies from the nearest equally tempered note, in cents; those missing lie too far off, or
 * run too sharp on stiff strings.
 */
const TEMPERED: ReadonlyMap<number, Cents> = new Map([
  [1, 0],
  [2, 0],
  [3, 1.955],
  [4, 0],
]);

/** Which partial of a string a peak is, by the lowest peak of the same moment it is a multiple of. */
function partialOf(peak: Peak, peaks: readonly Peak[]): number {
  for (let n = 12; n > 1; n--) {
    const under = peak.bin / n;
    if (peaks.some((one) => Math.abs(1200 * Math.log2(one.bin / under)) < 22 && one.magnitude > 0.08 * peak.magnitude))
      return n;
  }
  return 1;
}

/**
 * The reference a recording is tuned to: the mode of the distances of all stable partials from
 * equal temperament by A 440, smoothed, weighted by their strength (the mean would follow bends).
 * Null where too little sounds.
 */
export function referenceOf(samples: Float32Array, rate: number): Reference | null {
  const sound = decimated(samples, rate, 5_500);
  const size = 4096;
  const spectra = new Spectra(size);
  const counts = new Float64Array(400);
  let total = 0;
  // Zeros after a shorter look tell peaks apart finer without asking for longer notes.
  const length = Math.min(size, Math.round(0.4 * sound.rate));
  const frames: Peak[][] = [];
  let loudest = 0;
  for (let start = 0; start + length / 2 < sound.x.length; start += Math.round(length / 2)) {
    const peaks = peaksIn(
      spectra.magnitudes(sound.x, start, length),
      (LOWEST * size) / sound.rate,
      (TO * size) / sound.rate,
    );
    for (const one of peaks) loudest = Math.max(loudest, one.magnitude);
    frames.push(peaks);
  }
  if (!(loudest > 1e-3)) return null;
  frames.forEach((peaks, index) => {
    for (const peak of peaks) {
      if (peak.magnitude < 0.02 * loudest || peak.bin * sound.rate < FROM * size) continue;
      // A stable partial stands in the next look too.
      const stays = frames[index + 1]?.some(
        (one) => Math.abs(1200 * Math.log2(one.bin / peak.bin)) < 8 && one.magnitude > 0.2 * peak.magnitude,
      );
      if (!stays) continue;
      const n = partialOf(peak, peaks);
      const tempered = TEMPERED.get(n);
      if (tempered === undefined) continue;
      const midi = 69 + 12 * Math.log2((peak.bin * sound.rate) / size / 440) - tempered / 100;
      const off = midi - Math.round(midi);
      // Stiffness takes partials off by the square of their number.
      const weight = Math.sqrt(peak.magnitude / loudest) / n;
      counts[(Math.round(off * 400) + 400) % 400] = (counts[(Math.round(off * 400) + 400) % 400] as number) + weight;
      total += weight;
    }
  });
  if (total < 2) return null;
  // Smoothed by 2 cents.
  const smooth = counts.map((_, i) => {
    let sum = 0;
    for (let k = -60; k <= 60; k++) sum += (counts[(i + k + 400) % 400] as number) * Math.exp(-0.5 * (k / WIDTH) ** 2);
    return sum;
  });
  let best = 0;
  for (let i = 1; i < 400; i++) if ((smooth[i] as number) > (smooth[best] as number)) best = i;
  let near = 0;
  for (let k = -28; k <= 28; k++) near += counts[(best + k + 400) % 400] as number;
  // The top itself, not the middle of what lies around it: strings just struck and stiff ones lie above, none below.
  const [left, middle, right] = [-1, 0, 1].map((k) => smooth[(best + k + 400) % 400] as number) as [
    number,
    number,
    number,
  ];
  const bend = left - 2 * middle + right;
  const place = best + (bend < 0 ? (left - right) / (2 * bend) : 0);
  const cents = (place >= 200 ? place - 400 : place) / 4;
  return {
    a4Hz: Math.round(440 * 2 ** (cents / 1200) * 100) / 100,
    cents: Math.round(cents * 10) / 10,
    certainty: Math.round(Math.min(1, near / total) * 100) / 100,
  };
}
