import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readTaps } from './index';

const RHYTHMS: readonly (readonly number[])[] = [
  [0, 1, 2, 3],
  [0, 0.5, 0.75, 1, 2, 2.5, 3, 3.5],
  [0, 0.25, 0.5, 0.75, 1, 1.5, 2, 3],
  [0, 1, 4 / 3, 5 / 3, 2, 3],
  [0.5, 1, 1.5, 2.5, 3.5],
];

describe('taps', () => {
  it('are read as the rhythm they were meant as, with scatter and a steady delay', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...RHYTHMS),
        fc.integer({ min: 60, max: 132 }),
        fc.integer({ min: -20, max: 60 }),
        fc.infiniteStream(fc.integer({ min: -14, max: 14 })),
        (rhythm, bpm, delay, scatter) => {
          const noise = scatter[Symbol.iterator]();
          const seconds = rhythm.map((q) => (q * 60) / bpm + (delay + (noise.next().value as number)) / 1000);
          const { taps, worstMs, offsetMs } = readTaps(seconds, bpm);
          expect(
            taps.map((tap) => {
              const [n = 0, d = 1] = tap.at.split('/').map(Number);
              return n / d;
            }),
          ).toEqual(rhythm.map((q) => expect.closeTo(q, 6)));
          expect(worstMs).toBeLessThan(45);
          expect(Math.abs(offsetMs)).toBeLessThanOrEqual(120);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('say how late they were', () => {
    const { taps, offsetMs, meanMs } = readTaps([0.04, 0.54, 1.05, 1.53], 120);
    expect(taps.map((tap) => tap.at)).toEqual(['0', '1', '2', '3']);
    expect(offsetMs).toBeGreaterThan(25);
    expect(meanMs).toBeLessThan(8);
    expect(readTaps([], 100)).toEqual({ taps: [], offsetMs: 0, meanMs: 0, worstMs: 0 });
  });
});
