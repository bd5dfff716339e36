import { setTechnique } from '../../command';
import { keyOf, type Note, type Part, type Piece, type Riff, type RiffEvent } from '../../score';
import { commonest } from '../cells';
import { pitchOf, placeWords, whereIn } from '../places';
import { asked, type CheckFinding, type Mend, type PartRule } from '../types';
import { inKey } from './copy';

/**
 * Bends that miss what they aim at: a unison bend that does not come to the other note's pitch, one note bent otherwise
 * than every other time, and a bend that leaves the key where a half tone more or less would stay in it.
 */
export const bend: PartRule = {
  id: 'bend-target',
  name: 'bends that miss their note',
  on: 'part',
  reads: (piece) => [piece.context.key],
  find: (part, piece) => {
    const bent = part.riffs.flatMap((riff) =>
      riff.events.flatMap((event) =>
        event.notes.flatMap((note) => (note.technique?.bend ? [{ riff, event, note, by: note.technique.bend }] : [])),
      ),
    );
    const played = new Set(
      part.riffs.flatMap((riff) => riff.events.flatMap((event) => event.notes.map((note) => note.pitch.midi % 12))),
    );
    return bent.flatMap((one): CheckFinding[] => {
      const found = unison(one, part, piece) ?? pattern(one, bent, part, piece) ?? outOfKey(one, played, part, piece);
      return found ? [found] : [];
    });
  },
};

interface Bent {
  readonly riff: Riff;
  readonly event: RiffEvent;
  readonly note: Note;
  readonly by: number;
}

const SIZES: Readonly<Record<number, string>> = {
  50: 'a quarter tone',
  100: 'a half tone',
  200: 'a whole tone',
  300: 'a tone and a half',
  400: 'two tones',
};
const sizeWords = (cents: number): string => SIZES[cents] ?? `${cents} cents`;

function mend({ riff, event, note }: Bent, piece: Piece, cents: number): Mend[] {
  if (cents < 10 || cents > 700) return [];
  const made = setTechnique(
    piece,
    { riff: riff.id, event: event.id, note: note.id },
    { bend: cents, bendCurve: scaled(note, cents) },
  );
  return made.ok ? [{ words: `Bend it ${sizeWords(cents)}`, edit: made.value }] : [];
}

/** The same way of a bend to another height. */
function scaled(note: Note, cents: number): NonNullable<Note['technique']>['bendCurve'] | null {
  const { bend: was = cents, bendCurve } = note.technique ?? {};
  return bendCurve ? bendCurve.map((point) => ({ ...point, cents: Math.round((point.cents * cents) / was) })) : null;
}

const locusOf = ({ riff, event, note }: Bent, part: Part) => ({
  ...{ part: part.id, riff: riff.id, event: event.id, note: note.id },
});

/** Beside a held note a whole tone or so above, a bend is to come to its pitch. */
function unison(one: Bent, part: Part, piece: Piece): CheckFinding | null {
  const { event, note, by, riff } = one;
  const others = event.notes.filter((other) => other !== note && !other.technique?.bend);
  const reached = note.pitch.midi * 100 + note.pitch.cents + by;
  const aim = others
    .map((other) => ({ other, off: reached - other.pitch.midi * 100 - other.pitch.cents }))
    .filter(({ other, off }) => other.pitch.midi > note.pitch.midi && Math.abs(off) <= 100)
    .sort((a, b) => Math.abs(a.off) - Math.abs(b.off))[0];
  if (!aim || aim.off === 0) return null;
  const key = keyOf(piece, riff);
  return asked('bend-target', {
    locus: locusOf(one, part),
    about: [note.id],
    ground: [note.pitch.midi, by, aim.other.pitch.midi],
    words: `At ${whereIn(riff, event)} the bend comes ${Math.abs(aim.off)} cents ${aim.off > 0 ? 'above' : 'short of'} the ${pitchOf(aim.other.pitch.midi, key)} beside it: to the same pitch?`,
    evidence: `${placeWords(note)} is bent ${sizeWords(by)}; the other note is ${placeWords(aim.other)}.`,
    likely: 0.8,
    mends: mend(one, piece, by - aim.off),
  });
}

/** The same note of the part is bent alike every other time, three times at least. */
function pattern(one: Bent, all: readonly Bent[], part: Part, piece: Piece): CheckFinding | null {
  const same = all.filter(
    (other) =>
      other !== one &&
      other.note.pitch.midi === one.note.pitch.midi &&
      other.note.place?.string === one.note.place?.string,
  );
  const most = commonest(same.map((other) => other.by));
  if (!most || most.value === one.by || most.count < 2 || same.some((other) => other.by === one.by)) return null;
  const key = keyOf(piece, one.riff);
  return asked('bend-target', {
    locus: locusOf(one, part),
    about: [one.note.id],
    ground: [one.note.pitch.midi, one.by, most.value, most.count],
    words: `At ${whereIn(one.riff, one.event)} ${pitchOf(one.note.pitch.midi, key)} is bent ${sizeWords(one.by)}, ${most.count === same.length ? 'every other time' : `${most.count} times`} ${sizeWords(most.value)}: meant?`,
    evidence: `The other bends of this note are at ${same
      .slice(0, 4)
      .map((other) => `${other.riff.name}, ${whereIn(other.riff, other.event)}`)
      .join('; ')}.`,
    likely: Math.abs(one.by - most.value) >= 100 ? 0.65 : 0.4,
    mends: mend(one, piece, most.value),
  });
}

/** From a note of the key to one outside it that is played nowhere, where a half tone more or less is in it. */
function outOfKey(one: Bent, played: ReadonlySet<number>, part: Part, piece: Piece): CheckFinding | null {
  const key = keyOf(piece, one.riff);
  const { note, by, riff, event } = one;
  if (by % 100 !== 0 || inKey(note.pitch.midi, key) !== true) return null;
  const to = note.pitch.midi + by / 100;
  if (inKey(to, key) !== false || played.has(to % 12)) return null;
  const near = [by + 100, by - 100].filter(
    (cents) => cents >= 100 && cents <= 400 && inKey(note.pitch.midi + cents / 100, key) === true,
  );
  if (near.length === 0) return null;
  return asked('bend-target', {
    locus: locusOf(one, part),
    about: [note.id],
    ground: [note.pitch.midi, by, key],
    words: `At ${whereIn(riff, event)} the bend from ${pitchOf(note.pitch.midi, key)} comes to ${pitchOf(to, key)}, which is in no bar of this part nor in the key: ${near.map((cents) => pitchOf(note.pitch.midi + cents / 100, key)).join(' or ')}?`,
    evidence: `It is bent ${sizeWords(by)} from ${placeWords(note)}.`,
    likely: 0.5,
    mends: near.flatMap((cents) => mend(one, piece, cents)),
  });
}
