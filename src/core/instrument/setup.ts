import { fail, ok, type Midi, type NutFret, type Result, type Semitones, type StringNumber } from '../base';
import { noteName, type NameOptions } from '../pitch';
import { findInstrument } from './catalogue';
import { changesFromReference, resolveTuning } from './tuning';
import type { Instrument, Position, Setup } from './types';

/** A set-up as programs write it: catalogue ids or spellings, resolved by `makeSetup`. */
export interface SetupRequest {
  readonly instrument: string;
  readonly tuning?: string | undefined;
  readonly capo?: NutFret | null | undefined;
  readonly frets?: number | undefined;
  readonly scaleMm?: number | undefined;
}

export interface MadeSetup {
  readonly setup: Setup;
  /** What was assumed about the tuning, for the user to see. */
  readonly assumed: string | null;
}

/** Resolves and checks a set-up. Faults name the field: instrument, tuning, capo, frets or scaleMm. */
export function makeSetup(request: SetupRequest): Result<MadeSetup> {
  const found = findInstrument(request.instrument);
  if (!found.ok) return found;
  const frets = request.frets ?? found.value.frets;
  const scaleMm = request.scaleMm ?? found.value.scaleMm;
  if (!Number.isInteger(frets) || frets < 1 || frets > 36) return fail('bad-frets', `${frets} frets: give a whole number from 1 to 36.`, 'frets');
  if (scaleMm >= 10 && scaleMm <= 40) return fail('inches', `A scale of ${scaleMm} mm looks like inches: ${scaleMm} in is ${(scaleMm * 25.4).toFixed(0)} mm.`, 'scaleMm');
  if (!(scaleMm >= 300 && scaleMm <= 1200)) return fail('bad-scale', `A scale of ${scaleMm} mm: give millimetres between 300 and 1200.`, 'scaleMm');
  const instrument: Instrument = { ...found.value, frets, scaleMm, easyFrets: Math.min(found.value.easyFrets, frets) };
  const reference = instrument.strings.map((s) => s.pitch);
  const tuning = request.tuning
    ? resolveTuning(request.tuning, instrument)
    : ok({ tuningId: null, open: reference, absent: [], assumed: null });
  if (!tuning.ok) return tuning;
  const capo = request.capo ?? 0;
  const capoFault = checkCapo(instrument, capo);
  if (capoFault) return capoFault;
  const { tuningId, open, absent, assumed } = tuning.value;
  return ok({ setup: { instrument, tuningId, open, absent, capo }, assumed });
}

export function checkCapo(instrument: Instrument, capo: number): Result<never> | null {
  const last = Math.min(instrument.frets - 1, 12);
  if (Number.isInteger(capo) && capo >= 0 && capo <= last) return null;
  return fail('bad-capo', `Capo at fret ${capo}: give a whole number from 0 (none) to ${last} on this instrument.`, 'capo');
}

export const stringCount = (setup: Setup): number => setup.open.length;

/** String numbers from thick to thin, those taken off left out. */
export function stringNumbers(setup: Setup): StringNumber[] {
  const n = setup.open.length;
  return setup.open.map((_, i) => n - i).filter((s) => !setup.absent.includes(s));
}

/** Open sounding pitch of a string, capo included. */
export function openPitch(setup: Setup, string: StringNumber): Midi {
  return (setup.open[setup.open.length - string] ?? NaN) + setup.capo;
}

/** Frets left above the capo. */
export const fretsLeft = (setup: Setup): number => setup.instrument.frets - setup.capo;

/** What a position sounds, or a fault that says why it doesn't exist. */
export function pitchAt(setup: Setup, { string, fret }: Position): Result<Midi> {
  if (!Number.isInteger(string) || string < 1 || string > stringCount(setup)) {
    return fail('no-string', `There is no string ${string}; this set-up has ${stringCount(setup)}.`, 'string');
  }
  if (setup.absent.includes(string)) return fail('absent-string', `String ${string} is taken off in this set-up.`, 'string');
  if (!Number.isInteger(fret) || fret < 0 || fret > fretsLeft(setup)) {
    return fail('no-fret', `There is no fret ${fret}; this neck ends at ${fretsLeft(setup)}${setup.capo ? ' above the capo' : ''}.`, 'fret');
  }
  return ok(openPitch(setup, string) + fret);
}

/** Semitones by which a shape sounds away from its name: the change most strings share, plus the capo. */
export function shapeShift(setup: Setup): Semitones {
  const standard = setup.instrument.kind === 'baritone' ? baritoneAsGuitar(setup) : changesFromReference(setup.instrument, setup.open);
  const counts = new Map<number, number>();
  for (const change of standard) counts.set(change, (counts.get(change) ?? 0) + 1);
  // On a tie the smaller change wins: the hand thinks in the tuning it knows.
  const [shift] = [...counts].sort((a, b) => b[1] - a[1] || Math.abs(a[0]) - Math.abs(b[0]))[0] ?? [0];
  return shift + setup.capo;
}

/** A baritone is played with guitar shapes, so its shape names count from guitar standard tuning. */
function baritoneAsGuitar(setup: Setup): number[] {
  const guitar = [40, 45, 50, 55, 59, 64];
  return setup.open.map((m, i) => m - (guitar[i] ?? m));
}

/** Letter of a string in standard tuning, what players call it by whatever it sounds. */
export function nominalName(setup: Setup, string: StringNumber, options: NameOptions = {}): string {
  const i = setup.instrument.strings.length - string;
  const guitar = [40, 45, 50, 55, 59, 64];
  const pitch = setup.instrument.kind === 'baritone' ? guitar[i] : setup.instrument.strings[i]?.pitch;
  return noteName(pitch ?? 0, { ...options, key: null });
}

/** What a string really sounds when open, capo included. */
export const soundingName = (setup: Setup, string: StringNumber, options: NameOptions = {}): string =>
  noteName(openPitch(setup, string), options);
