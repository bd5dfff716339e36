import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import {
  checkScale,
  classesOf,
  gripWords,
  keyFit,
  keyOn,
  keysOf,
  namesOf,
  parseScale,
  scaleFit,
  scaleName,
  scalesFor,
  SCALES,
} from './index';

const named = (
  pitches: readonly number[],
  bass: number | null = null,
  key: Parameters<typeof namesOf>[0]['key'] = null,
) => namesOf({ pitches, bass, key }).map((one) => one.sounding);

describe('names of what sounds', () => {
  it('are the plain chord over its bass', () => {
    expect(named([40, 47, 52, 56, 59, 64])[0]).toBe('E');
    expect(named([52, 55, 60])[0]).toBe('C/E');
    expect(named([48, 57, 64])[0]).toBe('Am/C');
    expect(named([45, 48, 52, 55])[0]).toBe('Am7');
    expect(named([48, 52, 55, 57])[0]).toBe('C6');
    expect(named([48, 53, 55])[0]).toBe('Csus4');
  });

  it('call a fourth a power chord with its root on top, and never a minor chord', () => {
    const [first] = namesOf({ pitches: [47, 52] });
    expect(first?.sounding).toBe('E5/B');
    expect(first?.why).toContain('its root E is on top');
    expect(first && gripWords(first)).toContain('inverted power chord');
    const [fifth] = namesOf({ pitches: [40, 47] });
    expect(fifth?.sounding).toBe('E5');
    expect(fifth && gripWords(fifth)).toBe('power chord');
    expect(fifth?.why).toContain('neither major nor minor');
  });

  it('make one chord of a grip and the bass under it', () => {
    expect(named([40, 47], 0)[0]).toBe('Cmaj7');
    expect(named([45, 48, 52], 5)[0]).toBe('Fmaj7');
    expect(namesOf({ pitches: [40, 47], bass: 0 })[0]?.why).toContain('the bass has C');
  });

  it('say that a third is missing, and that a fifth is', () => {
    expect(named([48, 55, 58])[0]).toBe('C7 no 3');
    expect(namesOf({ pitches: [48, 52] })[0]).toMatchObject({
      sounding: 'C',
      why: expect.stringContaining('no fifth'),
    });
  });

  it('are those of the shape too, where the set-up has one', () => {
    const { setup } = must(makeSetup({ instrument: 'guitar-6', capo: 2 }));
    expect(namesOf({ pitches: [50, 54, 57], setup })[0]).toMatchObject({ sounding: 'D', shape: 'C' });
    const open = must(makeSetup({ instrument: 'guitar-6', tuning: 'D A D F# A D' })).setup;
    expect(namesOf({ pitches: [50, 54, 57], setup: open })[0]?.shape).toBeNull();
  });

  it('are none for one note, and hold every note they are given', () => {
    expect(namesOf({ pitches: [40, 52] })).toEqual([]);
    expect(namesOf({ pitches: [] })).toEqual([]);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 40, max: 76 }), { minLength: 2, maxLength: 6 }), (pitches) => {
        for (const { chord } of namesOf({ pitches })) {
          const held = new Set([...classesOf(chord), Math.min(...pitches) % 12]);
          for (const midi of pitches) expect(held.has(midi % 12)).toBe(true);
        }
      }),
    );
  });

  it('move with the notes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 40, max: 60 }), { minLength: 2, maxLength: 5 }),
        fc.integer({ min: 0, max: 11 }),
        (pitches, by) => {
          const kinds = (list: readonly number[]) =>
            namesOf({ pitches: list })
              .map(({ chord }) => chord.kind)
              .sort();
          expect(kinds(pitches.map((midi) => midi + by))).toEqual(kinds(pitches));
        },
      ),
    );
  });
});

describe('scales', () => {
  it('are read as they are said', () => {
    expect(must(parseScale('all A minor pentatonic'))).toMatchObject({
      tonic: { letter: 'A' },
      scale: { id: 'minor-pentatonic' },
    });
    expect(must(parseScale('this is Dorian'))).toMatchObject({ tonic: null, scale: { id: 'dorian' } });
    expect(must(parseScale('in F# major')).tonic).toMatchObject({ letter: 'F', alteration: 1 });
    expect(must(parseScale('D Dorian mode')).scale.id).toBe('dorian');
    expect(parseScale('A').ok).toBe(false);
    expect(parseScale('a nice tune').ok).toBe(false);
  });

  it('name the note that breaks a claim, and what would hold', () => {
    const checked = checkScale([57, 60, 62, 64, 67, 63], must(parseScale('A minor pentatonic')));
    expect(checked.outside).toEqual([{ index: 5, midi: 63 }]);
    expect(checked.better.map((one) => scaleName(one.tonic, one.scale))).toContain('A blues');
    expect(
      checkScale([50, 52, 53, 55, 57, 58, 60], must(parseScale('Dorian')), { tonic: 'D', mode: 'minor' }),
    ).toMatchObject({ tonic: 2, outside: [{ midi: 58 }] });
  });

  it('fit their own notes from any tonic, and the best for them holds all of them', () => {
    fc.assert(
      fc.property(fc.constantFrom(...SCALES), fc.integer({ min: 0, max: 11 }), (scale, tonic) => {
        const pitches = scale.steps.map((step) => 48 + tonic + step);
        expect(scaleFit(pitches, scale, tonic)).toEqual({ share: 1, outside: [] });
        expect(scalesFor(pitches, tonic)[0]?.outside).toEqual([]);
      }),
    );
  });
});

describe('the key of notes', () => {
  const line = (pitches: readonly number[]) => pitches.map((midi) => ({ midi, weight: 1 }));

  it('is found with how sure it is', () => {
    const [first] = keysOf(line([57, 60, 64, 62, 60, 59, 57, 64, 57]));
    expect(first?.key).toEqual({ tonic: 'A', mode: 'minor' });
    expect(first?.sure).toBeGreaterThan(0.4);
    expect(keysOf([])).toEqual([]);
    expect(keysOf(line([60, 64, 67, 65, 62, 59, 60]))[0]?.key).toEqual({ tonic: 'C', mode: 'major' });
  });

  it('moves with the notes, and its shares are one in all', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 40, max: 70 }), { minLength: 5, maxLength: 20 }),
        fc.integer({ min: 0, max: 11 }),
        (pitches, by) => {
          const keys = keysOf(line(pitches));
          expect(keys.reduce((sum, one) => sum + one.sure, 0)).toBeCloseTo(1, 6);
          const moved = keysOf(line(pitches.map((midi) => midi + by)));
          expect(moved[0]?.sure).toBeCloseTo(keys[0]?.sure ?? 0, 6);
        },
      ),
    );
  });

  it('is spelled with the fewest signs', () => {
    expect(keyOn(10, 'major').tonic).toBe('Bb');
    expect(keyOn(1, 'minor').tonic).toBe('C#');
    expect(keyFit(line([60, 64, 67]), { tonic: 'C', mode: 'major' })?.inside).toBe(1);
  });
});
