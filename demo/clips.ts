import type { TakeOptions } from '../src/core/synth';

/** Takes of the pit band, as its instructor would have them on the desk. */
export interface DemoClip {
  readonly piece: string;
  readonly riff: string;
  readonly name: string;
  readonly take: Partial<TakeOptions>;
}

export const DEMO_CLIPS: readonly DemoClip[] = [
  {
    piece: 'Lantern Crank',
    riff: 'Verse',
    name: 'Rehearsal, with drums',
    take: { seed: 11, cents: -14, drums: 0.6, drive: 2, room: 0.2 },
  },
  {
    piece: 'Strings for a Wooden Fox',
    riff: 'Fox runs',
    name: 'Fox runs, from the desk',
    take: { seed: 12, cents: 6, point: 0.09, hiss: 0.002 },
  },
  {
    piece: 'Cellar Stairs',
    riff: 'Stairs',
    name: 'Stairs, in the cellar',
    take: { seed: 13, cents: -5, room: 0.35, hum: 0.003 },
  },
];
