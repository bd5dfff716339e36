import type { Hertz } from '../base';

/** How many partials are looked at. */
const PARTIALS = 8;
/** Stiffness of the stiffest strings met: B in f_n = n f sqrt(1 + B n²). */
const MAX_B = 0.002;

export interface StringFit {
  /** Frequency of the lowest partial: what a tuner shows. */
  readonly hz: Hertz;
  /** Inharmonicity B. */
  readonly stiffness: number;
  readonly partials: number;
}

/**
 * Measures the lowest partials of a string by how far their phase turns between two overlapping
 * stretches (the phase vocoder's instantaneous frequency) and fits f_n = n f sqrt(1 + B n²)
 * (Fletcher 1964), so that the stretch of a stiff string's partials does not make it read sharp.
 * @param x sound with the newest sample last @param rough frequency known within 2 % @returns null where too little
 * stands clear of the noise
 */
export function fitString(values: Float64Array, rate: number, rough: Hertz): StringFit | null {
  const span = Math.floor(values.length * 0.7);
  const hop = values.length - span;
  // Neighbouring partials must not leak into each other: four periods at least in a Hann window.
  if (span < (4 * rate) / rough || hop < 8) return null;
  const found: { n: number; f: number; weight: number }[] = [];
  let strongest = 0;
  // Each partial says where to look for the next: the phase turns too often to be told from `rough` alone.
  let base = rough;
  for (let n = 1; n <= PARTIALS && n * base < rate * 0.4; n++) {
    const a = binAt(values, 0, span, (n * base) / rate);
    const b = binAt(values, hop, span, (n * base) / rate);
    const power = Math.min(a.power, b.power);
    const turn = b.phase - a.phase;
    const off = turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI));
    // The reference turns with the analysis, so what is left is the distance from n * base.
    const f = n * base + (off / (2 * Math.PI)) * (rate / hop);
    if (Math.abs(f / (n * rough) - 1) < 0.05 && Math.abs(off) < 2.6) found.push({ n, f, weight: power });
    strongest = Math.max(strongest, power);
    if (power > strongest * 1e-3 && Math.abs(off) < 2.6) base = f / n;
  }
  const clear = found.filter((one) => one.weight > strongest * 1e-3);
  if (clear.length === 0) return null;
  return fitted(clear);
}

/** Weighted least squares of (f_n / n)² = f² + f² B n². Higher partials fix f better, by n², while they stand clear. */
function fitted(partials: readonly { n: number; f: number; weight: number }[]): StringFit {
  let s = 0;
  let sx = 0;
  let sy = 0;
  let sxx = 0;
  let sxy = 0;
  for (const { n, f, weight } of partials) {
    const w = Math.sqrt(weight) * n * n;
    const x = n * n;
    const y = (f / n) ** 2;
    s += w;
    sx += w * x;
    sy += w * y;
    sxx += w * x * x;
    sxy += w * x * y;
  }
  const det = s * sxx - sx * sx;
  const plain = sy / s;
  if (partials.length < 3 || det < 1e-9 * s * sxx)
    return { hz: Math.sqrt(plain), stiffness: 0, partials: partials.length };
  const slope = (s * sxy - sx * sy) / det;
  const base = (sy - slope * sx) / s;
  const b = slope / base;
  if (!(b > 0)) return { hz: Math.sqrt(plain), stiffness: 0, partials: partials.length };
  const stiffness = Math.min(MAX_B, b);
  // With B held at its limit the base follows from the means.
  const square = stiffness === b ? base : sy / (s + stiffness * sx);
  return { hz: Math.sqrt(square * (1 + stiffness)), stiffness, partials: partials.length };
}

/** One bin of a Hann-windowed transform at a frequency (cycles a sample), phase counted from sample 0 of `x`. */
function binAt(values: Float64Array, from: number, span: number, cycles: number): { power: number; phase: number } {
  const w = 2 * Math.PI * cycles;
  const stepRe = Math.cos(w);
  const stepIm = -Math.sin(w);
  let re = 0;
  let im = 0;
  let cr = Math.cos(w * from);
  let ci = -Math.sin(w * from);
  // The Hann window turns with a rotation of its own: no cosine a sample.
  const h = (2 * Math.PI) / span;
  const turnRe = Math.cos(h);
  const turnIm = Math.sin(h);
  let hr = Math.cos(h / 2);
  let hi = Math.sin(h / 2);
  for (let i = 0; i < span; i++) {
    const v = (values[from + i] as number) * (0.5 - 0.5 * hr);
    const u = hr * turnRe - hi * turnIm;
    hi = hr * turnIm + hi * turnRe;
    hr = u;
    re += v * cr;
    im += v * ci;
    const t = cr * stepRe - ci * stepIm;
    ci = cr * stepIm + ci * stepRe;
    cr = t;
  }
  return { power: re * re + im * im, phase: Math.atan2(im, re) };
}
