import { expose, transfer } from 'comlink';
import { onsetsIn } from '@/core/listen';
import { renderPluck } from '@/core/tuner';

/** The door to finding strokes in a sound, and to a simulated player for want of a microphone. */
const door = {
  onsets(samples: Float32Array, rate: number): number[] {
    return onsetsIn(samples, rate);
  },
  /** Strikes a string at each of the times (seconds): what a microphone would have heard. */
  strike(times: readonly number[], hz: number, rate: number, seed: number): Float32Array {
    const sound = new Float32Array(Math.ceil(((times.at(-1) ?? 0) + 1) * rate));
    times.forEach((t, i) => {
      const until = Math.min(0.8, (times[i + 1] ?? Infinity) - t);
      const pluck = renderPluck(hz, Math.max(0.05, until), rate, seed + i);
      const start = Math.round(t * rate);
      for (let k = 0; k < pluck.length && start + k < sound.length; k++)
        sound[start + k] = (sound[start + k] ?? 0) + (pluck[k] ?? 0);
    });
    return transfer(sound, [sound.buffer]);
  },
};

export type OnsetDoor = typeof door;
expose(door);
