import { inner, type Template } from './templates';

/** Products of templates with each other and with the sound, made when asked for. */
export class Gram {
  private readonly products = new Map<number, number>();
  private readonly withSound: readonly number[];
  /** One template spread out over the bins. */
  private readonly spread: Float64Array;
  private spreadOut = -1;

  constructor(
    private readonly templates: readonly (readonly Template[])[],
    values: Float64Array,
  ) {
    this.withSound = templates.flatMap((two) => two.map((one) => inner(one, values)));
    this.spread = new Float64Array(values.length);
  }

  private template(c: number): Template {
    return this.templates[c >> 1]?.[c & 1] as Template;
  }

  private product(a: number, b: number): number {
    if (a === b) return 1;
    const key = Math.min(a, b) * 4096 + Math.max(a, b);
    const known = this.products.get(key);
    if (known !== undefined) return known;
    if (this.spreadOut !== b) {
      if (this.spreadOut >= 0) for (const k of this.template(this.spreadOut).bins) this.spread[k] = 0;
      const { bins, values } = this.template(b);
      for (let i = 0; i < bins.length; i++) this.spread[bins[i] as number] = values[i] as number;
      this.spreadOut = b;
    }
    const sum = inner(this.template(a), this.spread);
    this.products.set(key, sum);
    return sum;
  }

  /** Non-negative least squares by turns over single weights. */
  private weights(pitches: readonly number[]): { cols: number[]; w: Float64Array } {
    const cols = pitches.flatMap((p) => [2 * p, 2 * p + 1]);
    const count = cols.length;
    const products = Float64Array.from({ length: count * count }, (_, i) =>
      this.product(cols[Math.floor(i / count)] ?? 0, cols[i % count] ?? 0),
    );
    const values = new Float64Array(count);
    for (let round = 0; round < 40; round++) {
      let moved = 0;
      let most = 1e-9;
      for (let i = 0; i < count; i++) {
        let rest = (this.withSound[cols[i] as number] as number) + (values[i] as number);
        for (let j = 0; j < count; j++) rest -= (values[j] as number) * (products[i * count + j] as number);
        const now = Math.max(0, rest);
        moved = Math.max(moved, Math.abs(now - (values[i] as number)));
        values[i] = now;
        most = Math.max(most, now);
      }
      if (moved < 1e-4 * most) break;
    }
    return { cols, w: values };
  }

  /** How much of the sound's energy the templates of some pitches explain. */
  explained(pitches: readonly number[]): number {
    const { cols, w: values } = this.known(pitches);
    let sum = 0;
    cols.forEach((c, i) => {
      sum += 2 * (values[i] ?? 0) * (this.withSound[c] ?? 0);
      cols.forEach((d, index) => {
        if (values[i] && values[index]) sum -= (values[i] ?? 0) * (values[index] ?? 0) * this.product(c, d);
      });
    });
    return sum;
  }

  /** How much of what some pitches leave unexplained answers to one more. */
  left(pitches: readonly number[], more: number): number {
    const { cols, w: values } = this.known(pitches);
    return Math.max(
      ...[2 * more, 2 * more + 1].map(
        (c) =>
          (this.withSound[c] ?? 0) -
          cols.reduce((sum, d, j) => sum + (values[j] ?? 0) * (values[j] ? this.product(c, d) : 0), 0),
      ),
    );
  }

  private readonly solved = new Map<string, { cols: number[]; w: Float64Array }>();
  private known(pitches: readonly number[]): { cols: number[]; w: Float64Array } {
    const key = pitches.join();
    const there = this.solved.get(key);
    if (there) return there;
    const made = this.weights(pitches);
    this.solved.set(key, made);
    return made;
  }

  strengths(pitches: readonly number[]): number[] {
    const { w: values } = this.known(pitches);
    return pitches.map((_, i) => Math.hypot(values[2 * i] ?? 0, values[2 * i + 1] ?? 0));
  }
}
