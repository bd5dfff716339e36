import { joinOf, riffEnd, riffStart, type Part, type Piece, type Riff, type RiffEvent } from '../../score';
import { add, cmp, secondsAt, ZERO } from '../../time';
import { whereIn } from '../places';
import { asked, type CheckFinding, type PartRule } from '../types';

/** How the last of a riff leads into its first where it comes again. */
export const joint: PartRule = {
  id: 'loop-joint',
  name: 'how a riff leads back into itself',
  on: 'part',
  reads: (piece) => [piece.sections, piece.form, piece.context],
  find: (part, piece) => {
    const again = new Set(part.riffs.filter((riff) => (riff.plays ?? 1) > 1).map((riff) => riff.id));
    for (const section of piece.sections)
      for (const row of section.rows)
        if (row.part === part.id)
          row.uses.forEach((use, i) => {
            if (use.riff && (use.plays > 1 || row.uses[i + 1]?.riff === use.riff)) again.add(use.riff);
          });
    return part.riffs.flatMap((riff) => (again.has(riff.id) ? loop(riff, part, piece) : []));
  },
};

/** Frets a hand may jump at once, and how long it has for it: beyond both nobody arrives in time. */
const JUMP = { frets: 7, seconds: 0.25 } as const;

function loop(riff: Riff, part: Part, piece: Piece): CheckFinding[] {
  const events = riff.events.filter((event) => event.notes.length > 0 && !event.grace);
  const [first, last] = [events[0], events.at(-1)];
  if (!first || !last || first === last || (riff.variants?.length ?? 0) > 0) return [];
  const out: CheckFinding[] = [];
  const begins = add(riffEnd(riff), riffStart(riff));
  const covered = events.filter((event) => cmp(event.at, begins) >= 0);
  if (riff.pickup !== ZERO && covered.length > 0)
    out.push(
      asked('loop-joint', {
        locus: { part: part.id, riff: riff.id, event: covered[0]?.id ?? last.id },
        about: [riff.id, 'pickup'],
        ground: [riff.pickup, covered.map((event) => event.at)],
        words: `"${riff.name}" comes again, and its pickup falls on what its last bar plays at ${whereIn(riff, covered[0] ?? last)}: which of them sounds the second time?`,
        evidence: 'In the form the pickup is played instead.',
        likely: 0.6,
      }),
    );
  const from = last.notes.flatMap((note) => (note.place && note.place.fret > 0 ? [note.place.fret] : []));
  const to = first.notes.flatMap((note) => (note.place && note.place.fret > 0 ? [note.place.fret] : []));
  const tempo = riff.tempo ?? piece.context.tempo;
  const seconds = secondsAt(tempo, add(begins, ZERO)) - secondsAt(tempo, last.at);
  const before = Math.max(0, ...events.slice(1).map((event, i) => fretsBetween(events[i], event)));
  const jump = from.length > 0 && to.length > 0 ? Math.abs(Math.min(...from) - Math.min(...to)) : 0;
  if (jump > Math.max(JUMP.frets, before) && seconds < JUMP.seconds)
    out.push(
      asked('loop-joint', {
        locus: { part: part.id, riff: riff.id, event: last.id },
        about: [riff.id, 'jump'],
        ground: [jump, Math.round(seconds * 100), from, to],
        words: `From the last note of "${riff.name}" back to its first is ${jump} frets in ${Math.round(seconds * 1000)} ms: does another ending lead back?`,
        likely: 0.6,
      }),
    );
  const join = joinOf(last);
  const leads =
    join && first.notes.some((note) => last.notes.some((one) => one.join && one.place?.string === note.place?.string));
  if (join && !leads)
    out.push(
      asked('loop-joint', {
        locus: { part: part.id, riff: riff.id, event: last.id },
        about: [riff.id, 'join'],
        ground: [join, last.notes.map((note) => note.place?.string), first.notes.map((note) => note.place?.string)],
        words: `The last note of "${riff.name}" is joined to what follows, and where the riff comes again that is its first note, on another string: what does it lead to?`,
        likely: 0.65,
      }),
    );
  return out;
}

/** How far the hand goes from one event to the next, by the lowest frets that are pressed. */
function fretsBetween(a: RiffEvent | undefined, b: RiffEvent): number {
  const low = (event: RiffEvent | undefined): number =>
    Math.min(...(event?.notes.flatMap((note) => (note.place && note.place.fret > 0 ? [note.place.fret] : [])) ?? []));
  const apart = Math.abs(low(a) - low(b));
  return Number.isFinite(apart) ? apart : 0;
}
