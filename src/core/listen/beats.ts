import type { Seconds } from '../base';
import { onsetStrength } from './onsets';

export interface Beats {
  readonly bpm: number;
  /** Half, double and the like, each with how much speaks for it against the first. */
  readonly alternatives: readonly { readonly bpm: number; readonly share: number }[];
  /** 0 to 1. */
  readonly certainty: number;
  readonly beats: readonly Seconds[];
  /** Long to short half of a beat, 1 straight; null where too few notes lie between the beats to tell. */
  readonly swing: number | null;
}

const SLOWEST = 42;
const FASTEST = 240;

/**
 * Tempo and beats: the period at which the onset strength repeats, with a gentle liking for 60 to
 * 180 a minute (as Ellis 2007), then the beats along it by dynamic programming, then the tempo anew
 * from the beats. `asked` settles the level: beats are sought at the multiple nearest to it. Null
 * where nothing is struck often enough.
 */
export function beatsOf(
  samples: Float32Array,
  rate: number,
  asked: number | null = null,
  known: ReturnType<typeof onsetStrength> | null = null,
): Beats | null {
  const { flux, hop, onsets } = known ?? onsetStrength(samples, rate);
  if (onsets.length < 4) return null;
  const strength = spikes(flux, onsets, hop);
  const shortest = Math.floor(60 / FASTEST / hop);
  const longest = Math.min(strength.length - 1, Math.ceil(60 / SLOWEST / hop));
  const auto = new Float64Array(2 * longest + 2);
  for (let lag = 1; lag < Math.min(strength.length, auto.length); lag++) {
    let sum = 0;
    for (let i = lag; i < strength.length; i++) sum += (strength[i] as number) * (strength[i - lag] as number);
    auto[lag] = sum / (strength.length - lag);
  }
  const liking = (bpm: number): number => Math.exp(-0.5 * (Math.log2(bpm / 112) / 0.75) ** 2);
  const score = (lag: number): number => {
    // The bar repeats too: two periods speak for one.
    const at = (l: number): number =>
      Math.max(auto[Math.floor(l)] ?? 0, auto[Math.round(l)] ?? 0, auto[Math.ceil(l)] ?? 0);
    return (
      ((at(lag) + 0.6 * at(2 * lag)) / unit +
        1.4 * agreement(onsets, lag * hop, 4) +
        0.7 * agreement(onsets, lag * hop, 2) +
        0.5 * agreement(onsets, lag * hop, 1)) *
      liking(60 / (lag * hop))
    );
  };
  const unit =
    1.6 *
    Math.max(
      1e-12,
      auto.slice(shortest, longest).reduce((a, b) => Math.max(a, b), 0),
    );
  let best = shortest;
  let top = -1;
  // Finer than the hop: a grid of quarter beats tells a tempo from its neighbours.
  for (let lag = shortest; lag <= longest; lag *= 1.0025) {
    const s =
      asked === null ? score(lag) : score(lag) * Math.exp(-0.5 * (Math.log2(60 / (lag * hop) / asked) / 0.04) ** 2);
    if (s > top) [top, best] = [s, lag];
  }
  const beats = alongPeriod(strength, best, hop);
  const period = periodOf(snapped(beats, onsets), best * hop);
  const bpm = Math.round((60 / period) * 100) / 100;
  const plain = score(best);
  const alternatives = [2, 0.5, 3, 1 / 3, 1.5, 2 / 3]
    .map((m) => ({ bpm: Math.round(bpm * m * 100) / 100, share: score(best / m) / Math.max(1e-12, plain) }))
    .filter(
      (a) =>
        a.bpm >= SLOWEST &&
        a.bpm <= FASTEST &&
        (a.share > 0.35 || a.bpm === Math.round(bpm * 200) / 100 || a.bpm === Math.round(bpm * 50) / 100),
    )
    .map((a) => ({ bpm: a.bpm, share: Math.round(a.share * 100) / 100 }))
    .sort((a, b) => b.share - a.share);
  const rival = Math.max(0, ...alternatives.map((a) => a.share));
  const regular = Math.min(1, (auto[Math.round(best)] ?? 0) / Math.max(1e-12, energyOf(strength)));
  let times = snapped(beats, onsets);
  const after = betweenBeats(times, onsets);
  let place = after.length >= 4 ? (after[after.length >> 1] ?? 0.5) : null;
  if (place !== null && place < 0.45) {
    // The long half comes first: what was taken for the beats lies between them.
    const short = place;
    times = snapped(
      times.map((one, i) => one + short * ((times[i + 1] ?? one + period) - one)),
      onsets,
    );
    place = 1 - short;
  }
  return {
    bpm,
    alternatives,
    certainty:
      Math.round(
        Math.max(0.05, Math.min(0.98, (asked === null ? 1 / (1 + rival) : 0.9) * (0.55 + 0.6 * regular))) * 100,
      ) / 100,
    beats: times.map((one) => Math.round(one * 1000) / 1000),
    swing: place === null ? null : Math.round((place / (1 - place)) * 100) / 100,
  };
}

/** For so long a tempo is taken as steady. */
const STEADY: Seconds = 7;

/**
 * How well strokes lie on a grid of `parts` to a period, whatever its phase: 1 all, 0 none, over stretches of a few
 * seconds.
 */
function agreement(onsets: readonly Seconds[], period: Seconds, parts: number): number {
  const end = onsets.at(-1) ?? 0;
  let sum = 0;
  let weight = 0;
  for (let from = onsets[0] ?? 0; from <= end; from += STEADY / 2) {
    let re = 0;
    let im = 0;
    let n = 0;
    for (const one of onsets) {
      if (one < from || one >= from + STEADY) continue;
      const turn = (2 * Math.PI * one * parts) / period;
      re += Math.cos(turn);
      im += Math.sin(turn);
      n++;
    }
    if (n < 3) continue;
    sum += Math.hypot(re, im);
    weight += n;
  }
  return weight > 0 ? sum / weight : 0;
}

const energyOf = (values: Float64Array): number => values.reduce((a, b) => a + b * b, 0) / values.length;

/** The strength of each stroke at its time, over some frames: sharper than the flux, and free of its floor. */
function spikes(flux: Float64Array, onsets: readonly Seconds[], hop: Seconds): Float64Array {
  const out = new Float64Array(flux.length + 8);
  for (const one of onsets) {
    const f = one / hop;
    let strong = 0;
    for (let k = Math.max(0, Math.floor(f) - 2); k <= Math.min(flux.length - 1, Math.ceil(f) + 5); k++)
      strong = Math.max(strong, flux[k] as number);
    for (let k = Math.max(0, Math.floor(f) - 6); k <= Math.min(out.length - 1, Math.ceil(f) + 6); k++)
      out[k] = Math.max(out[k] as number, Math.sqrt(strong) * Math.exp(-0.5 * ((k - f) / 2.2) ** 2));
  }
  return out;
}

/** Beats about a period apart where strokes are (Ellis 2007). In seconds. */
function alongPeriod(strength: Float64Array, period: number, hop: Seconds): Seconds[] {
  const n = strength.length;
  const mean = Math.sqrt(energyOf(strength)) || 1;
  const total = new Float64Array(n);
  const back = new Int32Array(n).fill(-1);
  const tight = 60;
  for (let i = 0; i < n; i++) {
    let best = 0;
    let from = -1;
    for (let j = Math.max(0, i - Math.round(1.6 * period)); j <= i - Math.round(0.6 * period); j++) {
      const s = (total[j] as number) - tight * Math.log((i - j) / period) ** 2;
      if (s > best) [best, from] = [s, j];
    }
    total[i] = (strength[i] as number) / mean + best;
    back[i] = from;
  }
  let at = n - 1;
  for (let i = Math.max(0, n - Math.round(1.5 * period)); i < n; i++)
    if ((total[i] as number) > (total[at] as number)) at = i;
  const beats: Seconds[] = [];
  for (; at >= 0; at = back[at] as number) beats.push(at * hop);
  return beats.reverse();
}

/** A beat with a stroke near is where the stroke is. */
const snapped = (beats: readonly Seconds[], onsets: readonly Seconds[]): Seconds[] =>
  beats
    .map((b) => onsets.reduce((best, one) => (Math.abs(one - b) < Math.abs(best - b) ? one : best), b + 0.045))
    .map((t, i) => (Math.abs(t - (beats[i] ?? t)) < 0.045 ? t : (beats[i] ?? t)));

/** The period of beats by least squares over their numbers; a beat far off the line is left out. */
function periodOf(beats: readonly Seconds[], rough: Seconds): Seconds {
  if (beats.length < 3) return rough;
  let kept = beats.map((one, i) => ({ i, t: one }));
  let slope = rough;
  for (let round = 0; round < 3 && kept.length >= 3; round++) {
    const mi = kept.reduce((a, one) => a + one.i, 0) / kept.length;
    const mt = kept.reduce((a, one) => a + one.t, 0) / kept.length;
    const sxy = kept.reduce((a, one) => a + (one.i - mi) * (one.t - mt), 0);
    const sxx = kept.reduce((a, one) => a + (one.i - mi) ** 2, 0);
    slope = sxy / sxx;
    const off = kept.map((one) => Math.abs(one.t - (mt + slope * (one.i - mi))));
    const limit = Math.max(0.012, 2 * ([...off].sort((a, b) => a - b)[off.length >> 1] ?? 0));
    kept = kept.filter((_, i) => (off[i] ?? 0) <= limit);
  }
  // Where the tempo drifts a line says little: then the middle of the steps.
  return Math.abs(slope / rough - 1) < 0.06 ? slope : rough;
}

/** Where the single notes between two beats stand, as shares of the beat, ascending. */
function betweenBeats(beats: readonly Seconds[], onsets: readonly Seconds[]): number[] {
  const places: number[] = [];
  for (let i = 0; i + 1 < beats.length; i++) {
    const from = beats[i] ?? 0;
    const span = (beats[i + 1] ?? 0) - from;
    const inside = onsets.map((one) => (one - from) / span).filter((p) => p > 0.1 && p < 0.9);
    // One note between two beats says where the half lies; more are a finer division.
    const [only] = inside;
    if (inside.length === 1 && only !== undefined && only > 0.2 && only < 0.8) places.push(only);
  }
  return places.sort((a, b) => a - b);
}
