import { Fft } from './fft';

/** Magnitudes of Hann-windowed stretches of a sound; one transform size, used again and again. */
export class Spectra {
  private readonly fft: Fft;
  private readonly window: Float64Array;
  private readonly re: Float64Array;
  private readonly im: Float64Array;

  /** @param size a power of two */
  constructor(readonly size: number) {
    this.fft = new Fft(size);
    this.window = Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / size));
    this.re = new Float64Array(size);
    this.im = new Float64Array(size);
  }

  /** Magnitudes of bins 0 to size/2 - 1 of the stretch from sample `start`; what lies outside the sound is silence. `length` samples are looked at, the whole size where it is not given. */
  magnitudes(x: Float32Array, start: number, length = this.size): Float64Array {
    const { re, im, size } = this;
    im.fill(0);
    for (let i = 0; i < size; i++) {
      const at = start + i;
      const w = length === size ? (this.window[i] as number) : i < length ? 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / length) : 0;
      re[i] = at >= 0 && at < x.length ? (x[at] as number) * w : 0;
    }
    this.fft.transform(re, im);
    const out = new Float64Array(size / 2);
    for (let k = 0; k < out.length; k++) out[k] = Math.sqrt((re[k] as number) ** 2 + (im[k] as number) ** 2);
    return out;
  }
}

/** Peaks of a magnitude spectrum between two bins, with the bin between bins where each stands (parabola through the logarithms). */
export function peaksIn(magnitudes: Float64Array, from: number, to: number): { readonly bin: number; readonly magnitude: number }[] {
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
