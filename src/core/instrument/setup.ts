import { fail, ok, type Midi, type NutFret, type Result, type Semitones, type StringNumber } from '../base';
import { noteName, type NameOptions } from '../pitch';
import { baseNut, checkCapos, nutOf } from './capo';
import { findInstrument, TUNINGS } from './catalogue';
import { checkInstrument } from './check';
import { changesFromReference, resolveTuning, tuningKey, tuningOf, type ResolvedTuning } from './tuning';
import type { Instrument, Position, Setup, Tuning } from './types';

/** A set-up as programs write it: catalogue ids, an instrument of one's own, or spellings, resolved by `makeSetup`. */
export interface SetupRequest {
  readonly instrument: string | Instrument;
  readonly tuning?: string | undefined;
  /** The fret of a full capo, or up to two capos, each full or on chosen strings. */
  readonly capo?:
    | NutFret
    | readonly { readonly fret: NutFret; readonly strings?: readonly StringNumber[] | null | undefined }[]
    | null
    | undefined;
  readonly frets?: number | undefined;
  readonly scaleMm?: number | undefined;
}

export interface MadeSetup {
  readonly setup: Setup;
  /** What was assumed about the tuning, for the user to see. */
  readonly assumed: string | null;
}

/** Resolves and checks a set-up. Faults name the field: instrument, tuning, capo, frets or scaleMm. */
export function makeSetup(request: SetupRequest, ownTunings: readonly Tuning[] = []): Result<MadeSetup> {
  const found = typeof request.instrument === 'string' ? findInstrument(request.instrument) : ok(request.instrument);
  if (!found.ok) return found;
  const frets = request.frets ?? found.value.frets;
  const scaleMm = request.scaleMm ?? found.value.scaleMm;
  const instrument: Instrument = { ...found.value, frets, scaleMm, easyFrets: Math.min(found.value.easyFrets, frets) };
  const checked = checkInstrument(instrument);
  if (!checked.ok) return checked;
  // A length that looks like inches would make every distance wrong, so a program has to say it in millimetres.
  const inches = checked.value.find((question) => question.at === 'scaleMm' && question.instead !== null);
  if (inches && request.scaleMm !== undefined) return fail('inches', inches.message, 'scaleMm');
  const reference = instrument.strings.map((string) => string.pitch);
  const tuning: Result<ResolvedTuning> = request.tuning
    ? resolveTuning(request.tuning, instrument, ownTunings)
    : ok({
        tuningId: tuningOf(instrument, reference, [...ownTunings, ...TUNINGS])?.id ?? null,
        open: reference,
        absent: [],
        assumed: null,
      });
  if (!tuning.ok) return tuning;
  const asked = typeof request.capo === 'number' ? [{ fret: request.capo, strings: null }] : (request.capo ?? []);
  const capos = checkCapos(
    instrument,
    asked.map((one) => ({ fret: one.fret, strings: one.strings ?? null })),
  );
  if (!capos.ok) return capos;
  const { tuningId, open, absent, assumed, signs } = tuning.value;
  return ok({
    setup: { instrument, tuningId, open, absent, capos: capos.value, ...(signs ? { signs } : {}) },
    assumed,
  });
}

export const stringCount = (setup: Setup): number => setup.open.length;

/** String numbers from thick to thin, those taken off left out. */
export function stringNumbers(setup: Setup): StringNumber[] {
  const n = setup.open.length;
  return setup.open.map((_, i) => n - i).filter((s) => !setup.absent.includes(s));
}

/** Open sounding pitch of a string, capo included. */
export function openPitch(setup: Setup, string: StringNumber): Midi {
  return (setup.open[setup.open.length - string] ?? NaN) + nutOf(setup, string);
}

/** Frets left on a string above its capo; without a string, on the one that has most. */
export const fretsLeft = (setup: Setup, string?: StringNumber): number =>
  setup.instrument.frets - (string === undefined ? baseNut(setup) : nutOf(setup, string));

/** What a position sounds, or a fault that says why it doesn't exist. */
export function pitchAt(setup: Setup, { string, fret }: Position): Result<Midi> {
  if (!Number.isInteger(string) || string < 1 || string > stringCount(setup)) {
    return fail('no-string', `There is no string ${string}; this set-up has ${stringCount(setup)}.`, 'string');
  }
  if (setup.absent.includes(string))
    return fail('absent-string', `String ${string} is taken off in this set-up.`, 'string');
  if (!Number.isInteger(fret) || fret < 0 || fret > fretsLeft(setup, string)) {
    return fail(
      'no-fret',
      `There is no fret ${fret}; this string ends at ${fretsLeft(setup, string)}${nutOf(setup, string) > 0 ? ' above the capo' : ''}.`,
      'fret',
    );
  }
  return ok(openPitch(setup, string) + fret);
}

/**
 * How shapes of standard tuning sound here: `shift` semitones away from their names, on `all` strings or on all but
 * the thickest (dropped). Null where strings are changed unlike each other: then no grip is what its name says.
 */
export function shapesHere(setup: Setup): { readonly shift: Semitones; readonly on: 'all' | 'most' } | null {
  const changes = (
    setup.instrument.kind === 'baritone' ? baritoneAsGuitar(setup) : changesFromReference(setup.instrument, setup.open)
  ).filter((_, i) => !setup.absent.includes(setup.open.length - i));
  const shift = changes.at(-1) ?? 0;
  if (changes.every((change) => change === shift)) return { shift: shift + baseNut(setup), on: 'all' };
  return changes.length > 2 && changes.slice(1).every((change) => change === shift)
    ? { shift: shift + baseNut(setup), on: 'most' }
    : null;
}

/**
 * Semitones by which a shape sounds away from its name: the change all strings share (or all but a dropped one), plus
 * the capo (a partial one leaves names as they are). Where strings are changed unlike each other, the capo alone:
 * names are those of what sounds.
 */
export const shapeShift = (setup: Setup): Semitones => shapesHere(setup)?.shift ?? (baseNut(setup) as number);

/** What the strings of an open tuning sound together, from the capo on, as pitches low to high. */
export const openPitches = (setup: Setup): Midi[] =>
  stringNumbers(setup)
    .map((string) => openPitch(setup, string))
    .sort((a, b) => a - b);

/** A baritone is played with guitar shapes, so its shape names count from guitar standard tuning. */
function baritoneAsGuitar(setup: Setup): number[] {
  const guitar = [40, 45, 50, 55, 59, 64];
  return setup.open.map((midi, i) => midi - (guitar[i] ?? midi));
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
  noteName(openPitch(setup, string), { ...options, key: tuningKey(setup.signs, options.key) });
