import { compareVoices, heldWords, semitoneWords, stepWords, voicePitch, type ComparedVoices } from '../../arrange';
import { shiftPitch } from '../../command';
import { momentAt, mapOf } from '../../form';
import { findRiff, type Part, type Piece, type RiffEvent, type Section } from '../../score';
import { add, barOf, cmp, type Quarter } from '../../time';
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

/** Share of the notes that keep to the interval, and with those that leave it by a pattern. */
const KEPT = 0.7;
const HOLDS = 0.84;
const LEAST = 8;
const MOST_OFF = 2;
const SLIP = { octave: 0.65, third: 0.45, outside: 0.25, grates: 0.15, fourth: -0.2 } as const;
/** Intervals within an octave that grate. */
const GRATES = new Set([1, 2, 6, 10, 11]);

interface Kept {
  readonly reads: readonly unknown[];
  readonly found: readonly CheckFinding[];
}
/** What was found between two parts of a section, while both play the same there: most edits touch one part. */
const memory = new WeakMap<Section, Map<string, Kept>>();

function pairs(piece: Piece, heard: Heard): CheckFinding[] {
  const { section, notes, plays } = heard;
  const { keys } = mapOf(piece);
  const known = memory.get(section) ?? new Map<string, Kept>();
  memory.set(section, known);
  const parts = [...new Set(notes.map((note) => note.part))];
  const lines = new Map<Part, VoiceLine>();
  const line = (part: Part): VoiceLine => {
    const made = lines.get(part) ?? lineOf(notes.filter((note) => note.part === part));
    lines.set(part, made);
    return made;
  };
  return parts.flatMap((model, i) =>
    parts.slice(i + 1).flatMap((voice) => {
      const pair = `${model.id} ${voice.id}`;
      const of = ({ id, name }: Part): readonly unknown[] => [name, ...(plays.get(id) ?? [])];
      const reads = [...of(model), ...of(voice), JSON.stringify(keys)];
      const before = known.get(pair);
      if (before && before.reads.length === reads.length && before.reads.every((one, k) => one === reads[k]))
        return before.found;
      const found = between(piece, heard, line(model), line(voice));
      known.set(pair, { reads, found });
      return found;
    }),
  );
}

/** What is to be asked about two lines of a section. */
function between(piece: Piece, heard: Heard, model: VoiceLine, voice: VoiceLine): CheckFinding[] {
  if (!mayGoTogether(model, voice)) return [];
  const map = mapOf(piece);
  const inBar = (at: Quarter): string => barOf(map.meters, add(heard.pass.from, at)).offset;
  const keyAt = (at: Quarter) => momentAt(map, add(heard.pass.from, at)).key;
  const compared = compareVoices(model.events, voice.events, keyAt);
  const { held, rows } = compared;
  const sourceOf = (row: Row): string | undefined => voice.sources.get(row.voice.event)?.event.id;
  /** Another note deviates as it does, on the same pitch or the same beat, written once more: meant. */
  const comesAgain = (row: Row): boolean =>
    rows.some(
      (other) =>
        other.deviates &&
        Math.abs(other.semitones - row.semitones) <= 1 &&
        (other.model.midi % 12 === row.model.midi % 12 || inBar(other.at) === inBar(row.at)) &&
        sourceOf(other) !== sourceOf(row),
    );
  const keeping = rows.filter((row) => !row.deviates || comesAgain(row)).length;
  if (!held || rows.length < LEAST || held.share < KEPT || keeping < HOLDS * rows.length) return [];
  // A pedal or a part that only doubles now and then is no second voice.
  if (rows.length < 0.8 * Math.max(model.events.length, voice.events.length)) return [];
  const off = rows.filter((row) => row.deviates && !comesAgain(row));
  if (off.length === 0 || new Set(off.map(sourceOf)).size > MOST_OFF) return [];
  return off.flatMap((row) => question(piece, compared, row, model, voice, keyAt) ?? []);
}

type Row = ComparedVoices['rows'][number];

/** A quick look before notes are compared one by one: two steps next to each other are most of what lies between. */
function mayGoTogether(model: VoiceLine, voice: VoiceLine): boolean {
  const most = Math.max(model.tops.size, voice.tops.size);
  if (Math.min(model.tops.size, voice.tops.size) < LEAST) return false;
  const counts = new Map<number, number>();
  let rows = 0;
  for (const [at, midi] of model.tops) {
    const other = voice.tops.get(at);
    if (other === undefined) continue;
    rows++;
    counts.set(other - midi, (counts.get(other - midi) ?? 0) + 1);
  }
  const pairs = [...counts.keys()].map((step) => (counts.get(step) ?? 0) + (counts.get(step + 1) ?? 0));
  return rows >= 0.8 * most && Math.max(0, ...pairs) >= KEPT * rows * 0.9;
}

interface VoiceLine {
  /** The highest pitch at each onset. */
  readonly tops: ReadonlyMap<string, number>;
  readonly events: readonly RiffEvent[];
  readonly sources: ReadonlyMap<string, SectionNote>;
}

/** The notes of a part in a section as one line, each event named anew so that none comes twice. */
function lineOf(notes: readonly SectionNote[]): VoiceLine {
  const sources = new Map<string, SectionNote>();
  const tops = new Map<string, number>();
  const events = new Map<string, RiffEvent>();
  for (const note of notes) {
    const id = `${note.at}`;
    tops.set(id, Math.max(note.midi, tops.get(id) ?? 0));
    const known = events.get(id);
    const own = note.event.notes.filter((one) => one.pitch.midi === note.midi);
    if (known) events.set(id, { ...known, notes: [...known.notes, ...own] });
    else events.set(id, { ...note.event, id, at: note.at, notes: own });
    const top = sources.get(id);
    if (!top || note.midi > top.midi) sources.set(id, note);
  }
  return { tops, events: [...events.values()].sort((a, b) => cmp(a.at, b.at)), sources };
}

/** What a deviation is about and rests on: one that is called meant in a table of intervals is so here too. */
function voiceGround({ event, part, model, row, held }: Deviating) {
  const kept = held && (held.by === 'steps' ? held.steps : held.semitones);
  return { about: [event, model], ground: [row.voice.midi, row.model.midi, held?.by, kept, part] };
}

export interface Deviating {
  /** The event in its riff, and its part. */
  readonly event: string;
  readonly part: string;
  /** The part it goes with. */
  readonly model: string;
  readonly row: Row;
  readonly held: ComparedVoices['held'];
}

/** By what a deviating note of a second voice is answered. */
export function voiceQuestion(deviating: Deviating): Pick<CheckFinding, 'id' | 'ground'> {
  const { id, ground } = asked('voices', { locus: {}, words: '', likely: 1, ...voiceGround(deviating) });
  return { id, ground };
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
    ...voiceGround({ event: here.event.id, part: here.part.id, model: there.part.id, row, held }),
    words: `${here.part.name} goes with ${there.part.name}, but at ${whereIn(found.riff, here.event)} of "${found.riff.name}" it has ${pitchOf(here.midi, key)} (${size}) where ${pitchOf(expected, key)} would follow: meant?`,
    evidence: heldWords(compared),
    likely,
    mends,
  });
}
