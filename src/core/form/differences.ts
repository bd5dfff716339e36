import equal from 'fast-deep-equal';
import type { Finding } from '../base';
import { finding } from '../base';
import { noteName, type Key } from '../pitch';
import { spokenBeat } from '../rhythm';
import { DEFAULT_SCHOOLS, type Schools } from '../schools';
import type { Note, Riff, RiffEvent } from '../score';
import { barOf, cmp, sub, ZERO, type MeterChange, type Quarter } from '../time';

/** What one stretch of events has that another has not, note by note. Times count from the beginnings given. */

export type DifferenceKind = 'added' | 'missing' | 'pitch' | 'place' | 'length' | 'technique';

export interface EventDifference {
  readonly kind: DifferenceKind;
  /** From the beginning of the stretch. */
  readonly at: Quarter;
  readonly before: RiffEvent | null;
  readonly after: RiffEvent | null;
}

/** Whether two notes are played alike: what is heard and where it lies. Fingers the program proposed don't count. */
const placeOf = (note: Note): unknown =>
  note.place
    ? [note.place.string, note.place.fret, note.place.fingerBy === 'instructor' ? note.place.finger : null]
    : null;
const pitchOf = (note: Note): unknown => [note.pitch.midi, note.pitch.cents];
const byString = (a: Note, b: Note): number =>
  a.pitch.midi - b.pitch.midi || (a.place?.string ?? 0) - (b.place?.string ?? 0);
const sorted = (event: RiffEvent): Note[] => [...event.notes].sort(byString);

function kindOf(a: RiffEvent, b: RiffEvent): DifferenceKind | null {
  const [one, other] = [sorted(a), sorted(b)];
  if (!equal(one.map(pitchOf), other.map(pitchOf))) return 'pitch';
  if (!equal(one.map(placeOf), other.map(placeOf))) return 'place';
  if (
    a.dur !== b.dur ||
    !equal(
      one.map((note) => note.dur),
      other.map((note) => note.dur),
    )
  )
    return 'length';
  const rest = ({ id: _, at: __, dur: ___, notes: ____, ...event }: RiffEvent): unknown => event;
  const how = (note: Note): unknown => [note.join, note.technique];
  return equal(rest(a), rest(b)) && equal(one.map(how), other.map(how)) ? null : 'technique';
}

/** Differences of two lists of events in order of time, each told from its own beginning. */
export function differencesOf(
  before: readonly RiffEvent[],
  after: readonly RiffEvent[],
  from: { readonly before: Quarter; readonly after: Quarter } = { before: ZERO, after: ZERO },
): EventDifference[] {
  const out: EventDifference[] = [];
  let i = 0;
  let k = 0;
  while (i < before.length || k < after.length) {
    const a = before[i];
    const b = after[k];
    const atA = a && sub(a.at, from.before);
    const atB = b && sub(b.at, from.after);
    const order = atA === undefined ? 1 : atB === undefined ? -1 : cmp(atA, atB);
    if (order < 0 && a && atA !== undefined) {
      out.push({ kind: 'missing', at: atA, before: a, after: null });
      i++;
    } else if (order > 0 && b && atB !== undefined) {
      out.push({ kind: 'added', at: atB, before: null, after: b });
      k++;
    } else if (a && b && atB !== undefined) {
      const kind = kindOf(a, b);
      if (kind) out.push({ kind, at: atB, before: a, after: b });
      i++;
      k++;
    }
  }
  return out;
}

export interface DifferenceWords {
  readonly meters: readonly MeterChange[];
  readonly key: Key | null;
  readonly schools?: Schools;
}

const KINDS = { hole: 'a gap', hit: 'a hit', scrape: 'a scrape', '': 'nothing' } as const;

/** One difference in words: "bar 4, beat 3: E3 instead of D3". */
export function differenceWords(
  one: EventDifference,
  { meters, key, schools = DEFAULT_SCHOOLS }: DifferenceWords,
): string {
  const { bar } = barOf(meters, one.at);
  const where = bar < 0 ? 'in the pickup' : `bar ${bar + 1}, beat ${spokenBeat(meters, one.at)}`;
  const listed = (event: RiffEvent | null, octave: boolean): string =>
    event?.notes.length
      ? sorted(event)
          .map((note) => noteName(note.pitch.midi, { key, naming: schools.notes, octave }))
          .join(' ')
      : KINDS[event?.kind ?? ''];
  // The same letters in another octave need its number.
  const octaves = listed(one.before, false) === listed(one.after, false) && one.kind === 'pitch';
  const names = (event: RiffEvent | null): string => listed(event, octaves);
  const places = (event: RiffEvent | null): string =>
    event
      ? sorted(event)
          .map((note) =>
            note.place
              ? `string ${note.place.string} ${note.place.fret === 0 ? 'open' : `fret ${note.place.fret}`}`
              : 'no place',
          )
          .join(', ')
      : '';
  const { before, after } = one;
  const what: Record<DifferenceKind, string> = {
    added: `${names(after)} added`,
    missing: `${names(before)} left out`,
    pitch: `${names(after)} instead of ${names(before)}`,
    place: `${names(after)} on ${places(after)} instead of ${places(before)}`,
    length: `${names(after)} ${after && before && cmp(after.dur, before.dur) < 0 ? 'shorter' : after?.dur === before?.dur ? 'held otherwise' : 'longer'}`,
    technique: `${names(after)} played otherwise`,
  };
  return `${where}: ${what[one.kind]}`;
}

/** "2 notes differ", and where they begin. */
export const differCount = (list: readonly EventDifference[]): string =>
  list.length === 0 ? 'no note differs' : list.length === 1 ? '1 note differs' : `${list.length} notes differ`;

/** Differences as findings, for whoever shows them beside others. */
export const differenceFindings = (list: readonly EventDifference[], riff: Riff, words: DifferenceWords): Finding[] =>
  list.map((one) =>
    finding('differs', 'question', differenceWords(one, words), {
      riff: riff.id,
      ...(one.after ? { event: one.after.id } : {}),
    }),
  );
