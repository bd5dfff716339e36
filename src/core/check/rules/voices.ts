import { compareVoices, heldWords, semitoneWords, stepWords, voicePitch, type ComparedVoices } from '../../arrange';
import { shiftPitch } from '../../command';
import { momentAt, mapOf } from '../../form';
import { findRiff, type Piece, type RiffEvent } from '../../score';
import { add, cmp, type Quarter } from '../../time';
import { pitchOf, whereIn } from '../places';
import { heardIn, type Heard, type SectionNote } from '../sounding';
import { asked, type CheckFinding, type Mend, type PieceRule } from '../types';
import { inKey } from './copy';

/**
 * Two parts that go together in octaves, unison or an interval, but for a note: a slip, or the one that deviates on
 * purpose. What leaves the key or grates is likelier a slip; what comes again at every copy is meant.
 */
export const voices: PieceRule = {
  id: 'voices',
  name: 'a doubling or second voice with a note off',
  on: 'piece',
  find: (piece) => {
    const told = new Set<string>();
    return heardIn(piece)
      .flatMap((heard) => pairs(piece, heard))
      .filter(({ id }) => !told.has(id) && told.add(id));
  },
};

const HOLDS = 0.84;
const LEAST = 8;
const MOST_OFF = 2;
const SLIP = { octave: 0.65, third: 0.45, outside: 0.25, grates: 0.15, fourth: -0.2 } as const;
/** Intervals within an octave that grate. */
const GRATES = new Set([1, 2, 6, 10, 11]);

function pairs(piece: Piece, heard: Heard): CheckFinding[] {
  const map = mapOf(piece);
  const parts = [...new Set(heard.notes.map((note) => note.part))];
  const lines = parts.map((part) => lineOf(heard.notes.filter((note) => note.part === part)));
  return lines.flatMap((model, i) =>
    lines.slice(i + 1).flatMap((voice): CheckFinding[] => {
      if (model.events.length < LEAST || voice.events.length < LEAST) return [];
      const keyAt = (at: Quarter) => momentAt(map, add(heard.pass.from, at)).key;
      const compared = compareVoices(model.events, voice.events, keyAt);
      const { held, rows } = compared;
      /** The same notes deviate from each other elsewhere too, written once more: meant. */
      const comesAgain = (row: Row): boolean =>
        rows.some(
          (other) =>
            other.deviates &&
            other.model.midi % 12 === row.model.midi % 12 &&
            other.semitones === row.semitones &&
            voice.sources.get(other.voice.event)?.event.id !== voice.sources.get(row.voice.event)?.event.id,
        );
      const keeping = rows.filter((row) => !row.deviates || comesAgain(row)).length;
      if (!held || rows.length < LEAST || keeping < HOLDS * rows.length) return [];
      // A pedal or a part that only doubles now and then is no second voice.
      if (rows.length < 0.8 * Math.max(model.events.length, voice.events.length)) return [];
      const off = rows.filter((row) => row.deviates && !comesAgain(row));
      const sources = new Set(off.map((row) => voice.sources.get(row.voice.event)?.event.id));
      if (off.length === 0 || sources.size > MOST_OFF) return [];
      return off.flatMap((row) => question(piece, compared, row, model, voice, keyAt) ?? []);
    }),
  );
}

type Row = ComparedVoices['rows'][number];

interface VoiceLine {
  readonly events: readonly RiffEvent[];
  readonly sources: ReadonlyMap<string, SectionNote>;
}

/** The notes of a part in a section as one line, each event named anew so that none comes twice. */
function lineOf(notes: readonly SectionNote[]): VoiceLine {
  const sources = new Map<string, SectionNote>();
  const events = new Map<string, RiffEvent>();
  for (const note of notes) {
    const id = `${note.at}`;
    const known = events.get(id);
    const own = note.event.notes.filter((one) => one.pitch.midi === note.midi);
    if (known) events.set(id, { ...known, notes: [...known.notes, ...own] });
    else events.set(id, { ...note.event, id, at: note.at, notes: own });
    const top = sources.get(id);
    if (!top || note.midi > top.midi) sources.set(id, note);
  }
  return { events: [...events.values()].sort((a, b) => cmp(a.at, b.at)), sources };
}

function question(
  piece: Piece,
  compared: ComparedVoices,
  row: ComparedVoices['rows'][number],
  model: VoiceLine,
  voice: VoiceLine,
  keyAt: (at: Quarter) => ReturnType<typeof momentAt>['key'],
): CheckFinding | null {
  const { held } = compared;
  const here = voice.sources.get(row.voice.event);
  const there = model.sources.get(row.model.event);
  const found = here && findRiff(piece, here.riff);
  const key = keyAt(row.at);
  if (!here || !there || !held || !found) return null;
  const expected =
    held.by === 'semitones' || !key
      ? row.model.midi + (held.by === 'semitones' ? held.semitones : 0)
      : voicePitch(row.model.midi, { by: 'steps', steps: held.steps, key });
  const octave = held.by === 'semitones' && held.semitones % 12 === 0;
  const within = Math.abs(row.semitones) % 12;
  const likely =
    (octave ? SLIP.octave : SLIP.third) +
    (inKey(row.voice.midi, key) === false && inKey(expected, key) !== false ? SLIP.outside : 0) +
    (!octave && GRATES.has(within) ? SLIP.grates : 0) +
    (!octave && (within === 5 || within === 7) ? SLIP.fourth : 0);
  const note = here.event.notes.find((one) => one.pitch.midi === here.midi);
  const written = found.riff.events.some(
    (event) => event.id === here.event.id && event.notes.some((one) => one.id === note?.id),
  );
  const mends: Mend[] = [];
  if (note && written) {
    const made = shiftPitch(piece, { riff: here.riff, event: here.event.id, note: note.id }, expected - here.midi);
    if (made.ok) mends.push({ words: `Make it ${pitchOf(expected, key)}`, edit: made.value });
  }
  const size = held.by === 'steps' ? stepWords(row.steps ?? 0) : semitoneWords(row.semitones);
  return asked('voices', {
    locus: {
      part: here.part.id,
      riff: here.riff,
      event: here.event.id,
      ...(note ? { note: note.id } : {}),
    },
    about: [here.event.id, there.part.id],
    ground: [row.voice.midi, row.model.midi, held, here.part.id],
    words: `${here.part.name} goes with ${there.part.name}, but at ${whereIn(found.riff, here.event)} of "${found.riff.name}" it has ${pitchOf(here.midi, key)} (${size}) where ${pitchOf(expected, key)} would follow: meant?`,
    evidence: heldWords(compared),
    likely,
    mends,
  });
}
