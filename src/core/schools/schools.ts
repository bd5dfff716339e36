import { z } from 'zod';
import type { StringNumber } from '../base';
import {
  nominalName,
  shapeShift,
  shapesHere,
  shownFret,
  soundingName,
  type FretCounting,
  type Setup,
} from '../instrument';
import { DEFAULT_A4, keyName, MAX_A4, MIN_A4, noteName, shiftKey, type Key, type Naming } from '../pitch';

/**
 * Which way the strokes go: alternate by the grid (down on, up off) or by the note, economy (on
 * over the strings in the direction of travel), all down, all up off the beat, fingers, slap and pop.
 */
export const pickingSchema = z.enum(['alternate', 'by-note', 'economy', 'down', 'off-up', 'fingers', 'slap']);
export type Picking = z.infer<typeof pickingSchema>;

/**
 * The instructor's schools: how strings, retuned strings, keys, frets under a capo and notes are
 * named. Every place that shows a name asks here, so that a setting takes effect everywhere at once.
 */
export const schoolsSchema = z.object({
  strings: z.enum(['numbers', 'nominal', 'sounding', 'numbers-nominal']).default('numbers-nominal'),
  /** What a retuned string is called: its letter in standard tuning, or its sound; the other in brackets. */
  retuned: z.enum(['nominal', 'sounding']).default('nominal'),
  keys: z.enum(['both', 'shape', 'sound']).default('both'),
  /** With both names shown, which stands first. */
  first: z.enum(['shape', 'sound']).default('shape'),
  frets: z.enum(['capo', 'nut']).default('capo'),
  capoTuning: z.enum(['capo-on', 'open']).default('capo-on'),
  capoPlace: z.enum(['behind', 'middle', 'anywhere']).default('anywhere'),
  notes: z.enum(['letters', 'solfege', 'german']).default('letters'),
  picking: pickingSchema.default('alternate'),
  /** Which pitch the staff of a detuned instrument or one with a capo shows. */
  staff: z.enum(['sounding', 'shape']).default('sounding'),
  /** Swing on paper: straight with a mark, or written out as triplets. */
  swing: z.enum(['mark', 'triplets']).default('mark'),
  handed: z.enum(['right', 'left']).default('right'),
  a4: z.number().min(MIN_A4).max(MAX_A4).default(DEFAULT_A4),
});

export type Schools = Readonly<z.infer<typeof schoolsSchema>>;

export const DEFAULT_SCHOOLS: Schools = schoolsSchema.parse({});

/** A string by both its names: the one to say first, and the other where it differs. */
export interface StringLabel {
  readonly main: string;
  readonly beside: string | null;
}

/**
 * The letter of a string by the school, and its other letter where that differs; for drawings that show the number
 * anyway.
 */
export function stringLetters(
  setup: Setup,
  string: StringNumber,
  schools: Schools,
  key: Key | null = null,
): StringLabel {
  const nominal = nominalName(setup, string, { naming: schools.notes });
  const sounding = soundingName(setup, string, { naming: schools.notes, key });
  const differs = nominal !== sounding;
  const bySound = schools.strings === 'sounding' || schools.retuned === 'sounding';
  const letter = bySound ? sounding : nominal;
  return { main: letter, beside: differs ? (bySound ? nominal : sounding) : null };
}

/** What a string is called by the instructor's school, with its other name beside it where that differs. */
export function stringLabel(setup: Setup, string: StringNumber, schools: Schools, key: Key | null = null): StringLabel {
  const letters = stringLetters(setup, string, schools, key);
  switch (schools.strings) {
    case 'numbers':
      return {
        main: String(string),
        beside: letters.beside === null ? null : soundingName(setup, string, { naming: schools.notes, key }),
      };
    case 'nominal':
    case 'sounding':
      return letters;
    case 'numbers-nominal':
      return { main: `${string} ${letters.main}`, beside: letters.beside };
  }
}

/** A string by its first name only, for call-outs that say the sound anyway: "string 6 (E)", "the D string". */
export function stringCall(setup: Setup, string: StringNumber, schools: Schools, key: Key | null = null): string {
  const { main } = stringLetters(setup, string, schools, key);
  switch (schools.strings) {
    case 'numbers':
      return `string ${string}`;
    case 'numbers-nominal':
      return `string ${string} (${main})`;
    default:
      return `the ${main} string`;
  }
}

/** The label as one line: "string 6 (E, sounds D)". */
export function stringWordsBy(setup: Setup, string: StringNumber, schools: Schools, key: Key | null = null): string {
  const { main, beside } = stringLabel(setup, string, schools, key);
  if (schools.strings === 'numbers-nominal') {
    const letters = stringLetters(setup, string, schools, key);
    const other = beside === null ? '' : schools.retuned === 'sounding' ? `, called ${beside}` : `, sounds ${beside}`;
    return `string ${string} (${letters.main}${other})`;
  }
  const bySound = schools.strings !== 'numbers' && (schools.strings === 'sounding' || schools.retuned === 'sounding');
  return `${schools.strings === 'nominal' || schools.strings === 'sounding' ? `the ${main} string` : `string ${main}`}${beside ? ` (${bySound ? `called ${beside}` : `sounds ${beside}`})` : ''}`;
}

/** Names of a sounding key by the school: shape and sound, each null where it is not shown. */
export function keyLabels(
  key: Key,
  setup: Setup,
  schools: Schools,
): { readonly shape: string | null; readonly sound: string | null; readonly words: string } {
  const sound = keyName(key, schools.notes);
  // Where strings are tuned unlike each other no shape has the key's name: what sounds is all there is to say.
  if (shapesHere(setup) === null) return { shape: null, sound, words: sound };
  const shape = keyName(shiftKey(key, -shapeShift(setup)), schools.notes);
  if (shape === sound)
    return {
      shape: schools.keys === 'sound' ? null : shape,
      sound: schools.keys === 'shape' ? null : sound,
      words: sound,
    };
  if (schools.keys === 'shape') return { shape, sound: null, words: `${shape} shape` };
  if (schools.keys === 'sound') return { shape: null, sound, words: sound };
  return {
    shape,
    sound,
    words: schools.first === 'shape' ? `${shape} shape, sounds ${sound}` : `${sound}, in ${shape} shape`,
  };
}

/** A fret as the school counts it, in words: "open", "fret 3". */
export function fretWordsBy(setup: Setup, string: StringNumber, fret: number, counting: FretCounting): string {
  return fret === 0 ? 'open' : `fret ${shownFret(setup, string, fret, counting)}`;
}

/** How frets are counted, said once on a sheet or under a neck; null without a capo, where both schools agree. */
export function countingWords(setup: Setup, counting: FretCounting): string | null {
  if (setup.capos.length === 0) return null;
  if (counting === 'nut') return 'counted from the nut; an open string shows its capo’s fret';
  return setup.capos.some((capo) => capo.strings !== null)
    ? 'counted from the capo on the strings it stops, from the nut on the others'
    : 'counted from the capo';
}

/** Where to put the capo, by school; always behind the wire, never on it. */
export const CAPO_PLACE_WORDS: Readonly<Record<Schools['capoPlace'], string>> = {
  behind: 'Close behind the wire, never on it: the least pressure is needed there.',
  middle: 'In the middle of the space behind the wire, never on it.',
  anywhere: 'Anywhere behind the wire, never on it.',
};

/** Where in the space before its fret a capo lies: 0 at the wire before, 1 at its own; the range each school allows. */
export const CAPO_RANGE: Readonly<Record<Schools['capoPlace'], readonly [number, number]>> = {
  behind: [0.7, 0.95],
  middle: [0.4, 0.65],
  anywhere: [0.25, 0.95],
};

export const CAPO_TUNING_WORDS: Readonly<Record<Schools['capoTuning'], string>> = {
  'capo-on':
    'Put the capo on, then tune: it presses strings sharp, some more than others, and tuning after takes that out.',
  open: 'Tune open, then put the capo on: quick to take off again, but strings come out sharp, so check the chord and pull stray strings straight.',
};

/** What an octave name looks like in a naming, for tuners and tables: "E2", "Mi2". */
export const pitchLabel = (midi: number, naming: Naming, key: Key | null = null): string =>
  noteName(midi, { octave: true, naming, key });
