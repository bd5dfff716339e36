import { z } from 'zod';
import type { CostTable } from './types';

/**
 * The default weights, in "one easy press of the index" = about 0.1. They let a phrase stay in one
 * hand position where it can, prefer the middle of the neck to the first frets, and use open
 * strings mostly as thick pedals.
 */
export const DEFAULT_COSTS: CostTable = {
  stretch: 0.0012,
  finger: [0.08, 0.12, 0.12, 0.44],
  spread: 0.9,
  bunched: 0.12,
  barre: [0.75, 1.1, 0.8, 1],
  barreString: 0.06,
  gap: 0.88,
  open: 0.23,
  openThin: 0.36,
  openFar: 0.8,
  pedal: 0.16,
  openGrip: 1.2,
  dull: 0.09,
  low: 0.05,
  high: 0.12,
  far: 0.5,
  wish: 0.4,
  offString: 1.2,
  bend: 0.12,
  thumb: 0.7,
  damp: 0.3,
  travel: 0.0225,
  blindShift: 0.6,
  jump: 1.6,
  roll: 0.0825,
  drag: 0.9,
  cross: 0.08,
  skip: 0.15,
  reshape: 10.8,
  swap: 0.3,
  flat: 0.12,
};

const weight = z.number().min(0, 'not below 0: costs add up').max(100, 'at most 100');
const four = z.tuple([weight, weight, weight, weight]);

/** A cost table as it is kept: every weight named, none negative. */
export const costTableSchema = z.strictObject({
  ...(Object.fromEntries(
    Object.keys(DEFAULT_COSTS)
      .filter((key) => !['finger', 'barre', 'swap', 'flat'].includes(key))
      .map((key) => [key, weight]),
  ) as Record<Exclude<keyof CostTable, 'finger' | 'barre' | 'swap' | 'flat'>, typeof weight>),
  finger: four,
  barre: four,
  swap: weight.optional(),
  flat: weight.optional(),
});
