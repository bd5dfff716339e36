import { expose, transfer } from 'comlink';
import type { Setup } from '@/core/instrument';
import type { Riff } from '@/core/score';
import { renderRiff, type Rendered, type RenderOptions } from '@/core/synth';
import type { TempoStep } from '@/core/time';

/** The door to core/synth. */
const door = {
  render(riff: Riff, setup: Setup, tempo: readonly TempoStep[], options: RenderOptions): Rendered {
    const rendered = renderRiff(riff, setup, tempo, options);
    return transfer(rendered, [rendered.samples.buffer as ArrayBuffer]);
  },
};

export type SynthDoor = typeof door;
expose(door);
