import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chordName, chordsUnder, parseChord, voiced, type SoundingNote } from './index';
import { must } from '../base';

const note = (midi: number, at: number, until: number): SoundingNote => ({ midi, at, until });
const one = { tonic: 'G', mode: 'major' } as const;
const named = (
  notes: readonly SoundingNote[],
  bounds: readonly number[],
  key: Parameters<typeof chordsUnder>[2] = one,
): string[] => chordsUnder(notes, bounds, key).map((chord) => `${chord.from}-${chord.to} ${chordName(chord.chord)}`);

describe('the chords under a riff', () => {
  it('are those whose notes sound, the bass weighing most', () => {
    expect(
      named(
        [note(43, 0, 4), note(59, 0, 2), note(62, 2, 4), note(48, 4, 8), note(64, 4, 6), note(67, 6, 8)],
        [0, 4, 8],
      ),
    ).toEqual(['0-4 G', '4-8 C']);
    // A fifth alone is major or minor as the key has it.
    expect(named([note(45, 0, 4), note(52, 0, 4)], [0, 4])).toEqual(['0-4 Am']);
    expect(named([note(45, 0, 4), note(52, 0, 4)], [0, 4], { tonic: 'D', mode: 'major' })).toEqual(['0-4 A']);
    // The fifth step's chord is major in a minor key.
    expect(named([note(40, 0, 4), note(44, 0, 4), note(47, 0, 4)], [0, 4], { tonic: 'A', mode: 'minor' })).toEqual([
      '0-4 E',
    ]);
  });

  it('change within a bar where two explain clearly more than one, hold over silence, and join where nothing changes', () => {
    const two = [43, 47, 50].map((m) => note(m, 0, 2)).concat([45, 48, 52].map((m) => note(m, 2, 4)));
    expect(named(two, [0, 4])).toEqual(['0-2 G', '2-4 Am']);
    expect(named([note(43, 0, 4), note(47, 0, 4)], [0, 4, 8, 12])).toEqual(['0-12 G']);
    expect(named([], [0, 4])).toEqual([]);
    // What comes first reaches back to the beginning.
    expect(named([note(43, 4, 8), note(47, 4, 8)], [0, 4, 8])).toEqual(['0-8 G']);
  });

  it('cover the whole stretch without gap or overlap, whatever sounds', () => {
    const any = fc.array(
      fc.record({
        at: fc.integer({ min: 0, max: 30 }),
        length: fc.integer({ min: 1, max: 8 }),
        midi: fc.integer({ min: 28, max: 80 }),
      }),
      { minLength: 1, maxLength: 40 },
    );
    fc.assert(
      fc.property(any, (list) => {
        const bounds = [0, 4, 8, 12, 16, 20, 24, 28, 32, 36, 40];
        const found = chordsUnder(
          list.map((one) => note(one.midi, one.at / 2, (one.at + one.length) / 2)),
          bounds,
          null,
        );
        expect(found[0]?.from).toBe(0);
        found.forEach((chord, i) => {
          expect(chord.to).toBeGreaterThan(chord.from);
          expect(chord.explains).toBeGreaterThanOrEqual(0);
          expect(chord.explains).toBeLessThanOrEqual(1 + 1e-9);
          const next = found[i + 1];
          if (next) {
            expect(next.from).toBe(chord.to);
            expect(chordName(next.chord)).not.toBe(chordName(chord.chord));
          }
        });
        expect(found.at(-1)?.to).toBe(40);
      }),
    );
  });

  it('are voiced from the root up', () => {
    expect(voiced(must(parseChord('Am')), 48)).toEqual([57, 60, 64]);
    expect(voiced(must(parseChord('C')), 48)).toEqual([48, 52, 55]);
  });
});
