import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { counted, wellFormed, wellFormedText } from './text';

describe('text that can be stored', () => {
  it('loses NUL, and half a pair becomes the replacement character', () => {
    expect(wellFormedText('Owl\u0000 song')).toBe('Owl song');
    expect(wellFormedText('cut \ud83c')).toBe('cut \ufffd');
    expect(wellFormedText('\udfb8 cut')).toBe('\ufffd cut');
    expect(wellFormed({ name: 'a\u0000', list: ['\ud83c', 3, null], 'k\u0000': true })).toEqual({
      name: 'a',
      list: ['\ufffd', 3, null],
      k: true,
    });
  });

  it('leaves what can be stored as the very same object, whole emoji and a typed backslash-u too', () => {
    for (const value of [{ name: 'Owl 🎸', nested: [{ words: '\\u0041 typed' }] }, 'plain', 7, null])
      expect(wellFormed(value)).toBe(value);
    const typed = { words: 'a typed \\ud83c stays' };
    expect(wellFormed(typed)).toEqual(typed);
  });

  it('holds for any data: what comes out is well-formed, and nothing else has changed', () => {
    fc.assert(
      fc.property(
        fc.anything({ key: fc.string({ unit: 'binary' }), values: [fc.string({ unit: 'binary' }), fc.integer()] }),
        (any) => {
          const text = JSON.stringify(any);
          if (text === undefined) return;
          const value: unknown = JSON.parse(text);
          const out = JSON.stringify(wellFormed(value));
          expect(out.isWellFormed()).toBe(true);
          expect(out).not.toContain('\\u0000');
          if (text.isWellFormed() && !/\\u(0000|d[89a-f])/i.test(text)) expect(out).toBe(text);
        },
      ),
    );
  });
});

describe('a number with what is counted', () => {
  it('says one of it in the singular', () => {
    expect([0, 1, 2].map((n) => counted(n, 'note'))).toEqual(['0 notes', '1 note', '2 notes']);
    expect([1, 2].map((n) => counted(n, 'note is', 'notes are'))).toEqual(['1 note is', '2 notes are']);
  });
});
