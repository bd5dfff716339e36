import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fail, finding, freshIds, idNumber, locusWords, must, ok, pathOf, pathWords, stableId, within } from './index';

describe('ids', () => {
  it('of a piece are never given twice, and each is above all before it', () => {
    fc.assert(
      fc.property(
        fc.nat({ max: 5_000_000 }),
        fc.array(fc.constantFrom('e', 'n', 'r'), { maxLength: 40 }),
        (last, kinds) => {
          const fresh = freshIds(last);
          const ids = kinds.map((kind) => fresh(kind));
          expect(new Set(ids).size).toBe(ids.length);
          const numbers = ids.map(idNumber);
          expect(numbers).toEqual(numbers.map((_, i) => last + 1 + i));
        },
      ),
    );
  });

  it('from outside are no numbers of ours', () => {
    for (const id of ['', 'e', 'note-1', 'eI', 'eO', 'e' + '0'.repeat(9), 'e_']) expect(idNumber(id), id).toBe(0);
    expect(idNumber('e0')).toBe(0);
    expect(idNumber('ez')).toBe(31);
    expect(idNumber('e10')).toBe(32);
  });

  it('for things beside a piece are the lowest that are free', () => {
    expect(stableId('h', new Set())).toBe('h0');
    expect(stableId('h', new Set(['h0', 'h2']), 0)).toBe('h1');
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat({ max: 200 }), { maxLength: 60 }), (numbers) => {
        const taken = new Set(numbers.map((n) => stableId('x', new Set(), n)));
        const made = stableId('x', taken);
        expect(taken.has(made)).toBe(false);
        expect(stableId('x', taken)).toBe(made);
      }),
    );
  });
});

describe('what stands in the way', () => {
  it('says its rule, reason and place; what is a bug is thrown with all of them', () => {
    const off = fail('off-neck', 'There is no such fret', { part: 'p0', note: 'n3' });
    expect(off.error).toEqual({
      ...{ rule: 'off-neck', severity: 'error', words: 'There is no such fret', evidence: null, mends: [] },
      locus: { part: 'p0', note: 'n3' },
    });
    expect(() => must(off)).toThrow('off-neck: There is no such fret (n3)');
    expect(() => must(fail('no', 'No'))).toThrow(/^no: No$/);
    expect(must(ok(7))).toBe(7);
    expect(fail('no', 'No', 'tempo').error.locus).toEqual({ path: ['tempo'] });
  });

  it('names its place by the path, the byte, or the innermost thing', () => {
    expect(locusWords({ path: ['strings', 2, 'pitch'], note: 'n1' })).toBe('strings.2.pitch');
    expect(locusWords({ byte: 40 })).toBe('byte 40');
    expect(locusWords({ part: 'p', riff: 'r', event: 'e' })).toBe('e');
    expect(locusWords({ part: 'p' })).toBe('p');
    expect(locusWords({})).toBe('');
  });

  it('is found further out when what holds it says so', () => {
    const inner = { path: ['pitch'], byte: 3 };
    expect(pathWords(within(inner, 'strings', 2))).toBe('strings.2.pitch');
    expect(within(inner, 'x').byte).toBe(3);
    expect(pathWords(within({}, 'a'))).toBe('a');
    expect(pathOf(['a', 3, Symbol.for('b')])).toEqual(['a', 3, 'Symbol(b)']);
    expect(pathOf()).toEqual([]);
  });

  it('has mends and evidence where someone offers them', () => {
    const made = finding<string>('odd', 'question', 'Meant?', {}, { evidence: 'All others agree.', mends: ['a mend'] });
    expect([made.evidence, made.mends]).toEqual(['All others agree.', ['a mend']]);
    expect(finding('odd', 'open', 'Not said').mends).toEqual([]);
  });
});
