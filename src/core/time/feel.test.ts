import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bpmAt,
  feelAt,
  quarter,
  secondsAt,
  secondsAtNumber,
  swingWords,
  swung,
  toNumber,
  ZERO,
  type TempoStep,
} from './index';

describe('tempo that changes evenly', () => {
  const slowing: TempoStep[] = [
    { at: ZERO, bpm: 120, ramp: true },
    { at: quarter(4), bpm: 60 },
  ];
  it('takes the integral of one over the tempo', () => {
    // 60 * 4 / (60 - 120) * ln(60 / 120) = 4 ln 2 seconds.
    expect(secondsAt(slowing, quarter(4))).toBeCloseTo(4 * Math.log(2), 9);
    expect(secondsAt(slowing, quarter(5)) - secondsAt(slowing, quarter(4))).toBeCloseTo(1, 9);
    expect(bpmAt(slowing, quarter(2))).toBeCloseTo(90, 9);
    expect(bpmAt(slowing, quarter(9))).toBe(60);
  });
  it('is near a staircase of many small steps, and never runs backward', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 40, max: 200 }),
        fc.integer({ min: 40, max: 200 }),
        fc.integer({ min: 1, max: 16 }),
        (a, b, length) => {
          const ramp: TempoStep[] = [
            { at: ZERO, bpm: a, ramp: true },
            { at: quarter(length), bpm: b },
          ];
          const n = 400;
          const stairs = Array.from(
            { length: n },
            (_, i) => (60 * length) / n / (a + ((b - a) * (i + 0.5)) / n),
          ).reduce((x, y) => x + y, 0);
          expect(secondsAt(ramp, quarter(length))).toBeCloseTo(stairs, 3);
          let before = -1;
          for (let i = 0; i <= 32; i++) {
            const now = secondsAtNumber(ramp, (i * length) / 24);
            expect(now).toBeGreaterThan(before);
            before = now;
          }
        },
      ),
      { numRuns: 100 },
    );
  });
  it('holds a ramp that leads nowhere', () => {
    expect(secondsAt([{ at: ZERO, bpm: 60, ramp: true }], quarter(3))).toBe(3);
  });
});

describe('swing', () => {
  const feel = [
    { at: ZERO, swing: 66, unit: '1/2' as const },
    { at: quarter(4), swing: 50, unit: '1/2' as const },
    { at: quarter(6), swing: 60, unit: '1/4' as const },
  ];
  it('moves the off-beat, leaves beats and straight stretches where they are', () => {
    expect(swung(feel, 0.5)).toBeCloseTo(0.66, 9);
    expect(swung(feel, 1)).toBeCloseTo(1, 9);
    expect(swung(feel, 4.5)).toBe(4.5);
    expect(swung(feel, 6.25)).toBeCloseTo(6.3, 9);
    expect(swung(undefined, 0.5)).toBe(0.5);
    expect(feelAt(feel, 5)).toBeNull();
  });
  it('keeps the order of everything', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 12, noNaN: true }),
        fc.double({ min: 1e-3, max: 2, noNaN: true }),
        (a, d) => {
          expect(swung(feel, a + d)).toBeGreaterThan(swung(feel, a) - 1e-9);
        },
      ),
    );
  });
  it('is said as a ratio', () => {
    expect([swingWords(50), swingWords(66.6), swingWords(75), swingWords(60)]).toEqual([
      'straight',
      '2 to 1',
      '3 to 1',
      '1.5 to 1',
    ]);
    expect(toNumber(quarter(1, 2))).toBe(0.5);
  });
});
