import { Fft } from './fft';

/** The window of Hann, `length` samples, each weighed by its middle. */
export const hann = (length: number): Float64Array =>
  Float64Array.from({ length }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / length));

/** The stretch of a sound under a window from sample `start`, into `out`; what lies outside the sound is silence. */
export function windowed(samples: Float32Array, start: number, window: Float64Array, out: Float64Array): void {
  // The bounds are found first: reading beside an array is slow.
  const from = Math.min(window.length, Math.max(0, -start));
  const to = Math.max(from, Math.min(window.length, samples.length - start));
  out.fill(0, 0, from);
  for (let i = from; i < to; i++) out[i] = (samples[start + i] as number) * (window[i] as number);
  out.fill(0, to);
}

/** Magnitudes of Hann-windowed stretches of a sound; one transform size, used again and again. */
export class Spectra {
  /** Even and odd samples go through one transform of half the size, as its real and its imaginary part. */
  private readonly fft: Fft;
  private readonly re: Float64Array;
  private readonly im: Float64Array;
  private readonly cos: Float64Array;
  private readonly sin: Float64Array;
  private window: Float64Array;

  /** @param size a power of two from 4 on */
  constructor(readonly size: number) {
    this.fft = new Fft(size / 2);
    this.window = hann(size);
    this.re = new Float64Array(size / 2);
    this.im = new Float64Array(size / 2);
    this.cos = Float64Array.from({ length: size / 2 }, (_, k) => Math.cos((2 * Math.PI * k) / size));
    this.sin = Float64Array.from({ length: size / 2 }, (_, k) => Math.sin((2 * Math.PI * k) / size));
  }

  /**
   * Magnitudes of bins 0 to size/2 - 1 of the stretch from sample `start`; what lies outside the sound is silence.
   * `length` samples are looked at, the whole size where it is not given.
   */
  magnitudes(samples: Float32Array, start: number, length = this.size): Float64Array {
    const { re, im, cos, sin, size } = this;
    const seen = Math.min(length, size);
    if (this.window.length !== length) this.window = hann(length);
    const { window } = this;
    re.fill(0);
    im.fill(0);
    for (let i = Math.max(0, -start); i < seen && start + i < samples.length; i++) {
      const v = (samples[start + i] as number) * (window[i] as number);
      if (i & 1) im[i >> 1] = v;
      else re[i >> 1] = v;
    }
    this.fft.transform(re, im);
    const half = size / 2;
    const out = new Float64Array(half);
    for (let k = 0; k < half; k++) {
      const j = (half - k) % half;
      const er = ((re[k] as number) + (re[j] as number)) / 2;
      const ei = ((im[k] as number) - (im[j] as number)) / 2;
      const or = ((im[k] as number) + (im[j] as number)) / 2;
      const oi = ((re[j] as number) - (re[k] as number)) / 2;
      const c = cos[k] as number;
      const s = sin[k] as number;
      out[k] = Math.sqrt((er + or * c + oi * s) ** 2 + (ei + oi * c - or * s) ** 2);
    }
    return out;
  }
}

/**
 * Peaks of a magnitude spectrum between two bins, with the bin between bins where each stands (parabola through the
 * logarithms).
 */
export function peaksIn(
  magnitudes: Float64Array,
  from: number,
  to: number,
): { readonly bin: number; readonly magnitude: number }[] {
  const out: { bin: number; magnitude: number }[] = [];
  for (let k = Math.max(2, Math.floor(from)); k < Math.min(magnitudes.length - 2, to); k++) {
    const b = magnitudes[k] as number;
    const a = magnitudes[k - 1] as number;
    const c = magnitudes[k + 1] as number;
    if (!(b > a && b >= c && b > 0)) continue;
    const [la, lb, lc] = [Math.log(a + 1e-12), Math.log(b), Math.log(c + 1e-12)];
    const curve = la - 2 * lb + lc;
    out.push({ bin: k + (curve < 0 ? (la - lc) / (2 * curve) : 0), magnitude: b });
  }
  return out;
}
