import { describe, expect, it } from 'vitest';
import { frequency } from '../pitch';
import { seeded } from '../synth';
import { Ear, fitString, PeriodFinder } from './index';
import { LEAD_SECONDS, pluckedString, stiffString, withNoise } from './test-support/strings';

const RATE = 48_000;
const hear = (samples: Float32Array, rate = RATE, block = 1024) => {
  const ear = new Ear(rate);
  const out = [];
  for (let i = 0; i < samples.length; i += block) out.push(...ear.push(samples.subarray(i, i + block)));
  return out;
};
const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? NaN;
const cents = (hz: number, wanted: number): number => 1200 * Math.log2(hz / wanted);

describe('the difference function', () => {
  it('is that of its definition', () => {
    const random = seeded(3);
    const values = Float64Array.from({ length: 300 }, () => random());
    const one = new PeriodFinder().difference(values, 120, 100);
    const raw = (lag: number): number => {
      let sum = 0;
      for (let i = 0; i < 120; i++) sum += ((values[i] as number) - (values[i + lag] as number)) ** 2;
      return sum;
    };
    let sum = 0;
    for (let lag = 1; lag <= 100; lag++) {
      sum += raw(lag);
      expect(one[lag]).toBeCloseTo((raw(lag) * lag) / sum, 8);
    }
  });
  it('finds no period in noise', () => {
    const random = seeded(5);
    expect(
      new PeriodFinder().find(
        Float64Array.from({ length: 2000 }, () => random()),
        1200,
        10,
        700,
      ),
    ).toBeNull();
  });
});

describe('partials of a stiff string', () => {
  it('give the lowest one’s frequency and the stiffness', () => {
    for (const [hz, b] of [
      [82.4, 0.0001],
      [41.2, 0.0004],
      [196, 0.00005],
      [330, 0],
    ] as const) {
      const values = Float64Array.from(
        stiffString(hz, b, 0.6, 12_000, seeded(2)).subarray(12_000 * LEAD_SECONDS + 200, 12_000 * LEAD_SECONDS + 5200),
      );
      const fit = fitString(values, 12_000, hz * 1.004);
      expect(Math.abs(cents(fit?.hz ?? 1, hz)), `${hz}`).toBeLessThan(0.3);
      expect(Math.abs((fit?.stiffness ?? 1) - b)).toBeLessThan(0.00002 + b * 0.2);
    }
  });
  it('are not measured in too short a stretch', () => {
    expect(fitString(new Float64Array(300), 12_000, 41)).toBeNull();
  });
});

describe('the ear', () => {
  it('hears strings from B0 to E6 in noise: in tune, no octave wrong, soon', () => {
    const random = seeded(11);
    let readings = 0;
    let octaves = 0;
    const low: number[] = [];
    const high: number[] = [];
    const answers: number[] = [];
    for (let midi = 23; midi <= 88; midi += 2) {
      const off = random() * 0.4;
      const hz = frequency(midi, off * 100);
      for (const samples of [
        pluckedString(midi + off, 0.8, RATE, random),
        stiffString(hz, midi < 45 ? 0.0003 : 0.0001, 0.8, RATE, random),
      ]) {
        const hearing = hear(withNoise(samples, 20, RATE, random)).filter((one) => one.at > LEAD_SECONDS);
        readings += hearing.length;
        for (const one of hearing) {
          if (Math.abs(cents(one.hz, hz)) > 100) octaves++;
          else (hz > 60 ? high : low).push(Math.abs(cents(one.hz, hz)));
        }
        if (hz > 80) answers.push((hearing[0]?.at ?? 9) - LEAD_SECONDS);
      }
    }
    expect(median(high)).toBeLessThan(1);
    expect(median(low)).toBeLessThan(3);
    expect(octaves / readings).toBeLessThan(0.005);
    expect(Math.max(...answers)).toBeLessThan(0.15);
  });

  it('hears the same however the blocks are cut, and at other rates', () => {
    const samples = pluckedString(45, 0.6, RATE, seeded(1));
    expect(hear(samples, RATE, 128)).toEqual(hear(samples, RATE, 4096));
    for (const rate of [8000, 22_050, 44_100, 96_000]) {
      const listening = hear(pluckedString(52, 0.6, rate, seeded(1)), rate);
      expect(Math.abs(cents(median(listening.map((one) => one.hz)), frequency(52))), `${rate}`).toBeLessThan(0.5);
    }
    expect(() => new Ear(100)).toThrow(RangeError);
  });

  it('hears nothing in silence, noise or a click, and knows a new stroke', () => {
    const random = seeded(9);
    expect(hear(new Float32Array(RATE))).toEqual([]);
    expect(hear(Float32Array.from({ length: RATE }, () => random() * 0.2)).length).toBeLessThan(3);
    expect(hear(Float32Array.from({ length: RATE }, (_, i) => (i === 9000 ? 1 : 0)))).toEqual([]);
    expect(hear(Float32Array.from({ length: RATE }, () => NaN))).toEqual([]);
    const first = pluckedString(40, 0.5, RATE, random);
    const second = pluckedString(47, 0.5, RATE, random).subarray(Math.round(LEAD_SECONDS * RATE));
    const both = new Float32Array(first.length + second.length);
    both.set(first);
    both.set(second, first.length);
    const after = hear(both).filter((one) => one.at > LEAD_SECONDS + 0.5 + 0.1);
    expect(after.length).toBeGreaterThan(10);
    for (const one of after) expect(Math.abs(cents(one.hz, frequency(47)))).toBeLessThan(5);
    expect(after[0]?.sinceAttack).toBeLessThan(0.2);
  });
});
