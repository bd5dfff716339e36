import { changeNote } from '../../command';
import { keyOf, type Note, type Part, type Piece } from '../../score';
import { classesOf, noteAt, stepsBetween, type CellClass } from '../cells';
import { pitchOf, placeWords, whereIn } from '../places';
import { asked, type CheckFinding, type PartRule } from '../types';
import { standsIn } from './copy';

/** The same bar told two ways: the same notes at two places of the neck, or by two fingers, both said by somebody. */
export const twoWays: PartRule = {
  id: 'two-ways',
  name: 'the same notes told two ways',
  on: 'part',
  reads: (piece) => [piece.context.key],
  find: (part, piece) => {
    const classes = classesOf(part, 1).filter((one) => one.notes >= 3);
    const out: CheckFinding[] = [];
    classes.forEach((one, i) => {
      for (const other of classes.slice(0, i)) {
        const steps = stepsBetween(other, one);
        if (!steps?.every((step) => step.semitones === 0)) continue;
        const [few, many] = other.cells.length < one.cells.length ? [other, one] : [one, other];
        out.push(...question(part, piece, few, many));
        break;
      }
    });
    return out;
  },
};

const said = ({ place }: Note): boolean =>
  place !== null && (place.locked || place.by === 'instructor' || place.by === 'import');

function question(part: Part, piece: Piece, few: CellClass, many: CellClass): CheckFinding[] {
  const [cell] = few.cells;
  if (!cell) return [];
  const off: number[] = [];
  for (let i = 0; i < few.notes; i++) {
    const [here, there] = [noteAt(cell, i), noteAt(many.first, i)];
    if (!here?.note.place || !there?.note.place) continue;
    const differs =
      here.note.place.string !== there.note.place.string || here.note.place.fret !== there.note.place.fret;
    if (differs && said(here.note) && said(there.note)) off.push(i);
  }
  // Elsewhere altogether is another position, chosen; one or two notes are told otherwise.
  if (off.length === 0 || off.length > Math.max(1, few.notes / 3)) return [];
  // Told otherwise in several bars: both ways are used.
  if (few.cells.length > 1) return [];
  return off.flatMap((index): CheckFinding[] => {
    const [here, there] = [noteAt(cell, index), noteAt(many.first, index)];
    const place = there?.note.place;
    if (!here || !there || !place) return [];
    const made = here.event.notes.some((note) => note !== here.note && note.place?.string === place.string)
      ? null
      : changeNote(piece, { riff: cell.riff.id, event: here.event.id, note: here.note.id }, (note) => ({
          ...note,
          place,
        }));
    return [
      asked('two-ways', {
        locus: { part: part.id, riff: cell.riff.id, event: here.event.id, note: here.note.id, bar: cell.bar },
        about: [here.note.id],
        ground: [here.note.place, place, many.cells.length],
        words: `Bar ${cell.bar + 1} is ${standsIn(many, cell)} again, but ${pitchOf(here.note.pitch.midi, keyOf(piece, cell.riff))} at ${whereIn(cell.riff, here.event)} is said on ${placeWords(here.note)}, there on ${placeWords(there.note)}: which?`,
        evidence: 'Both places were said, not proposed.',
        likely: 0.5,
        mends: made?.ok ? [{ words: `Put it on ${placeWords(there.note)}`, edit: made.value }] : [],
      }),
    ];
  });
}
