import type { Midi, Semitones, StringNumber } from '../base';
import { baseNut, openPitch, type Setup } from '../instrument';
import type { Key, Naming } from '../pitch';
import { nameOf } from './chords';

/** Grips every player of a six-string guitar knows, thick to thin in standard tuning; -1 is not struck. */
const FAMILIAR: readonly (readonly [name: string, frets: readonly number[]])[] = [
  ['E', [0, 2, 2, 1, 0, 0]],
  ['Em', [0, 2, 2, 0, 0, 0]],
  ['A', [-1, 0, 2, 2, 2, 0]],
  ['Am', [-1, 0, 2, 2, 1, 0]],
  ['D', [-1, -1, 0, 2, 3, 2]],
  ['Dm', [-1, -1, 0, 2, 3, 1]],
  ['G', [3, 2, 0, 0, 0, 3]],
  ['C', [-1, 3, 2, 0, 1, 0]],
  ['F, barre', [1, 3, 3, 2, 1, 1]],
  ['B minor, barre', [-1, 2, 4, 4, 3, 2]],
  ['power chord from string 6', [3, 5, 5, -1, -1, -1]],
  ['power chord from string 5', [-1, 3, 5, 5, -1, -1]],
];
const STANDARD: readonly Midi[] = [40, 45, 50, 55, 59, 64];

export interface GripMeaning {
  readonly name: string;
  /** Thick to thin, from the capo; null is not struck. */
  readonly frets: readonly (number | null)[];
  /** Semitones all its notes move by, where they move alike; null where the grip is another chord now. */
  readonly moved: Semitones | null;
  /** What it sounds now; null where no plain chord name fits. */
  readonly sounds: string | null;
  readonly pitches: readonly Midi[];
  /** Strings whose notes moved otherwise than most: the ones to refinger. */
  readonly odd: readonly StringNumber[];
}

/** What the grips a player knows from standard tuning sound in a six-string set-up; empty for others. */
export function gripMeanings(setup: Setup, key: Key | null = null, naming: Naming = 'letters'): GripMeaning[] {
  if (setup.open.length !== STANDARD.length || setup.instrument.kind === 'bass') return [];
  const base = baseNut(setup);
  return FAMILIAR.flatMap(([name, frets]): GripMeaning[] => {
    const struck = frets.flatMap((f, i) =>
      f < 0 || setup.absent.includes(6 - i) ? [] : [{ string: 6 - i, fret: f, was: (STANDARD[i] ?? 0) + f }],
    );
    if (struck.length < 2) return [];
    const now = struck.map((place) => ({ ...place, pitch: openPitch(setup, place.string) + place.fret }));
    const shifts = now.map((place) => place.pitch - place.was);
    const counts = new Map<number, number>();
    for (const s of shifts) counts.set(s, (counts.get(s) ?? 0) + 1);
    const [most] = [...counts].sort((a, b) => b[1] - a[1] || Math.abs(a[0] - base) - Math.abs(b[0] - base))[0] ?? [0];
    const pitches = now.map((place) => place.pitch);
    return [
      {
        name,
        frets: frets.map((f, i) => (f < 0 || setup.absent.includes(6 - i) ? null : f)),
        moved: counts.size === 1 ? most : null,
        sounds: nameOf(pitches, key, naming),
        pitches,
        odd: now.filter((place) => place.pitch - place.was !== most).map((place) => place.string),
      },
    ];
  });
}
