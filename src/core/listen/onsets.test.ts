import { describe, expect, it } from 'vitest';
import { renderPluck } from '../tuner';
import { onsetsIn } from './index';

const RATE = 44_100;

/** Strings struck at given times, each damped by the next, with a little noise. */
function struck(times: readonly number[], hz: number, noise = 0.002): Float32Array {
  const sound = new Float32Array(Math.ceil(((times.at(-1) ?? 0) + 0.8) * RATE));
  let seed = 7;
  for (let i = 0; i < sound.length; i++) {
    seed = (seed * 1103515245 + 12345) % 2147483648;
    sound[i] = noise * (seed / 1073741824 - 1);
  }
  times.forEach((t, index) => {
    const pluck = renderPluck(hz, Math.min(0.8, (times[index + 1] ?? Infinity) - t), RATE, index + 1);
    const start = Math.round(t * RATE);
    pluck.forEach((v, i) => {
      if (start + i < sound.length) sound[start + i] = (sound[start + i] ?? 0) + v;
    });
  });
  return sound;
}

describe('onsets', () => {
  it.each([
    [41, 0.35],
    [82.4, 0.2],
    [196, 0.125],
    [440, 0.1],
  ])('of strings at %d Hz every %d s are found, each within 15 ms and none beside', (hz, gap) => {
    const times = Array.from({ length: 12 }, (_, i) => 0.2 + i * gap + (i % 3) * 0.013);
    const found = onsetsIn(struck(times, hz), RATE);
    expect(found).toHaveLength(times.length);
    found.forEach((one, i) => expect(Math.abs(one - (times[i] ?? 0))).toBeLessThan(0.015));
  });

  it('are none in silence and in steady noise', () => {
    expect(onsetsIn(new Float32Array(RATE), RATE)).toEqual([]);
    expect(onsetsIn(struck([0.9], 110, 0.05).slice(0, Math.round(0.85 * RATE)), RATE).length).toBeLessThan(3);
  });

  it('refuse what is no sound rate and what is too long', () => {
    expect(() => onsetsIn(new Float32Array(10), 100)).toThrow('100 samples');
    expect(() => onsetsIn(new Float32Array(901 * 8000), 8000)).toThrow('longer');
  });
});
