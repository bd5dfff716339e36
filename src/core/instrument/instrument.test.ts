import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, pathWords } from '../base';
import {
  changesFromReference,
  findInstrument,
  fretDistance,
  INSTRUMENTS,
  makeSetup,
  nominalName,
  openPitch,
  pitchAt,
  pressPoint,
  resolveTuning,
  shapeShift,
  soundingName,
  spellTuning,
  stringNumbers,
  TUNINGS,
  tuningPitches,
  tuningsFor,
} from './index';

const guitar = must(findInstrument('guitar-6'));
const setupOf = (instrument: string, tuning?: string, capo = 0) => must(makeSetup({ instrument, tuning, capo })).setup;

describe('catalogue', () => {
  it('holds at least 12 instruments and 60 tunings, every tuning usable on each instrument it names', () => {
    expect(INSTRUMENTS.length).toBeGreaterThanOrEqual(12);
    expect(TUNINGS.length).toBeGreaterThanOrEqual(60);
    expect(new Set(TUNINGS.map((tuning) => tuning.id)).size).toBe(TUNINGS.length);
    for (const tuning of TUNINGS) {
      expect(tuning.instruments.length).toBeGreaterThan(0);
      for (const id of tuning.instruments) {
        const resolved = resolveTuning(tuning.id, must(findInstrument(id)));
        expect(resolved.ok, `${tuning.id} on ${id}`).toBe(true);
        if (resolved.ok) expect(resolved.value.open).toEqual(tuningPitches(tuning));
      }
    }
    for (const instrument of INSTRUMENTS) expect(tuningsFor(instrument).length, instrument.id).toBeGreaterThan(0);
  });

  it('covers six and seven strings, baritone, four- and five-string bass', () => {
    for (const id of ['guitar-6', 'guitar-7', 'baritone-27', 'bass-4', 'bass-5'])
      expect(tuningsFor(must(findInstrument(id))).length).toBeGreaterThan(2);
  });
});

describe('typed tunings', () => {
  it('take the octave nearest to the reference and say so', () => {
    const dropped = must(resolveTuning('C G C F A D', guitar));
    expect(dropped.open).toEqual([36, 43, 48, 53, 57, 62]);
    expect(dropped.tuningId).toBe('drop-c');
    expect(dropped.assumed).toContain('C2 G2 C3 F3 A3 D4');
    expect(must(resolveTuning('dadgad', guitar)).tuningId).toBe('modal-dadgad');
  });

  it('keep octaves that are given, and assume nothing then', () => {
    const open = must(resolveTuning('D2 A2 D3 F#3 A3 D4', guitar));
    expect(open).toMatchObject({ tuningId: 'open-d', assumed: null });
  });

  it('take strings off with x', () => {
    const five = must(resolveTuning('x G D G B D', guitar));
    expect(five.absent).toEqual([6]);
    expect(spellTuning(five.open, five.absent)).toBe('– G D G B D');
  });

  it('name what is wrong and where', () => {
    const code = (text: string): string => {
      const made = resolveTuning(text, guitar);
      return made.ok ? 'ok' : made.error.rule;
    };
    expect(code('D A D')).toBe('string-count');
    expect(code('bass-standard')).toBe('string-count');
    expect(code('E A D G B H')).toBe('bad-note');
    expect(code('E4 A2 D3 G3 B3 E4')).toBe('far-tuning');
    expect(code('')).toBe('empty-tuning');
    expect(code('x x x x x x')).toBe('no-strings');
    expect(code('C'.repeat(5000))).toBe('string-count');
  });

  it('round-trip through their spelling with octaves', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -7, max: 7 }), { minLength: 6, maxLength: 6 }), (shifts) => {
        const open = guitar.strings.map((string, i) => string.pitch + (shifts[i] ?? 0));
        const spelled = open
          .map(
            (m) =>
              `${['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'][m % 12]}${Math.floor(m / 12) - 1}`,
          )
          .join(' ');
        expect(must(resolveTuning(spelled, guitar)).open).toEqual(open);
        expect(changesFromReference(guitar, open)).toEqual(shifts);
      }),
    );
  });
});

describe('set-ups', () => {
  it('sound with a capo as if every string were tuned up by it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 9 }),
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 0, max: 8 }),
        (capo, string, fret) => {
          const plain = must(pitchAt(setupOf('guitar-6', 'standard'), { string, fret }));
          expect(must(pitchAt(setupOf('guitar-6', 'standard', capo), { string, fret }))).toBe(plain + capo);
        },
      ),
    );
  });

  it('name strings twice: what they are called and what they sound', () => {
    const setup = setupOf('guitar-6', 'drop-c');
    expect(stringNumbers(setup).map((string) => [nominalName(setup, string), soundingName(setup, string)])).toEqual([
      ['E', 'C'],
      ['A', 'G'],
      ['D', 'C'],
      ['G', 'F'],
      ['B', 'A'],
      ['E', 'D'],
    ]);
    expect(nominalName(setupOf('baritone-27', 'baritone-b'), 6)).toBe('E');
  });

  it('shift shapes by what most strings share, and the capo', () => {
    expect(shapeShift(setupOf('guitar-6', 'drop-c'))).toBe(-2);
    expect(shapeShift(setupOf('guitar-6', 'standard', 3))).toBe(3);
    expect(shapeShift(setupOf('guitar-6', 'drop-d'))).toBe(0);
    expect(shapeShift(setupOf('baritone-27', 'baritone-b'))).toBe(-5);
  });

  it('refuse what does not exist, saying where', () => {
    const at = (made: ReturnType<typeof makeSetup>): string =>
      made.ok ? 'ok' : `${made.error.rule} ${pathWords(made.error.locus)}`;
    expect(at(makeSetup({ instrument: 'kazoo' }))).toContain('unknown-instrument instrument');
    expect(at(makeSetup({ instrument: 'guitar-6', capo: 22 }))).toContain('bad-capo capo');
    expect(at(makeSetup({ instrument: 'guitar-6', scaleMm: 25.5 }))).toContain('inches scaleMm');
    expect(at(makeSetup({ instrument: 'guitar-6', frets: 0 }))).toContain('bad-frets');
    expect(pitchAt(setupOf('guitar-6'), { string: 7, fret: 0 }).ok).toBe(false);
    expect(pitchAt(setupOf('guitar-6'), { string: 1, fret: 23 }).ok).toBe(false);
    expect(pitchAt(setupOf('guitar-6', 'x G D G B D'), { string: 6, fret: 0 }).ok).toBe(false);
  });

  it('count frets from the capo and lose those behind it', () => {
    const setup = setupOf('guitar-6', 'standard', 4);
    expect(openPitch(setup, 6)).toBe(44);
    expect(pitchAt(setup, { string: 1, fret: 18 }).ok).toBe(true);
    expect(pitchAt(setup, { string: 1, fret: 19 }).ok).toBe(false);
  });
});

describe('geometry', () => {
  it('puts the twelfth fret at half the string and fret one at 36.37 mm of 648', () => {
    expect(fretDistance(648, 12)).toBeCloseTo(324, 9);
    expect(fretDistance(648, 1)).toBeCloseTo(36.3695, 3);
    expect(fretDistance(864, 5)).toBeCloseTo(216.7, 0);
  });
  it('presses three quarters of the way to the wire', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 24 }), fc.integer({ min: 500, max: 900 }), (fret, scale) => {
        const press = pressPoint(scale, fret);
        const share =
          (press - fretDistance(scale, fret - 1)) / (fretDistance(scale, fret) - fretDistance(scale, fret - 1));
        expect(share).toBeCloseTo(0.75, 9);
      }),
    );
  });
});
