import { Chord, Interval } from 'tonal';
import type { Midi } from '../base';
import { parseName, pitchClass, type Spelled } from '../pitch';
import type { ChordSymbol } from './chords';

/** Degrees over a root by semitones above it, as players say them; chords bring their own names for some. */
const DEGREES = ['1', '♭2', '2', '♭3', '3', '4', '♯4', '5', '♭6', '6', '♭7', '7'] as const;
const SIGNS: Readonly<Record<number, string>> = { [-2]: '♭♭', [-1]: '♭', 0: '', 1: '♯', 2: '♯♯' };

const mod12 = (n: number): number => ((n % 12) + 12) % 12;

/** The names a chord's own notes have in it: the diminished fifth of a dim is ♭5, the ninth of an add9 is 9. */
function ownDegrees(kind: string): ReadonlyMap<number, string> {
  const out = new Map<number, string>();
  for (const name of Chord.get(`C${kind}`).intervals) {
    const interval = Interval.get(name);
    if (interval.empty) continue;
    out.set(mod12(interval.semitones), `${SIGNS[interval.alt] ?? ''}${interval.num}`);
  }
  return out;
}

const known = new Map<string, ReadonlyMap<number, string>>();

/** What a sounding pitch is over a chord: "1", "♭3", "5", "9"; over a bass note alone by the plain names. */
export function degreeOver(midi: Midi, chord: ChordSymbol | Spelled): string {
  const root = 'root' in chord ? chord.root : chord;
  const above = mod12(midi - pitchClass(root));
  if (!('root' in chord)) return DEGREES[above] ?? '';
  const own = known.get(chord.kind) ?? ownDegrees(chord.kind);
  known.set(chord.kind, own);
  return own.get(above) ?? DEGREES[above] ?? '';
}

/** The same over a bass note by its name; null where it is none. */
export function degreeOverNote(midi: Midi, note: string): string | null {
  const read = parseName(note);
  return read ? degreeOver(midi, read) : null;
}
