import type { Instrument, InstrumentKind, StringKind } from '../types';

const INCH = 25.4;

/**
 * [open pitch thick to thin, gauge in thousandths of an inch, kind, and where it matters: unit weight in kg/m,
 * course]. Gauges are sold in thousandths.
 */
type StringRow = readonly [
  pitch: number,
  thousandths: number,
  kind: StringKind,
  unitWeight?: number | null,
  course?: readonly [semitones: number, thousandths: number, kind: StringKind],
];

const mm = (thousandths: number): number => Math.round(thousandths * INCH) / 1000;

function instrument(
  id: string,
  name: string,
  kind: InstrumentKind,
  body: { scaleMm: number; frets: number; easyFrets: number; nut: number; bridge: number },
  strings: readonly StringRow[],
): Instrument {
  return {
    id,
    name,
    kind,
    strings: strings.map(([pitch, thousandths, make, unitWeight, course]) => ({
      pitch,
      gaugeMm: mm(thousandths),
      kind: make,
      ...(unitWeight ? { unitWeight } : {}),
      ...(course ? { course: { semitones: course[0], gaugeMm: mm(course[1]), kind: course[2] } } : {}),
    })),
    scaleMm: body.scaleMm,
    frets: body.frets,
    easyFrets: body.easyFrets,
    nutSpacingMm: body.nut,
    bridgeSpacingMm: body.bridge,
    handed: 'right',
  };
}

const GUITAR: readonly StringRow[] = [
  [40, 46, 'wound'],
  [45, 36, 'wound'],
  [50, 26, 'wound'],
  [55, 17, 'plain'],
  [59, 13, 'plain'],
  [64, 10, 'plain'],
];
const ACOUSTIC: readonly StringRow[] = [
  [40, 53, 'wound'],
  [45, 42, 'wound'],
  [50, 32, 'wound'],
  [55, 24, 'wound'],
  [59, 16, 'plain'],
  [64, 12, 'plain'],
];
/** Wound nylon has a floss core, so no formula fits it: unit weights as makers state them for a medium set. */
const NYLON: readonly StringRow[] = [
  [40, 43, 'nylon-wound', 0.00597],
  [45, 35, 'nylon-wound', 0.00346],
  [50, 29, 'nylon-wound', 0.00192],
  [55, 40, 'nylon'],
  [59, 32, 'nylon'],
  [64, 28, 'nylon'],
];
const BARITONE: readonly StringRow[] = [
  [35, 62, 'wound'],
  [40, 52, 'wound'],
  [45, 42, 'wound'],
  [50, 30, 'wound'],
  [54, 18, 'plain'],
  [59, 14, 'plain'],
];
const BASS: readonly StringRow[] = [
  [28, 105, 'wound'],
  [33, 85, 'wound'],
  [38, 65, 'wound'],
  [43, 45, 'wound'],
];

/** The catalogue: spacings are string centre to string centre over the whole width, usual shop values. */
export const INSTRUMENTS: readonly Instrument[] = [
  instrument(
    'guitar-6',
    'Electric guitar, 6 strings',
    'electric',
    { scaleMm: 648, frets: 22, easyFrets: 17, nut: 35, bridge: 52 },
    GUITAR,
  ),
  instrument(
    'guitar-6-short',
    'Electric guitar, short scale',
    'electric',
    { scaleMm: 628, frets: 22, easyFrets: 16, nut: 35, bridge: 51 },
    GUITAR,
  ),
  instrument(
    'guitar-7',
    'Electric guitar, 7 strings',
    'electric',
    { scaleMm: 648, frets: 24, easyFrets: 19, nut: 41, bridge: 63 },
    [[35, 59, 'wound'], ...GUITAR],
  ),
  instrument(
    'guitar-8',
    'Electric guitar, 8 strings',
    'electric',
    { scaleMm: 686, frets: 24, easyFrets: 19, nut: 48, bridge: 73 },
    [[30, 74, 'wound'], [35, 59, 'wound'], ...GUITAR],
  ),
  instrument(
    'guitar-12',
    'Guitar, 12 strings in 6 courses',
    'acoustic',
    { scaleMm: 648, frets: 20, easyFrets: 14, nut: 40, bridge: 56 },
    [
      [40, 46, 'wound', null, [12, 23, 'wound']],
      [45, 36, 'wound', null, [12, 18, 'wound']],
      [50, 26, 'wound', null, [12, 12, 'plain']],
      [55, 20, 'wound', null, [12, 8, 'plain']],
      [59, 14, 'plain', null, [0, 14, 'plain']],
      [64, 10, 'plain', null, [0, 10, 'plain']],
    ],
  ),
  instrument(
    'acoustic-6',
    'Acoustic guitar',
    'acoustic',
    { scaleMm: 645, frets: 20, easyFrets: 14, nut: 36, bridge: 55 },
    ACOUSTIC,
  ),
  instrument(
    'nylon-6',
    'Nylon-string guitar',
    'classical',
    { scaleMm: 650, frets: 19, easyFrets: 12, nut: 43, bridge: 58 },
    NYLON,
  ),
  instrument('tenor-4', 'Tenor guitar', 'tenor', { scaleMm: 584, frets: 19, easyFrets: 14, nut: 24, bridge: 38 }, [
    [48, 32, 'wound'],
    [55, 24, 'wound'],
    [62, 14, 'plain'],
    [69, 10, 'plain'],
  ]),
  instrument(
    'baritone-27',
    'Baritone guitar, 686 mm',
    'baritone',
    { scaleMm: 686, frets: 24, easyFrets: 18, nut: 36, bridge: 54 },
    BARITONE,
  ),
  instrument(
    'baritone-30',
    'Baritone guitar, 762 mm',
    'baritone',
    { scaleMm: 762, frets: 22, easyFrets: 17, nut: 36, bridge: 54 },
    [
      [35, 60, 'wound'],
      [40, 46, 'wound'],
      [45, 36, 'wound'],
      [50, 26, 'wound'],
      [54, 17, 'plain'],
      [59, 13, 'plain'],
    ],
  ),
  instrument(
    'bass-4',
    'Bass, 4 strings',
    'bass',
    { scaleMm: 864, frets: 21, easyFrets: 16, nut: 30, bridge: 57 },
    BASS,
  ),
  instrument(
    'bass-4-short',
    'Bass, short scale',
    'bass',
    { scaleMm: 762, frets: 20, easyFrets: 15, nut: 30, bridge: 55 },
    BASS,
  ),
  instrument('bass-5', 'Bass, 5 strings', 'bass', { scaleMm: 864, frets: 22, easyFrets: 17, nut: 37, bridge: 72 }, [
    [23, 130, 'wound'],
    ...BASS,
  ]),
  instrument('bass-6', 'Bass, 6 strings', 'bass', { scaleMm: 864, frets: 24, easyFrets: 18, nut: 44, bridge: 82 }, [
    [23, 130, 'wound'],
    ...BASS,
    [48, 32, 'wound'],
  ]),
];
