import { fail, ok, type Result } from '../base';
import { asciiPitch } from '../pitch';
import type { Instrument, InstrumentKind, StringMake } from './types';

export const MIN_STRINGS = 3;
export const MAX_STRINGS = 12;

/** A value that may be right but looks like a slip; asked about, never refused. */
export interface Question {
  readonly at: string;
  readonly message: string;
  /** What was probably meant, where the program can tell. */
  readonly instead: number | null;
}

const INCH = 25.4;
/** Usual scale lengths in mm by kind; outside them the length is asked about. */
const USUAL_SCALE: Readonly<Record<InstrumentKind, readonly [number, number]>> = {
  electric: [600, 700],
  acoustic: [600, 670],
  classical: [580, 670],
  bass: [700, 920],
  baritone: [665, 780],
  tenor: [500, 620],
};

/**
 * Whether an instrument can exist, with what looks like a slip of units. Faults name the field
 * (`strings`, `strings.2`, `scaleMm`, `frets`, ...); string places are numbers, thin = 1.
 */
export function checkInstrument(instrument: Instrument): Result<Question[]> {
  const { strings, scaleMm, frets, easyFrets, nutSpacingMm, bridgeSpacingMm, kind } = instrument;
  const questions: Question[] = [];
  if (strings.length === 0) return fail('no-strings', 'An instrument without strings: give it 3 to 12.', 'strings');
  if (strings.length < MIN_STRINGS || strings.length > MAX_STRINGS) {
    return fail(
      'string-count',
      `${strings.length} string${strings.length === 1 ? '' : 's'}: give it ${MIN_STRINGS} to ${MAX_STRINGS}.`,
      'strings',
    );
  }
  if (!Number.isInteger(frets) || frets < 1 || frets > 36)
    return fail('bad-frets', `${frets} frets: give a whole number from 1 to 36.`, 'frets');
  if (!Number.isInteger(easyFrets) || easyFrets < 1 || easyFrets > frets) {
    return fail('bad-joint', `The body joint at fret ${easyFrets}: give a fret from 1 to ${frets}.`, 'easyFrets');
  }
  const scale = checkScale(scaleMm, 'scaleMm', kind, questions);
  if (scale) return scale;
  if (!(nutSpacingMm > 5 && nutSpacingMm <= 150))
    return fail(
      'bad-spacing',
      `A nut spacing of ${nutSpacingMm} mm: give the distance of the outer strings, 5 to 150.`,
      'nutSpacingMm',
    );
  if (!(bridgeSpacingMm > 5 && bridgeSpacingMm <= 200))
    return fail(
      'bad-spacing',
      `A bridge spacing of ${bridgeSpacingMm} mm: give the distance of the outer strings, 5 to 200.`,
      'bridgeSpacingMm',
    );
  if (nutSpacingMm > bridgeSpacingMm)
    questions.push({
      at: 'nutSpacingMm',
      message: 'The strings lie wider at the nut than at the bridge. Are the two spacings swapped?',
      instead: null,
    });
  for (const [i, string] of strings.entries()) {
    const at = `strings.${strings.length - i}`;
    if (!Number.isInteger(string.pitch) || string.pitch < 9 || string.pitch > 100)
      return fail('bad-pitch', `String ${strings.length - i} has no pitch a string can have.`, at);
    const fault = checkMake(string, at, questions) ?? (string.course ? checkMake(string.course, at, questions) : null);
    if (fault) return fault;
    if (string.course && ![-12, 0, 12].includes(string.course.semitones)) {
      return fail('bad-course', 'The second string of a course sounds the same or an octave away.', at);
    }
    if (string.scaleMm !== undefined) {
      const own = checkScale(string.scaleMm, at, kind, []);
      if (own) return own;
    }
    const before = strings[i - 1];
    if (before && before.gaugeMm < string.gaugeMm && before.pitch < string.pitch && before.kind === string.kind) {
      questions.push({
        at,
        message: `String ${strings.length - i} (${asciiPitch(string.pitch)}) is thicker than its lower neighbour. Are the gauges in order, thick to thin?`,
        instead: null,
      });
    }
  }
  return ok(questions);
}

function checkScale(mm: number, at: string, kind: InstrumentKind, questions: Question[]): Result<never> | null {
  if (mm >= 10 && mm <= 45) {
    const instead = Math.round(mm * INCH);
    questions.push({ at, message: `A scale of ${mm} mm looks like inches: ${mm} in is ${instead} mm.`, instead });
    return at === 'scaleMm'
      ? null
      : fail('inches', `A scale of ${mm} mm looks like inches: ${mm} in is ${instead} mm.`, at);
  }
  if (!(mm >= 300 && mm <= 1200))
    return fail('bad-scale', `A scale of ${mm} mm: give millimetres between 300 and 1200.`, at);
  const [low, high] = USUAL_SCALE[kind];
  if (mm < low || mm > high)
    questions.push({
      at,
      message: `${mm} mm is an unusual scale for this kind of instrument (${low} to ${high}). Is it meant?`,
      instead: null,
    });
  return null;
}

function checkMake(make: StringMake, at: string, questions: Question[]): Result<never> | null {
  const { gaugeMm, unitWeight } = make;
  if (!(gaugeMm > 0))
    return fail(
      'bad-gauge',
      `A gauge of ${gaugeMm} mm: a string has a thickness. Give it in millimetres, such as 0.254.`,
      at,
    );
  if (gaugeMm > 5) {
    const instead = Math.round(gaugeMm * INCH) / 1000;
    return fail(
      'bad-gauge',
      `A gauge of ${gaugeMm} mm looks like thousandths of an inch: ${gaugeMm} is ${instead} mm.`,
      at,
    );
  }
  if (gaugeMm < 0.15) {
    const instead = Math.round(gaugeMm * INCH * 1000) / 1000;
    questions.push({
      at,
      message: `A gauge of ${gaugeMm} mm looks like inches: ${gaugeMm} in is ${instead} mm.`,
      instead,
    });
  }
  if (unitWeight !== undefined && !(unitWeight > 1e-5 && unitWeight < 0.2)) {
    return fail('bad-weight', `A unit weight of ${unitWeight} kg/m: give kilograms a metre, such as 0.0068.`, at);
  }
  return null;
}
