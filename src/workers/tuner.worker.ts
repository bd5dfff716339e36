import { expose, transfer } from 'comlink';
import { Ear } from '@/core/listen';
import { Needle, renderPluck, type Shown, type Target } from '@/core/tuner';

let ear: Ear | null = null;
let needle = new Needle([]);

/** The door to the tuner: the same ear and needle for a microphone and for the simulated instrument. */
const door = {
  begin(rate: number, targets: readonly Target[]): void {
    ear = new Ear(rate);
    needle = new Needle(targets);
  },
  aim(targets: readonly Target[]): void {
    needle.setTargets(targets);
  },
  fix(string: number | null): void {
    needle.fix(string);
  },
  /** Takes a block of sound; gives what the needle shows after it, or null where nothing was heard in it. */
  push(block: Float32Array): Shown | null {
    let shown: Shown | null = null;
    for (const hearing of ear?.push(block) ?? []) shown = needle.hear(hearing);
    return shown;
  },
  pluck(hz: number, seconds: number, rate: number, seed: number): Float32Array {
    const sound = renderPluck(hz, seconds, rate, seed);
    return transfer(sound, [sound.buffer]);
  },
};

export type TunerDoor = typeof door;
expose(door);
