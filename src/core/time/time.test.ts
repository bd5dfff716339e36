import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  add,
  barLength,
  barOf,
  barStart,
  bpmAt,
  cmp,
  describeQuarters,
  floorDiv,
  mul,
  parseMeter,
  parseQuarter,
  quarter,
  secondsAt,
  sub,
  toNumber,
  ZERO,
  type MeterChange,
  type Quarter,
} from './index';

const one = fc
  .tuple(fc.integer({ min: -4000, max: 4000 }), fc.integer({ min: 1, max: 96 }))
  .map(([n, d]) => quarter(n, d));
const meters = fc
  .array(
    fc.record({
      gap: fc.integer({ min: 1, max: 7 }),
      beats: fc.integer({ min: 1, max: 12 }),
      unit: fc.constantFrom(2, 4, 8, 16),
    }),
    { minLength: 1, maxLength: 5 },
  )
  .map((list): MeterChange[] => {
    let bar = 0;
    return list.map(({ gap, beats, unit }, i) => ({ bar: i === 0 ? 0 : (bar += gap), beats, unit }));
  });

describe('quarters', () => {
  it('are exact: sums come back, thirds make a whole', () => {
    fc.assert(
      fc.property(one, one, (a, b) => {
        expect(sub(add(a, b), b)).toBe(a);
      }),
    );
    expect(add(add(quarter(1, 3), quarter(1, 3)), quarter(1, 3))).toBe('1');
  });

  it('have one text for one time, so equal times are equal strings', () => {
    fc.assert(
      fc.property(one, fc.integer({ min: 1, max: 50 }), (a, k) => {
        expect(mul(mul(a, k), 1, k)).toBe(a);
      }),
    );
    expect(parseQuarter('6/4')).toBe('3/2');
    expect(parseQuarter('-0')).toBe('0');
  });

  it('order as their values do', () => {
    fc.assert(
      fc.property(one, one, (a, b) => {
        expect(Math.sign(cmp(a, b))).toBe(Math.sign(toNumber(a) - toNumber(b)));
      }),
    );
  });

  it('refuse text that is no time', () => {
    for (const text of ['', '1/0', 'x', '1.5', '1/2/3', '9999999999999']) expect(parseQuarter(text)).toBeNull();
    expect(() => toNumber('half' as Quarter)).toThrow(RangeError);
  });

  it('are said in whole and part', () => {
    expect([describeQuarters(quarter(7, 2)), describeQuarters(quarter(2, 3)), describeQuarters(quarter(4))]).toEqual([
      '3 1/2',
      '2/3',
      '4',
    ]);
  });
});

describe('bars', () => {
  it('start where the bar before ends, through changing meters', () => {
    fc.assert(
      fc.property(meters, fc.integer({ min: 0, max: 40 }), (ms, bar) => {
        const here = ms.reduce((meter, one) => (one.bar <= bar ? one : meter));
        expect(sub(barStart(ms, bar + 1), barStart(ms, bar))).toBe(barLength(here));
      }),
    );
  });

  it('find the bar of a time', () => {
    fc.assert(
      fc.property(meters, fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 99 }), (ms, bar, part) => {
        const length = sub(barStart(ms, bar + 1), barStart(ms, bar));
        const offset = mul(length, part, 100);
        expect(barOf(ms, add(barStart(ms, bar), offset))).toEqual({ bar, offset });
      }),
    );
    expect(barOf([{ bar: 0, beats: 4, unit: 4 }], quarter(-1, 2)).bar).toBe(-1);
  });

  it('read meters and refuse nonsense', () => {
    expect(parseMeter(' 6 / 8 ')).toEqual({ beats: 6, unit: 8 });
    for (const text of ['0/4', '4/3', '4', '99/4', 'waltz']) expect(parseMeter(text)).toBeNull();
  });

  it('divide with a floor', () => {
    expect(floorDiv(quarter(-1, 2), quarter(1))).toBe(-1);
    expect(floorDiv(quarter(7, 2), quarter(1))).toBe(3);
  });
});

describe('tempo', () => {
  const steps = [
    { at: ZERO, bpm: 60 },
    { at: quarter(4), bpm: 120 },
    { at: quarter(6), bpm: 30 },
  ];
  it('adds up seconds over steps', () => {
    expect(secondsAt(steps, quarter(4))).toBeCloseTo(4, 9);
    expect(secondsAt(steps, quarter(6))).toBeCloseTo(5, 9);
    expect(secondsAt(steps, quarter(7))).toBeCloseTo(7, 9);
    expect(secondsAt(steps, quarter(-1))).toBeCloseTo(-1, 9);
    expect([bpmAt(steps, quarter(5)), bpmAt(steps, quarter(6))]).toEqual([120, 30]);
  });
  it('grows with time', () => {
    fc.assert(
      fc.property(one, one, (a, b) => {
        if (cmp(a, b) < 0) expect(secondsAt(steps, a)).toBeLessThan(secondsAt(steps, b));
      }),
    );
  });
});
