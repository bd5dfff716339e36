import { setContext } from '../../command';
import { classesOf as tonesOf, namesOf, parseChord } from '../../harmony';
import { parseName, pitchClass } from '../../pitch';
import { momentAt, mapOf } from '../../form';
import { type Piece, type Section } from '../../score';
import { add, barOf, type Quarter } from '../../time';
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

/** How much of what sounds a name must explain; from which share on another is offered; what counts as sounding. */
const EXPLAINS = { least: 0.5, better: 0.85, sounds: 0.1, third: 0.16, long: 1.5 } as const;

function inSection(piece: Piece, heard: Heard): CheckFinding[] {
  const { section, pass, notes } = heard;
  const lane = section.context?.chords ?? [];
  const map = mapOf(piece);
  return lane.flatMap((step, index): CheckFinding[] => {
    const read = parseChord(step.chord);
    if (!read.ok) return [];
    const span = { at: step.at as Quarter, to: add(step.at as Quarter, step.dur as Quarter) };
    const share = new Array<number>(12).fill(0);
    let total = 0;
    let bass: { midi: number; length: number }[] = [];
    for (const note of notes) {
      const length = overlap(note, span);
      if (length <= 0) continue;
      share[note.midi % 12] = (share[note.midi % 12] ?? 0) + length;
      total += length;
      bass.push({ midi: note.midi, length });
    }
    const under = momentAt(map, add(pass.from, span.at)).bass;
    const lowest = under ? parseName(under.note) : null;
    if (total < EXPLAINS.long) return [];
    const tones = tonesOf(read.value);
    const root = pitchClass(read.value.root);
    const said = read.value.bass ? pitchClass(read.value.bass) : null;
    const explained = share.reduce((sum, one, pc) => sum + (tones.includes(pc) || pc === said ? one : 0), 0) / total;
    const sounding = share.flatMap((one, pc) => (one / total >= EXPLAINS.sounds ? [pc] : []));
    bass = bass.sort((a, b) => a.midi - b.midi);
    const low = lowest ? pitchClass(lowest) : lowestOf(bass, total);
    const { key } = momentAt(map, add(pass.from, span.at));
    const bar = barOf(map.meters, add(pass.from, span.at)).bar;
    const place = {
      section,
      index,
      bar,
      name: step.chord,
      ground: [step.chord, sounding, low, Math.round(explained * 10)],
    };
    // Another chord altogether.
    if (explained < EXPLAINS.least) {
      const names = namesOf({ pitches: stacked(sounding, low), key });
      const better = names.find(
        (name) =>
          share.reduce((sum, one, pc) => sum + (tonesOf(name.chord).includes(pc) ? one : 0), 0) / total >=
          EXPLAINS.better,
      );
      return [
        question(piece, place, {
          about: 'other',
          words: `${step.chord} stands over bar ${bar + 1} ("${section.name}"), but only ${Math.round(explained * 100)}% of what sounds there belongs to it${better ? `: ${better.sounding}?` : ': which chord is it?'}`,
          evidence: better ? better.why : null,
          likely: better ? 0.65 : 0.5,
          to: better ? better.sounding : null,
        }),
      ];
    }
    // The third says the opposite, held long enough to be heard as the chord's.
    const minor = tones.includes((root + 3) % 12) && !tones.includes((root + 4) % 12);
    const major = tones.includes((root + 4) % 12) && !tones.includes((root + 3) % 12);
    const [has, other] = [minor ? 3 : 4, minor ? 4 : 3].map((third) => (share[(root + third) % 12] ?? 0) / total);
    if ((minor || (major && key?.mode !== 'major')) && (other ?? 0) >= EXPLAINS.third && (has ?? 0) < 0.04) {
      const wanted = `${step.chord.slice(0, /^[A-G][#b]?/.exec(step.chord)?.[0].length ?? 1)}${minor ? restOf(step.chord, 'm') : `m${restOf(step.chord, '')}`}`;
      return [
        question(piece, place, {
          about: 'third',
          words: `${step.chord} stands over bar ${bar + 1} ("${section.name}"), but the ${minor ? 'major' : 'minor'} third sounds there and the ${minor ? 'minor' : 'major'} one nowhere: ${wanted}?`,
          evidence: null,
          likely: 0.6,
          to: parseChord(wanted).ok ? wanted : null,
        }),
      ];
    }
    // Another bass than the one behind the stroke.
    if (said !== null && low !== null && low !== said && (share[said] ?? 0) / total < 0.05) {
      const plain = step.chord.split('/')[0] ?? step.chord;
      return [
        question(piece, place, {
          about: 'bass',
          words: `${step.chord} stands over bar ${bar + 1} ("${section.name}"), but that bass is played by nobody there: ${plain}?`,
          evidence: null,
          likely: 0.6,
          to: plain,
        }),
      ];
    }
    return [];
  });
}

/** What follows the root, and a mark of minor where there is one. */
const restOf = (name: string, mark: string): string => {
  const rest = name.replace(/^[A-G][#b]?/, '');
  return mark && rest.startsWith(mark) && !rest.startsWith('maj') ? rest.slice(mark.length) : rest;
};

/** The pitch class that is lowest most of the time: the lowest note that sounds for a fifth of it. */
function lowestOf(bass: readonly { readonly midi: number; readonly length: number }[], total: number): number | null {
  let sum = 0;
  for (const one of bass) {
    sum += one.length;
    if (sum / total >= 0.12) return one.midi % 12;
  }
  return bass[0] ? bass[0].midi % 12 : null;
}

/** Pitch classes as pitches, the bass lowest. */
const stacked = (classes: readonly number[], low: number | null): number[] =>
  classes.map((pc) => (pc === low ? 36 + pc : 60 + pc));

interface Place {
  readonly section: Section;
  readonly index: number;
  readonly bar: number;
  readonly name: string;
  readonly ground: readonly unknown[];
}

interface Told {
  readonly about: string;
  readonly words: string;
  readonly evidence: string | null;
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
    ...{ words: told.words, evidence: told.evidence, likely: told.likely, mends },
  });
}
