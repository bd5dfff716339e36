import { removeEvents, shiftPitch } from '../../command';
import { differences, type Difference } from '../../hearing';
import { findRiff, keyOf, tempoOf, type Hearing, type Piece, type Riff } from '../../score';
import { secondsAtNumber, toNumber, type Quarter } from '../../time';
import { pitchOf, whereIn } from '../places';
import { asked, type CheckFinding, type Mend, type PieceRule } from '../types';

/**
 * Where what was heard in a recording and what is written part. Octaves are heard wrongly more often than other notes.
 */
export const recording: PieceRule = {
  id: 'recording',
  name: 'what was heard against what is written',
  on: 'piece',
  find: (piece) => (piece.hearings ?? []).flatMap((hearing) => compared(piece, hearing)),
};

const LIKELY = { pitch: 0.65, octave: 0.4, missing: 0.45, extra: 0.5, time: 0.35 } as const;
/** More that parts than this share is another version, or bars laid wrongly: one question instead of many. */
const MOST = 0.5;

function compared(piece: Piece, hearing: Hearing): CheckFinding[] {
  const found = findRiff(piece, hearing.riff);
  if (!found) return [];
  const { riff, part } = found;
  const tempo = tempoOf(piece, riff);
  const seconds = (at: number): number => (at < 0 ? (at * 60) / (tempo[0]?.bpm ?? 120) : secondsAtNumber(tempo, at));
  const heard = hearing.notes.map((note) => ({ at: seconds(note.at), midi: note.midi }));
  const [from, to] = [hearing.from, hearing.to].map((at) => seconds(toNumber(at as Quarter)));
  const list = differences(riff, { seconds }, heard, from ?? 0, to ?? 0);
  const written = riff.events.reduce((sum, event) => sum + event.notes.length, 0);
  const off = list.filter((one) => one.kind !== 'time').length;
  const locus = { part: part.id, riff: riff.id };
  if (off > MOST * Math.max(4, written))
    return [
      asked('recording', {
        locus,
        about: [riff.id, 'all'],
        ground: [off, written, hearing.source],
        words: `Most of what was heard in "${hearing.source}" is not what "${riff.name}" says: another version, or are the bars laid elsewhere?`,
        evidence: `${off} of ${written} notes part.`,
        likely: 0.6,
      }),
    ];
  const key = keyOf(piece, riff);
  return list.map((one) => {
    const event = riff.events.find((other) => other.id === one.event);
    const { words, likely } = told(one, riff, hearing, key, event ? whereIn(riff, event) : null);
    return asked('recording', {
      locus: { ...locus, ...(one.event ? { event: one.event } : {}) },
      about: [riff.id, one.kind, one.event ?? Math.round(one.at * 10), one.written ?? one.hearing],
      ground: [one.written, one.hearing, hearing.source, one.kind === 'time' ? Math.round(one.late / 20) : 0],
      words,
      evidence: 'Heard by the program: listen again before you change it.',
      likely,
      mends: mendsOf(piece, one, riff),
    });
  });
}

function told(
  one: Difference,
  riff: Riff,
  { source }: Hearing,
  key: ReturnType<typeof keyOf>,
  where: string | null,
): { readonly words: string; readonly likely: number } {
  const at = where ?? `after ${one.at.toFixed(1)} s of "${riff.name}"`;
  const written = one.written === null ? '' : pitchOf(one.written, key);
  const hearing = one.hearing === null ? '' : pitchOf(one.hearing, key);
  switch (one.kind) {
    case 'pitch':
      return {
        words: `At ${at} ${written} is written and ${hearing} was heard in "${source}": which?`,
        likely: (one.written ?? 0) % 12 === (one.hearing ?? 0) % 12 ? LIKELY.octave : LIKELY.pitch,
      };
    case 'missing':
      return {
        words: `At ${at} ${written} is written, and nothing was heard there in "${source}": is it played?`,
        likely: LIKELY.missing,
      };
    case 'extra':
      return {
        words: `${hearing} was heard in "${source}" ${at}, and nothing is written there: a note lost?`,
        likely: LIKELY.extra,
      };
    case 'time':
      return {
        words: `At ${at} ${written} was heard ${Math.abs(one.late)} ms ${one.late > 0 ? 'after' : 'before'} its beat in "${source}": another rhythm, or played so?`,
        likely: LIKELY.time,
      };
  }
}

function mendsOf(piece: Piece, one: Difference, riff: Riff): Mend[] {
  const event = riff.events.find((other) => other.id === one.event);
  const note = event?.notes.find((other) => other.pitch.midi === one.written);
  if (!event || !note || one.written === null) return [];
  if (one.kind === 'pitch' && one.hearing !== null) {
    const made = shiftPitch(piece, { riff: riff.id, event: event.id, note: note.id }, one.hearing - one.written);
    return made.ok ? [{ words: `Write ${pitchOf(one.hearing, keyOf(piece, riff))}`, edit: made.value }] : [];
  }
  if (one.kind !== 'missing' || event.notes.length > 1) return [];
  const made = removeEvents(piece, riff.id, [event.id]);
  return made.ok ? [{ words: 'Delete it', edit: made.value }] : [];
}
