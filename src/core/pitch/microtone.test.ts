import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { microtone, microtoneWords, parseMicrotone } from './index';

describe('microtones', () => {
  it('are one number read four ways', () => {
    expect(microtoneWords(microtone(62, 150, 7))).toEqual({
      cents: '150 cents',
      frets: '1.5 frets',
      at: 'fret 8.5',
      target: 'E4, 50 cents flat',
    });
    expect(microtoneWords(microtone(62, 100, null))).toEqual({
      cents: '100 cents',
      frets: '1 fret',
      at: null,
      target: 'E♭4',
    });
    expect(microtone(60, -30, 5)).toMatchObject({ target: 60, beside: -30, at: 4.7 });
  });
  it('are entered four ways', () => {
    const read = (text: string, fret: number | null = 7) => {
      const made = parseMicrotone(text, 62, fret);
      return made.ok ? made.value : made.error.rule;
    };
    expect(
      ['150', '150 cents', '1.5 frets', 'fret 8.5', 'E4 -50', 'whole', 'half', 'quarter'].map((text) => read(text)),
    ).toEqual([150, 150, 150, 150, 150, 200, 100, 50]);
    expect(read('E')).toBe(200);
    expect(read('D')).toBe(0);
    expect(read('C4')).toBe(-200);
    expect(read('F#4 +14')).toBe(414);
    expect(read('fret 8', null)).toBe('no-place');
    expect(read('wobble')).toBe('microtone');
    expect(read('')).toBe('microtone');
  });
  it('come back from any of their own words', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 36, max: 84 }),
        fc.integer({ min: -90, max: 700 }),
        fc.integer({ min: 1, max: 15 }),
        (base, cents, fret) => {
          const one = microtone(base, cents, fret);
          const words = microtoneWords(one);
          for (const text of [words.cents, words.frets, words.at ?? ''])
            expect(must(parseMicrotone(text, base, fret)), text).toBe(cents);
          expect(one.target * 100 + one.beside).toBe(base * 100 + cents);
        },
      ),
    );
  });
});
