import type { Fret, Midi, Semitones, StringNumber } from '../base';

/** Two strings that sound the same note open, or octaves of it. */
export interface Coincidence {
  readonly strings: readonly [StringNumber, StringNumber];
  /** 0 for the same pitch, 12 for an octave, and so on. */
  readonly semitones: Semitones;
}

/** Open strings that coincide: the same pitch, or octaves. Thick string first. */
export function coincidences(open: readonly Midi[], absent: readonly StringNumber[] = []): Coincidence[] {
  const out: Coincidence[] = [];
  const n = open.length;
  for (let i = 0; i < n; i++) {
    for (let j = i + 1; j < n; j++) {
      if (absent.includes(n - i) || absent.includes(n - j)) continue;
      const apart = (open[j] ?? 0) - (open[i] ?? 0);
      if (apart % 12 === 0) out.push({ strings: [n - i, n - j], semitones: apart });
    }
  }
  return out;
}

/**
 * Where each string meets its thinner neighbour: the fret that sounds the neighbour's open note (tuning by ear), null
 * where it lies lower.
 */
export function meetingFrets(
  open: readonly Midi[],
): { readonly string: StringNumber; readonly neighbour: StringNumber; readonly fret: Fret | null }[] {
  return open.slice(1).map((midi, i) => {
    const apart = midi - (open[i] ?? midi);
    return { string: open.length - i, neighbour: open.length - i - 1, fret: apart >= 0 ? apart : null };
  });
}

/** Where the octave of a stopped note lies two or three strings thinner: how many frets further on. */
export interface OctaveShape {
  readonly from: StringNumber;
  readonly to: StringNumber;
  /** Frets toward the bridge; below 0 toward the nut. */
  readonly frets: number;
  /** The same in the reference tuning. */
  readonly reference: number;
}

/** Octave shapes over two and three strings whose frets differ from the reference tuning's, and those that stay. */
export function octaveShapes(open: readonly Midi[], reference: readonly Midi[]): OctaveShape[] {
  const out: OctaveShape[] = [];
  const n = open.length;
  const frets = (of: readonly Midi[], i: number, j: number): number => 12 - ((of[j] ?? 0) - (of[i] ?? 0));
  for (let i = 0; i < n; i++) {
    for (const over of [2, 3]) {
      const j = i + over;
      if (j >= n) continue;
      const made = frets(reference, i, j);
      // Only shapes a hand uses: within three frets in one tuning or the other.
      if (Math.abs(made) > 3 && Math.abs(frets(open, i, j)) > 3) continue;
      out.push({ from: n - i, to: n - j, frets: frets(open, i, j), reference: made });
    }
  }
  return out;
}
