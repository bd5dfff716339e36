import { Note } from 'tonal';
import type { Midi } from '../base';

/** How note names are shown: letters, syllables with fixed Do, or German letters (H and B). */
export type Naming = 'letters' | 'solfege' | 'german';

/** A key as it sounds: spelled tonic and mode. */
export interface Key {
  readonly tonic: string;
  readonly mode: 'major' | 'minor';
}

/** A spelled note name without octave: letter and alteration (-2 to 2). */
export interface Spelled {
  readonly letter: 'C' | 'D' | 'E' | 'F' | 'G' | 'A' | 'B';
  readonly alteration: number;
}

/** Letters in order of fifths, F at 0; a sharp adds 7. */
const FIFTHS = ['F', 'C', 'G', 'D', 'A', 'E', 'B'] as const;
const SOLFEGE: Record<Spelled['letter'], string> = { C: 'Do', D: 'Re', E: 'Mi', F: 'Fa', G: 'Sol', A: 'La', B: 'Si' };
const SIGNS: Record<number, string> = { [-2]: '♭♭', [-1]: '♭', 0: '', 1: '♯', 2: '♯♯' };

const mod = (a: number, n: number): number => ((a % n) + n) % n;

/** Reads a note name without octave ("Bb", "B♭", "F#", "ebb"); null when it is none. */
export function parseName(text: string): Spelled | null {
  const match = /^\s*([A-Ga-g])(##|bb|♯♯|♭♭|x|#|b|♯|♭|)\s*$/.exec(text);
  if (!match) return null;
  const sign = match[2] ?? '';
  const alteration =
    sign === 'x' ? 2 : [...sign].reduce((sum, letter) => sum + (letter === '#' || letter === '♯' ? 1 : -1), 0);
  return { letter: (match[1] ?? 'C').toUpperCase() as Spelled['letter'], alteration };
}

/** Place on the line of fifths: F = 0, C = 1, ... B = 6, F sharp = 7, B flat = -1. */
export const fifthsOf = (spelled: Spelled): number => FIFTHS.indexOf(spelled.letter) + 7 * spelled.alteration;

/** The name at a place on the line of fifths. */
export function fromFifths(place: number): Spelled {
  return { letter: FIFTHS[mod(place, 7)] ?? 'C', alteration: Math.floor(place / 7) };
}

/** Pitch class 0-11 of a name, C = 0. */
export const pitchClass = (spelled: Spelled): number => mod(fifthsOf(spelled) * 7 - 7, 12);

/** Without a key, the names players use for open strings and riffs: one flat to four sharps but E flat and B flat. */
const KEYLESS_WINDOW = -2;

/**
 * Spells a pitch class in a key. The twelve names from five fifths below the tonic to six above it
 * hold the major and the minor scale and their usual chromatic notes (flat 2 ... sharp 4), each
 * pitch class once, so the choice is unique: in C sharp minor pitch class 4 is E, never F flat.
 */
export function spell(pc: number, key?: Key | null): Spelled {
  const tonic = key ? parseName(key.tonic) : null;
  const low = tonic ? fifthsOf(tonic) - 5 : KEYLESS_WINDOW;
  const base = mod(pc * 7 + 1, 12);
  return fromFifths(low + mod(base - low, 12));
}

/** A name as text in the chosen naming, with true music signs ("F♯", "Sol♭", German "B" for B flat). */
export function renderName(spelled: Spelled, naming: Naming = 'letters'): string {
  const sign =
    SIGNS[spelled.alteration] ??
    (spelled.alteration > 0 ? '♯'.repeat(spelled.alteration) : '♭'.repeat(-spelled.alteration));
  if (naming === 'solfege') return SOLFEGE[spelled.letter] + sign;
  if (naming === 'german') {
    if (spelled.letter === 'B') return spelled.alteration === 0 ? 'H' : spelled.alteration === -1 ? 'B' : `H${sign}`;
    return spelled.letter + sign;
  }
  return spelled.letter + sign;
}

export interface NameOptions {
  readonly key?: Key | null;
  readonly naming?: Naming;
  /** With the octave number (C4 = middle C). */
  readonly octave?: boolean;
}

/** Name of a sounding pitch in a key and naming; with the octave of its spelling (B sharp 3 = C4) when asked. */
export function noteName(midi: Midi, options: NameOptions = {}): string {
  const spelled = spell(mod(Math.round(midi), 12), options.key ?? null);
  const text = renderName(spelled, options.naming);
  return options.octave ? `${text}${octaveOf(midi, spelled)}` : text;
}

/** The octave number that belongs to a spelling of a pitch: letters decide, so C flat 4 sounds as B3. */
export function octaveOf(midi: Midi, spelled: Spelled): number {
  return Math.floor((Math.round(midi) - spelled.alteration) / 12) - 1;
}

/** Reads a pitch name with octave ("C#4", "B♭2") as a MIDI number 0-127; null when it is none. */
export function parsePitch(text: string): Midi | null {
  const match = /^\s*([A-Ga-g](?:##|bb|♯♯|♭♭|#|b|♯|♭|))(-?\d)\s*$/.exec(text);
  if (!match) return null;
  const ascii = (match[1] ?? '').replaceAll('♯', '#').replaceAll('♭', 'b');
  const midi = Note.midi(ascii.charAt(0).toUpperCase() + ascii.slice(1) + match[2]);
  return midi ?? null;
}

/** Plain ASCII name with octave ("C#4"), for files and the call line. */
export function asciiPitch(midi: Midi, key?: Key | null): string {
  const spelled = spell(mod(midi, 12), key ?? null);
  const sign = spelled.alteration >= 0 ? '#'.repeat(spelled.alteration) : 'b'.repeat(-spelled.alteration);
  return `${spelled.letter}${sign}${octaveOf(midi, spelled)}`;
}

/** The key a shift of semitones away, tonic spelled with the fewest signs (B flat rather than A sharp). */
export function shiftKey(key: Key, semitones: number): Key {
  const tonic = parseName(key.tonic);
  if (!tonic) return key;
  const place = fifthsOf(tonic) + 7 * semitones;
  // Keys are spelled within six fifths of C major or A minor: at most six signs.
  const centre = key.mode === 'major' ? 1 : 4;
  const near = centre - 5 + mod(place - (centre - 5), 12);
  const spelled = fromFifths(near);
  return {
    tonic:
      spelled.letter + (spelled.alteration >= 0 ? '#'.repeat(spelled.alteration) : 'b'.repeat(-spelled.alteration)),
    mode: key.mode,
  };
}

/** "D minor", with music signs, in the chosen naming. */
export function keyName(key: Key, naming: Naming = 'letters'): string {
  const spelled = parseName(key.tonic);
  return `${spelled ? renderName(spelled, naming) : key.tonic} ${key.mode}`;
}
