import { changeNote } from '../../command';
import { pitchAt } from '../../instrument';
import { parseName, pitchClass, type Key } from '../../pitch';
import { keyOf, type Note, type Part, type Piece } from '../../score';
import { ZERO } from '../../time';
import { atItsEnd, classesOf, commonest, noteAt, stepsBetween, type Cell, type CellClass, type Step } from '../cells';
import { barList, pitchOf, placeWords, whereIn } from '../places';
import { asked, type CheckFinding, type Mend, type PartRule } from '../types';

/**
 * A bar that is another one again, or moved, but for a note or two. The copies are trusted first: what all but one
 * have is likely right. Then the scale: a note that is nowhere else in the part is the likelier slip.
 */

/** Notes two bars must share before they count as copies, and the share that may differ. */
const LEAST = { same: 4, moved: 5, together: 6 } as const;
const MAY_DIFFER = 0.26;
/** What speaks for a slip. */
const SLIP = {
  base: 0.4,
  /** On the same string a fret or two off, or at the same fret of the next string. */
  ...{ near: 0.2, far: -0.1 },
  /** It is outside the key, or nowhere else in a part without one; or it is played elsewhere too. */
  ...{ strange: 0.25, known: -0.15 },
  /** It is in the key where the moved model would leave it: moved by steps of the scale. */
  byScale: -0.4,
  /** Three or more copies have the other note. */
  agreed: 0.2,
  /** In the last beat of every other bar, where a riff turns; the more so where it goes far. */
  ...{ ending: -0.3, turned: -0.25 },
  /** Two notes differ; for each further version there is. */
  ...{ two: -0.2, version: -0.15 },
  /** The model is moved, and may be moved by steps of the scale. */
  moved: -0.15,
} as const;

interface Copy {
  readonly model: CellClass;
  /** Semitones from the model to the copy. */
  readonly by: number;
  /** Indices of the notes that differ. */
  readonly off: readonly number[];
  readonly steps: readonly Step[];
}

const shareOff = (count: number): number => Math.max(1, Math.floor(count * MAY_DIFFER));

/** How one class is a copy of another with a few notes off; null where it is none, or a perfect one. */
function copyOf(model: CellClass, copy: CellClass): Copy | null {
  const steps = stepsBetween(model, copy);
  if (!steps || steps.length < LEAST.same) return null;
  const most = commonest(steps.map((step) => step.semitones));
  if (!most) return null;
  const { value: by } = most;
  const off = steps.flatMap((step, i) => (step.semitones === by ? [] : [i]));
  if (off.length === 0 || off.length > Math.min(2, shareOff(steps.length))) return null;
  if (by !== 0) {
    // Moved, the hand's shape must have gone along, or it is a melody of its own.
    const kept = steps.filter((step, i) => !off.includes(i) && (step.frets === by || step.frets === null)).length;
    if (steps.length < LEAST.moved || off.length > 1 || kept < steps.length - off.length) return null;
  }
  return { model, by, off, steps };
}

/** Whether one class is another moved, with every note of it. */
export function moves(a: CellClass, b: CellClass): boolean {
  const steps = stepsBetween(a, b);
  return steps !== null && steps.length > 0 && steps.every((step) => step.semitones === steps[0]?.semitones);
}

const SCALES: Readonly<Record<Key['mode'], readonly number[]>> = {
  major: [0, 2, 4, 5, 7, 9, 11],
  minor: [0, 2, 3, 5, 7, 8, 10, 11],
};

/** Whether a pitch is of a key's scale; null where there is none. */
export function inKey(midi: number, key: Key | null): boolean | null {
  const tonic = key ? parseName(key.tonic) : null;
  return key && tonic ? SCALES[key.mode].includes((((midi - pitchClass(tonic)) % 12) + 12) % 12) : null;
}

/** How often each pitch class is played in a part. */
function countsOf(part: Part): ReadonlyMap<number, number> {
  const counts = new Map<number, number>();
  for (const riff of part.riffs)
    for (const event of riff.events)
      for (const { pitch, technique } of event.notes)
        if (!technique?.dead) counts.set(pitch.midi % 12, (counts.get(pitch.midi % 12) ?? 0) + 1);
  return counts;
}

export const copy: PartRule = {
  id: 'copy',
  name: 'a copy with a note off',
  on: 'part',
  reads: (piece) => [piece.context.key],
  find: (part, piece) => {
    const counts = countsOf(part);
    const out: CheckFinding[] = [];
    const told = new Set<string>();
    for (const bars of [1, 2, 4]) {
      const classes = classesOf(part, bars).filter(
        // Longer stretches speak where a bar alone holds too little.
        (one) => bars === 1 || (one.notes >= LEAST.together && one.notes < LEAST.same * bars),
      );
      for (const one of classes) {
        const found = questionOf(one, classes, counts, part, piece);
        for (const finding of found) {
          const key = `${finding.locus.event}.${finding.locus.note}`;
          if (!told.has(key)) out.push(finding);
          told.add(key);
        }
      }
    }
    return out;
  },
};

/** The question about a class of bars, where it is another one with something off. */
function questionOf(
  one: CellClass,
  classes: readonly CellClass[],
  counts: ReadonlyMap<number, number>,
  part: Part,
  piece: Piece,
): CheckFinding[] {
  const copies = classes.flatMap((model) => (model === one ? [] : (copyOf(model, one) ?? [])));
  if (copies.length === 0) return [];
  const mine = one.cells.length + classes.filter((other) => other !== one && moves(one, other)).reduce(sumCells, 0);
  // What is odd but comes again is meant.
  if (mine > 1) return [];
  const support = ({ model }: Copy): number =>
    model.cells.length +
    classes.filter((other) => other !== model && other !== one && moves(model, other)).reduce(sumCells, 0);
  const best = copies.reduce((a, b) =>
    support(b) > support(a) || (support(b) === support(a) && b.off.length < a.off.length) ? b : a,
  );
  const models = support(best);
  const [cell] = one.cells;
  if (!cell) return [];
  // A turned ending is no version of what stands before it.
  const within = (copy: Copy): boolean => copy.off.some((index) => !atItsEnd(cell, noteAt(cell, index)?.at ?? ZERO));
  const versions = copies.filter((other) => other !== best && within(other) && !moves(other.model, best.model)).length;
  const key = keyOf(piece, cell.riff);
  return best.off.flatMap((index): CheckFinding[] => {
    const here = noteAt(cell, index);
    const there = noteAt(best.model.first, index);
    const step = best.steps[index];
    if (!here || !there || !step || here.note.technique?.dead || there.note.technique?.dead) return [];
    const expected = there.note.pitch.midi + best.by;
    const { midi } = here.note.pitch;
    const often = (pitch: number): number => (counts.get(pitch % 12) ?? 0) - (pitch === midi ? 1 : 0);
    const strange = (pitch: number): boolean => (key ? inKey(pitch, key) === false : often(pitch) === 0);
    // Where neither has more copies, the one with the stranger note is asked about, else the later.
    if (models === 1 && strange(expected) && !strange(midi)) return [];
    if (models === 1 && strange(expected) === strange(midi) && before(cell, best.model.first, part)) return [];
    const offBy = step.frets === null ? null : Math.abs(step.frets - best.by);
    const nextString =
      Math.abs(step.strings) === 1 && here.note.place?.fret === (there.note.place?.fret ?? -1) + best.by;
    const near = (offBy !== null && offBy <= 2) || nextString;
    const ends = atItsEnd(cell, here.at) && (cell.bar % 2 === 1 || cell.bar + cell.bars >= cell.riff.bars);
    const likely =
      SLIP.base +
      (near ? SLIP.near : SLIP.far) +
      (strange(midi) ? SLIP.strange : often(midi) > 0 ? SLIP.known : 0) +
      (models >= 3 ? SLIP.agreed : 0) +
      (ends ? SLIP.ending + (near ? 0 : SLIP.turned) : 0) +
      (best.off.length > 1 ? SLIP.two : 0) +
      versions * SLIP.version +
      (best.by === 0 ? 0 : SLIP.moved) +
      (best.by !== 0 && strange(expected) && !strange(midi) ? SLIP.byScale : 0);
    return [finding(part, piece, cell, best, { here, there, expected, models, key, likely })];
  });
}

const sumCells = (sum: number, one: CellClass): number => sum + one.cells.length;

/** Whether a cell comes before another in the part. */
function before(a: Cell, b: Cell, part: Part): boolean {
  const [i, k] = [part.riffs.indexOf(a.riff), part.riffs.indexOf(b.riff)];
  return i < k || (i === k && a.bar < b.bar);
}

interface Deviation {
  readonly here: NonNullable<ReturnType<typeof noteAt>>;
  readonly there: NonNullable<ReturnType<typeof noteAt>>;
  readonly expected: number;
  readonly models: number;
  readonly key: Key | null;
  readonly likely: number;
}

/** Where copies of a class stand, in words: "bars 1 and 3", or in another riff by its name. */
export function standsIn(one: CellClass, cell: Cell): string {
  const own = one.cells.filter((other) => other.riff === cell.riff);
  if (own.length > 0) return barList(own.map((other) => other.bar));
  return `${barList([one.first.bar])} of "${one.first.riff.name}"`;
}

function finding(part: Part, piece: Piece, cell: Cell, { model, by }: Copy, deviation: Deviation): CheckFinding {
  const { here, there, expected, models, key, likely } = deviation;
  const moved =
    by === 0 ? '' : ` moved ${by > 0 ? 'up' : 'down'} ${Math.abs(by)} ${Math.abs(by) === 1 ? 'fret' : 'frets'}`;
  const where = standsIn(model, cell);
  const has = `${pitchOf(here.note.pitch.midi, key)} (${placeWords(here.note)})`;
  return asked('copy', {
    locus: { part: part.id, riff: cell.riff.id, event: here.event.id, note: here.note.id, bar: cell.bar },
    about: [here.note.id],
    ground: [here.note.pitch.midi, here.note.place?.string, here.note.place?.fret, expected, model.cells.length],
    words: `Bar ${cell.bar + 1} is ${where} again${moved}, but at ${whereIn(cell.riff, here.event)} it has ${has} where ${pitchOf(expected, key)} would be: meant?`,
    evidence: `${models === 1 ? 'The other bar has' : `${models} bars have`} ${pitchOf(there.note.pitch.midi, key)} there, ${placeWords(there.note)}; every other note agrees.`,
    likely,
    mends: mendsOf(part, piece, cell, by, deviation),
  });
}

function mendsOf(part: Part, piece: Piece, cell: Cell, by: number, { here, there, expected, key }: Deviation): Mend[] {
  const target = there.note.place ? { string: there.note.place.string, fret: there.note.place.fret + by } : null;
  const sounds = target && target.fret >= 0 ? pitchAt(part.setup, target) : null;
  const free =
    target !== null && !here.event.notes.some((note) => note !== here.note && note.place?.string === target.string);
  const place: Note['place'] =
    target && free && sounds?.ok && sounds.value === expected && there.note.place
      ? { ...there.note.place, ...target, ...(target.fret === 0 ? { finger: 0 as const } : {}) }
      : null;
  const made = changeNote(piece, { riff: cell.riff.id, event: here.event.id, note: here.note.id }, (note) => ({
    ...note,
    place: place && fingered(place),
    pitch: { ...note.pitch, midi: expected, cents: 0 },
  }));
  const words = place
    ? `Make it ${place.fret === 0 ? 'open' : `fret ${place.fret}`}`
    : `Make it ${pitchOf(expected, key)}`;
  return made.ok ? [{ words, edit: made.value }] : [];
}

/** A stopped note that was open where it was copied from has no finger yet, and the other way round. */
const fingered = (place: NonNullable<Note['place']>): NonNullable<Note['place']> => {
  const { otherFinger: _, otherPlace: __, ...kept } = place;
  if (place.fret === 0) return { ...kept, finger: 0 };
  return place.finger === 0 ? { ...kept, finger: null } : kept;
};
