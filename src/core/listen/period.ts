import { Fft } from './fft';

/** A period found in a stretch of sound. */
export interface Period {
  /** Period in samples, between samples too. */
  readonly lag: number;
  /** Aperiodicity there, 0 (perfectly periodic) to about 1 (noise). */
  readonly dip: number;
}

/**
 * The difference function of YIN (de Cheveigné and Kawahara 2002), normalised by its cumulative
 * mean, for lags 0 to `maxLag` over a window of `window` samples from the start of `x`; by FFT.
 */
export class PeriodFinder {
  private ffts = new Map<number, { fft: Fft; re: Float64Array; im: Float64Array }>();

  difference(values: Float64Array, window: number, maxLag: number): Float64Array {
    const size = 2 ** Math.ceil(Math.log2(window + maxLag + 1));
    let tools = this.ffts.get(size);
    if (!tools) {
      tools = { fft: new Fft(size), re: new Float64Array(size), im: new Float64Array(size) };
      this.ffts.set(size, tools);
    }
    const { fft, re, im } = tools;
    re.fill(0);
    im.fill(0);
    for (let i = 0; i < window + maxLag; i++) re[i] = values[i] ?? 0;
    for (let i = 0; i < window; i++) im[i] = values[i] ?? 0;
    // Stretch and window go through one transform, one as its real, one as its imaginary part, and come apart by
    // symmetry.
    fft.transform(re, im);
    for (let k = 0; k <= size / 2; k++) {
      const j = (size - k) % size;
      const xr = ((re[k] as number) + (re[j] as number)) / 2;
      const xi = ((im[k] as number) - (im[j] as number)) / 2;
      const wr = ((im[k] as number) + (im[j] as number)) / 2;
      const wi = ((re[j] as number) - (re[k] as number)) / 2;
      // x times the conjugate of w, whose inverse is real: symmetric again.
      const pr = xr * wr + xi * wi;
      const pi = xi * wr - xr * wi;
      re[k] = pr;
      im[k] = pi;
      re[j] = pr;
      im[j] = -pi;
    }
    fft.transform(re, im, true);
    const out = new Float64Array(maxLag + 1);
    let energy0 = 0;
    for (let i = 0; i < window; i++) energy0 += (values[i] as number) ** 2;
    let energy = energy0;
    let sum = 0;
    out[0] = 1;
    for (let lag = 1; lag <= maxLag; lag++) {
      energy += (values[lag + window - 1] ?? 0) ** 2 - (values[lag - 1] as number) ** 2;
      const d = Math.max(0, energy0 + energy - 2 * (re[lag] as number));
      sum += d;
      out[lag] = sum > 0 ? (d * lag) / sum : 1;
    }
    return out;
  }

  /**
   * The period of a stretch: the shortest lag whose dip is nearly as deep as the deepest. Null in
   * noise or silence. The lag is refined between samples by a parabola.
   */
  find(values: Float64Array, window: number, minLag: number, maxLag: number): Period | null {
    const one = this.difference(values, window, maxLag);
    let deepest = Infinity;
    for (let lag = minLag; lag < maxLag; lag++)
      if (isDip(one, lag)) deepest = Math.min(deepest, parabola(one, lag).dip);
    if (deepest > NOISE) return null;
    // Multiples of the period dip as deep; how much shallower the first may be grows with the noise.
    const enough = deepest + 0.04 + 0.25 * deepest;
    for (let lag = minLag; lag < maxLag; lag++) {
      if (!isDip(one, lag)) continue;
      const at = parabola(one, lag);
      if (at.dip <= enough) return at;
    }
    return null;
  }
}

/** Above this a stretch has no period. */
const NOISE = 0.35;

const isDip = (values: Float64Array, lag: number): boolean =>
  (values[lag] as number) < (values[lag - 1] as number) && (values[lag] as number) <= (values[lag + 1] ?? Infinity);

function parabola(values: Float64Array, lag: number): Period {
  const a = values[lag - 1] as number;
  const b = values[lag] as number;
  const c = values[lag + 1] ?? b;
  const curve = a - 2 * b + c;
  const x = curve > 0 ? (a - c) / (2 * curve) : 0;
  return { lag: lag + x, dip: Math.max(0, b - ((a - c) * x) / 4) };
}
