import { setArticulation } from '../../command';
import { ADULT_HAND, type Profile } from '../../hand';
import { strokeFigures, strokesOf } from '../../rhythm';
import { DEFAULT_SCHOOLS, type Picking } from '../../schools';
import { tempoOf, type Part, type Piece, type Riff } from '../../score';
import { whereIn } from '../places';
import { asked, type CheckFinding, type RiffRule } from '../types';

/**
 * Strokes a second that this player's hand won't give, and single strokes that go against the way all others go.
 * Figures are a teacher's rule of thumb for a run of picked notes, by level; plucking with two fingers is a little
 * faster, all down much slower.
 */
const MOST: Readonly<Record<Profile['level'], number>> = { beginner: 6.5, player: 11, advanced: 15 };
const SCHOOL: Partial<Record<Picking, number>> = { down: 0.65, fingers: 1.1, slap: 0.75 };
const RUN_LEAST = 6;

export const strokes: RiffRule = {
  id: 'strokes',
  name: 'strokes too fast, or against their pattern',
  on: 'riff',
  reads: (part, piece) => [part.setup, part.player, piece.context.tempo],
  find: (riff, part, piece) => [...tooFast(riff, part, piece), ...against(riff, part, piece)],
};

const schoolOf = (riff: Riff): Picking => riff.picking ?? DEFAULT_SCHOOLS.picking;

function tooFast(riff: Riff, part: Part, piece: Piece): CheckFinding[] {
  const school = schoolOf(riff);
  const struck = strokesOf(riff, part.setup, school);
  const { hardest } = strokeFigures(riff, struck, tempoOf(piece, riff));
  if (!hardest || hardest.strokes < RUN_LEAST) return [];
  const level = (part.player?.profile ?? ADULT_HAND).level;
  const most = MOST[level] * (SCHOOL[school] ?? 1);
  if (hardest.perSecond <= most) return [];
  const from = riff.events.find((event) => event.id === hardest.from);
  if (!from) return [];
  const rate = Math.round(hardest.perSecond * 10) / 10;
  return [
    asked('strokes', {
      locus: { part: part.id, riff: riff.id, event: from.id },
      about: [riff.id, 'fast'],
      ground: [rate, most, hardest.strokes],
      words: `From ${whereIn(riff, from)} "${riff.name}" asks ${hardest.strokes} strokes at ${rate} a second, beyond the ${Math.round(most * 10) / 10} of a hand like this: is the tempo counted double, or are some notes slurred?`,
      evidence: `Strokes as ${school === 'down' ? 'all down' : 'the school has them'}, ${hardest.crossed} strings crossed between them. Fast repetition strains the hand: stop at pain.`,
      likely: hardest.perSecond > most * 1.25 ? 0.75 : 0.5,
    }),
  ];
}

/** One or two strokes that were said go against the school where all the others that were said go with it. */
function against(riff: Riff, part: Part, piece: Piece): CheckFinding[] {
  const said = riff.events.filter(
    (event) => (event.stroke === 'down' || event.stroke === 'up') && event.notes.length > 0,
  );
  if (said.length < 8) return [];
  const bare = { ...riff, events: riff.events.map(({ stroke: _, ...event }) => event) };
  const bySchool = strokesOf(bare, part.setup, schoolOf(riff));
  const expected = new Map(bySchool.map((one) => [one.event, one.stroke]));
  const off = said.filter((event) => {
    const school = expected.get(event.id);
    return (school === 'down' || school === 'up') && school !== event.stroke;
  });
  if (off.length === 0 || off.length > 2 || off.length * 6 > said.length) return [];
  return off.map((event) => {
    const should = event.stroke === 'down' ? 'up' : 'down';
    const made = setArticulation(piece, riff.id, [event.id], { stroke: should });
    return asked('strokes', {
      locus: { part: part.id, riff: riff.id, event: event.id },
      about: [event.id, 'stroke'],
      ground: [event.stroke, said.length, off.length],
      words: `At ${whereIn(riff, event)} "${riff.name}" says ${event.stroke}; the other ${said.length - off.length} strokes that are said go as the school has them, which is ${should} here: meant?`,
      evidence: null,
      likely: 0.55,
      mends: made.ok ? [{ words: `Make it ${should}`, edit: made.value }] : [],
    });
  });
}
