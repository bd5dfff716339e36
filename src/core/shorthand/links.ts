import { cmp, sub, add, type Quarter } from '../time';
import { matchJoins, type Join, type JoinEnd, type JoinPair } from '../score';
import type { CalledEvent, CalledNote } from './types';

/** Why two events can't be joined so, or null: a join stays on one string and goes the right way. */
export function whyNotLinked(link: Join, before: CalledEvent, notes: readonly CalledNote[]): string | null {
  const [a] = before.notes;
  const [b] = notes;
  if (!a || !b || before.notes.length > 1 || notes.length > 1) return null;
  if (a.place && b.place && a.place.string !== b.place.string)
    return `A ${LINK_NOUN[link]} stays on one string; this goes from string ${a.place.string} to ${b.place.string}.`;
  if (link === 'hammer' && b.pitch <= a.pitch) return 'A hammer-on goes to a higher fret; to a lower one say "pull".';
  if (link === 'pull' && b.pitch >= a.pitch) return 'A pull-off goes to a lower fret; to a higher one say "hammer".';
  const slid = link === 'slide' || link === 'shift';
  if (slid && b.pitch === a.pitch && a.cents === b.cents) return 'A slide goes to another fret.';
  if (slid && (a.place?.fret === 0 || b.place?.fret === 0))
    return 'A slide needs a finger on the string at both ends; one end is open.';
  return null;
}

type Draft = { -readonly [K in keyof CalledEvent]: CalledEvent[K] };

const endOf = (note: CalledNote): JoinEnd => ({
  pitch: note.pitch + (note.cents ?? 0) / 100,
  string: note.place?.string ?? null,
  dead: note.technique?.dead === true,
});

/** A note as called with how it is joined to one before; null where it is struck. */
export interface JoinedNote {
  readonly note: CalledNote;
  readonly link: Join | null;
}

/** What comes from nowhere, or is a click, is led to by nothing. */
const leads = (one: JoinedNote): one is JoinedNote & { link: Join } =>
  one.link !== null && !one.note.technique?.hammered && !one.note.technique?.dead;

/**
 * Joins the notes of an event to those of the event before, note by note. Gives the notes as they are then, or what
 * is wrong. A note hammered where nothing sounded comes from nowhere.
 */
export function joinNotes(before: Draft | undefined, notes: readonly JoinedNote[]): CalledNote[] | string {
  const joined = notes.filter(leads);
  if (joined.length === 0) return notes.map(({ note }) => note);
  const [only] = notes;
  if (before?.notes.length === 1 && notes.length === 1 && only?.link) {
    const why = whyNotLinked(only.link, before, [only.note]);
    if (why) return why;
    before.notes = before.notes.map((note) => ({ ...note, join: only.link ?? undefined }));
    return [only.note];
  }
  const ends = before?.notes.map(endOf) ?? [];
  const free = new Set(ends.keys());
  const out: CalledNote[] = notes.map(({ note }) => note);
  for (const link of new Set(joined.map(({ link }) => link))) {
    const from = [...free];
    const to = notes.flatMap((one, i) => (leads(one) && one.link === link ? [i] : []));
    const pairs = matchJoins(
      from.map((i) => ends[i] as JoinEnd),
      from.map(() => link),
      to.map((i) => endOf(out[i] as CalledNote)),
    );
    for (const i of to.keys())
      if (!pairs.some((pair) => pair.to === i)) {
        const note = out[to[i] ?? -1];
        const why = note ? whyFromNowhere(link, note) : null;
        if (!note || why !== null) return why ?? '';
        out[to[i] ?? -1] = { ...note, technique: { ...note.technique, hammered: true } };
      }
    for (const pair of pairs) {
      const [a, b] = [before?.notes[from[pair.from] ?? -1], out[to[pair.to] ?? -1]];
      const why = a && b && before && pair.how !== 'hold' ? whyNotLinked(link, { ...before, notes: [a] }, [b]) : null;
      if (why) return why;
    }
    mark(before, from, pairs, link);
    for (const pair of pairs) free.delete(from[pair.from] ?? -1);
  }
  return out;
}

function mark(before: Draft | undefined, from: readonly number[], pairs: readonly JoinPair[], link: Join): void {
  const leads = new Set(pairs.map((pair) => from[pair.from]));
  if (before) before.notes = before.notes.map((note, i) => (leads.has(i) ? { ...note, join: link } : note));
}

function whyFromNowhere(link: Join, note: CalledNote): string | null {
  const where = note.place ? ` on string ${note.place.string}` : '';
  if (link === 'hammer') return null;
  return link === 'pull'
    ? `No note before lies${where} to pull off from.`
    : `No note before lies${where} to slide from. From no note in particular it is "from-lower" or "from-higher" behind the fret.`;
}

/**
 * Notes that sound on while others of their chord are joined to what follows: they last to the end of what was said
 * last, unless their length was said or their string is needed.
 */
export class Lasting {
  private notes: { readonly event: Draft; readonly index: number }[] = [];

  /** After an event every note of which is joined to the one before. */
  under(before: Draft, event: CalledEvent): void {
    const strings = new Set(event.notes.map((note) => note.place?.string ?? null));
    const pitches = new Set(event.notes.map((note) => note.pitch));
    const fresh = before.notes.flatMap((note, index) =>
      note.join || note.ends || note.dur !== null || note.technique?.dead ? [] : [{ event: before, index }],
    );
    const end = add(event.at, event.dur);
    this.notes = [...this.notes, ...fresh].filter(({ event: from, index }) => {
      const note = from.notes[index];
      if (!note || (note.place ? strings.has(note.place.string) : pitches.has(note.pitch))) return false;
      from.notes = from.notes.map((one, i) => (i === index ? { ...one, dur: lastingTo(from, end) } : one));
      return true;
    });
  }

  /** After an event that is struck. */
  end(): void {
    this.notes = [];
  }
}

const lastingTo = (event: CalledEvent, end: Quarter): Quarter =>
  cmp(end, event.at) > 0 ? sub(end, event.at) : event.dur;

const LINK_NOUN: Record<Join, string> = { hammer: 'hammer-on', pull: 'pull-off', slide: 'slide', shift: 'shift slide' };
