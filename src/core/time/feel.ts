import { parseQuarter, toNumber, ZERO, type Quarter } from './quarter';

/**
 * From `at` on, the first of two `unit` notes takes `swing` percent of the pair. 50 is straight, 67 a triplet's two
 * thirds.
 */
export interface FeelStep {
  readonly at: Quarter;
  readonly swing: number;
  readonly unit: '1/2' | '1/4';
}

export const STRAIGHT = 50;

/** The feel in force at a time, or null where it is straight. */
export function feelAt(steps: readonly FeelStep[] | undefined, at: number): FeelStep | null {
  let found: FeelStep | null = null;
  for (const step of steps ?? []) if (toNumber(step.at) <= at + 1e-9) found = step;
  return found && found.swing !== STRAIGHT ? found : null;
}

/**
 * Where a written time sounds under a feel, in quarters: within each pair of units the middle is
 * moved, and what lies between is stretched evenly. Monotonic, and whole pairs stay where they are.
 */
export function swung(steps: readonly FeelStep[] | undefined, at: number): number {
  const feel = feelAt(steps, at);
  if (!feel) return at;
  const pair = 2 * toNumber(parseQuarter(feel.unit) ?? ZERO);
  // A hair before a pair is that pair: floats must not fall to the one before.
  const start = Math.floor(at / pair + 1e-9) * pair;
  const share = (at - start) / pair;
  const middle = feel.swing / 100;
  return start + pair * (share < 0.5 ? share * 2 * middle : middle + (share - 0.5) * 2 * (1 - middle));
}

/** The ratio an instructor says for a swing: 67 % is "2 to 1". */
export function swingWords(swing: number): string {
  if (swing <= STRAIGHT) return 'straight';
  const ratio = swing / (100 - swing);
  return `${Number.isInteger(Math.round(ratio * 10) / 10) ? Math.round(ratio) : (Math.round(ratio * 10) / 10).toFixed(1)} to 1`;
}
