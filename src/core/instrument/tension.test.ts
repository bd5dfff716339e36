import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { frequency } from '../pitch';
import {
  bendEffort,
  fretDistance,
  INSTRUMENTS,
  kilogramsForce,
  suggestGauges,
  tensionOf,
  tensionReport,
  unitWeight,
  type BendRequest,
  type Instrument,
} from './index';

const by = (id: string): Instrument => INSTRUMENTS.find((instrument) => instrument.id === id) as Instrument;
const guitar = by('guitar-6');
const within = (value: number, wanted: number, share: number): void =>
  expect(Math.abs(value / wanted - 1)).toBeLessThan(share);

describe('geometry', () => {
  it('puts frets to a hundredth of a millimetre', () => {
    // Worked by hand for 648 mm: 648 (1 - 2^(-n/12)).
    const known: Record<number, number> = { 1: 36.37, 2: 70.7, 5: 162.55, 7: 215.51, 12: 324, 19: 431.76, 24: 486 };
    for (const [fret, mm] of Object.entries(known))
      expect(Math.abs(fretDistance(648, Number(fret)) - mm)).toBeLessThan(0.01);
  });
});

describe('tension', () => {
  it('agrees with the known values', () => {
    within(tensionOf(must(unitWeight({ gaugeMm: 0.254, kind: 'plain' })), 648, frequency(64)), 72, 0.05);
    within(tensionOf(must(unitWeight({ gaugeMm: 1.17, kind: 'wound' })), 648, frequency(40)), 77, 0.05);
  });

  it('follows the formula: twice the length or pitch, four times the tension; a stated weight goes first', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-4, max: 0.02, noNaN: true }),
        fc.double({ min: 400, max: 900, noNaN: true }),
        fc.double({ min: 30, max: 700, noNaN: true }),
        (mu, mm, hz) => {
          within(tensionOf(mu, 2 * mm, hz) / tensionOf(mu, mm, hz), 4, 1e-9);
          within(tensionOf(mu, mm, 2 * hz) / tensionOf(mu, mm, hz), 4, 1e-9);
          within(tensionOf(mu, mm, hz), 4 * mu * (mm / 1000) ** 2 * hz ** 2, 1e-9);
          expect(must(unitWeight({ gaugeMm: 1, kind: 'wound', unitWeight: mu }))).toBe(mu);
        },
      ),
    );
  });

  it('takes less of a wound string’s circle than of a plain one’s, by thickness', () => {
    const share = (gaugeMm: number): number =>
      must(unitWeight({ gaugeMm, kind: 'wound' })) / must(unitWeight({ gaugeMm, kind: 'plain' }));
    expect([share(0.6), share(1.2), share(2)].map((s) => Number(s.toFixed(3)))).toEqual([0.84, 0.81, 0.8]);
    expect(must(unitWeight({ gaugeMm: 0.7, kind: 'nylon' }))).toBeCloseTo(1140 * Math.PI * 0.35e-3 ** 2, 9);
    expect(unitWeight({ gaugeMm: 1, kind: 'nylon-wound' })).toMatchObject({
      ok: false,
      error: { rule: 'no-unit-weight' },
    });
    expect(unitWeight({ gaugeMm: 0, kind: 'plain' })).toMatchObject({ ok: false, error: { rule: 'bad-gauge' } });
  });

  it('is fine for every catalogue instrument in its own tuning, and sums up', () => {
    for (const instrument of INSTRUMENTS) {
      const report = tensionReport(
        instrument,
        instrument.strings.map((string) => string.pitch),
      );
      expect(
        report.strings.map((row) => row.grade).every((one) => one === 'fine'),
        instrument.id,
      ).toBe(true);
      expect(report.total).toBeCloseTo(
        report.strings.reduce((sum, row) => sum + (row.newtons ?? 0), 0),
        6,
      );
      expect(report.total).toBeCloseTo(report.reference, 6);
      expect(report.strings).toHaveLength(
        instrument.strings.length + instrument.strings.filter((string) => string.course).length,
      );
    }
  });

  it('grades floppy, high and stop', () => {
    const grades = (change: number, instrument = guitar): (string | null)[] =>
      tensionReport(
        instrument,
        instrument.strings.map((string) => string.pitch + change),
      ).strings.map((row) => row.grade);
    expect(new Set(grades(-7))).toEqual(new Set(['floppy']));
    expect(grades(2)).toContain('high');
    const up4 = grades(4);
    expect([up4[5], up4[0]]).toEqual(['stop', 'high']);
    expect(grades(-1).every((g) => g === 'fine')).toBe(true);
    expect(grades(-6, by('bass-4'))).toContain('floppy');
    const report = tensionReport(
      guitar,
      guitar.strings.map((string) => string.pitch + 4),
    );
    expect(report.strings[5]?.why).toContain("don't tune there");
    expect(
      tensionReport(
        guitar,
        guitar.strings.map((string) => string.pitch),
        [6, 1],
      ).strings.map((row) => row.string),
    ).toEqual([5, 4, 3, 2]);
    expect(kilogramsForce(9.80665)).toBe(1);
  });

  it('uses each string’s own length on fanned frets, and says what it can’t know', () => {
    const strings = guitar.strings.map((string, i) => (i === 0 ? { ...string, scaleMm: 686 } : string));
    const [long] = tensionReport(
      { ...guitar, strings },
      guitar.strings.map((string) => string.pitch),
    ).strings;
    const [short] = tensionReport(
      guitar,
      guitar.strings.map((string) => string.pitch),
    ).strings;
    within((long?.newtons ?? 0) / (short?.newtons ?? 1), (686 / 648) ** 2, 1e-9);
    const nylon = by('nylon-6');
    const bare = {
      ...nylon,
      strings: nylon.strings.map((string) => ({ pitch: string.pitch, gaugeMm: string.gaugeMm, kind: string.kind })),
    };
    expect(
      tensionReport(
        bare,
        bare.strings.map((one) => one.pitch),
      ).strings[0],
    ).toMatchObject({ newtons: null, grade: null });
  });
});

describe('suggested gauges', () => {
  it('keep what is on in the instrument’s own tuning, and go heavier for a lower one', () => {
    expect(
      suggestGauges(
        guitar,
        guitar.strings.map((string) => string.pitch),
      ).every((one) => !one.change),
    ).toBe(true);
    const low = suggestGauges(
      guitar,
      guitar.strings.map((string) => string.pitch - 4),
    );
    low.forEach((one, i) => {
      expect(one.change).toBe(true);
      expect(one.gaugeMm).toBeGreaterThan(guitar.strings[i]?.gaugeMm ?? 9);
      within(one.newtons, one.reference, 0.08);
    });
  });
  it('never break a wire, and leave nylon alone', () => {
    for (const one of suggestGauges(
      guitar,
      guitar.strings.map((string) => string.pitch + 5),
    ))
      if (one.kind === 'plain')
        expect(one.newtons / ((Math.PI * (one.gaugeMm / 1000) ** 2) / 4)).toBeLessThan(0.8 * 2.6e9);
    expect(
      suggestGauges(
        by('nylon-6'),
        by('nylon-6').strings.map((string) => string.pitch - 2),
      ),
    ).toEqual([]);
  });
});

describe('bends', () => {
  const bend = (change: Partial<BendRequest> = {}) =>
    must(
      bendEffort({
        make: { gaugeMm: 0.254, kind: 'plain' },
        scaleMm: 648,
        openHz: frequency(64),
        fret: 7,
        nut: 0,
        cents: 200,
        ...change,
      }),
    );
  it('are harder near the nut, on thicker strings, for wider bends and on longer scales', () => {
    expect(bend({ fret: 1 }).newtons).toBeGreaterThan(bend({ fret: 3 }).newtons);
    expect(bend({ fret: 3 }).newtons).toBeGreaterThan(bend().newtons);
    expect(bend({ make: { gaugeMm: 0.33, kind: 'plain' } }).newtons).toBeGreaterThan(bend().newtons);
    expect(bend({ cents: 300 }).newtons).toBeGreaterThan(bend().newtons);
    expect(bend({ scaleMm: 690 }).newtons).toBeGreaterThan(bend().newtons);
    expect(bend({ openHz: frequency(62) }).newtons).toBeLessThan(bend().newtons);
    expect([bend({ fret: 12, cents: 100 }).ease, bend({ fret: 1 }).ease]).toEqual(['easy', 'very hard']);
  });
  it('raise the tension as the square of the pitch, and push as far as the stretch asks', () => {
    const b = bend();
    within(b.bent / b.tension, 2 ** (200 / 600), 1e-9);
    // The push lengthens both halves: Pythagoras against the strain that makes the new tension.
    const press = fretDistance(648, 6) + 0.75 * (fretDistance(648, 7) - fretDistance(648, 6));
    const longer = Math.hypot(press, b.pushMm) + Math.hypot(648 - press, b.pushMm) - 648;
    const ea = 200e9 * Math.PI * 0.127e-3 ** 2;
    within((longer / 648) * ea, b.bent - b.tension, 0.01);
  });
  it('with a capo are those of the shorter string', () => {
    expect(bend({ fret: 5, nut: 3 }).newtons).toBeGreaterThan(bend({ fret: 5 }).newtons);
  });
  it('are refused where there is nothing to bend', () => {
    expect(
      bendEffort({ make: { gaugeMm: 0.254, kind: 'plain' }, scaleMm: 648, openHz: 330, fret: 3, nut: 3, cents: 200 }),
    ).toMatchObject({ ok: false, error: { locus: { path: ['fret'] } } });
    expect(
      bendEffort({ make: { gaugeMm: 0.254, kind: 'plain' }, scaleMm: 648, openHz: 330, fret: 3, nut: 0, cents: 0 }),
    ).toMatchObject({ ok: false, error: { locus: { path: ['cents'] } } });
    expect(
      bendEffort({ make: { gaugeMm: 1, kind: 'nylon-wound' }, scaleMm: 650, openHz: 82, fret: 3, nut: 0, cents: 50 })
        .ok,
    ).toBe(false);
  });
});
