import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gripOf, strangeness, type Reachable } from './reach';

const GUITAR: Reachable = { open: [40, 45, 50, 55, 59, 64], frets: 22, span: 4 };
const places = (pitches: readonly number[]): string | undefined =>
  gripOf(pitches, GUITAR)
    ?.places.map((place) => `${place.string}/${place.fret}`)
    .join(' ');

describe('a grip', () => {
  it('is the one a hand would take: no gap where there is one without, a barre for many', () => {
    expect(places([43, 47, 50, 55, 59, 67])).toBe('6/3 5/2 4/0 3/0 2/0 1/3');
    expect(gripOf([48, 55, 60, 64, 67], GUITAR)).toMatchObject({ gaps: 0, fingers: 4 });
    // Six strings at the eighth fret with one finger over them.
    const barre = gripOf([48, 55, 60, 63, 67, 72], GUITAR);
    expect(barre).toMatchObject({ gaps: 0 });
    expect(barre?.fingers).toBeLessThanOrEqual(4);
    // A note and the one two octaves up leave strings out between.
    expect(gripOf([41, 65], GUITAR)?.gaps).toBeGreaterThan(2);
  });

  it('is none beyond the hand, the strings or the neck', () => {
    expect(gripOf([41, 41], GUITAR)).toBeNull();
    expect(gripOf([41, 55, 79], { ...GUITAR, open: [40, 45, 64] })).toBeNull();
    expect(gripOf([39], GUITAR)).toBeNull();
    expect(gripOf([64, 65, 66, 67, 68, 69, 70], GUITAR)).toBeNull();
  });

  it('gives each pitch a string of its own where it sounds, within the span, whatever is asked', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 38, max: 84 }), { minLength: 1, maxLength: 6 }), (pitches) => {
        const grip = gripOf(pitches, GUITAR);
        if (!grip) return;
        expect(new Set(grip.places.map((place) => place.string)).size).toBe(pitches.length);
        grip.places.forEach((place, i) => expect((GUITAR.open[6 - place.string] ?? 0) + place.fret).toBe(pitches[i]));
        const fretted = grip.places.map((place) => place.fret).filter((f) => f > 0);
        if (fretted.length > 0) expect(Math.max(...fretted) - Math.min(...fretted)).toBeLessThanOrEqual(4);
        expect(grip.fingers).toBeLessThanOrEqual(4);
      }),
    );
  });
});

describe('pitches together', () => {
  it('are plain, known or strange, in any key and octave', () => {
    fc.assert(
      fc.property(fc.integer({ min: 30, max: 60 }), fc.integer({ min: 0, max: 2 }), (root, octave) => {
        expect(strangeness([root, root + 4 + 12 * octave, root + 7])).toBe(0);
        expect(strangeness([root, root + 7])).toBe(0);
        expect(strangeness([root, root + 4, root + 7 + 12 * octave, root + 10])).toBe(1);
        expect(strangeness([root, root + 1, root + 2 + 12 * octave])).toBe(2);
      }),
    );
  });
});
