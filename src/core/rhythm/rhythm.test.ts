import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quarter, toNumber, type MeterChange, type Quarter } from '../time';
import { countSyllable, GRIDS, placeInBars, quantise } from './index';

const four: MeterChange[] = [{ bar: 0, beats: 4, unit: 4 }];
const six: MeterChange[] = [{ bar: 0, beats: 6, unit: 8 }];

describe('the count', () => {
  it('says sixteenths, triplets and the pickup as one counts them aloud', () => {
    expect(
      ['0', '1/4', '1/2', '3/4', '1', '4/3', '5/3', '15/2'].map((text) => countSyllable(four, text as Quarter)),
    ).toEqual(['1', 'e', '&', 'a', '2', 'trip', 'let', '&']);
    expect(countSyllable(four, quarter(-1, 2))).toBe('&');
    expect(placeInBars(four, quarter(-1, 2))).toBe('pickup, beat 4 &');
    expect(countSyllable(six, quarter(1, 2))).toBe('2');
    expect(placeInBars(four, quarter(13, 2))).toBe('bar 2, beat 3 &');
  });
});

describe('quantising', () => {
  it('leaves what is on the grid where it is', () => {
    const on = [0, 0.25, 0.5, 1, 4 / 3, 5 / 3, 2, 2.5];
    expect(quantise(on, 'auto').map((one) => one.at)).toEqual(['0', '1/4', '1/2', '1', '4/3', '5/3', '2', '5/2']);
  });
  it('moves nothing by more than half a step, and says by how much', () => {
    const parts = {
      eighths: 2,
      sixteenths: 4,
      'thirty-seconds': 8,
      'triplet-eighths': 3,
      'triplet-sixteenths': 6,
      auto: 1,
    } as const;
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 32, noNaN: true }), { maxLength: 30 }),
        fc.constantFrom(...GRIDS),
        (times, grid) => {
          const sorted = [...times].sort((a, b) => a - b);
          quantise(sorted, grid).forEach((one, i) => {
            expect(toNumber(one.at) - (sorted[i] ?? 0)).toBeCloseTo(one.moved, 9);
            expect(Math.abs(one.moved)).toBeLessThanOrEqual(0.5 / parts[grid] + 1e-9);
          });
        },
      ),
    );
  });
  it('finds swing-free human timing again: sixteenths with 20 ms of wobble at 100 bpm', () => {
    const wobble = [3, -12, 20, -18, 7, -5, 15, -20].map((ms) => (ms / 1000) * (100 / 60));
    const times = wobble.map((w, i) => 4 + i / 4 + w);
    expect(quantise(times, 'auto').map((one) => one.at)).toEqual(wobble.map((_, i) => quarter(16 + i, 4)));
  });
});
