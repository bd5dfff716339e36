import { parseChord } from '../harmony';
import { fretShown, nominalName, openPitch, pitchAt, soundingName, stringNumbers, type Setup } from '../instrument';
import { asciiPitch, noteName, parseName, parsePitch, pitchClass, renderName, type Naming } from '../pitch';
import { DEFAULT_SCHOOLS, type Schools } from '../schools';
import type { Interpretation } from './types';

/** A string that a letter may mean, and by which of its two names. */
export interface StringChoice {
  readonly string: number;
  readonly by: 'nominal' | 'sounding';
}

const letterOf = (text: string): string | null => {
  const spelled = parseName(text);
  return spelled ? renderName(spelled) : null;
};

const samePitchClass = (a: string, b: string): boolean => {
  const spelled = parseName(a);
  const one = parseName(b);
  return spelled !== null && one !== null && pitchClass(spelled) === pitchClass(one);
};

/**
 * Strings a letter may mean, the likeliest first: nominal names before sounding ones, and among
 * equals the one nearest to the string called last (the thick one where none was called).
 */
export function stringsNamed(text: string, setup: Setup, last: number | null): StringChoice[] {
  const wanted = letterOf(text);
  if (wanted === null) return [];
  const near = last ?? setup.open.length;
  const all = stringNumbers(setup);
  const nominal = all.filter((string) => samePitchClass(nominalName(setup, string), wanted));
  const sounding = all.filter(
    (string) => !nominal.includes(string) && samePitchClass(soundingName(setup, string), wanted),
  );
  const nearest = (list: number[]): number[] =>
    [...list].sort((a, b) => Math.abs(a - near) - Math.abs(b - near) || b - a);
  return [
    ...nearest(nominal).map((string) => ({ string, by: 'nominal' as const })),
    ...nearest(sounding).map((string) => ({ string, by: 'sounding' as const })),
  ];
}

/** "string 4 (D)", with the sounding name beside it where it differs. */
export function stringWords(setup: Setup, string: number, naming: Naming = 'letters'): string {
  const nominal = nominalName(setup, string, { naming });
  const sounding = soundingName(setup, string, { naming });
  return `string ${string} (${nominal === sounding ? nominal : `${nominal}, sounds ${sounding}`})`;
}

export const fretWords = (fret: number, typed = fret): string => (fret === 0 ? 'open' : `fret ${typed}`);

/** What "E7" or "D3" may mean: a fret of a string by that letter, a pitch, or a chord. */
export type NameReading = Interpretation &
  (
    | { readonly kind: 'place'; readonly string: number; readonly fret: number }
    | { readonly kind: 'pitch'; readonly pitch: number }
    | { readonly kind: 'chord'; readonly symbol: string }
  );

/** All readings of a letter with something behind it, the likeliest first; empty when none makes sense here. */
export function readingsOf(
  text: string,
  setup: Setup,
  last: number | null,
  schools: Schools = DEFAULT_SCHOOLS,
): NameReading[] {
  const readings: NameReading[] = [];
  const split = /^([A-G][#b♯♭]?)(\d+)$/.exec(text);
  if (split) {
    const typed = Number(split[2]);
    for (const { string } of stringsNamed(split[1] ?? '', setup, last)) {
      const fret = typed === 0 ? 0 : fretShown(setup, string, typed, schools.frets);
      if (!pitchAt(setup, { string, fret }).ok) continue;
      readings.push({
        kind: 'place',
        string,
        fret,
        label: `${stringWords(setup, string, schools.notes)}, ${fretWords(fret, typed)}`,
        text: `on ${string} ${fret === 0 ? 'open' : typed}`,
      });
    }
  }
  const pitch = parsePitch(text);
  if (pitch !== null && onTheNeck(setup, pitch)) {
    readings.push({
      kind: 'pitch',
      pitch,
      label: `the pitch ${noteName(pitch, { octave: true, naming: schools.notes })}, wherever it lies best`,
      text: `note ${asciiPitch(pitch)}`,
    });
  }
  if (parseChord(text).ok)
    readings.push({
      kind: 'chord',
      symbol: text,
      label: `the chord shape ${text}, as a grip near the nut`,
      text: `chord ${text}`,
    });
  return readings;
}

export function onTheNeck(setup: Setup, pitch: number): boolean {
  return stringNumbers(setup).some((string) => pitchAt(setup, { string, fret: pitch - openPitch(setup, string) }).ok);
}
