import { setJoin } from '../../command';
import { joinsInto, keyOf, type Part, type Piece, type Riff, type RiffEvent } from '../../score';
import { pitchOf, placeWords, whereIn } from '../places';
import { asked, type CheckFinding, type Mend, type RiffRule } from '../types';

/**
 * Ways that go nowhere or the wrong way: hammered down, pulled up, slid to where the finger is already, and words
 * beside a note that say another way than its notes go ("slide up" to a lower fret).
 */
export const direction: RiffRule = {
  id: 'direction',
  name: 'slides and slurs that go the wrong way',
  on: 'riff',
  reads: () => [],
  find: (riff, part, piece) =>
    riff.events.flatMap((event, i) => {
      const before = riff.events[i - 1];
      return before ? into(before, event, riff, part, piece) : [];
    }),
};

const OTHER = { hammer: 'pull', pull: 'hammer' } as const;
const NAMES = { hammer: 'hammered', pull: 'pulled off', slide: 'slid', shift: 'slid and struck' } as const;
const WANTED = { hammer: 'up', pull: 'down' } as const;
/** Directions in words: higher in pitch, towards the body. "Up" is what most say of it, so what "down" isn't. */
const SAID = /\b(?:slid(?:e|es|ing)?|gliss\w*)\b[^.;,]*\b(up|down|higher|lower)\b/i;

function into(before: RiffEvent, event: RiffEvent, riff: Riff, part: Part, piece: Piece): CheckFinding[] {
  const key = keyOf(piece, riff);
  const out: CheckFinding[] = [];
  for (const [id, { from, how }] of joinsInto(before, event)) {
    const note = event.notes.find((one) => one.id === id);
    const join = from.join;
    if (!note || !join) continue;
    const locus = { part: part.id, riff: riff.id, event: before.id, note: from.id };
    const way = note.pitch.midi + note.pitch.cents / 100 - from.pitch.midi - from.pitch.cents / 100;
    const part_ = (words: string, to: 'hammer' | 'pull' | null): Mend[] => {
      const made = setJoin(piece, riff.id, [before.id], to, from.id);
      return made.ok ? [{ words, edit: made.value }] : [];
    };
    if (how === 'hold' || way === 0) {
      // Struck again, a finger that slid back is the same as one that stayed.
      if (before.notes.length > 1 && before.notes.some((one) => one.join && one.pitch.midi !== from.pitch.midi))
        continue;
      out.push(
        asked('direction', {
          locus,
          about: [from.id, 'nowhere'],
          ground: [from.pitch.midi, note.pitch.midi, join],
          words: `At ${whereIn(riff, before)} ${pitchOf(from.pitch.midi, key)} is ${NAMES[join]} to ${pitchOf(note.pitch.midi, key)}, where it is already: to which note, or tied?`,
          evidence: `Both are ${placeWords(from)}.`,
          likely: join === 'slide' || join === 'shift' ? 0.7 : 0.6,
          mends: part_('Take the join off', null),
        }),
      );
    } else if ((join === 'hammer' && way < 0) || (join === 'pull' && way > 0))
      out.push(
        asked('direction', {
          locus,
          about: [from.id, 'way'],
          ground: [from.pitch.midi, note.pitch.midi, join],
          words: `At ${whereIn(riff, before)} ${pitchOf(from.pitch.midi, key)} is ${NAMES[join]} to ${pitchOf(note.pitch.midi, key)}, which is ${way > 0 ? 'higher' : 'lower'}: the other way, or other notes?`,
          evidence: `A ${join === 'hammer' ? 'hammer-on' : 'pull-off'} goes ${WANTED[join]} in pitch.`,
          likely: 0.85,
          mends: part_(`Make it a ${join === 'hammer' ? 'pull-off' : 'hammer-on'}`, OTHER[join]),
        }),
      );
    const said = SAID.exec(before.remark ?? '') ?? SAID.exec(from.evidence?.remark ?? '');
    const up = said ? /up|higher/i.test(said[1] ?? '') : null;
    if (said && up !== null && (join === 'slide' || join === 'shift') && way !== 0 && up !== way > 0)
      out.push(
        asked('direction', {
          locus,
          about: [from.id, 'said'],
          ground: [from.pitch.midi, note.pitch.midi, said[0]],
          words: `At ${whereIn(riff, before)} it says "${said[0].trim()}", but the slide goes ${way > 0 ? 'up' : 'down'}, from ${placeWords(from)} to ${placeWords(note)}: which is right?`,
          evidence: 'Up is read as higher in pitch, towards the body.',
          likely: 0.75,
        }),
      );
  }
  return out;
}
