import type { Cents, Semitones } from '../base';

/**
 * Natural harmonics. A string touched at k/n of its length sounds its n-th partial, 1200 log2 n
 * cents above the open string, and the node lies at fret -12 log2(1 - k/n).
 */
export interface HarmonicNode {
  /** Fractional fret above the open string, to one decimal as players say it (3.2, 2.7). */
  readonly fret: number;
  /** The partial that sounds, 2 to 8. */
  readonly partial: number;
  /** Semitones above the open string, rounded, and how far it really lies from there. */
  readonly semitones: Semitones;
  readonly cents: Cents;
}

const node = (k: number, n: number): HarmonicNode => {
  const above = 12 * Math.log2(n);
  const semitones = Math.round(above);
  return {
    fret: Math.round(-120 * Math.log2(1 - k / n)) / 10,
    partial: n,
    semitones,
    cents: Math.round((above - semitones) * 100),
  };
};

/** The nodes players use, clearest first: 12, 7, 19, 5, 24, 4 (3.9), 9 (8.8), 16 (15.9), 3.2, 2.7, 2.3. */
export const HARMONIC_NODES: readonly HarmonicNode[] = [
  node(1, 2),
  node(1, 3),
  node(2, 3),
  node(1, 4),
  node(3, 4),
  node(1, 5),
  node(2, 5),
  node(3, 5),
  node(1, 6),
  node(1, 7),
  node(1, 8),
];

/**
 * The node that a fret stands for: the nearest within half a fret, the clearer one where two are equally near; null
 * where none is.
 */
export function harmonicAt(fret: number): HarmonicNode | null {
  let best: HarmonicNode | null = null;
  for (const node of HARMONIC_NODES) {
    const off = Math.abs(node.fret - fret);
    if (off < 0.5 && (best === null || off < Math.abs(best.fret - fret) - 1e-9)) best = node;
  }
  return best;
}
