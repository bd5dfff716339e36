import { expose, transfer } from 'comlink';
import { mixed, RENDER_SECONDS, Stream, type Balance, type Block, type StreamPlan } from '@/core/synth';

/** The door to core/synth: streams that are drawn from as they are heard, the newest only, and mixes to keep. */
let stream: { readonly id: number; readonly of: Stream } | null = null;

const door = {
  /** Begins a stream, and its first block; the one before it ends. */
  open(id: number, plan: StreamPlan, frames: number): Block | null {
    stream = { id, of: new Stream(plan) };
    return door.next(id, frames);
  },

  /** The next block; null at the end, and where another stream was begun meanwhile. */
  next(id: number, frames: number): Block | null {
    const block = stream?.id === id ? stream.of.next(frames) : null;
    return (
      block &&
      transfer(
        block,
        [...block.tracks, block.click].map((voice) => voice.buffer as ArrayBuffer),
      )
    );
  },

  mix(plan: StreamPlan, balance: readonly Balance[]): Float32Array[] {
    const channels = mixed(plan, balance, RENDER_SECONDS);
    return transfer(
      channels,
      channels.map((samples) => samples.buffer as ArrayBuffer),
    );
  },
};

export type SynthDoor = typeof door;
expose(door);
