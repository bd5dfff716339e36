import {
  fail,
  ok,
  type Hertz,
  type Midi,
  type Millimetres,
  type Newtons,
  type Result,
  type StringNumber,
} from '../base';
import { frequency } from '../pitch';
import type { Instrument, StringMake } from './types';

/** Densities in kg/m³: music wire, and the nylon of plain guitar strings. */
const STEEL = 7850;
const NYLON = 1140;
/** Tensile strength of plain music wire in Pa, and the share of it that a string is never asked for. */
const STRENGTH = 2.6e9;
const STOP_SHARE = 0.8;
/** A string this much above its reference tension is marked high. */
const HIGH = 1.15;
const FLOPPY: Readonly<{ guitar: Newtons; bass: Newtons }> = { guitar: 45, bass: 110 };

const area = (mm: Millimetres): number => (Math.PI * (mm / 1000) ** 2) / 4;

/**
 * Mass per length in kg/m: the maker's figure where given; otherwise steel mu = 7850 pi d²/4 for
 * plain strings, times 0.84 (to 0.8 mm), 0.81 (to 1.5 mm) or 0.80 for wound ones, whose windings
 * leave air; plain nylon by its density. Wound nylon has a floss core no formula fits: fault.
 */
export function unitWeight({ gaugeMm, kind, unitWeight: stated }: StringMake): Result<number> {
  if (!(gaugeMm > 0)) return fail('bad-gauge', `A gauge of ${gaugeMm} mm: a string has a thickness.`, 'gaugeMm');
  if (stated !== undefined) return ok(stated);
  switch (kind) {
    case 'plain':
      return ok(STEEL * area(gaugeMm));
    case 'wound':
      return ok(STEEL * area(gaugeMm) * (gaugeMm <= 0.8 ? 0.84 : gaugeMm <= 1.5 ? 0.81 : 0.8));
    case 'nylon':
      return ok(NYLON * area(gaugeMm));
    case 'nylon-wound':
      return fail(
        'no-unit-weight',
        'A wound nylon string has a floss core that no formula fits: give its unit weight in kg/m, as the maker states it.',
        'unitWeight',
      );
  }
}

/**
 * Tension in newtons of a string of unit weight mu (kg/m), speaking length L (mm), at f (Hz): T = 4 mu L² f²
 * (Mersenne).
 */
export const tensionOf = (mu: number, lengthMm: Millimetres, hertz: Hertz): Newtons =>
  4 * mu * (lengthMm / 1000) ** 2 * hertz * hertz;

/** Speaking length of a string from nut to bridge. */
export const lengthOf = (instrument: Instrument, string: StringNumber): Millimetres =>
  instrument.strings[instrument.strings.length - string]?.scaleMm ?? instrument.scaleMm;

export type TensionGrade = 'floppy' | 'fine' | 'high' | 'stop';

export interface StringTension {
  readonly string: StringNumber;
  /** True for the second string of a course. */
  readonly partner: boolean;
  readonly pitch: Midi;
  readonly gaugeMm: Millimetres;
  readonly kind: StringMake['kind'];
  /** Null where the string's weight can't be known; `why` says so. */
  readonly newtons: Newtons | null;
  /** The same string at the pitch it is made for. */
  readonly reference: Newtons | null;
  /** Share of the tensile strength, plain steel only. */
  readonly stress: number | null;
  readonly grade: TensionGrade | null;
  readonly why: string;
}

export interface TensionReport {
  readonly strings: readonly StringTension[];
  /** Sum of the strings that are on and whose weight is known. */
  readonly total: Newtons;
  readonly reference: Newtons;
}

/**
 * Tension of every string of an instrument at open pitches (thick to thin), against the pitches
 * it is strung for. A capo does not change it. Strings taken off are left out.
 */
export function tensionReport(
  instrument: Instrument,
  open: readonly Midi[],
  absent: readonly StringNumber[] = [],
  a4: Hertz = 440,
): TensionReport {
  const strings: StringTension[] = [];
  instrument.strings.forEach((one, i) => {
    const string = instrument.strings.length - i;
    if (absent.includes(string)) return;
    const length = lengthOf(instrument, string);
    const pitch = open[i] ?? one.pitch;
    strings.push(oneString(instrument, one, string, false, pitch, one.pitch, length, a4));
    if (one.course)
      strings.push(
        oneString(
          instrument,
          one.course,
          string,
          true,
          pitch + one.course.semitones,
          one.pitch + one.course.semitones,
          length,
          a4,
        ),
      );
  });
  const sum = (of: 'newtons' | 'reference'): Newtons => strings.reduce((total, row) => total + (row[of] ?? 0), 0);
  return { strings, total: sum('newtons'), reference: sum('reference') };
}

function oneString(
  instrument: Instrument,
  make: StringMake,
  string: StringNumber,
  partner: boolean,
  pitch: Midi,
  made: Midi,
  length: Millimetres,
  a4: Hertz,
): StringTension {
  const about = { string, partner, pitch, gaugeMm: make.gaugeMm, kind: make.kind };
  const mu = unitWeight(make);
  if (!mu.ok) return { ...about, newtons: null, reference: null, stress: null, grade: null, why: mu.error.words };
  const newtons = tensionOf(mu.value, length, frequency(pitch, 0, a4));
  const reference = tensionOf(mu.value, length, frequency(made));
  const stress = make.kind === 'plain' ? newtons / area(make.gaugeMm) / STRENGTH : null;
  const grade = gradeOf(instrument, newtons, reference, stress);
  return {
    ...about,
    newtons,
    reference,
    stress,
    grade,
    why: whyGrade(grade, newtons, reference, stress, floppyBelow(instrument)),
  };
}

const floppyBelow = (instrument: Instrument): Newtons => (instrument.kind === 'bass' ? FLOPPY.bass : FLOPPY.guitar);

function gradeOf(instrument: Instrument, newtons: Newtons, reference: Newtons, stress: number | null): TensionGrade {
  if (stress !== null && stress > STOP_SHARE) return 'stop';
  if (newtons > reference * HIGH) return 'high';
  return newtons < floppyBelow(instrument) ? 'floppy' : 'fine';
}

const percent = (share: number): string => `${Math.round(share * 100)} %`;

function whyGrade(
  grade: TensionGrade,
  newtons: Newtons,
  reference: Newtons,
  stress: number | null,
  floppy: Newtons,
): string {
  switch (grade) {
    case 'stop':
      return `The wire is at ${percent(stress ?? 0)} of what it bears, over the ${percent(STOP_SHARE)} that is safe: don't tune there, take a thinner string.`;
    case 'high':
      return `${percent(newtons / reference - 1)} above what the string has in its own tuning.`;
    case 'floppy':
      return `Below ${floppy} N a string buzzes and goes sharp when struck or pressed; take a thicker one.`;
    case 'fine':
      return newtons < reference * 0.85
        ? `${percent(1 - newtons / reference)} below its own tuning: softer, still playable.`
        : 'As the string is meant to feel.';
  }
}

/** Tension in kilograms-force, as string makers print it too. */
export const kilogramsForce = (newtons: Newtons): number => newtons / 9.80665;

/** Gauges that are sold, in thousandths of an inch. */
const SOLD = {
  plain: [7, 8, 8.5, 9, 9.5, 10, 10.5, 11, 11.5, 12, 13, 14, 15, 16, 17, 18, 19, 20, 22, 24],
  wound: [
    18, 20, 21, 22, 24, 26, 28, 30, 32, 34, 36, 38, 40, 42, 44, 46, 48, 49, 50, 52, 54, 56, 58, 59, 60, 62, 64, 66, 68,
    70, 72, 74, 76, 80,
  ],
  bass: [
    25, 28, 30, 32, 35, 40, 45, 50, 55, 60, 65, 70, 75, 80, 85, 90, 95, 100, 105, 110, 115, 120, 125, 130, 135, 140,
    145,
  ],
} as const;
const THOUSANDTH = 0.0254;

export interface GaugeSuggestion {
  readonly string: StringNumber;
  readonly gaugeMm: Millimetres;
  /** As sold, in thousandths of an inch. */
  readonly thousandths: number;
  readonly kind: StringMake['kind'];
  readonly newtons: Newtons;
  readonly reference: Newtons;
  /** False where the string that is on is already the nearest. */
  readonly change: boolean;
}

/**
 * For each string the sold gauge that keeps it nearest to its reference tension at these open
 * pitches. Plain steel whose wire would be overstressed is passed over. Nylon sets are sold by
 * tension, not gauge: left out.
 */
export function suggestGauges(
  instrument: Instrument,
  open: readonly Midi[],
  absent: readonly StringNumber[] = [],
): GaugeSuggestion[] {
  const report = tensionReport(instrument, open, absent).strings.filter((row) => !row.partner);
  return report.flatMap((now): GaugeSuggestion[] => {
    if (now.reference === null || now.newtons === null || now.kind === 'nylon' || now.kind === 'nylon-wound') return [];
    const { reference } = now;
    const length = lengthOf(instrument, now.string);
    const hertz = frequency(now.pitch);
    const kinds: readonly ('plain' | 'wound')[] = instrument.kind === 'bass' ? ['wound'] : ['plain', 'wound'];
    let best: GaugeSuggestion | null = null;
    for (const kind of kinds) {
      for (const thousandths of instrument.kind === 'bass' ? SOLD.bass : SOLD[kind]) {
        const gaugeMm = Math.round(thousandths * THOUSANDTH * 1000) / 1000;
        const mu = unitWeight({ gaugeMm, kind });
        if (!mu.ok) continue;
        const newtons = tensionOf(mu.value, length, hertz);
        if (kind === 'plain' && newtons / area(gaugeMm) > STOP_SHARE * STRENGTH) continue;
        // The kind that is on stays unless the other comes clearly nearer: plain and wound feel and sound unlike.
        const strange = kind === now.kind ? 0 : reference * 0.06;
        const miss = Math.abs(newtons - reference) + strange;
        if (
          best === null ||
          miss < Math.abs(best.newtons - reference) + (best.kind === now.kind ? 0 : reference * 0.06)
        ) {
          best = { string: now.string, gaugeMm, thousandths, kind, newtons, reference, change: false };
        }
      }
    }
    if (!best) return [];
    const stays = Math.abs(now.newtons - reference) <= Math.abs(best.newtons - reference) + 1e-9;
    return [{ ...best, change: !stays }];
  });
}
