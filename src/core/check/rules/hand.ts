import { ADULT_HAND, type Profile, type SpanTable } from '../../hand';
import { nutOf, pressPoint, type Setup } from '../../instrument';
import { type Note, type Part, type Piece, type Riff, type RiffEvent } from '../../score';
import { barOf, cmp } from '../../time';
import { setFinger, setLetRing } from '../../command';
import { placeWords, whereIn } from '../places';
import { asked, type CheckFinding, type Mend, type RiffRule } from '../types';

/**
 * What the fingers written can't do: crossed, wanted at two frets, too wide for this hand, taken from a note that
 * rings.
 */
export const hand: RiffRule = {
  id: 'hand',
  name: 'fingers that cross or can’t reach',
  on: 'riff',
  reads: (part) => [part.setup, part.player],
  find: (riff, part, piece) => [
    ...riff.events.flatMap((event) => inGrip(event, riff, part, piece)),
    ...rings(riff, part, piece),
  ],
};

const FINGERS = ['', 'index', 'middle finger', 'ring finger', 'little finger', 'thumb'];

interface Down {
  readonly note: Note;
  readonly finger: 1 | 2 | 3 | 4;
  readonly string: number;
  /** From the nut. */
  readonly fret: number;
}

/** Fingers that press, without the thumb and without what another hand stops. */
function downIn({ notes, slideBar }: RiffEvent, setup: Setup): Down[] {
  if (slideBar) return [];
  return notes.flatMap((note): Down[] => {
    const { place } = note;
    if (!place?.finger || place.finger > 4 || place.fret === 0 || note.technique?.tapped || note.technique?.harmonic)
      return [];
    const fret = place.fret + nutOf(setup, place.string);
    return [{ note, finger: place.finger as Down['finger'], string: place.string, fret }];
  });
}

const within = (profile: Profile): SpanTable => profile.maximal;

function inGrip(event: RiffEvent, riff: Riff, part: Part, piece: Piece): CheckFinding[] {
  const down = downIn(event, part.setup);
  if (down.length < 2) return [];
  const { scaleMm } = part.setup.instrument;
  const profile = part.player?.profile ?? ADULT_HAND;
  const locus = (note: Note) => ({ part: part.id, riff: riff.id, event: event.id, note: note.id });
  const at = whereIn(riff, event);
  const free = (note: Note): Mend[] => {
    const made = setFinger(piece, { riff: riff.id, event: event.id, note: note.id }, null);
    return made.ok ? [{ words: 'Let the program find the fingers', edit: made.value }] : [];
  };
  for (const [i, a] of down.entries())
    for (const b of down.slice(i + 1)) {
      const [low, high] = a.finger <= b.finger ? [a, b] : [b, a];
      const ground = [low.finger, low.fret, low.string, high.finger, high.fret, high.string];
      const evidence = `${placeWords(low.note)} with finger ${low.finger}; ${placeWords(high.note)} with finger ${high.finger}.`;
      if (low.finger === high.finger && low.fret !== high.fret)
        return [
          asked('hand', {
            locus: locus(high.note),
            about: [event.id, 'twice'],
            ground,
            words: `At ${at} the ${FINGERS[low.finger]} is wanted at two frets at once: which finger takes the other note?`,
            evidence,
            likely: 0.9,
            mends: free(high.note),
          }),
        ];
      if (low.finger < high.finger && low.fret > high.fret)
        return [
          asked('hand', {
            locus: locus(high.note),
            about: [event.id, 'crossed'],
            ground,
            words: `At ${at} finger ${high.finger} lies at a lower fret than finger ${low.finger}: are they the other way round?`,
            evidence,
            likely: 0.85,
            mends: free(high.note),
          }),
        ];
      const pair = `${low.finger}${high.finger}` as keyof SpanTable;
      const most = within(profile)[pair];
      const apart = Math.abs(pressPoint(scaleMm, high.fret) - pressPoint(scaleMm, low.fret));
      if (low.finger < high.finger && apart > most + 0.5)
        return [
          asked('hand', {
            locus: locus(high.note),
            about: [event.id, 'wide'],
            ground: [...ground, most],
            words: `At ${at} fingers ${low.finger} and ${high.finger} are ${Math.round(apart)} mm apart, more than the ${Math.round(most)} mm ${part.player?.name ?? 'an adult hand'} reaches: another fingering, or one note lost?`,
            evidence: `${evidence} Wide stretches strain the hand: stop at pain.`,
            likely: 0.6,
            mends: free(high.note),
          }),
        ];
    }
  return [];
}

/** A note that is to ring on while its finger is wanted elsewhere. */
function rings(riff: Riff, part: Part, piece: Piece): CheckFinding[] {
  const out: CheckFinding[] = [];
  const { events } = riff;
  events.forEach((event, i) => {
    if (!event.letRing || event.grace) return;
    let open = downIn(event, part.setup);
    const { bar } = barOf(riff.meters, event.at);
    for (let k = i + 1; k < events.length && open.length > 0; k++) {
      const next = events[k];
      // Rings to the end of the run of ringing events, or of the bar.
      if (!next || !next.letRing || barOf(riff.meters, next.at).bar !== bar) break;
      const struck = new Set(next.notes.flatMap((note) => note.place?.string ?? []));
      open = open.filter((one) => !struck.has(one.string));
      for (const now of downIn(next, part.setup)) {
        const taken = open.find((one) => one.finger === now.finger && one.fret !== now.fret);
        if (!taken) continue;
        open = open.filter((one) => one !== taken);
        const made = setLetRing(piece, riff.id, [event.id], false);
        out.push(
          asked('hand', {
            locus: { part: part.id, riff: riff.id, event: event.id, note: taken.note.id },
            about: [taken.note.id, 'ring'],
            ground: [taken.finger, taken.fret, taken.string, now.fret, now.string, cmp(event.at, next.at)],
            words: `The note at ${whereIn(riff, event)} is to ring on, but its finger is wanted at ${whereIn(riff, next)}: another finger, or does it stop there?`,
            evidence: `Finger ${taken.finger} holds ${placeWords(taken.note)} and then takes ${placeWords(now.note)}.`,
            likely: 0.55,
            mends: made.ok ? [{ words: 'Don’t let it ring', edit: made.value }] : [],
          }),
        );
      }
    }
  });
  return out;
}
