import type { Cents, Finger, Fret, Midi, StringNumber } from '../../base';
import {
  makeEvent,
  makeNote,
  makePlace,
  type Articulation,
  type Join,
  type Note,
  type RiffEvent,
  type Technique,
} from '../../score';
import { add, cmp, maxQuarter, mul, quarter, sub, ZERO, type Quarter } from '../../time';

/** A note as a file has it: when, how long, in which of its voices, and whatever else it says. */
export interface FoundNote {
  readonly at: Quarter;
  readonly dur: Quarter;
  /** The lowest voice that begins something sets how long the event is. */
  readonly voice: number;
  /** Null where the event is no note (see `event.kind`). */
  readonly midi: Midi | null;
  readonly cents: Cents;
  readonly string: StringNumber | null;
  readonly fret: Fret | null;
  readonly finger: Finger | null;
  readonly otherFinger: Finger | null;
  readonly join: Join | null;
  readonly technique: Technique;
  readonly event: Articulation & { readonly slideBar?: true; readonly letRing?: true };
  readonly ringing: boolean;
  /** For a grace note its place among those before `at`, from 0; null for an ordinary note. */
  readonly grace: number | null;
}

/** A found note with the usual defaults. */
export const foundNote = (at: Quarter, dur: Quarter, midi: Midi | null, extra: Partial<FoundNote> = {}): FoundNote => ({
  at,
  dur,
  voice: 1,
  midi,
  cents: 0,
  string: null,
  fret: null,
  finger: null,
  otherFinger: null,
  join: null,
  technique: {},
  event: {},
  ringing: false,
  grace: null,
  ...extra,
});

/** A grace note is so long where there is room. */
const GRACE = quarter(1, 8);

/** Notes of a part as events of the document: those that begin together are one, with ids of no piece. */
export function eventsOfNotes(notes: readonly FoundNote[]): RiffEvent[] {
  let id = 0;
  const fresh = (prefix: string): string => `${prefix}${id++}`;
  const main = groupBy(
    notes.filter((note) => note.grace === null),
    (note) => note.at,
  );
  const graces = groupBy(
    notes.filter((note) => note.grace !== null),
    (note) => note.at,
  );
  for (const at of graces.keys()) if (!main.has(at)) main.set(at, []);
  const times = [...main.keys()].sort(cmp);
  const out: RiffEvent[] = [];
  for (const at of times) {
    const before = [...groupBy(graces.get(at) ?? [], (note) => String(note.grace) as Quarter).entries()]
      .sort(([a], [b]) => Number(a) - Number(b))
      .map(([, group]) => group);
    const last = out.at(-1);
    const room = last ? mul(sub(at, last.at), 1, 2) : GRACE;
    const step = before.length > 0 ? minOf(GRACE, mul(room, 1, before.length)) : GRACE;
    before.forEach((group, i) => {
      const start = sub(at, mul(step, before.length - i));
      const event = eventOf(group, start, step, fresh);
      if (event) out.push({ ...event, dur: step, grace: true });
    });
    const event = eventOf(main.get(at) ?? [], at, null, fresh);
    if (event) out.push(event);
  }
  return out;
}

const minOf = (a: Quarter, b: Quarter): Quarter => (cmp(a, b) <= 0 ? a : b);

function groupBy<Key extends string>(
  notes: readonly FoundNote[],
  keyOf: (note: FoundNote) => Key,
): Map<Key, FoundNote[]> {
  const groups = new Map<Key, FoundNote[]>();
  for (const note of notes) {
    const group = groups.get(keyOf(note));
    if (group) group.push(note);
    else groups.set(keyOf(note), [note]);
  }
  return groups;
}

function eventOf(
  group: readonly FoundNote[],
  at: Quarter,
  given: Quarter | null,
  fresh: (prefix: string) => string,
): RiffEvent | null {
  const sounding = onceEach(group.filter((note) => note.midi !== null));
  const [lead] = [...(sounding.length > 0 ? sounding : group)].sort((a, b) => a.voice - b.voice);
  if (!lead || (sounding.length === 0 && !lead.event.kind)) return null;
  const dur = given ?? lead.dur;
  const { kind, letRing, ...said } = Object.assign(
    {},
    ...group.map((note) => note.event).reverse(),
  ) as FoundNote['event'];
  const ringing = letRing === true || (sounding.length > 0 && sounding.every((note) => note.ringing));
  const id = fresh('e');
  const notes = sounding.map((note) => noteOf(note, given ? note.dur : dur, ringing, fresh('n')));
  return makeEvent(id, at, dur, notes, {
    letRing: ringing,
    ...said,
    ...(sounding.length === 0 && kind ? { kind } : {}),
  });
}

/** One note of a pitch, but on two strings two; the thickest string first. */
function onceEach(notes: readonly FoundNote[]): FoundNote[] {
  const out: FoundNote[] = [];
  for (const note of notes) {
    const i = out.findIndex(
      (one) =>
        one.midi === note.midi &&
        // In one chord a pitch may stand twice: those are two strings.
        (one.voice !== note.voice || (one.string !== null && one.string === note.string)) &&
        (one.string === note.string || one.string === null || note.string === null),
    );
    const known = out[i];
    if (!known) out.push(note);
    else {
      const [placed, other] = known.string === null && note.string !== null ? [note, known] : [known, note];
      out[i] = {
        ...placed,
        voice: Math.min(placed.voice, other.voice),
        dur: maxQuarter(placed.dur, other.dur),
        finger: placed.finger ?? other.finger,
        join: placed.join ?? other.join,
        technique: { ...other.technique, ...placed.technique },
        ringing: placed.ringing || other.ringing,
      };
    }
  }
  return out.sort((a, b) => (b.string ?? 0) - (a.string ?? 0) || (a.midi ?? 0) - (b.midi ?? 0));
}

function noteOf(note: FoundNote, dur: Quarter, ringing: boolean, id: string): Note {
  const technique = note.ringing && !ringing ? { ...note.technique, letRing: true as const } : note.technique;
  const place =
    note.string === null || note.fret === null
      ? null
      : makePlace(note.string, note.fret, 'import', {
          locked: true,
          finger: note.finger ?? (note.fret === 0 ? 0 : null),
          fingerBy: note.finger === null ? 'solver' : 'import',
          ...(note.otherFinger === null ? {} : { otherFinger: note.otherFinger }),
        });
  return {
    ...makeNote(id, note.midi ?? 0, 'import', { place, dur: note.dur === dur ? null : note.dur }),
    pitch: { midi: note.midi ?? 0, cents: note.cents, by: 'import' },
    ...(note.join === null ? {} : { join: note.join }),
    ...(Object.keys(technique).length > 0 ? { technique } : {}),
  };
}

/** The end of the last of some events, 0 where there are none. */
export const endOfEvents = (events: readonly RiffEvent[]): Quarter =>
  events.reduce<Quarter>((end, event) => maxQuarter(end, add(event.at, event.dur)), ZERO);
