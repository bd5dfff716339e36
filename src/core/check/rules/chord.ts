import { setContext } from '../../command';
import { chordName, classesOf as tonesOf, parseChord, type ChordSymbol } from '../../harmony';
import { parseName, pitchClass, spell, type Key } from '../../pitch';
import { momentAt, mapOf } from '../../form';
import { type Piece, type Section } from '../../score';
import { add, type Quarter } from '../../time';
import { heardIn, overlap, type Heard } from '../sounding';
import { asked, type CheckFinding, type Mend, type PieceRule } from '../types';

/**
 * Chords written over the bars, against what all parts sound there: another chord altogether, a third that says the
 * opposite, and a bass that is not the one named behind the stroke.
 */
export const chord: PieceRule = {
  id: 'chord',
  name: 'chord names that are not what sounds',
  on: 'piece',
  find: (piece) => heardIn(piece).flatMap((heard) => inSection(piece, heard)),
};

/** How much of what sounds a name must explain, by what the lowest note is; how much better another must be. */
const EXPLAINS = {
  ...{ least: 0.5, rooted: 0.35, foreignBass: 0.65, power: 0.4 },
  ...{ better: 0.7, gain: 0.25 },
  /** A class is there or not; a third is heard as the chord's; too little sounds to say. */
  ...{ absent: 0.03, third: 0.06, long: 1.5 },
  /** A bass that sounds no longer than a note on the way elsewhere. */
  passing: 0.1,
} as const;
/** What a chord held together says of the harmony, a bass note, and a note of a melody. */
const WEIGHT = { chord: 1, two: 0.8, bass: 1, line: 0.4 } as const;
const LIKELY = { other: 0.65, root: 0.55, third: 0.6, bass: 0.6, again: -0.22 } as const;
/** What may stand there instead, plain ones first. */
const PLAIN = ['', 'm', '5', '7', 'm7', 'maj7', 'dim', 'sus4'] as const;

interface Sounding {
  /** Share of each pitch class, 1 in all. */
  readonly share: readonly number[];
  readonly low: number | null;
  readonly key: Key | null;
  readonly bar: number;
  /** Somebody plays chords or bass, so that a root can be missed. */
  readonly full: boolean;
}

/** What sounds under a chord, weighed by what it says of the harmony; null where that is too little. */
function under(piece: Piece, heard: Heard, span: { readonly at: Quarter; readonly to: Quarter }): Sounding | null {
  const { pass, notes } = heard;
  const map = mapOf(piece);
  const share = new Array<number>(12).fill(0);
  const bass: { midi: number; length: number }[] = [];
  let [total, full] = [0, false];
  for (const note of notes) {
    const length = overlap(note, span);
    if (length <= 0) continue;
    const many = note.event.notes.length;
    const low = note.part.setup.instrument.kind === 'bass';
    const weight = low ? WEIGHT.bass : many > 2 ? WEIGHT.chord : many > 1 ? WEIGHT.two : WEIGHT.line;
    full ||= low || many > 1;
    share[note.midi % 12] = (share[note.midi % 12] ?? 0) + length * weight;
    total += length * weight;
    bass.push({ midi: note.midi, length });
  }
  const moment = momentAt(map, add(pass.from, span.at));
  const lane = moment.bass ? parseName(moment.bass.note) : null;
  if (lane) {
    const length = overlap({ at: span.at, to: span.to }, span);
    share[pitchClass(lane)] = (share[pitchClass(lane)] ?? 0) + length;
    total += length;
    full = true;
  }
  if (total < EXPLAINS.long) return null;
  bass.sort((a, b) => a.midi - b.midi);
  return {
    share: share.map((one) => one / total),
    low: lane ? pitchClass(lane) : lowestOf(bass),
    ...{ key: moment.key, bar: moment.bar, full },
  };
}

const explainedBy = (share: readonly number[], tones: readonly number[]): number =>
  tones.reduce((sum, pc) => sum + (share[pc] ?? 0), 0);

/** The plain chord that explains most, its root lowest where it can be; null where none is much better. */
function betterThan(explained: number, { share, low, key }: Sounding): string | null {
  let best: { name: string; score: number; explains: number } | null = null;
  for (let root = 0; root < 12; root++) {
    if ((share[root] ?? 0) < EXPLAINS.absent) continue;
    for (const [rank, kind] of PLAIN.entries()) {
      const named = spell(root, key);
      const tones = tonesOf({ root: named, kind, bass: null });
      if (tones.some((pc) => (share[pc] ?? 0) < EXPLAINS.absent && pc !== (root + 7) % 12)) continue;
      const explains = explainedBy(share, tones);
      const score = explains + (low === root ? 0.2 : 0) - rank * 0.012;
      if (!best || score > best.score) best = { name: chordName({ root: named, kind, bass: null }), score, explains };
    }
  }
  return best && best.explains >= EXPLAINS.better && best.explains - explained >= EXPLAINS.gain ? best.name : null;
}

function inSection(piece: Piece, heard: Heard): CheckFinding[] {
  const { section } = heard;
  const lane = section.context?.chords ?? [];
  const found = lane.flatMap((step, index): (Told & { readonly place: Place; readonly same: string })[] => {
    const read = parseChord(step.chord);
    const span = { at: step.at as Quarter, to: add(step.at as Quarter, step.dur as Quarter) };
    const sounding = read.ok ? under(piece, heard, span) : null;
    const told = read.ok && sounding ? against(step.chord, read.value, sounding, section.name) : null;
    if (!told || !sounding) return [];
    const classes = sounding.share.map((one) => (one > 0.05 ? 1 : 0)).join('');
    const ground = [told.about, step.chord, classes, sounding.low];
    return [{ ...told, place: { section, index, bar: sounding.bar, ground }, same: `${step.chord} ${classes}` }];
  });
  return found.map((one) => {
    // What is odd but comes again in the same way is probably meant.
    const again = found.some((other) => other !== one && other.same === one.same);
    return question(piece, one.place, { ...one, likely: one.likely + (again ? LIKELY.again : 0) });
  });
}

/** What speaks against a chord name, if anything. */
function against(name: string, said: ChordSymbol, sounding: Sounding, section: string): Told | null {
  const { share, low, bar, key, full } = sounding;
  const root = pitchClass(said.root);
  const named = said.bass ? pitchClass(said.bass) : null;
  const tones = [...new Set([...tonesOf(said), ...(named === null ? [] : [named])])];
  const explained = explainedBy(share, tones);
  const where = `${name} stands over bar ${bar + 1} ("${section}")`;
  const least =
    said.kind === '5'
      ? EXPLAINS.power
      : low === root
        ? EXPLAINS.rooted
        : low !== null && tones.includes(low)
          ? EXPLAINS.least
          : EXPLAINS.foreignBass;
  const better = betterThan(explained, sounding);
  if (explained < least && (better || explained < EXPLAINS.least)) {
    const words = `${where}, but only ${Math.round(explained * 100)}% of what sounds there belongs to it${better ? `: ${better}?` : ': which chord is it?'}`;
    return { about: 'other', words, likely: better ? LIKELY.other : LIKELY.other - 0.15, to: better };
  }
  const other =
    full && low !== root && (share[root] ?? 0) < EXPLAINS.absent ? betterThan(explained - 0.1, sounding) : null;
  if (other)
    return {
      about: 'root',
      words: `${where}, but its root is played by nobody there: ${other}?`,
      likely: LIKELY.root,
      to: other,
    };
  // The third says the opposite, held long enough to be heard as the chord's.
  const minor = tones.includes((root + 3) % 12) && !tones.includes((root + 4) % 12);
  const major = tones.includes((root + 4) % 12) && !tones.includes((root + 3) % 12);
  const [has, opposite] = [minor ? 3 : 4, minor ? 4 : 3].map((third) => share[(root + third) % 12] ?? 0);
  // A minor third over a major chord is a blue note where the key is major.
  if (
    (minor || (major && key?.mode !== 'major')) &&
    (opposite ?? 0) >= EXPLAINS.third &&
    (has ?? 0) < EXPLAINS.absent
  ) {
    const letter = /^[A-G][#b]?/.exec(name)?.[0] ?? '';
    const wanted = `${letter}${minor ? restOf(name, 'm') : `m${restOf(name, '')}`}`;
    const words = `${where}, but the ${minor ? 'major' : 'minor'} third sounds there and the ${minor ? 'minor' : 'major'} one nowhere: ${wanted}?`;
    return { about: 'third', words, likely: LIKELY.third, to: parseChord(wanted).ok ? wanted : null };
  }
  // Another bass than the one behind the stroke.
  if (named !== null && low !== null && low !== named && (share[named] ?? 0) < EXPLAINS.passing) {
    const plain = name.split('/')[0] ?? name;
    return {
      about: 'bass',
      words: `${where}, but that bass is played by nobody there: ${plain}?`,
      likely: LIKELY.bass,
      to: plain,
    };
  }
  return null;
}

/** What follows the root, and a mark of minor where there is one. */
const restOf = (name: string, mark: string): string => {
  const rest = name.replace(/^[A-G][#b]?/, '');
  return mark && rest.startsWith(mark) && !rest.startsWith('maj') ? rest.slice(mark.length) : rest;
};

/** The pitch class that is lowest most of the time: the lowest note that sounds for an eighth of it. */
function lowestOf(bass: readonly { readonly midi: number; readonly length: number }[]): number | null {
  const total = bass.reduce((sum, one) => sum + one.length, 0);
  let sum = 0;
  for (const one of bass) {
    sum += one.length;
    if (sum / total >= 0.12) return one.midi % 12;
  }
  return bass[0] ? bass[0].midi % 12 : null;
}

interface Place {
  readonly section: Section;
  readonly index: number;
  readonly bar: number;
  readonly ground: readonly unknown[];
}

interface Told {
  readonly about: string;
  readonly words: string;
  readonly likely: number;
  /** What it may be called instead. */
  readonly to: string | null;
}

function question(piece: Piece, place: Place, told: Told): CheckFinding {
  const { section, index, bar, ground } = place;
  const mends: Mend[] = [];
  const lane = section.context?.chords;
  const to = told.to?.replaceAll('♯', '#').replaceAll('♭', 'b').replace(/ no 3/, '') ?? null;
  if (to !== null && lane && parseChord(to).ok) {
    const made = setContext(piece, section.id, {
      chords: lane.map((step, i) => (i === index ? { ...step, chord: to } : step)),
    });
    if (made.ok) mends.push({ words: `Make it ${told.to}`, edit: made.value });
  }
  return asked('chord', {
    locus: { bar, path: ['sections', section.id] },
    about: [section.id, lane?.[index]?.at],
    ground: [told.about, ...ground],
    ...{ words: told.words, likely: told.likely, mends },
  });
}
