import { describe, expect, it } from 'vitest';
import { kindOfFile, putDropped, takeDropped } from './dropped';

describe('a dropped file', () => {
  it('is known by its name, whatever its case', () => {
    expect(['a.mid', 'B.MIDI', 'take 3.WAV', 'x.flac', 'x.ogg', 'x.m4a', 'x.mp3'].map(kindOfFile)).toEqual([
      ...['midi', 'midi', 'sound', 'sound', 'sound', 'sound', 'sound'],
    ]);
    expect(kindOfFile('song.pdf')).toBeNull();
    expect(kindOfFile('mid')).toBeNull();
  });

  it('waits for the page of its kind, and is taken once', () => {
    const file = new File(['x'], 'a.mid');
    putDropped('midi', file);
    expect(takeDropped('sound')).toBeNull();
    expect(takeDropped('midi')).toBe(file);
    expect(takeDropped('midi')).toBeNull();
  });
});
