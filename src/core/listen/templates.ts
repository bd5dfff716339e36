/** What one note holds in a few bins of a spectrum. */
export interface Template {
  readonly bins: Int32Array;
  readonly values: Float64Array;
}

/** A template and a spectrum, multiplied bin by bin and added up. */
export function inner({ bins, values }: Template, spectrum: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < bins.length; i++) sum += (spectrum[bins[i] as number] as number) * (values[i] as number);
  return sum;
}

/** Partials above the first lie less sharply, by this share a partial. */
const BLUR = 0.04;

/** Makes templates: partials as the main lobe of a Hann window shows them, added up where they meet. */
export class TemplateMaker {
  private readonly sum: Float64Array;

  /** @param end the bin from which on nothing is looked at */
  constructor(private readonly end: number) {
    this.sum = new Float64Array(2 * Math.ceil(end));
  }

  /**
   * `count` partials from the lowest up, those beyond the end left out. `lobe`: half the main lobe of
   * the window, in bins. `shape`: a lobe as its cosine (square roots of magnitudes) or as the square of it.
   */
  made(
    count: number,
    lobe: number,
    shape: 'root' | 'whole',
    partial: (n: number) => { readonly bin: number; readonly level: number },
  ): Template {
    const { sum } = this;
    const bins: number[] = [];
    // Partials come in order: what is new lies above all that was touched.
    let touched = 0;
    for (let n = 1; n <= count; n++) {
      const { bin, level } = partial(n);
      if (bin > this.end) break;
      const wide = lobe * (1 + BLUR * n);
      const from = Math.max(1, Math.ceil(bin - wide));
      // The cosine goes round by a step a bin.
      const turn = Math.PI / (2 * wide);
      const [stepCos, stepSin] = [Math.cos(turn), Math.sin(turn)];
      let cos = Math.cos(turn * (from - bin));
      let sin = Math.sin(turn * (from - bin));
      for (let k = from; k <= bin + wide; k++) {
        if (k > touched) {
          bins.push(k);
          sum[k] = 0;
          touched = k;
        }
        sum[k] = (sum[k] as number) + level * (shape === 'root' ? cos : cos * cos);
        const next = cos * stepCos - sin * stepSin;
        sin = sin * stepCos + cos * stepSin;
        cos = next;
      }
    }
    return { bins: Int32Array.from(bins), values: Float64Array.from(bins, (k) => sum[k] as number) };
  }
}
