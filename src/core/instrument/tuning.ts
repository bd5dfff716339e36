import { fail, ok, type Midi, type Result, type StringNumber } from '../base';
import { asciiPitch, noteName, type Key, parseName, parsePitch, pitchClass } from '../pitch';
import { TUNINGS, tuningPitches } from './catalogue';
import type { Instrument, Setup, Tuning } from './types';

/** A tuning worked out from what was typed: pitches, strings taken off, and what had to be assumed. */
export interface ResolvedTuning {
  readonly tuningId: string | null;
  /** Thick to thin. A string taken off keeps its reference pitch, so that numbers and drawings stay. */
  readonly open: readonly Midi[];
  readonly absent: readonly StringNumber[];
  readonly signs?: Setup['signs'];
  /** One sentence on what was assumed, null when everything was said. */
  readonly assumed: string | null;
}

/** A string further than this from its reference is asked about: it would snap or hang loose. */
export const MAX_TUNING_SHIFT = 12;

/**
 * Resolves a tuning for an instrument: a catalogue id, or a spelling thick to thin such as
 * "D A D G B E", "dadgbe", "D2 A2 D3 F#3 A3 D4", or only what changes, by string number:
 * "6=D 1=D4"; "x" stands for a string taken off. Letters
 * without octave take the octave nearest to the instrument's reference tuning (downward on a tie,
 * since slackening is the safer reading).
 */
export function resolveTuning(
  text: string,
  instrument: Instrument,
  own: readonly Tuning[] = [],
): Result<ResolvedTuning> {
  const typed = text.trim();
  const all = own.length > 0 ? [...own, ...TUNINGS] : TUNINGS;
  const reference = instrument.strings.map((string) => string.pitch);
  const known = all.find((tuning) => tuning.id === typed.toLowerCase());
  if (known) {
    const open = tuningPitches(known);
    if (open.length !== reference.length) {
      return fail(
        'string-count',
        `"${known.name}" is for ${open.length} strings; ${instrument.name} has ${reference.length}.`,
        'tuning',
      );
    }
    return ok({ tuningId: known.id, open, absent: [], assumed: null, ...signsOf(known.spelling) });
  }
  const tokens = /=/.test(typed) ? changedStrings(typed, reference) : tokenise(typed);
  if (!tokens.ok) return tokens;
  const names = tokens.value;
  if (names.length !== reference.length) {
    return fail(
      'string-count',
      `"${typed}" names ${names.length} string${names.length === 1 ? '' : 's'}; ${instrument.name} has ${reference.length}. Spell all, thick to thin, with x for a string taken off.`,
      'tuning',
    );
  }
  const open: Midi[] = [];
  const absent: StringNumber[] = [];
  let guessed = false;
  for (const [i, name] of names.entries()) {
    const ref = reference[i] ?? 0;
    const string = reference.length - i;
    if (name === 'x') {
      absent.push(string);
      open.push(ref);
      continue;
    }
    const exact = parsePitch(name);
    const spelled = exact === null ? parseName(name) : null;
    const midi = exact ?? (spelled ? nearest(pitchClass(spelled), ref) : null);
    if (midi === null)
      return fail('bad-note', `"${name}" is no note name. Use letters A to G with # or b.`, {
        path: ['tuning', 'string', string],
      });
    if (Math.abs(midi - ref) > MAX_TUNING_SHIFT) {
      return fail(
        'far-tuning',
        `String ${string} would be ${Math.abs(midi - ref)} semitones ${midi > ref ? 'above' : 'below'} ${asciiPitch(ref)}, what it is made for. Check the octave.`,
        { path: ['tuning', 'string', string] },
      );
    }
    guessed ||= exact === null;
    open.push(midi);
  }
  if (absent.length === reference.length)
    return fail('no-strings', 'Every string is taken off; leave at least one on.', 'tuning');
  const same = absent.length === 0 ? tuningOf(instrument, open, all) : undefined;
  const assumed = guessed
    ? `Octaves taken nearest to this instrument's own tuning: ${open.map((midi, i) => (names[i] === 'x' ? 'off' : asciiPitch(midi))).join(' ')}.`
    : null;
  return ok({ tuningId: same?.id ?? null, open, absent, assumed, ...signsOf(names.join(' ')) });
}

/** Which signs a spelling has; nothing where it has none, or both kinds. */
function signsOf(spelling: string): Pick<Setup, 'signs'> {
  const [flats, sharps] = [/[A-Ga-g][b♭]/.test(spelling), /[#♯]/.test(spelling)];
  return flats === sharps ? {} : { signs: flats ? 'flats' : 'sharps' };
}

/** The key that names all twelve pitches with one kind of sign. */
const SIGN_KEYS = { flats: { tonic: 'F', mode: 'major' }, sharps: { tonic: 'E', mode: 'major' } } as const;

/** The key a tuning's strings are named in: as it was spelled, else as given. */
export const tuningKey = (signs: Setup['signs'], key: Key | null = null): Key | null =>
  signs ? SIGN_KEYS[signs] : key;

/** "6=D 1=D4 3=x": only the strings that change, the others as the instrument is made for. */
function changedStrings(text: string, reference: readonly Midi[]): Result<string[]> {
  const names = reference.map((midi) => asciiPitch(midi));
  for (const word of text.split(/[\s,]+/).filter(Boolean)) {
    const match = /^(\d{1,2})=(.+)$/.exec(word);
    const string = Number(match?.[1] ?? 0);
    if (!match || string < 1 || string > reference.length)
      return fail(
        'bad-change',
        `"${word}" is no change of a string: write the string's number, "=" and its note, such as 6=D. Strings are 1 (thinnest) to ${reference.length}.`,
        'tuning',
      );
    names[reference.length - string] = /^(x|off)$/i.test(match[2] ?? '') ? 'x' : (match[2] ?? '');
  }
  return ok(names);
}

function tokenise(text: string): Result<string[]> {
  const spaced = text.split(/[\s,-]+/).filter(Boolean);
  const joined = spaced.length === 1 ? (spaced[0] ?? '') : null;
  const tokens = joined === null ? spaced : [...joined.matchAll(/[A-Ga-g][#b♯♭]*\d?|x|X|./gu)].map((match) => match[0]);
  if (tokens.length === 0)
    return fail('empty-tuning', 'No tuning given. Spell it thick to thin, for example D A D G B E.', 'tuning');
  if (tokens.length > 12) return fail('string-count', 'More than 12 strings named.', 'tuning');
  return ok(tokens.map((text) => (/^(x|off)$/i.test(text) ? 'x' : text)));
}

function nearest(pc: number, reference: Midi): Midi {
  const up = reference + ((((pc - reference) % 12) + 12) % 12);
  return up - reference < 6 ? up : up - 12;
}

/** The tuning of a list that these open pitches are, one meant for this instrument first. */
export function tuningOf(
  instrument: Instrument,
  open: readonly Midi[],
  among: readonly Tuning[] = TUNINGS,
): Tuning | undefined {
  const same = among.filter((tuning) => equal(tuningPitches(tuning), open));
  return same.find((tuning) => tuning.instruments.includes(instrument.id)) ?? same[0];
}

const equal = (a: readonly number[], b: readonly number[]): boolean =>
  a.length === b.length && a.every((x, i) => x === b[i]);

/** Per-string change from the instrument's reference tuning, thick to thin, in semitones. */
export const changesFromReference = (instrument: Instrument, open: readonly Midi[]): number[] =>
  open.map((midi, i) => midi - (instrument.strings[i]?.pitch ?? midi));

/** The tuning spelled thick to thin in letters ("D A D G B E"); strings taken off show as "–". */
export function spellTuning(
  open: readonly Midi[],
  absent: readonly StringNumber[] = [],
  signs: Setup['signs'] = undefined,
): string {
  const key = tuningKey(signs);
  return open.map((midi, i) => (absent.includes(open.length - i) ? '–' : noteName(midi, { key }))).join(' ');
}
