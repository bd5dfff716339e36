import { Chord } from 'tonal';
import { fail, ok, type Midi, type Result, type Semitones } from '../base';
import {
  noteName,
  parseName,
  pitchClass,
  renderName,
  shiftKey,
  spell,
  type Key,
  type Naming,
  type Spelled,
} from '../pitch';

/** A chord symbol taken apart: root, what follows, and the bass where it is another note. */
export interface ChordSymbol {
  readonly root: Spelled;
  /** "", "m", "7", "sus4", ... as tonal understands it. */
  readonly kind: string;
  readonly bass: Spelled | null;
}

const mod12 = (n: number): number => ((n % 12) + 12) % 12;

/** Reads a chord symbol ("F#m7", "D/F#", "B♭"); the fault names the symbol. */
export function parseChord(text: string): Result<ChordSymbol> {
  const ascii = text.trim().replaceAll('♯', '#').replaceAll('♭', 'b');
  const match = /^([A-G][#b]{0,2})([^/]*)(?:\/([A-G][#b]{0,2}))?$/.exec(ascii);
  const root = match ? parseName(match[1] ?? '') : null;
  const kind = match?.[2] ?? '';
  if (!match || !root || Chord.get(`${match[1]}${kind}`).empty)
    return fail(
      'unknown-chord',
      `"${text}" is no chord name the program knows. Write it as Am, F#m7, D/F# or G5.`,
      text,
    );
  return ok({ root, kind, bass: match[3] ? parseName(match[3]) : null });
}

/** The chord's pitch classes, root first; the bass is not added. */
export function classesOf({ root, kind }: ChordSymbol): number[] {
  const chord = Chord.get(`C${kind}`);
  return chord.notes
    .map(parseName)
    .flatMap((spelled) => (spelled ? [mod12(pitchClass(spelled) + pitchClass(root))] : []));
}

/** The chord as written, in the chosen naming. */
export const chordName = ({ root, kind, bass }: ChordSymbol, naming: Naming = 'letters'): string =>
  `${renderName(root, naming)}${kind.replaceAll('#', '♯').replace(/(?<=\d|^)b(?=\d)/g, '♭')}${bass ? `/${renderName(bass, naming)}` : ''}`;

/** The chord moved by semitones, spelled in a key, or with the fewest signs where there is none. */
export function shiftChord(chord: ChordSymbol, semitones: Semitones, key: Key | null): ChordSymbol {
  if (mod12(semitones) === 0) return chord;
  const moved = (spelled: Spelled): number => mod12(pitchClass(spelled) + semitones);
  const root = key ? spell(moved(chord.root), key) : plainRoot(moved(chord.root), chord.kind);
  // The bass is spelled as the chord's own scale has it: the third of D is F sharp, never G flat.
  const scale = key ?? scaleOfChord(root, chord.kind);
  return { ...chord, root, bass: chord.bass ? spell(moved(chord.bass), scale) : null };
}

/** The key a chord's other notes are spelled in where none is said: the third of D is F sharp, never G flat. */
export const scaleOfChord = (root: Spelled, kind: string): Key => ({
  tonic: asciiName(root),
  mode: /^m(?!aj)|^dim/.test(kind) ? 'minor' : 'major',
});

const asciiName = (spelled: Spelled): string =>
  spelled.letter + (spelled.alteration >= 0 ? '#'.repeat(spelled.alteration) : 'b'.repeat(-spelled.alteration));

/**
 * The root as players name it where no key is said: with the fewest signs of the key it would be the tonic of (D flat
 * major, but C sharp minor).
 */
export function plainRoot(pc: number, kind: string): Spelled {
  const minor = /^m(?!aj)|^dim/.test(kind);
  const from: Key = minor ? { tonic: 'A', mode: 'minor' } : { tonic: 'C', mode: 'major' };
  return parseName(shiftKey(from, mod12(pc - (minor ? 9 : 0))).tonic) ?? spell(pc, null);
}

/** The seven chords of a key as symbols ("Am", "Bdim" left out): those songs use. */
export function chordsOfKey(key: Key): ChordSymbol[] {
  const tonic = parseName(key.tonic);
  if (!tonic) return [];
  const steps: readonly (readonly [number, string])[] =
    key.mode === 'major'
      ? [
          [0, ''],
          [2, 'm'],
          [4, 'm'],
          [5, ''],
          [7, ''],
          [9, 'm'],
        ]
      : [
          [0, 'm'],
          [3, ''],
          [5, 'm'],
          [7, 'm'],
          [8, ''],
          [10, ''],
        ];
  return steps.map(([up, kind]) => ({ root: spell(mod12(pitchClass(tonic) + up), key), kind, bass: null }));
}

/** Kinds a player names first, plain ones before strange ones; anything else is spelled out as notes. */
const PLAIN_KINDS = [
  '',
  'm',
  '5',
  '7',
  'm7',
  'maj7',
  'sus4',
  'sus2',
  '6',
  'm6',
  'add9',
  'madd9',
  'dim',
  'aug',
  '7sus4',
  '9',
  'm9',
  'maj9',
  'mMaj7',
  'm7b5',
  'dim7',
];

/**
 * What a handful of sounding pitches is called: the plainest chord whose notes are exactly these,
 * over its bass; two notes as an interval over the lower ("E5", "G with its major third"); null
 * when no plain name fits. Full naming with partial chords and contexts is the harmony lane's.
 */
export function nameOf(pitches: readonly Midi[], key: Key | null = null, naming: Naming = 'letters'): string | null {
  const sorted = [...pitches].sort((a, b) => a - b);
  const classes = [...new Set(sorted.map(mod12))];
  const bass = classes[0];
  if (bass === undefined) return null;
  if (classes.length === 1) return `only ${noteName(sorted[0] ?? 0, { key, naming })}`;
  for (const kind of PLAIN_KINDS) {
    const form = Chord.get(`C${kind}`)
      .notes.map(parseName)
      .flatMap((spelled) => (spelled ? [mod12(pitchClass(spelled))] : []));
    if (form.length !== classes.length) continue;
    const roots = [bass, ...classes.filter((c) => c !== bass)];
    const root = roots.find((r) => form.every((f) => classes.includes(mod12(r + f))));
    if (root !== undefined) {
      const named = key ? spell(root, key) : plainRoot(root, kind);
      const scale = key ?? scaleOfChord(named, kind);
      return chordName({ root: named, kind, bass: root === bass ? null : spell(bass, scale) }, naming);
    }
  }
  return null;
}
