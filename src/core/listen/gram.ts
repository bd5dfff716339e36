/** A template of one pitch: what it holds in a few bins, of unit energy. */
export interface Column {
  readonly pitch: number;
  readonly bins: readonly number[];
  readonly values: readonly number[];
}

/** How well one of some templates alone fits a sound. */
export const fits = (columns: readonly Column[], v: Float64Array): number => Math.max(...columns.map((c) => c.bins.reduce((s, b, i) => s + (v[b] ?? 0) * (c.values[i] ?? 0), 0)));

/** Products of templates with each other and with the sound, made when asked for. */
export class Gram {
  private readonly products = new Map<number, number>();
  private readonly withSound: number[];

  constructor(private readonly columns: readonly (readonly Column[])[], v: Float64Array) {
    this.withSound = columns.flat().map((c) => c.bins.reduce((s, b, i) => s + (v[b] ?? 0) * (c.values[i] ?? 0), 0));
  }

  private product(a: number, b: number): number {
    if (a === b) return 1;
    const key = Math.min(a, b) * 4096 + Math.max(a, b);
    const known = this.products.get(key);
    if (known !== undefined) return known;
    const one = this.columns[a >> 1]?.[a & 1] as Column;
    const two = this.columns[b >> 1]?.[b & 1] as Column;
    const map = new Map(two.bins.map((bin, i) => [bin, two.values[i] ?? 0]));
    const sum = one.bins.reduce((s, bin, i) => s + (one.values[i] ?? 0) * (map.get(bin) ?? 0), 0);
    this.products.set(key, sum);
    return sum;
  }

  /** Non-negative least squares by turns over single weights. */
  private weights(pitches: readonly number[]): { cols: number[]; w: number[] } {
    const cols = pitches.flatMap((p) => [2 * p, 2 * p + 1]);
    const w = cols.map(() => 0);
    for (let round = 0; round < 40; round++) {
      let moved = 0;
      cols.forEach((c, i) => {
        let rest = this.withSound[c] ?? 0;
        cols.forEach((d, j) => { if (j !== i && w[j]) rest -= (w[j] ?? 0) * this.product(c, d); });
        const now = Math.max(0, rest);
        moved = Math.max(moved, Math.abs(now - (w[i] ?? 0)));
        w[i] = now;
      });
      if (moved < 1e-4 * Math.max(...w, 1e-9)) break;
    }
    return { cols, w };
  }

  /** How much of the sound's energy the templates of some pitches explain. */
  explained(pitches: readonly number[]): number {
    const { cols, w } = this.known(pitches);
    let sum = 0;
    cols.forEach((c, i) => {
      sum += 2 * (w[i] ?? 0) * (this.withSound[c] ?? 0);
      cols.forEach((d, j) => { if (w[i] && w[j]) sum -= (w[i] ?? 0) * (w[j] ?? 0) * this.product(c, d); });
    });
    return sum;
  }

  /** How much of what some pitches leave unexplained answers to one more. */
  left(pitches: readonly number[], more: number): number {
    const { cols, w } = this.known(pitches);
    return Math.max(...[2 * more, 2 * more + 1].map((c) => (this.withSound[c] ?? 0) - cols.reduce((sum, d, j) => sum + (w[j] ?? 0) * (w[j] ? this.product(c, d) : 0), 0)));
  }

  private readonly solved = new Map<string, { cols: number[]; w: number[] }>();
  private known(pitches: readonly number[]): { cols: number[]; w: number[] } {
    const key = pitches.join();
    const there = this.solved.get(key);
    if (there) return there;
    const made = this.weights(pitches);
    this.solved.set(key, made);
    return made;
  }

  strengths(pitches: readonly number[]): number[] {
    const { w } = this.known(pitches);
    return pitches.map((_, i) => Math.hypot(w[2 * i] ?? 0, w[2 * i + 1] ?? 0));
  }
}
