import type { RackInstrument } from '../src/core/instrument';

/** What hangs on the rack of the Wicker Street pit band, and what its tuner log says. All invented. */

export interface DemoInstrument {
  /** The catalogue instrument it is a copy of. */
  readonly from: string;
  readonly id: string;
  readonly name: string;
  readonly description: string;
  /** What differs from the catalogue: scale and gauges in mm, thick to thin. */
  readonly scaleMm?: number;
  readonly gauges?: readonly number[];
  readonly tones: RackInstrument['tones'];
}

export const DEMO_INSTRUMENTS: readonly DemoInstrument[] = [
  {
    from: 'guitar-6',
    id: 'r-loft',
    name: 'Loft guitar',
    description: 'Hangs above the lighting board; heavy strings for the low tunings, third string slot filed wider.',
    gauges: [1.321, 1.067, 0.762, 0.457, 0.33, 0.279],
    tones: [
      {
        name: 'Moth',
        goal: 'thin and fluttering, for the moth’s entrances',
        knobs: [
          { device: 'amp', knob: 'gain', value: 3 },
          { device: 'amp', knob: 'treble', value: 7.5 },
          { device: 'echo', knob: 'time', value: 4 },
        ],
      },
      {
        name: 'Crank',
        goal: 'dark and grinding, never fizzy',
        knobs: [
          { device: 'amp', knob: 'gain', value: 6.5 },
          { device: 'amp', knob: 'bass', value: 5 },
          { device: 'amp', knob: 'treble', value: 4 },
        ],
      },
    ],
  },
  {
    from: 'guitar-12',
    id: 'r-twelve',
    name: 'Old twelve',
    description: 'For the finale; octave strings on the four thick courses.',
    tones: [],
  },
  {
    from: 'baritone-27',
    id: 'r-wings',
    name: 'Wings baritone',
    description: 'Lives behind the left wing.',
    tones: [
      {
        name: 'Rope',
        goal: 'round, the pluck heard before the note',
        knobs: [
          { device: 'amp', knob: 'gain', value: 2 },
          { device: 'amp', knob: 'bass', value: 6.5 },
        ],
      },
    ],
  },
  { from: 'bass-4', id: 'r-cellar', name: 'Cellar bass', description: 'Strings two seasons old.', tones: [] },
];

export const DEMO_TUNING = {
  name: 'Trapdoor',
  family: 'altered',
  spelling: 'D2 G2 D3 G3 A3 E4',
  instruments: ['r-loft'],
  source: 'Ours: open G with a second for a third, for the trapdoor scene.',
} as const;

/** Readings of the Loft guitar, in cents; some with the capo at fret 2, an octave check, a string that slips. */
export const DEMO_READINGS = [
  { string: 6, kind: 'open', capo: 0, cents: 0.4 },
  { string: 6, kind: 'capo', capo: 2, cents: 6.8 },
  { string: 5, kind: 'open', capo: 0, cents: -0.6 },
  { string: 5, kind: 'capo', capo: 2, cents: 3.1 },
  { string: 4, kind: 'open', capo: 0, cents: 0.2 },
  { string: 4, kind: 'capo', capo: 2, cents: 2.4 },
  { string: 3, kind: 'open', capo: 0, cents: -0.3 },
  { string: 3, kind: 'capo', capo: 2, cents: 5.9 },
  { string: 3, kind: 'harmonic12', capo: 0, cents: -0.4 },
  { string: 3, kind: 'stopped12', capo: 0, cents: 5.2 },
] as const;
