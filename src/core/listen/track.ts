import type { Midi, Seconds } from '../base';
import { PeriodFinder } from './period';
import { decimated } from './resample';

/** What a single line sounds at one moment. */
export interface PitchFrame {
  readonly at: Seconds;
  /** Pitch in MIDI by A 440, with cents as a fraction; null where nothing periodic sounds. */
  readonly midi: Midi | null;
  /** 0 to 1: how periodic. */
  readonly clarity: number;
}

export const TRACK_HOP: Seconds = 0.01;
/** Low strings need long looks, high ones short: each band says nothing of the other's pitches. */
const BANDS = [
  { rate: 5_200, window: 0.062, low: 26.5, high: 150 },
  { rate: 11_000, window: 0.026, low: 80, high: 1_500 },
] as const;
/** Costs of the path through the candidates: sounding nothing, beginning or ending to sound, leaping. */
const COST = { silent: 0.46, turn: 0.14, leap: 0.3, glide: 0.12 } as const;
const CANDIDATES = 4;
/** Thresholds with the weights of a beta distribution about 0.2. */
const THRESHOLDS = ((): { under: number; weight: number }[] => {
  const list = Array.from({ length: 40 }, (_, i) => ({
    under: (i + 1) * 0.02,
    weight: (i + 1) * 0.02 * (1 - (i + 1) * 0.02) ** 6,
  }));
  const sum = list.reduce((a, one) => a + one.weight, 0);
  return list.map((one) => ({ under: one.under, weight: one.weight / sum }));
})();
/** So far under the loudest a frame is silence. */
const QUIET = 0.004;

interface Candidate {
  readonly midi: number;
  readonly cost: number;
  readonly dip: number;
}

/**
 * The pitch of a single line every 10 ms: dips of YIN's difference function in two bands as
 * candidates (de Cheveigné and Kawahara 2002), the cheapest path through them by Viterbi (as Mauch
 * and Dixon 2014). `range` bounds the pitches, in MIDI; `progress` is told shares from 0 to 1.
 */
export function trackLine(
  samples: Float32Array,
  rate: number,
  range: { readonly low: Midi; readonly high: Midi },
  progress: (share: number) => void = () => undefined,
): PitchFrame[] {
  const frames = Math.max(0, Math.floor(samples.length / rate / TRACK_HOP));
  const all: Candidate[][] = Array.from({ length: frames }, () => []);
  const lowHz = 440 * 2 ** ((range.low - 69.6) / 12);
  const highHz = 440 * 2 ** ((range.high - 68.4) / 12);
  BANDS.forEach((band, b) => {
    if (lowHz > band.high || highHz < band.low) return;
    addCandidates(
      all,
      samples,
      rate,
      { ...band, low: Math.max(band.low, lowHz), high: Math.min(band.high, highHz) },
      (share) => progress((b + share) / (BANDS.length + 0.2)),
    );
  });
  const loud = levels(samples, rate, frames);
  const top = loud.reduce((a, b) => Math.max(a, b), 0);
  const path = cheapest(
    all,
    loud.map((l) => l < QUIET * top || l < 3e-5),
  );
  progress(1);
  return path.map((candidate, i) => ({
    at: i * TRACK_HOP,
    midi: candidate ? candidate.midi : null,
    clarity: candidate ? Math.max(0, 1 - candidate.dip) : 0,
  }));
}

/** Root mean square of 40 ms around each frame. */
function levels(samples: Float32Array, rate: number, frames: number): number[] {
  const half = Math.round(0.02 * rate);
  return Array.from({ length: frames }, (_, f) => {
    const middle = Math.round(f * TRACK_HOP * rate);
    let sum = 0;
    for (let i = Math.max(0, middle - half); i < Math.min(samples.length, middle + half); i++)
      sum += (samples[i] as number) ** 2;
    return Math.sqrt(sum / (2 * half));
  });
}

function addCandidates(
  all: Candidate[][],
  samples: Float32Array,
  rate: number,
  band: { readonly rate: number; readonly window: number; readonly low: number; readonly high: number },
  progress: (share: number) => void,
): void {
  const sound = decimated(samples, rate, band.rate);
  const finder = new PeriodFinder();
  const maxLag = Math.ceil(sound.rate / band.low) + 2;
  // Shorter periods are looked at too, so that a multiple of one is not taken for the first.
  const minLag = Math.max(3, Math.floor(sound.rate / 1_500) - 1);
  const highest = 69.6 + 12 * Math.log2(band.high / 440);
  const window = Math.round(band.window * sound.rate);
  const piece = new Float64Array(window + maxLag + 2);
  for (let f = 0; f < all.length; f++) {
    // The stretch lies around the frame.
    const start = Math.round(f * TRACK_HOP * sound.rate) - ((window + maxLag) >> 1);
    for (let i = 0; i < piece.length; i++) piece[i] = sound.x[start + i] ?? 0;
    const values = finder.difference(piece, window, maxLag);
    const dips: { midi: number; dip: number; share: number }[] = [];
    for (let lag = minLag; lag < maxLag; lag++) {
      const a = values[lag - 1] as number;
      const b = values[lag] as number;
      const c = values[lag + 1] as number;
      if (!(b < a && b <= c && b < 0.8)) continue;
      const curve = a - 2 * b + c;
      const off = curve > 0 ? (a - c) / (2 * curve) : 0;
      dips.push({
        midi: 69 + 12 * Math.log2(sound.rate / (lag + off) / 440),
        dip: Math.max(0, b - ((a - c) * off) / 4),
        share: 0,
      });
    }
    // Each threshold takes the first dip under it: a multiple of the period dips as deep, but later.
    for (const { under, weight } of THRESHOLDS) {
      const first = dips.find((one) => one.dip < under);
      if (first) first.share += weight;
    }
    const found: Candidate[] = dips
      .filter((one) => one.midi <= highest)
      .map(({ midi, dip, share }) => ({ midi, dip, cost: 0.5 * dip + 0.5 * (1 - share) }));
    found.sort((a, b) => a.cost - b.cost);
    const there = all[f] as Candidate[];
    for (const candidate of found.slice(0, CANDIDATES)) {
      // Where both bands see a pitch, the better look counts.
      const twin = there.findIndex((one) => Math.abs(one.midi - candidate.midi) < 0.4);
      if (twin < 0) there.push(candidate);
      else if ((there[twin] as Candidate).cost > candidate.cost) there[twin] = candidate;
    }
    if (f % 256 === 0) progress(f / all.length);
  }
}

function cheapest(all: readonly (readonly Candidate[])[], silent: readonly boolean[]): (Candidate | null)[] {
  const backs: Int16Array[] = [];
  let before: { readonly c: Candidate | null; readonly cost: number }[] = [{ c: null, cost: 0 }];
  const states: (readonly (Candidate | null)[])[] = [];
  for (let f = 0; f < all.length; f++) {
    const here: (Candidate | null)[] = silent[f] ? [null] : [null, ...(all[f] ?? [])];
    const back = new Int16Array(here.length);
    const now = here.map((candidate, index) => {
      let best = Infinity;
      before.forEach((b, one) => {
        const step =
          candidate && b.c
            ? Math.min(
                COST.leap + 0.004 * Math.abs(candidate.midi - b.c.midi),
                COST.glide * Math.abs(candidate.midi - b.c.midi),
              )
            : candidate || b.c
              ? COST.turn
              : 0;
        const cost = b.cost + step;
        if (cost < best) {
          best = cost;
          back[index] = one;
        }
      });
      return { c: candidate, cost: best + (candidate ? candidate.cost : COST.silent * (silent[f] ? 0 : 1)) };
    });
    backs.push(back);
    states.push(here);
    before = now;
  }
  const path: (Candidate | null)[] = [];
  let k = before.reduce((a, b, i) => (b.cost < (before[a]?.cost ?? Infinity) ? i : a), 0);
  for (let f = all.length - 1; f >= 0; f--) {
    path.push(states[f]?.[k] ?? null);
    k = backs[f]?.[k] ?? 0;
  }
  return path.reverse();
}
