import { shiftPitch } from '../../command';
import { keyFit } from '../../harmony';
import { parseName, pitchClass } from '../../pitch';
import { keyOf, type Part, type Piece, type Riff } from '../../score';
import { pitchOf, toneOf, placeWords, whereIn } from '../places';
import { classesOf } from '../cells';
import { asked, type CheckFinding, type Mend, type PartRule } from '../types';
import { inKey, moves } from './copy';
import { weighed } from './key';

/**
 * One note outside the key in a part that keeps to it, which leads on by no half tone and comes
 * once: the scale speaks where there is no copy to ask. Chromatic walks, blue notes and what comes again stay quiet.
 */
export const oddNote: PartRule = {
  id: 'odd-note',
  name: 'a single note outside the key',
  on: 'part',
  reads: (piece) => [piece.context.key, piece.sections],
  find: (part, piece) => {
    const elsewhere = new Set(
      piece.sections
        .filter((one) => one.context?.key)
        .flatMap((one) => one.rows.flatMap((row) => row.uses.map((use) => use.riff))),
    );
    return part.riffs.flatMap((riff) => (elsewhere.has(riff.id) ? [] : inRiff(riff, part, piece)));
  },
};

const CLEAR = { inside: 0.93, notes: 12 } as const;
/** Semitones over the tonic that are blue notes in their mode, and chromatic notes riffs are full of. */
const BLUE = { minor: [6, 9, 4], major: [3, 6, 10] } as const;

function inRiff(riff: Riff, part: Part, piece: Piece): CheckFinding[] {
  const key = keyOf(piece, riff);
  const notes = weighed([part]);
  if (!key || notes.length < CLEAR.notes) return [];
  const fit = keyFit(notes, key);
  if (!fit || fit.inside < CLEAR.inside) return [];
  const line = riff.events.filter((event) => !event.grace && event.notes.some((note) => !note.technique?.dead));
  const times = new Map<number, number>();
  for (const other of part.riffs)
    for (const event of other.events)
      for (const note of event.notes) times.set(note.pitch.midi % 12, (times.get(note.pitch.midi % 12) ?? 0) + 1);
  // A shape that is moved takes its notes out of the key on purpose.
  const classes = classesOf(part, 1);
  const moved = new Set(
    classes.flatMap((one) =>
      classes.some((other) => other !== one && moves(other, one)) ? one.cells.flatMap((cell) => cell.events) : [],
    ),
  );
  const spelled = parseName(key.tonic);
  const tonic = spelled ? pitchClass(spelled) : 0;
  return line.flatMap((event, i): CheckFinding[] =>
    (moved.has(event) ? [] : event.notes).flatMap((note): CheckFinding[] => {
      const { midi } = note.pitch;
      if (note.technique?.dead || note.technique?.bend || note.pitch.cents !== 0) return [];
      if (inKey(midi, key) !== false || (times.get(midi % 12) ?? 0) > 1) return [];
      if (BLUE[key.mode].some((step) => (((midi - tonic) % 12) + 12) % 12 === step)) return [];
      const around = [line[i - 1], line[i + 1]].flatMap((other) => other?.notes.map((one) => one.pitch.midi) ?? []);
      // What a half tone leads on from is a passing note; one it was only left for by a half tone is none.
      if (line[i + 1]?.notes.some((one) => Math.abs(one.pitch.midi - midi) <= 1)) return [];
      const near = [1, -1].filter((by) => inKey(midi + by, key) === true);
      const chord = event.notes.length > 1;
      const mends = near.flatMap((by): Mend[] => {
        const made = shiftPitch(piece, { riff: riff.id, event: event.id, note: note.id }, by);
        return made.ok ? [{ words: `Make it ${pitchOf(midi + by, key)}`, edit: made.value }] : [];
      });
      return [
        asked('odd-note', {
          locus: { part: part.id, riff: riff.id, event: event.id, note: note.id },
          about: [note.id],
          ground: [midi, key, around],
          words: `${pitchOf(midi, key)} at ${whereIn(riff, event)} of "${riff.name}" is the only note of this part outside ${key.tonic} ${key.mode}, and leads nowhere by a half tone: ${near.map((by) => toneOf(midi + by, key)).join(' or ')}?`,
          evidence: `It is written ${placeWords(note)}.`,
          likely: chord ? 0.4 : 0.5,
          mends,
        }),
      ];
    }),
  );
}
