import { describeQuarters, mul, quarter, type Quarter } from '../time';

/** The words the call line has for lengths. */
export const LENGTHS: Readonly<Record<string, Quarter>> = {
  whole: quarter(4), half: quarter(2), quarter: quarter(1), eighth: quarter(1, 2), sixteenth: quarter(1, 4), 'thirty-second': quarter(1, 8),
};

/** A length in words where it has some, else in quarters. */
export function lengthLabel(length: Quarter): string {
  return lengthWords(length) ?? `${describeQuarters(length)} quarters`;
}

/** The words the call line has for a length, or null. */
export function lengthWords(length: Quarter): string | null {
  for (const [word, plain] of Object.entries(LENGTHS)) {
    if (length === plain) return word;
    if (length === mul(plain, 3, 2)) return `dotted ${word}`;
    if (length === mul(plain, 2, 3)) return `triplet ${word}`;
  }
  return null;
}
