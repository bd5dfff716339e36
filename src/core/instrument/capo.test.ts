import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import {
  baseNut,
  capoWords,
  checkCapos,
  fretShown,
  fullCapo,
  INSTRUMENTS,
  isPartial,
  makeSetup,
  nutOf,
  openPitch,
  pitchAt,
  shapeShift,
  shownFret,
  stringNumbers,
  type Capo,
  type Setup,
} from './index';

const guitar = INSTRUMENTS[0] as (typeof INSTRUMENTS)[number];
const setupWith = (capo: Parameters<typeof makeSetup>[0]['capo'], tuning?: string): Setup =>
  must(makeSetup({ instrument: 'guitar-6', tuning, capo })).setup;
const why = (capos: Capo[]): string => {
  const checked = checkCapos(guitar, capos);
  return checked.ok ? 'ok' : checked.error.words;
};

describe('capos', () => {
  it('stop the strings they lie on, each at the one nearest the bridge', () => {
    const setup = setupWith([{ fret: 2 }, { fret: 5, strings: [1, 2, 3] }]);
    expect([6, 5, 4, 3, 2, 1].map((s) => nutOf(setup, s))).toEqual([2, 2, 2, 5, 5, 5]);
    expect([baseNut(setup), isPartial(setup)]).toEqual([2, true]);
    expect(openPitch(setup, 1)).toBe(69);
    expect(capoWords(setup)).toBe('fret 2, fret 5 on strings 3 2 1');
    expect([
      capoWords(setupWith(0)),
      capoWords(setupWith(4)),
      capoWords(setupWith([{ fret: 3, strings: [6] }])),
    ]).toEqual(['none', 'fret 4', 'fret 3 on string 6']);
  });

  it('are tidied: every string is a full one, two at one fret are one, none is none', () => {
    expect(must(checkCapos(guitar, [{ fret: 2, strings: [1, 2, 3, 4, 5, 6] }]))).toEqual(fullCapo(2));
    expect(
      must(
        checkCapos(guitar, [
          { fret: 2, strings: [1, 2] },
          { fret: 2, strings: [3, 4] },
        ]),
      ),
    ).toEqual([{ fret: 2, strings: [4, 3, 2, 1] }]);
    expect(must(checkCapos(guitar, [{ fret: 0, strings: null }]))).toEqual([]);
    expect(
      must(
        checkCapos(guitar, [
          { fret: 7, strings: [2, 1] },
          { fret: 3, strings: null },
        ]),
      ).map((capo) => capo.fret),
    ).toEqual([3, 7]);
  });

  it('are refused with a reason', () => {
    expect(why([{ fret: 13, strings: null }])).toContain('0 (none) to 12');
    expect(why([{ fret: 1.5, strings: null }])).toContain('whole number');
    expect(why([{ fret: 2, strings: [] }])).toContain('stops no string');
    expect(why([{ fret: 2, strings: [7] }])).toContain('strings 1 to 6');
    expect(why([{ fret: 2, strings: [1, 3] }])).toContain('neighbouring');
    expect(
      why([
        { fret: 2, strings: null },
        { fret: 2, strings: [1] },
      ]),
    ).toContain('one is enough');
    expect(why([1, 3, 5].map((fret) => ({ fret, strings: null })))).toContain('two at most');
    const short = checkCapos({ ...guitar, frets: 5 }, fullCapo(4));
    expect(short.ok ? '' : short.error.words).toContain('to 3');
  });

  it('leave names alone when partial, and move them all when full', () => {
    expect(shapeShift(setupWith(3))).toBe(3);
    expect(shapeShift(setupWith([{ fret: 3, strings: [5, 4, 3] }]))).toBe(0);
  });

  it('at c sound like the strings tuned up by c, string by string', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 1, max: 9 }),
        (a, b, fret) => {
          const strings = Array.from({ length: 6 }, (_, i) => i + 1).filter(
            (s) => s >= Math.min(a, b) && s <= Math.max(a, b),
          );
          const capoed = setupWith([{ fret, strings }]);
          const bare = setupWith(0);
          const tuned: Setup = {
            ...bare,
            open: bare.open.map((midi, i) => (strings.includes(6 - i) ? midi + fret : midi)),
          };
          for (const string of stringNumbers(bare)) {
            for (const f of [0, 1, 5, bare.instrument.frets - fret]) {
              expect(pitchAt(capoed, { string: string, fret: f })).toEqual(pitchAt(tuned, { string: string, fret: f }));
            }
            // The neck ends where it ends: above the capo there are fewer frets.
            expect(
              pitchAt(capoed, { string: string, fret: bare.instrument.frets - nutOf(capoed, string) + 1 }).ok,
            ).toBe(false);
          }
        },
      ),
    );
  });

  it('are counted by either school, there and back', () => {
    const setup = setupWith([{ fret: 2, strings: [5, 4, 3] }]);
    expect([
      shownFret(setup, 4, 0, 'nut'),
      shownFret(setup, 4, 3, 'nut'),
      shownFret(setup, 6, 3, 'nut'),
      shownFret(setup, 4, 3, 'capo'),
    ]).toEqual([2, 5, 3, 3]);
    for (const counting of ['capo', 'nut'] as const)
      for (let s = 1; s <= 6; s++)
        for (let f = 0; f < 9; f++) expect(fretShown(setup, s, shownFret(setup, s, f, counting), counting)).toBe(f);
  });
});
