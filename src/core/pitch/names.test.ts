import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  asciiPitch,
  fifthsOf,
  frequency,
  keyName,
  noteName,
  parseName,
  parsePitch,
  pitchClass,
  renderName,
  shiftKey,
  spell,
  type Key,
} from './index';

const TONICS = ['C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#', 'G#', 'D#', 'F', 'Bb', 'Eb', 'Ab', 'Db', 'Gb'];
const key = fc.record({ tonic: fc.constantFrom(...TONICS), mode: fc.constantFrom('major' as const, 'minor' as const) });

describe('spelling', () => {
  it('follows the key: a minor third above C sharp in C sharp minor is E, in A flat major pitch class 8 is A flat', () => {
    expect(renderName(spell(4, { tonic: 'C#', mode: 'minor' }))).toBe('E');
    expect(renderName(spell(8, { tonic: 'Ab', mode: 'major' }))).toBe('A♭');
    expect(renderName(spell(6, { tonic: 'G', mode: 'major' }))).toBe('F♯');
    expect(renderName(spell(0, { tonic: 'C#', mode: 'major' }))).toBe('B♯');
  });

  it('spells every degree of a major scale on seven different letters', () => {
    fc.assert(
      fc.property(fc.constantFrom(...TONICS), (tonic) => {
        const spelled = parseName(tonic);
        if (!spelled) throw new Error(tonic);
        const letters = [0, 2, 4, 5, 7, 9, 11].map(
          (s) => spell((pitchClass(spelled) + s) % 12, { tonic, mode: 'major' }).letter,
        );
        expect(new Set(letters).size).toBe(7);
        expect(letters[0]).toBe(spelled.letter);
      }),
    );
  });

  it('spells every degree of a natural minor scale on seven different letters', () => {
    for (const tonic of ['A', 'E', 'B', 'F#', 'C#', 'G#', 'D', 'G', 'C', 'F', 'Bb', 'Eb']) {
      const spelled = parseName(tonic);
      const letters = [0, 2, 3, 5, 7, 8, 10].map(
        (s) => spell(((spelled ? pitchClass(spelled) : 0) + s) % 12, { tonic, mode: 'minor' }).letter,
      );
      expect(new Set(letters).size).toBe(7);
    }
  });

  it('always spells the pitch class it was given', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 11 }), key, (pc, one) => {
        expect(pitchClass(spell(pc, one))).toBe(pc);
      }),
    );
  });
});

describe('names', () => {
  it('round-trips pitches through their names with octave, in every key', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 127 }), fc.option(key, { nil: null }), (midi, one) => {
        expect(parsePitch(asciiPitch(midi, one))).toBe(midi);
      }),
    );
  });

  it('counts octaves by letter, so that B sharp 3 is middle C and C flat 4 the B below', () => {
    expect(parsePitch('B#3')).toBe(60);
    expect(parsePitch('Cb4')).toBe(59);
    expect(noteName(60, { octave: true })).toBe('C4');
  });

  it('renders letters, syllables and German letters of one model', () => {
    const flat = { letter: 'B', alteration: -1 } as const;
    expect([renderName(flat), renderName(flat, 'solfege'), renderName(flat, 'german')]).toEqual(['B♭', 'Si♭', 'B']);
    expect(renderName({ letter: 'B', alteration: 0 }, 'german')).toBe('H');
  });

  it('refuses what is no name', () => {
    for (const text of ['H', '', 'C###', 'note', '4', 'C4x']) expect(parseName(text)).toBeNull();
    expect(parsePitch('D')).toBeNull();
  });
});

describe('keys', () => {
  it('shift by semitones with at most six signs', () => {
    fc.assert(
      fc.property(key, fc.integer({ min: -12, max: 12 }), (one, by) => {
        const shifted: Key = shiftKey(one, by);
        const from = parseName(one.tonic);
        const to = parseName(shifted.tonic);
        if (!from || !to) throw new Error('unreadable');
        expect(pitchClass(to)).toBe((((pitchClass(from) + by) % 12) + 12) % 12);
        const signs = fifthsOf(to) - (one.mode === 'major' ? 1 : 4);
        expect(Math.abs(signs)).toBeLessThanOrEqual(6);
      }),
    );
  });

  it('is named with its mode', () => {
    expect(keyName(shiftKey({ tonic: 'D', mode: 'minor' }, -2))).toBe('C minor');
  });
});

describe('frequency', () => {
  it('is equal temperament around a settable A4', () => {
    expect(frequency(69)).toBe(440);
    expect(frequency(60)).toBeCloseTo(261.6256, 3);
    expect(frequency(69, 100, 432)).toBeCloseTo(frequency(70, 0, 432), 9);
    expect(() => frequency(69, 0, 379)).toThrow(RangeError);
  });
});
