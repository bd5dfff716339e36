import { describe, expect, it } from 'vitest';
import { keepSounds, keptSounds } from './kept-sounds';
import { FIRST_SOUNDS } from './sounds';

function store() {
  const kept = new Map<string, string>();
  return {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    kept,
  };
}

describe('what sounds beside a piece', () => {
  it('is kept by piece, but not which reading sounds in turn', () => {
    const device = store();
    const settings = {
      ...FIRST_SOUNDS,
      backing: ['bass' as const],
      countIn: 2 as const,
      turn: 'reading1',
      strips: { click: { level: 30, muted: false, solo: true } },
      ladder: { ...FIRST_SOUNDS.ladder, on: true, from: 50 },
    };
    keepSounds('one', settings, device);
    expect(keptSounds('one', device)).toEqual({ ...settings, turn: undefined });
    expect(keptSounds('two', device)).toBeNull();
  });

  it('falls back where what is kept makes no sense, or nothing can be kept', () => {
    const device = store();
    for (const text of [
      '',
      'no json',
      '{}',
      '[]',
      JSON.stringify({ ...FIRST_SOUNDS, countIn: 9 }),
      JSON.stringify({ ...FIRST_SOUNDS, ladder: { on: true, from: 1, to: 5000, step: 0, times: 1 } }),
    ]) {
      device.kept.set('sounds:one', text);
      expect(keptSounds('one', device)).toBeNull();
    }
    const full = {
      getItem: () => {
        throw new Error('closed');
      },
      setItem: () => {
        throw new Error('full');
      },
    };
    keepSounds('one', FIRST_SOUNDS, full);
    expect(keptSounds('one', full)).toBeNull();
  });
});
