import { fail, ok, type Midi, type NutFret, type Result, type Semitones } from '../base';
import { shapeShift, type Setup } from '../instrument';
import { keyName, pitchClass, parseName, shiftKey, type Key, type Naming } from '../pitch';
import { chordFrames, type ChordFrame } from './frames';
import { chordName, chordsOfKey, parseChord, shiftChord, type ChordSymbol } from './chords';

/** Capos further up leave too little neck and too thin a sound on most guitars. */
export const MAX_PLANNED_CAPO = 9;

export interface PlannedChord {
  readonly sounding: ChordSymbol;
  readonly shape: ChordSymbol;
  /** Null where no hand grips it near the capo. */
  readonly frame: ChordFrame | null;
}

export interface CapoChoice {
  readonly capo: NutFret;
  /** The key the hand plays in. */
  readonly shapeKey: Key | null;
  readonly chords: readonly PlannedChord[];
  readonly openGrips: number;
  /** 0-100, higher is easier. */
  readonly score: number;
  readonly why: string;
}

export interface CapoRequest {
  readonly setup: Setup;
  /** Chords as they sound; without them those of the key. */
  readonly chords: readonly string[];
  readonly key: Key | null;
  readonly maxCapo?: NutFret;
}

/** Reads a list of chords as typed ("Bb F, Gm | Eb"). The fault names the first that is none. */
export function readChords(text: string): Result<ChordSymbol[]> {
  const chords: ChordSymbol[] = [];
  for (const word of text.split(/[\s,;|]+|(?:\s-\s)/).filter((word) => word !== '' && word !== '-')) {
    const chord = parseChord(word);
    if (!chord.ok) return chord;
    chords.push(chord.value);
  }
  return ok(chords);
}

const same = (a: ChordSymbol, b: ChordSymbol): boolean => chordName(a) === chordName(b);

/**
 * Where to put a full capo so that the chords come out as open grips: every fret from none to
 * `maxCapo`, best first. A grip with open strings counts fully, a closed one by how easily the
 * hand holds it; capos far up count a little less.
 */
export function planCapo({ setup, chords, key, maxCapo = MAX_PLANNED_CAPO }: CapoRequest): Result<CapoChoice[]> {
  const wanted: ChordSymbol[] = [];
  for (const text of chords) {
    const chord = parseChord(text);
    if (!chord.ok) return chord;
    if (!wanted.some((one) => same(one, chord.value))) wanted.push(chord.value);
  }
  if (wanted.length === 0 && key) wanted.push(...chordsOfKey(key));
  if (wanted.length === 0) return fail('no-chords', 'Give a key or some chords, such as "Bb F Gm Eb".', 'chords');
  if (wanted.length > 24) return fail('many-chords', `${wanted.length} different chords: give 24 at most.`, 'chords');
  const bare: Setup = { ...setup, capos: [] };
  const last = Math.min(maxCapo, setup.instrument.frets - 8, 12);
  const known = new Map<string, ChordFrame | null>();
  const frameOf = (sound: ChordSymbol): ChordFrame | null => {
    const name = `${pitchClass(sound.root)} ${sound.kind} ${sound.bass ? pitchClass(sound.bass) : ''}`;
    let frame = known.get(name);
    if (frame === undefined) {
      const found = chordFrames(sound, bare, 1);
      frame = found.ok ? (found.value[0] ?? null) : null;
      known.set(name, frame);
    }
    return frame;
  };
  const tuned = shapeShift(bare);
  const choices: CapoChoice[] = [];
  for (let capo = 0; capo <= Math.max(0, last); capo++) {
    const shapeKey = key ? shiftKey(key, -capo - tuned) : null;
    // The grip under a capo is the one that would sound `capo` lower without it.
    const planned = wanted.map((sounding): PlannedChord => ({
      sounding,
      shape: shiftChord(sounding, -capo - tuned, shapeKey),
      frame: frameOf(shiftChord(sounding, -capo, null)),
    }));
    choices.push(choiceOf(capo, shapeKey, planned));
  }
  return ok(choices.sort((a, b) => b.score - a.score || a.capo - b.capo));
}

function choiceOf(capo: NutFret, shapeKey: Key | null, chords: readonly PlannedChord[]): CapoChoice {
  const openGrips = chords.filter((chord) => chord.frame?.isOpen).length;
  const ease = (one: ChordFrame | null): number =>
    one === null ? 0 : one.isOpen ? Math.max(0.55, 1.05 - one.cost * 0.12) : Math.max(0.1, 0.55 - one.cost * 0.08);
  const mean = chords.reduce((sum, chord) => sum + Math.min(1, ease(chord.frame)), 0) / chords.length;
  const far = Math.max(0, capo - 5) * 0.02 + (capo > 0 ? 0.01 : 0);
  const missing = chords.filter((chord) => chord.frame === null).map((chord) => chordName(chord.shape));
  const closed = chords.filter((chord) => chord.frame && !chord.frame.isOpen).map((chord) => chordName(chord.shape));
  const why = [
    `${openGrips} of ${chords.length} open`,
    closed.length > 0 ? `${closed.join(', ')} closed` : '',
    missing.length > 0 ? `no grip for ${missing.join(', ')}` : '',
    capo > 7 ? 'short neck, thin sound' : '',
  ]
    .filter(Boolean)
    .join('; ');
  return { capo, shapeKey, chords, openGrips, score: Math.round(100 * Math.max(0, mean - far)), why };
}

/** Two guitars with different capos: grips in other places of the neck, so that together they sound wide. */
export interface CapoPair {
  readonly first: CapoChoice;
  readonly second: CapoChoice;
  readonly score: number;
}

/** The best pairs: both easy, at least two frets apart, no shape the same. */
export function capoPairs(choices: readonly CapoChoice[], howMany = 3): CapoPair[] {
  const pairs: CapoPair[] = [];
  for (const a of choices) {
    for (const b of choices) {
      if (b.capo - a.capo < 2) continue;
      // Three to seven frets apart the voicings interlock best; nearer they crowd each other.
      const apart = b.capo - a.capo;
      pairs.push({
        first: a,
        second: b,
        score: Math.round((a.score + b.score) / 2 - (apart < 3 || apart > 7 ? 6 : 0)),
      });
    }
  }
  return pairs.sort((one, y) => y.score - one.score || one.first.capo - y.first.capo).slice(0, howMany);
}

/** A key a singer could take, and how the melody lies in the voice there. */
export interface SingerKey {
  readonly semitones: Semitones;
  readonly key: Key;
  /** Semitones free above and below the melody in the voice; below 0 where it goes beyond. */
  readonly above: number;
  readonly below: number;
}

/**
 * Keys in which a melody fits a voice, best centred first; where none fits, the nearest misses
 * (with their shortfall). All ranges in MIDI numbers.
 */
export function singerKeys(
  key: Key,
  melody: { readonly low: Midi; readonly high: Midi },
  voice: { readonly low: Midi; readonly high: Midi },
): Result<SingerKey[]> {
  if (melody.low > melody.high) return fail('bad-range', 'The melody’s lowest note lies above its highest.', 'melody');
  if (voice.low >= voice.high) return fail('bad-range', 'The voice’s lowest note lies above its highest.', 'voice');
  const keys: SingerKey[] = [];
  for (let semitones = -11; semitones <= 11; semitones++) {
    keys.push({
      semitones,
      key: shiftKey(key, semitones),
      above: voice.high - melody.high - semitones,
      below: melody.low + semitones - voice.low,
    });
  }
  const fits = keys.filter((one) => one.above >= 0 && one.below >= 0);
  const among =
    fits.length > 0 ? fits : keys.sort((a, b) => Math.min(b.above, b.below) - Math.min(a.above, a.below)).slice(0, 3);
  return ok(
    among.sort(
      (a, b) =>
        Math.abs(a.above - a.below) - Math.abs(b.above - b.below) || Math.abs(a.semitones) - Math.abs(b.semitones),
    ),
  );
}

/** What to tell the band: the sounding key and chords for the shapes of one guitar. */
export function bandLine(choice: CapoChoice, key: Key | null, naming: Naming = 'letters'): string {
  const shapes = choice.chords.map((chord) => chordName(chord.shape, naming)).join(' ');
  const sounds = choice.chords.map((chord) => chordName(chord.sounding, naming)).join(' ');
  const hand = choice.capo === 0 ? 'Guitar without capo' : `Guitar with capo ${choice.capo}`;
  const handKey = choice.shapeKey ? ` in ${keyName(choice.shapeKey, naming)} shapes` : '';
  return choice.capo === 0 && shapes === sounds
    ? `${hand}: ${sounds}. Everyone plays what is named${key ? `, in ${keyName(key, naming)}` : ''}.`
    : `${hand} plays${handKey}: ${shapes}. Everyone else plays what sounds${key ? `, ${keyName(key, naming)}` : ''}: ${sounds}.`;
}

/** A key as typed: "Bb", "F# minor", "cm". */
export function readKey(text: string): Result<Key> {
  const match = /^\s*([A-Ga-g][#b♯♭]?)\s*(m|min|minor|maj|major|)\s*$/i.exec(text);
  const tonic = match ? (match[1] ?? '').replace('♯', '#').replace('♭', 'b') : '';
  const name = tonic.charAt(0).toUpperCase() + tonic.slice(1);
  if (!match || !parseName(name)) return fail('bad-key', `"${text}" is no key. Write it as Bb, F# minor or Am.`, 'key');
  return ok({ tonic: name, mode: /^(m|min|minor)$/i.test(match[2] ?? '') && match[2] !== 'M' ? 'minor' : 'major' });
}
