import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, pathWords } from '../base';
import {
  checkInstrument,
  clockOf,
  describeRackChange,
  INSTRUMENTS,
  makeSetup,
  readKnob,
  readRack,
  writeRack,
  type Instrument,
  type RackInstrument,
} from './index';

const guitar = INSTRUMENTS[0] as Instrument;
const faultOf = (change: Partial<Instrument>): string => {
  const checked = checkInstrument({ ...guitar, ...change });
  return checked.ok
    ? `asks: ${checked.value.map((question) => question.message).join(' ')}`
    : `${pathWords(checked.error.locus)}: ${checked.error.words}`;
};
const strings = (
  change: (string: Instrument['strings'][number], i: number) => Instrument['strings'][number],
): Partial<Instrument> => ({ strings: guitar.strings.map(change) });

describe('an instrument', () => {
  it('of the catalogue needs no question', () => {
    for (const instrument of INSTRUMENTS) expect(must(checkInstrument(instrument)), instrument.id).toEqual([]);
  });
  it('that can’t exist is refused at its field', () => {
    expect(faultOf({ strings: [] })).toBe('strings: An instrument without strings: give it 3 to 12.');
    expect(faultOf({ strings: guitar.strings.slice(0, 2) })).toContain('2 strings: give it 3 to 12');
    expect(faultOf({ scaleMm: 200 })).toContain('between 300 and 1200');
    expect(faultOf({ frets: 0 })).toContain('frets: 0 frets');
    expect(faultOf({ easyFrets: 40 })).toContain('body joint');
    expect(faultOf({ nutSpacingMm: 0 })).toContain('nutSpacingMm');
    expect(faultOf({ bridgeSpacingMm: 900 })).toContain('bridgeSpacingMm');
    expect(faultOf(strings((string, i) => (i === 5 ? { ...string, gaugeMm: 0 } : string)))).toContain(
      'strings.1: A gauge of 0 mm',
    );
    expect(faultOf(strings((string, i) => (i === 0 ? { ...string, gaugeMm: 46 } : string)))).toContain(
      '46 is 1.168 mm',
    );
    expect(faultOf(strings((string, i) => (i === 0 ? { ...string, unitWeight: 4 } : string)))).toContain(
      'kilograms a metre',
    );
    expect(
      faultOf(
        strings((string, i) => (i === 0 ? { ...string, course: { semitones: 5, gaugeMm: 1, kind: 'wound' } } : string)),
      ),
    ).toContain('an octave away');
    expect(faultOf(strings((string, i) => (i === 0 ? { ...string, scaleMm: 27 } : string)))).toContain(
      '27 in is 686 mm',
    );
    expect(faultOf(strings((string, i) => (i === 0 ? { ...string, pitch: 120 } : string)))).toContain(
      'no pitch a string can have',
    );
  });
  it('that looks like a slip is asked about', () => {
    expect(must(checkInstrument({ ...guitar, scaleMm: 25.5 }))).toEqual([
      { at: 'scaleMm', message: 'A scale of 25.5 mm looks like inches: 25.5 in is 648 mm.', instead: 648 },
    ]);
    expect(faultOf({ scaleMm: 760 })).toContain('asks: 760 mm is an unusual scale');
    expect(faultOf(strings((string, i) => (i === 5 ? { ...string, gaugeMm: 0.01 } : string)))).toContain(
      'looks like inches: 0.01 in is 0.254 mm',
    );
    expect(faultOf({ nutSpacingMm: 60 })).toContain('swapped');
    expect(faultOf(strings((string, i) => (i === 4 ? { ...string, gaugeMm: 0.6 } : string)))).toContain(
      'thicker than its lower neighbour',
    );
  });
  it('of one’s own makes a set-up like any other', () => {
    const own: Instrument = { ...guitar, id: 'r-7', name: 'Loft guitar', scaleMm: 660 };
    expect(must(makeSetup({ instrument: own, tuning: 'drop-d', capo: 2 })).setup.instrument.name).toBe('Loft guitar');
    const inches = makeSetup({ instrument: 'guitar-6', scaleMm: 25.5 });
    expect(inches.ok ? '' : inches.error.rule).toBe('inches');
  });
});

describe('knobs', () => {
  it('are numbers and clock places at once', () => {
    expect([0, 2.5, 5, 7, 10].map(clockOf)).toEqual(['7:00', '9:30', '12:00', '2:00', '5:00']);
    expect([
      must(readKnob('6')),
      must(readKnob('12:00')),
      must(readKnob("3 o'clock")),
      must(readKnob('1:30')),
      must(readKnob('7,5')),
    ]).toEqual([6, 5, 8, 6.5, 7.5]);
    for (const bad of ['', '11', '-1', '6:00', '25:00', '1:75', 'loud']) expect(readKnob(bad).ok, bad).toBe(false);
  });
  it('agree with themselves to the quarter hour', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 10, noNaN: true }), (value) => {
        expect(Math.abs(must(readKnob(clockOf(value))) - value)).toBeLessThanOrEqual(0.126);
      }),
    );
  });
});

describe('the rack', () => {
  const one: RackInstrument = {
    instrument: {
      ...guitar,
      id: 'r-1',
      name: 'Loft guitar',
      strings: guitar.strings.map((string, i) =>
        i === 0
          ? { ...string, course: { semitones: 12, gaugeMm: 0.6, kind: 'wound' as const }, unitWeight: 0.006 }
          : string,
      ),
    },
    description: 'Scratched behind the bridge',
    tones: [{ name: 'Rain', goal: 'thin and far', knobs: [{ device: 'amp', knob: 'treble', value: 7 }] }],
  };
  const tuning = {
    id: 'own-1',
    name: 'Loft',
    family: 'modal' as const,
    spelling: 'D2 A2 D3 G3 A3 E4',
    instruments: ['r-1'],
    source: 'ours',
  };

  it('goes out as JSON and comes in the same', () => {
    const { instruments, tunings, questions } = must(readRack(writeRack({ instruments: [one], tunings: [tuning] })));
    expect(instruments).toEqual([one]);
    expect(tunings).toEqual([tuning]);
    expect(questions).toEqual([]);
  });
  it('says what is wrong where', () => {
    const why = (text: string): string => {
      const read = readRack(text);
      return read.ok ? 'ok' : `${pathWords(read.error.locus)}: ${read.error.words}`;
    };
    const with_ = (change: object): string =>
      writeRack({ instruments: [{ ...one, instrument: { ...one.instrument, ...change } }], tunings: [] });
    expect(why('{')).toContain('no JSON');
    expect(why('{"format":"other"}')).toContain('format');
    expect(why(with_({ scaleMm: 'long' }))).toContain('instruments.0.instrument.scaleMm');
    expect(why(with_({ frets: 24, easyFrets: 30 }))).toContain('Loft guitar: The body joint');
    expect(why(writeRack({ instruments: [], tunings: [{ ...tuning, spelling: 'D A D' }] }))).toContain(
      'tunings.0.spelling',
    );
    expect(why(JSON.stringify({ format: 'intonazione-rack', version: 9 }))).toContain('newer program');
    expect(why(' '.repeat(4_000_001))).toContain('over 4 MB');
  });
  it('says what changed, a line a thing', () => {
    expect(describeRackChange(null, one)).toEqual(['put on the rack as Loft guitar']);
    expect(describeRackChange(one, one)).toEqual([]);
    const changed: RackInstrument = {
      ...one,
      description: 'x',
      tones: [],
      instrument: {
        ...one.instrument,
        scaleMm: 650,
        handed: 'left',
        strings: one.instrument.strings.map((string, i) =>
          i === 5 ? { ...string, gaugeMm: 0.279, pitch: 62 } : i === 0 ? { ...string, course: undefined } : string,
        ),
      },
    };
    expect(describeRackChange(one, changed)).toEqual([
      'scale from 648 to 650',
      'handedness from right to left',
      'string 6: course, length or weight changed',
      'string 1 from 0.254 mm plain to 0.279 mm plain',
      'string 1 made for D4 instead of E4',
      'description changed',
      'tone notes changed',
    ]);
    expect(
      describeRackChange(one, { ...one, instrument: { ...one.instrument, strings: one.instrument.strings.slice(1) } }),
    ).toEqual(['from 6 to 5 strings']);
  });
});
