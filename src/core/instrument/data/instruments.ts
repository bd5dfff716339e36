import type { Instrument, InstrumentKind } from '../types';

const INCH = 25.4;

/** [open pitch thick to thin, gauge in thousandths of an inch, wound]. Gauges are sold in thousandths. */
type StringRow = readonly [pitch: number, thousandths: number, wound: boolean, course?: number];

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
    strings: strings.map(([pitch, thousandths, wound, course]) => ({
      pitch,
      gaugeMm: Math.round(thousandths * INCH) / 1000,
      wound,
      ...(course === undefined ? {} : { course }),
    })),
    scaleMm: body.scaleMm,
    frets: body.frets,
    easyFrets: body.easyFrets,
    nutSpacingMm: body.nut,
    bridgeSpacingMm: body.bridge,
  };
}

const GUITAR: readonly StringRow[] = [[40, 46, true], [45, 36, true], [50, 26, true], [55, 17, false], [59, 13, false], [64, 10, false]];
const ACOUSTIC: readonly StringRow[] = [[40, 53, true], [45, 42, true], [50, 32, true], [55, 24, true], [59, 16, false], [64, 12, false]];
const NYLON: readonly StringRow[] = [[40, 43, true], [45, 35, true], [50, 29, true], [55, 40, false], [59, 32, false], [64, 28, false]];
const BARITONE: readonly StringRow[] = [[35, 62, true], [40, 52, true], [45, 42, true], [50, 30, true], [54, 18, false], [59, 14, false]];
const BASS: readonly StringRow[] = [[28, 105, true], [33, 85, true], [38, 65, true], [43, 45, true]];

/** The catalogue: spacings are string centre to string centre over the whole width, usual shop values. */
export const INSTRUMENTS: readonly Instrument[] = [
  instrument('guitar-6', 'Electric guitar, 6 strings', 'electric', { scaleMm: 648, frets: 22, easyFrets: 17, nut: 35, bridge: 52 }, GUITAR),
  instrument('guitar-6-short', 'Electric guitar, short scale', 'electric', { scaleMm: 628, frets: 22, easyFrets: 16, nut: 35, bridge: 51 }, GUITAR),
  instrument('guitar-7', 'Electric guitar, 7 strings', 'electric', { scaleMm: 648, frets: 24, easyFrets: 19, nut: 41, bridge: 63 }, [[35, 59, true], ...GUITAR]),
  instrument('guitar-8', 'Electric guitar, 8 strings', 'electric', { scaleMm: 686, frets: 24, easyFrets: 19, nut: 48, bridge: 73 }, [[30, 74, true], [35, 59, true], ...GUITAR]),
  instrument('guitar-12', 'Guitar, 12 strings in 6 courses', 'acoustic', { scaleMm: 648, frets: 20, easyFrets: 14, nut: 40, bridge: 56 }, [
    [40, 46, true, 12], [45, 36, true, 12], [50, 26, true, 12], [55, 23, true, 12], [59, 14, false, 0], [64, 10, false, 0],
  ]),
  instrument('acoustic-6', 'Acoustic guitar', 'acoustic', { scaleMm: 645, frets: 20, easyFrets: 14, nut: 36, bridge: 55 }, ACOUSTIC),
  instrument('nylon-6', 'Nylon-string guitar', 'classical', { scaleMm: 650, frets: 19, easyFrets: 12, nut: 43, bridge: 58 }, NYLON),
  instrument('tenor-4', 'Tenor guitar', 'tenor', { scaleMm: 584, frets: 19, easyFrets: 14, nut: 24, bridge: 38 }, [[48, 32, true], [55, 24, true], [62, 14, false], [69, 10, false]]),
  instrument('baritone-27', 'Baritone guitar, 686 mm', 'baritone', { scaleMm: 686, frets: 24, easyFrets: 18, nut: 36, bridge: 54 }, BARITONE),
  instrument('baritone-30', 'Baritone guitar, 762 mm', 'baritone', { scaleMm: 762, frets: 22, easyFrets: 17, nut: 36, bridge: 54 }, BARITONE.map(([p, g, w]) => [p, g, w])),
  instrument('bass-4', 'Bass, 4 strings', 'bass', { scaleMm: 864, frets: 21, easyFrets: 16, nut: 30, bridge: 57 }, BASS),
  instrument('bass-4-short', 'Bass, short scale', 'bass', { scaleMm: 762, frets: 20, easyFrets: 15, nut: 30, bridge: 55 }, BASS),
  instrument('bass-5', 'Bass, 5 strings', 'bass', { scaleMm: 864, frets: 22, easyFrets: 17, nut: 37, bridge: 72 }, [[23, 130, true], ...BASS]),
  instrument('bass-6', 'Bass, 6 strings', 'bass', { scaleMm: 864, frets: 24, easyFrets: 18, nut: 44, bridge: 82 }, [[23, 130, true], ...BASS, [48, 32, true]]),
];
