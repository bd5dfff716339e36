import { fail, ok, type Cents, type Midi, type Result } from '../base';
import { noteName, parseName, parsePitch, pitchClass, type NameOptions } from './names';

/**
 * One model of what lies between the frets: cents above a pitch. It is entered and read in four
 * ways: as cents, as frets' worth (a fret is 100 cents), as the place on the string (fret 7.5),
 * and as the note it reaches with what is left over.
 */
export interface Microtone {
  readonly cents: Cents;
  /** As many frets' worth. */
  readonly frets: number;
  /** The fret that would sound so, counted as the base's fret is; null where the base has no place. */
  readonly at: number | null;
  /** The nearest note, and how far beside it. */
  readonly target: Midi;
  readonly beside: Cents;
}

/** Reads `cents` above a pitch (and its fret, where it has one) in all four ways. */
export function microtone(base: Midi, cents: Cents, fret: number | null = null): Microtone {
  const target = base + Math.round(cents / 100);
  return {
    cents,
    frets: cents / 100,
    at: fret === null ? null : fret + cents / 100,
    target,
    beside: cents - 100 * (target - base),
  };
}

/** The four readings in words: "150 cents", "1.5 frets", "fret 8.5", "E4, 50 cents flat". */
export function microtoneWords(
  one: Microtone,
  options: NameOptions = {},
): { readonly cents: string; readonly frets: string; readonly at: string | null; readonly target: string } {
  const short = (x: number): string => String(Math.round(x * 100) / 100);
  return {
    cents: `${one.cents} cents`,
    frets: `${short(one.frets)} ${Math.abs(one.frets) === 1 ? 'fret' : 'frets'}`,
    at: one.at === null ? null : `fret ${short(one.at)}`,
    target: `${noteName(one.target, { octave: true, ...options })}${one.beside === 0 ? '' : `, ${Math.abs(one.beside)} cents ${one.beside > 0 ? 'sharp' : 'flat'}`}`,
  };
}

const STEPS: Readonly<Record<string, Cents>> = { quarter: 50, half: 100, whole: 200 };

/**
 * Reads what was typed as cents above a base pitch: "150", "150 c", "1.5 frets", "fret 8.5"
 * (needs the base's fret), "E", "E4", "E4 -20", "quarter", "half", "whole". A name without
 * octave is the next one at or above the base.
 */
export function parseMicrotone(text: string, base: Midi, fret: number | null): Result<Cents> {
  const wording = text.trim();
  const number = /^([+-]?\d+(?:\.\d+)?)\s*(?:c|cents?|¢)?$/i.exec(wording);
  if (number) return ok(Math.round(Number(number[1])));
  const frets = /^([+-]?\d+(?:\.\d+)?)\s*frets?$/i.exec(wording);
  if (frets) return ok(Math.round(Number(frets[1]) * 100));
  const at = /^fret\s*(\d+(?:\.\d+)?)$/i.exec(wording);
  if (at)
    return fret === null
      ? fail('no-place', 'This note has no fret to count from: give cents or a note.', text)
      : ok(Math.round((Number(at[1]) - fret) * 100));
  const step = STEPS[wording.toLowerCase()];
  if (step !== undefined) return ok(step);
  const named = /^([A-Ga-g][#b♯♭]{0,2})(-?\d)?\s*([+-]\s*\d+)?$/.exec(wording);
  const spelled = named ? parseName(named[1] ?? '') : null;
  if (!named || !spelled)
    return fail(
      'microtone',
      'Say cents ("150"), frets ("1.5 frets"), a place ("fret 8.5") or a note ("E4", "E4 -20").',
      text,
    );
  const target =
    named[2] === undefined
      ? base + ((((pitchClass(spelled) - base) % 12) + 12) % 12)
      : parsePitch(`${named[1] ?? ''}${named[2]}`);
  return target === null
    ? fail('microtone', 'That note is out of range.', text)
    : ok((target - base) * 100 + Number((named[3] ?? '0').replace(/\s/g, '')));
}
