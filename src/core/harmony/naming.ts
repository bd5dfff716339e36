import type { Midi } from '../base';
import { shapesHere, shapeShift, type Setup } from '../instrument';
import { noteName, parseName, pitchClass, spell, type Key, type Naming } from '../pitch';
import { chordName, plainRoot, scaleOfChord, shiftChord, type ChordSymbol } from './chords';
import { degreeOver } from './degree';

/**
 * What sounds is called by what it holds, over its bass: the plainest name whose notes are these, and the names beside
 * it. A name may leave out the fifth, which changes nothing; a third that is missing is said.
 */

/** One name for a handful of notes. */
export interface ChordReading {
  /** As it sounds: "Am7", "C/E", "E5", "G7 no 3". */
  readonly sounding: string;
  /** What the grip would be called in standard tuning without capo; null where the set-up has no such name. */
  readonly shape: string | null;
  readonly chord: ChordSymbol;
  /** What speaks for it, in words. */
  readonly why: string;
  /** What it asks to believe; the lowest is the likeliest. Two within 0.3 are a matter of context. */
  readonly cost: number;
}

export interface Asked {
  /** Sounding pitches, in any order. */
  readonly pitches: readonly Midi[];
  /** Pitch class of what another player has under it, where that is known. */
  readonly bass?: number | null;
  readonly key?: Key | null;
  readonly naming?: Naming;
  readonly setup?: Setup | null;
}

interface Kind {
  readonly kind: string;
  /** Semitones over the root. */
  readonly tones: readonly number[];
  /** How far it is from plain. */
  readonly cost: number;
  /** Tones without which it is called something else. */
  readonly needs: readonly number[];
}

const kind = (name: string, tones: readonly number[], cost: number, needs: readonly number[]): Kind => ({
  ...{ kind: name, tones, cost, needs },
});

/** Kinds of chords players name, the plain ones cheap; tones as `tonal`'s dictionary has them. */
const KINDS: readonly Kind[] = [
  kind('', [0, 4, 7], 0, [0, 4]),
  kind('m', [0, 3, 7], 0, [0, 3]),
  kind('5', [0, 7], 0.1, [0, 7]),
  kind('7', [0, 4, 7, 10], 0.5, [0, 4, 10]),
  kind('m7', [0, 3, 7, 10], 0.5, [0, 3, 10]),
  kind('maj7', [0, 4, 7, 11], 0.6, [0, 4, 11]),
  kind('mMaj7', [0, 3, 7, 11], 1, [0, 3, 11]),
  kind('sus4', [0, 5, 7], 0.6, [0, 5, 7]),
  kind('sus2', [0, 2, 7], 0.7, [0, 2, 7]),
  kind('7sus4', [0, 5, 7, 10], 0.8, [0, 5, 10]),
  kind('6', [0, 4, 7, 9], 1.1, [0, 4, 7, 9]),
  kind('m6', [0, 3, 7, 9], 1.1, [0, 3, 7, 9]),
  kind('69', [0, 4, 7, 9, 2], 1.3, [0, 4, 9, 2]),
  kind('add9', [0, 4, 7, 2], 0.9, [0, 4, 2]),
  kind('madd9', [0, 3, 7, 2], 1, [0, 3, 2]),
  kind('dim', [0, 3, 6], 0.5, [0, 3, 6]),
  kind('dim7', [0, 3, 6, 9], 0.7, [0, 3, 6, 9]),
  kind('m7b5', [0, 3, 6, 10], 0.8, [0, 3, 6, 10]),
  kind('aug', [0, 4, 8], 0.6, [0, 4, 8]),
  kind('7#5', [0, 4, 8, 10], 1.1, [0, 4, 8, 10]),
  kind('7b5', [0, 4, 6, 10], 1.3, [0, 4, 6, 10]),
  kind('9', [0, 4, 7, 10, 2], 0.9, [0, 4, 10, 2]),
  kind('m9', [0, 3, 7, 10, 2], 0.9, [0, 3, 10, 2]),
  kind('maj9', [0, 4, 7, 11, 2], 1, [0, 4, 11, 2]),
  kind('9sus4', [0, 5, 7, 10, 2], 1.3, [0, 5, 10, 2]),
  kind('7#9', [0, 4, 7, 10, 3], 1, [0, 4, 10, 3]),
  kind('7b9', [0, 4, 7, 10, 1], 1.1, [0, 4, 10, 1]),
  kind('m11', [0, 3, 7, 10, 2, 5], 1.4, [0, 3, 10, 5]),
  kind('13', [0, 4, 7, 10, 2, 9], 1.4, [0, 4, 10, 9]),
  kind('m13', [0, 3, 7, 10, 2, 9], 1.8, [0, 3, 10, 9]),
  kind('maj13', [0, 4, 7, 11, 2, 9], 1.8, [0, 4, 11, 9]),
  kind('maj7#11', [0, 4, 7, 11, 6], 1.6, [0, 4, 11, 6]),
];

/** What a name asks to believe beyond its kind. */
const COST = {
  /** The fifth left out (of a suspended chord), another tone of a large one, the third of a seventh. */
  ...{ noFifth: 0.35, noFifthSus: 0.6, noUpper: 0.25, noThird: 0.9 },
  /** The bass is the fifth or third, another tone of the chord, a note outside it. */
  ...{ onFifth: 0.7, onThird: 0.75, onOther: 1.05, onForeign: 1.6 },
  /** The bass is said by another player only, and what the guitar holds is a chord without it. */
  lanedForeign: 1.5,
  /** The root is the tonic, or of the key; the chord has a note outside the key. */
  ...{ tonic: -0.12, diatonic: -0.05, outside: 0.04 },
} as const;

const THIRD = new Set([3, 4]);
const mod12 = (n: number): number => ((n % 12) + 12) % 12;

/**
 * Names of what sounds together, the likeliest first, six at most; none for a single pitch class. Fifths and fourths
 * are power chords, of which a fourth has its root on top; two other notes are a chord that lacks what it lacks.
 */
export function namesOf(asked: Asked): ChordReading[] {
  const { pitches, key = null, naming = 'letters', setup = null } = asked;
  if (pitches.length === 0) return [];
  const lowest = mod12(Math.min(...pitches));
  const held = [...new Set(pitches.map(mod12))];
  const under = asked.bass ?? null;
  const bass = under ?? lowest;
  const classes = held.includes(bass) ? held : [...held, bass];
  if (classes.length < 2) return [];
  const found: (Found & { readonly cost: number })[] = [];
  for (const root of classes)
    for (const one of KINDS) {
      const made = fitted(one, root, bass, classes);
      if (made) found.push({ ...made, cost: made.cost + inKey(one, root, key) });
    }
  // What is held over a bass of its own is a chord by itself: C over D.
  if (held.length > 2 || (held.length > 1 && under !== null))
    for (const root of held.filter((pc) => pc !== bass))
      for (const one of KINDS.filter(({ cost, tones }) => cost <= 0.6 && tones.length > 2)) {
        const upper = held.filter((pc) => pc !== bass);
        const made = one.tones.some((tone) => mod12(root + tone) === bass) ? null : fitted(one, root, root, upper);
        if (!made) continue;
        const extra = under === null ? COST.onForeign : COST.lanedForeign;
        found.push({ ...made, bass, foreign: true, cost: made.cost + extra + inKey(one, root, key) });
      }
  const out: ChordReading[] = [];
  for (const one of found.sort((a, b) => a.cost - b.cost)) {
    const reading = readingOf(one, { key, naming, setup, under, held });
    if (!out.some((other) => other.sounding === reading.sounding)) out.push(reading);
  }
  return out.slice(0, MOST_NAMES);
}

const MOST_NAMES = 6;

interface Found {
  readonly kind: Kind;
  readonly root: number;
  readonly bass: number;
  /** Tones of the kind that don't sound, in semitones over the root. */
  readonly missing: readonly number[];
  readonly foreign: boolean;
}

/** The kind on a root where it holds everything that sounds; what that costs. */
function fitted(
  one: Kind,
  root: number,
  bass: number,
  classes: readonly number[],
): (Found & { readonly cost: number }) | null {
  const over = classes.map((pc) => mod12(pc - root));
  if (over.some((tone) => !one.tones.includes(tone))) return null;
  const missing = one.tones.filter((tone) => !over.includes(tone));
  const needed = missing.filter((tone) => one.needs.includes(tone));
  const third = needed.length === 1 && THIRD.has(needed[0] ?? -1) && one.tones.includes(10);
  // A seventh without its third is called so; without anything else that names it, it is another chord.
  if (needed.length > 0 && !(third && (one.kind === '7' || one.kind === '9'))) return null;
  let cost = one.cost;
  for (const tone of missing) {
    if (THIRD.has(tone)) cost += COST.noThird;
    else if (tone === 7) cost += one.kind.includes('sus') ? COST.noFifthSus : COST.noFifth;
    else cost += COST.noUpper;
  }
  const on = mod12(bass - root);
  if (on !== 0) cost += on === 7 ? COST.onFifth : THIRD.has(on) ? COST.onThird : COST.onOther;
  return { kind: one, root, bass, missing, foreign: false, cost };
}

const SCALE: Readonly<Record<Key['mode'], readonly number[]>> = {
  major: [0, 2, 4, 5, 7, 9, 11],
  minor: [0, 2, 3, 5, 7, 8, 10, 11],
};

function inKey(one: Kind, root: number, key: Key | null): number {
  const tonic = key ? parseName(key.tonic) : null;
  if (!key || !tonic) return 0;
  const home = pitchClass(tonic);
  const scale = SCALE[key.mode];
  const outside = one.tones.filter((tone) => !scale.includes(mod12(root + tone - home))).length;
  const rooted = root === home ? COST.tonic : scale.includes(mod12(root - home)) ? COST.diatonic : 0;
  return rooted + outside * COST.outside;
}

/** How a reading is put into words, and what it was read from. */
interface Telling {
  readonly key: Key | null;
  readonly naming: Naming;
  readonly setup: Setup | null;
  readonly under: number | null;
  readonly held: readonly number[];
}

function readingOf(found: Found & { readonly cost: number }, how: Telling): ChordReading {
  const { kind: one, root, bass, missing } = found;
  const { key, naming, setup } = how;
  const named = key ? spell(root, key) : plainRoot(root, one.kind);
  const scale = key ?? scaleOfChord(named, one.kind);
  const chord: ChordSymbol = { root: named, kind: one.kind, bass: bass === root ? null : spell(bass, scale) };
  const noThird = missing.some((tone) => THIRD.has(tone));
  const told = (symbol: ChordSymbol): string => {
    const plain = chordName(symbol, naming);
    if (!noThird) return plain;
    const [head = plain, ...slash] = plain.split('/');
    return [`${head} no 3`, ...slash].join('/');
  };
  const shift = setup && shapesHere(setup) ? shapeShift(setup) : null;
  return {
    sounding: told(chord),
    shape: shift === null ? null : told(shiftChord(chord, -shift, null)),
    chord,
    why: whyOf(found, how, chord),
    cost: Math.round(found.cost * 100) / 100,
  };
}

function whyOf(found: Found, { naming, key, under, held }: Telling, chord: ChordSymbol): string {
  const { root, bass, missing, kind: one } = found;
  const name = (pc: number): string => noteName(60 + pc, { key: key ?? scaleOfChord(chord.root, chord.kind), naming });
  const degrees = [...held]
    .sort((a, b) => mod12(a - root) - mod12(b - root))
    .map((pc) => `${name(pc)} ${degreeOver(60 + pc, chord)}`)
    .join(', ');
  const lines = [degrees];
  const bare = one.kind === '5';
  if (bare && bass !== root) lines.push(`a fourth: its root ${name(root)} is on top`);
  else if (bare) lines.push('root and fifth, neither major nor minor');
  else if (found.foreign) lines.push(`a chord by itself over ${name(bass)}`);
  else if (bass !== root) lines.push(`${name(bass)} is lowest, the ${degreeOver(60 + bass, chord)}`);
  if (under !== null && !held.includes(under)) lines.push(`the bass has ${name(under)}`);
  const lacks = missing.map((tone) =>
    tone === 7 ? 'fifth' : THIRD.has(tone) ? 'third' : degreeOver(60 + root + tone, chord),
  );
  if (lacks.length > 0) lines.push(`no ${lacks.join(', no ')}`);
  return lines.join('; ');
}

/** What two notes or more are as a grip, in the words instructors use; null where it is a chord like others. */
export function gripWords(reading: ChordReading): string | null {
  const { chord } = reading;
  if (chord.kind === '5') return chord.bass ? 'inverted power chord: a fourth, its root on top' : 'power chord';
  if (reading.sounding.includes('no 3')) return 'without its third';
  return chord.bass ? 'over another bass than its root' : null;
}
