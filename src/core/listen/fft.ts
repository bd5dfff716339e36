/**
 * Fast Fourier transform of a power-of-two size, in place on separate real and imaginary arrays
 * (radix 2, decimation in time; Cooley and Tukey 1965). Tables are made once a size.
 */
export class Fft {
  private readonly cos: Float64Array;
  private readonly sin: Float64Array;
  private readonly swap: Uint32Array;

  /** @param size a power of two, 2 to 65,536; throws RangeError otherwise */
  constructor(readonly size: number) {
    if (!Number.isInteger(Math.log2(size)) || size < 2 || size > 65536) throw new RangeError(`FFT size ${size} is no power of two from 2 to 65536`);
    this.cos = Float64Array.from({ length: size / 2 }, (_, i) => Math.cos((2 * Math.PI * i) / size));
    this.sin = Float64Array.from({ length: size / 2 }, (_, i) => Math.sin((2 * Math.PI * i) / size));
    this.swap = new Uint32Array(size);
    const bits = Math.log2(size);
    for (let i = 0; i < size; i++) {
      let r = 0;
      for (let b = 0; b < bits; b++) if (i & (1 << b)) r |= 1 << (bits - 1 - b);
      this.swap[i] = r;
    }
  }

  /** Transforms in place; with `inverse` back again, scaled by 1/size. */
  transform(re: Float64Array, im: Float64Array, inverse = false): void {
    const { size, cos, sin, swap } = this;
    for (let i = 0; i < size; i++) {
      const j = swap[i] as number;
      if (j <= i) continue;
      const a = re[i] as number;
      re[i] = re[j] as number;
      re[j] = a;
      const b = im[i] as number;
      im[i] = im[j] as number;
      im[j] = b;
    }
    const sign = inverse ? 1 : -1;
    for (let half = 1; half < size; half *= 2) {
      const step = size / (2 * half);
      for (let start = 0; start < size; start += 2 * half) {
        for (let k = 0; k < half; k++) {
          const c = cos[k * step] as number;
          const s = sign * (sin[k * step] as number);
          const p = start + k;
          const q = p + half;
          const xr = (re[q] as number) * c - (im[q] as number) * s;
          const xi = (re[q] as number) * s + (im[q] as number) * c;
          re[q] = (re[p] as number) - xr;
          im[q] = (im[p] as number) - xi;
          re[p] = (re[p] as number) + xr;
          im[p] = (im[p] as number) + xi;
        }
      }
    }
    if (inverse) {
      for (let i = 0; i < size; i++) {
        re[i] = (re[i] as number) / size;
        im[i] = (im[i] as number) / size;
      }
    }
  }
}
