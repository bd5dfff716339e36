import type { Midi } from '../base';

/** Strings that may sound, thickest first, as they sound open; and how many frets each has. */
export interface Reachable {
  readonly open: readonly Midi[];
  readonly frets: number;
  /** Frets a hand spans. */
  readonly span: number;
}

export interface Grip {
  readonly places: readonly { readonly string: number; readonly fret: number }[];
  /** Strings between the thickest and the thinnest that would have to stay silent. */
  readonly gaps: number;
  /** Fingers it takes, where one may lie over several strings at the lowest fret. */
  readonly fingers: number;
}

/** How ill at ease a hand is: with gaps first, then with fingers. */
const unease = ({ gaps, fingers }: Pick<Grip, 'gaps' | 'fingers'>): number => 2 * gaps + 0.25 * fingers;
/** A hand has so many fingers for the strings. */
const FINGERS = 4;

/**
 * The easiest grip of some pitches: a string for each, none twice, fretted notes within the hand; null where there is
 * none. Places in the order of the pitches.
 */
export function gripOf(pitches: readonly Midi[], { open, frets, span }: Reachable): Grip | null {
  const order = pitches.map((_, i) => i).sort((a, b) => (pitches[a] ?? 0) - (pitches[b] ?? 0));
  const at: { string: number; fret: number }[] = [];
  let best: Grip | null = null;
  const place = (k: number, used: number, low: number, high: number): void => {
    const which = order[k];
    if (which === undefined) {
      let [first, last, fretted, lowest] = [open.length, -1, 0, 0];
      for (const { string, fret } of at) {
        const s = open.length - string;
        first = Math.min(first, s);
        last = Math.max(last, s);
        if (fret > 0) fretted++;
        if (fret > 0 && fret === low) lowest++;
      }
      // Open strings under the barre would be stopped by it.
      const barre =
        lowest > 1 &&
        !at.some(
          ({ string, fret }) =>
            fret === 0 &&
            at.some((b) => b.fret === low && b.string < string) &&
            at.some((b) => b.fret === low && b.string > string),
        );
      const grip = {
        places: at.map((place) => ({ ...place })),
        gaps: Math.max(0, last - first + 1 - at.length),
        fingers: barre ? fretted - lowest + 1 : fretted,
      };
      if (grip.fingers <= FINGERS && (!best || unease(grip) < unease(best))) best = grip;
      return;
    }
    for (let s = 0; s < open.length; s++) {
      if (used & (1 << s)) continue;
      const fret = (pitches[which] ?? 0) - (open[s] ?? 0);
      if (fret < 0 || fret > frets) continue;
      const [l, h] = fret === 0 ? [low, high] : [Math.min(low, fret), Math.max(high, fret)];
      if (h - l > span) continue;
      at[which] = { string: open.length - s, fret };
      place(k + 1, used | (1 << s), l, h);
    }
  };
  place(0, 0, Infinity, -Infinity);
  return best;
}

/**
 * Kinds of chords a hand is taught, as semitones over a root; with parts left out they are still taken for what they
 * are.
 */
const KINDS: readonly (readonly number[])[] = [
  [0, 4, 7],
  [0, 3, 7],
  [0, 4, 7, 10],
  [0, 3, 7, 10],
  [0, 4, 7, 11],
  [0, 2, 7],
  [0, 5, 7],
  [0, 3, 6],
  [0, 4, 8],
  [0, 2, 4, 7],
  [0, 4, 7, 9],
  [0, 3, 7, 9],
  [0, 3, 6, 9],
  [0, 3, 6, 10],
];
const PLAIN = 2;

/** For every set of pitch classes, a bit each: how strange it is. */
const STRANGE = strangenessOfAll();

function strangenessOfAll(): Uint8Array {
  const out = new Uint8Array(4096).fill(2);
  const mark = (kinds: readonly (readonly number[])[], as: 0 | 1): void => {
    for (const kind of kinds) {
      for (let root = 0; root < 12; root++) {
        const whole = kind.reduce((bits, semitones) => bits | (1 << ((root + semitones) % 12)), 0);
        // All sets within it: counted down through its bits.
        for (let part = whole; ; part = (part - 1) & whole) {
          out[part] = as;
          if (part === 0) break;
        }
      }
    }
  };
  mark(KINDS.slice(PLAIN), 1);
  mark(KINDS.slice(0, PLAIN), 0);
  return out;
}

/** How strange pitches are together: 0 within a major or minor chord, 1 within another known chord, 2 else. */
export const strangeness = (pitches: readonly Midi[]): 0 | 1 | 2 =>
  STRANGE[pitches.reduce((bits, midi) => bits | (1 << (((midi % 12) + 12) % 12)), 0)] as 0 | 1 | 2;
