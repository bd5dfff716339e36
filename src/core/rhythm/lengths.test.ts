import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cmp, quarter, sub, ZERO } from '../time';
import { amountWords, lengthLabel, lengthWords, total, valueWords, withArticle } from './lengths';

describe('lengths in words', () => {
  it('are those of the written values, tied of two where one does not do, else quarters', () => {
    expect([quarter(4), quarter(2), quarter(1), quarter(1, 2), quarter(3, 2)].map(lengthLabel)).toEqual([
      ...['whole', 'half', 'quarter', 'eighth', 'dotted quarter'],
    ]);
    expect(lengthWords(quarter(1, 3))).toBe('triplet eighth');
    expect(valueWords(quarter(5, 2))).toBeNull();
    expect(lengthWords(quarter(5, 2))).toContain('tied');
    expect(lengthLabel(quarter(41, 7))).toBe('5 6/7 quarters');
  });

  it('have the article that is spoken', () => {
    expect(['eighth', 'quarter', 'sixteenth', 'eleventh'].map(withArticle)).toEqual([
      ...['an eighth', 'a quarter', 'a sixteenth', 'an eleventh'],
    ]);
  });

  it('as amounts are values up to a quarter, and counted in quarters beyond', () => {
    expect(amountWords(quarter(1, 2))).toBe('an eighth');
    expect(amountWords(quarter(1))).toBe('a quarter');
    expect(amountWords(quarter(1, 4))).toBe('a sixteenth');
    expect(amountWords(quarter(5, 2))).toBe('2 1/2 quarters');
    expect(amountWords(quarter(4))).toBe('4 quarters');
    expect(amountWords(quarter(5, 11))).toBe('5/11 quarters');
  });

  it('are words for any length, and sums are exact', () => {
    const length = fc
      .tuple(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 1, max: 48 }))
      .map(([n, d]) => quarter(n, d));
    fc.assert(
      fc.property(fc.array(length, { minLength: 1, maxLength: 6 }), (lengths) => {
        for (const one of lengths) {
          expect(lengthLabel(one)).not.toMatch(/undefined|NaN/);
          expect(amountWords(one)).toMatch(/^(?:an? |\d)/);
        }
        const sum = total(lengths);
        const left = lengths.reduce((rest, one) => sub(rest, one), sum);
        expect(cmp(left, ZERO)).toBe(0);
      }),
    );
  });
});
