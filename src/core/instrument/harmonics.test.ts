import { describe, expect, it } from 'vitest';
import { HARMONIC_NODES, harmonicAt } from './index';

describe('natural harmonics', () => {
  it('lie where the string is divided: twelfth fret the octave, seventh the twelfth, fifth two octaves', () => {
    expect(harmonicAt(12)).toMatchObject({ fret: 12, partial: 2, semitones: 12, cents: 0 });
    expect(harmonicAt(7)).toMatchObject({ partial: 3, semitones: 19, cents: 2 });
    expect(harmonicAt(5)).toMatchObject({ partial: 4, semitones: 24 });
    expect(harmonicAt(19)).toMatchObject({ partial: 3, semitones: 19 });
  });
  it('are told as players say them: 3.2, 2.7, 3.9, and the clearer one where two lie near a fret', () => {
    expect(HARMONIC_NODES.map((node) => node.fret)).toEqual(expect.arrayContaining([3.2, 2.7, 2.3, 3.9, 8.8, 15.9]));
    expect(harmonicAt(3)?.partial).toBe(6);
    expect(harmonicAt(2.7)?.partial).toBe(7);
    expect(harmonicAt(4)?.partial).toBe(5);
  });
  it('lie off equal temperament by known cents: the fifth partial 14 flat, the seventh 31 flat', () => {
    expect(harmonicAt(4)?.cents).toBe(-14);
    expect(harmonicAt(2.7)?.cents).toBe(-31);
  });
  it('are nowhere else', () => {
    for (const fret of [1, 6, 8, 10, 11, 14, 18]) expect(harmonicAt(fret), String(fret)).toBeNull();
  });
});
