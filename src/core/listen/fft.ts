/**
 * Fast Fourier transform of a power-of-two size (decimation in time, two stages a pass: radix 4, with
 * one pass of radix 2 where the power is odd; Cooley and Tukey 1965). Worked on real and imaginary
 * parts side by side: in arrays apart, eight streams a power of two from each other would push one
 * another out of the processor's cache. Tables are made once a size, each pass reading its own in order.
 */
export class Fft {
  private readonly from: Uint32Array;
  private readonly work: Float64Array;
  /** For each pass of radix 4 cosine and sine of two, one and three times its angle, by turns. */
  private readonly turns: Float64Array[] = [];
  private readonly odd: boolean;

  /** @param size a power of two, 2 to 65,536; throws RangeError otherwise */
  constructor(readonly size: number) {
    const bits = Math.log2(size);
    if (!Number.isInteger(bits) || size < 2 || size > 65536)
      throw new RangeError(`FFT size ${size} is no power of two from 2 to 65536`);
    this.odd = bits % 2 === 1;
    this.work = new Float64Array(2 * size);
    for (let quarter = this.odd ? 2 : 1; quarter < size; quarter *= 4) {
      const table = new Float64Array(6 * quarter);
      for (let k = 0; k < quarter; k++) {
        [2, 1, 3].forEach((times, i) => {
          const angle = (-2 * Math.PI * k * times) / (4 * quarter);
          table[6 * k + 2 * i] = Math.cos(angle);
          table[6 * k + 2 * i + 1] = Math.sin(angle);
        });
      }
      this.turns.push(table);
    }
    this.from = new Uint32Array(size);
    for (let i = 0; i < size; i++) {
      let r = 0;
      for (let b = 0; b < bits; b++) if (i & (1 << b)) r |= 1 << (bits - 1 - b);
      this.from[i] = r;
    }
  }

  /** Transforms in place; with `inverse` back again, scaled by 1/size. */
  transform(re: Float64Array, im: Float64Array, inverse = false): void {
    // Back again is the same way with real and imaginary part in each other's place.
    if (inverse) this.forward(im, re, 1 / this.size);
    else this.forward(re, im, 1);
  }

  private forward(re: Float64Array, im: Float64Array, scale: number): void {
    const { size, from, work } = this;
    for (let i = 0; i < size; i++) {
      const j = from[i] as number;
      work[2 * i] = re[j] as number;
      work[2 * i + 1] = im[j] as number;
    }
    if (this.odd) halves(work);
    let quarter = this.odd ? 2 : 1;
    for (const table of this.turns) {
      quarters(work, quarter, table);
      quarter *= 4;
    }
    for (let i = 0; i < size; i++) {
      re[i] = (work[2 * i] as number) * scale;
      im[i] = (work[2 * i + 1] as number) * scale;
    }
  }
}

/** Neighbours added and taken from each other. */
function halves(values: Float64Array): void {
  for (let i = 0; i < values.length; i += 4) {
    const ar = values[i] as number;
    const ai = values[i + 1] as number;
    const br = values[i + 2] as number;
    const bi = values[i + 3] as number;
    values[i] = ar + br;
    values[i + 1] = ai + bi;
    values[i + 2] = ar - br;
    values[i + 3] = ai - bi;
  }
}

/** Four transforms of `quarter` points each become one of four times as many, all along the array. */
function quarters(values: Float64Array, quarter: number, table: Float64Array): void {
  const step = 2 * quarter;
  for (let start = 0; start < values.length; start += 4 * step) {
    for (let k = 0, t = 0; k < step; k += 2, t += 6) {
      const a = start + k;
      const b = a + step;
      const c = b + step;
      const d = c + step;
      const ar = values[a] as number;
      const ai = values[a + 1] as number;
      const br = (values[b] as number) * (table[t] as number) - (values[b + 1] as number) * (table[t + 1] as number);
      const bi = (values[b] as number) * (table[t + 1] as number) + (values[b + 1] as number) * (table[t] as number);
      const cr =
        (values[c] as number) * (table[t + 2] as number) - (values[c + 1] as number) * (table[t + 3] as number);
      const ci =
        (values[c] as number) * (table[t + 3] as number) + (values[c + 1] as number) * (table[t + 2] as number);
      const dr =
        (values[d] as number) * (table[t + 4] as number) - (values[d + 1] as number) * (table[t + 5] as number);
      const di =
        (values[d] as number) * (table[t + 5] as number) + (values[d + 1] as number) * (table[t + 4] as number);
      const sr = ar + br;
      const si = ai + bi;
      const mr = ar - br;
      const mi = ai - bi;
      const pr = cr + dr;
      const pi = ci + di;
      const qr = cr - dr;
      const qi = ci - di;
      values[a] = sr + pr;
      values[a + 1] = si + pi;
      values[b] = mr + qi;
      values[b + 1] = mi - qr;
      values[c] = sr - pr;
      values[c + 1] = si - pi;
      values[d] = mr - qi;
      values[d + 1] = mi + qr;
    }
  }
}
