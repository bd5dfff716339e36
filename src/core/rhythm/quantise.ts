import { quarter, type Quarter } from '../time';

/** Grids a free timing can be drawn to. "auto" chooses per beat between straight and triplet divisions. */
export type Grid = 'auto' | 'eighths' | 'sixteenths' | 'thirty-seconds' | 'triplet-eighths' | 'triplet-sixteenths';

export const GRIDS: readonly Grid[] = [
  'auto',
  'eighths',
  'sixteenths',
  'thirty-seconds',
  'triplet-eighths',
  'triplet-sixteenths',
];

const PARTS: Readonly<Record<Exclude<Grid, 'auto'>, number>> = {
  eighths: 2,
  sixteenths: 4,
  'thirty-seconds': 8,
  'triplet-eighths': 3,
  'triplet-sixteenths': 6,
};

/** Divisions "auto" weighs, with the price of reading them, in quarters of summed error. */
const CANDIDATES: readonly { parts: number; price: number }[] = [
  { parts: 1, price: 0 },
  { parts: 2, price: 0.01 },
  { parts: 4, price: 0.03 },
  { parts: 3, price: 0.045 },
  { parts: 8, price: 0.12 },
  { parts: 6, price: 0.14 },
];

export interface Quantised {
  readonly at: Quarter;
  /** How far the onset was moved, in quarters: positive when it had been early. */
  readonly moved: number;
}

/**
 * Draws onsets (quarters, as floats, ascending) to a grid by least total displacement. With
 * "auto" each beat takes the division with the least displacement plus price of reading, of those
 * into `finest` parts at most.
 */
export function quantise(onsets: readonly number[], grid: Grid, finest = Infinity): Quantised[] {
  if (grid !== 'auto') return onsets.map((t) => drawn(t, PARTS[grid]));
  const byBeat = new Map<number, number[]>();
  onsets.forEach((t, i) => {
    // A shade early still belongs to the beat it leads into.
    const beat = Math.floor(t + 1 / 16);
    byBeat.set(beat, [...(byBeat.get(beat) ?? []), i]);
  });
  const out: Quantised[] = new Array<Quantised>(onsets.length);
  for (const indices of byBeat.values()) {
    const times = indices.map((i) => onsets[i] ?? 0);
    const parts = bestDivision(times, finest);
    indices.forEach((i, index) => (out[i] = drawn(times[index] ?? 0, parts)));
  }
  return out;
}

function bestDivision(times: readonly number[], finest: number): number {
  let best = 4;
  let least = Infinity;
  for (const { parts, price } of CANDIDATES) {
    if (parts > finest) continue;
    const places = times.map((t) => drawn(t, parts));
    // Two onsets drawn together lose a note: that division is too coarse.
    const clash = new Set(places.map((one) => one.at)).size < new Set(times).size ? 0.25 : 0;
    const cost = price + clash + places.reduce((sum, one) => sum + Math.abs(one.moved), 0);
    if (cost < least - 1e-12) {
      least = cost;
      best = parts;
    }
  }
  return best;
}

function drawn(t: number, parts: number): Quantised {
  const steps = Math.round(t * parts);
  return { at: quarter(steps, parts), moved: steps / parts - t };
}
