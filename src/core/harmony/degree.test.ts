import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { degreeOver, degreeOverNote, parseChord } from './index';

describe('degrees', () => {
  it('are told over the root, by the chord’s own names where it has them', () => {
    const over = (chord: string, ...notes: number[]): string =>
      notes.map((midi) => degreeOver(midi, must(parseChord(chord)))).join(' ');
    expect(over('Am', 45, 48, 52, 55)).toBe('1 ♭3 5 ♭7');
    expect(over('F#dim', 54, 57, 60)).toBe('1 ♭3 ♭5');
    expect(over('Caug', 48, 52, 56)).toBe('1 3 ♯5');
    expect(over('Cadd9', 50, 53, 54)).toBe('9 4 ♯4');
    // One riff over three chords has three sets of degrees.
    expect([over('A', 57, 60, 64), over('G', 57, 60, 64), over('D', 57, 60, 64)]).toEqual([
      '1 ♭3 5',
      '2 4 6',
      '5 ♭7 2',
    ]);
    expect([degreeOverNote(52, 'A'), degreeOverNote(52, 'C'), degreeOverNote(52, '?')]).toEqual(['5', '3', null]);
  });
});
