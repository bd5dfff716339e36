import type { Note, Piece, RiffEvent } from '../../score';
import { add, cmp, sub, type Quarter } from '../../time';

/** What every open format keeps of an event, in one order of fields and notes: without ids, and without who decided. */
export const alike = (given: RiffEvent): unknown => {
  const event = ringTogether(lengthOfNotes(given));
  const { id: _, notes, ...held } = event;
  // The short time of a grace note is made anew wherever it goes.
  const rest = event.grace ? { ...held, at: '', dur: '' } : held;
  return [sorted(rest), notes.map((note) => noteAlike(event, note)).sort()];
};

/** Where every note has a length of its own the event's says nothing: it is that of the shortest. */
function lengthOfNotes(event: RiffEvent): RiffEvent {
  const [first, ...others] = event.notes.map((note) => note.dur);
  if (!first || others.includes(null)) return event;
  return { ...event, dur: [first, ...others].reduce((a, b) => (a && b && cmp(a, b) <= 0 ? a : b)) ?? event.dur };
}

/** What rings on with every note of it rings on as a whole. */
function ringTogether(event: RiffEvent): RiffEvent {
  const all = event.notes.length > 0 && event.notes.every((note) => note.technique?.letRing);
  if (!all && !event.letRing) return event;
  return {
    ...event,
    letRing: true,
    notes: event.notes.map((note) => {
      const { letRing: _, ...technique } = note.technique ?? {};
      return { ...note, technique };
    }),
  };
}

const noteAlike = (event: RiffEvent, { pitch, place, dur, join, technique }: Note): string =>
  JSON.stringify([
    pitch.midi,
    pitch.cents,
    place
      ? [
          place.string,
          place.fret,
          place.fret > 0 && place.finger === 0 ? null : place.finger,
          place.otherFinger ?? null,
        ]
      : null,
    dur === event.dur ? null : dur,
    join ?? null,
    sorted(technique ?? {}),
  ]);

export const sorted = (value: object): unknown =>
  Object.entries(value)
    .filter(([, held]) => held !== undefined)
    .sort(([a], [b]) => (a < b ? -1 : 1));

/** Events as a text a line, to be compared in tests with a readable difference. */
export const told = (events: readonly RiffEvent[]): string[] => events.map((event) => JSON.stringify(alike(event)));

/** Events as they sound up to an end: nothing reaches over the last bar line. */
export const endedAt = (events: readonly RiffEvent[], end: Quarter): RiffEvent[] =>
  events.map((event) => {
    const cut = (dur: Quarter): Quarter => (cmp(add(event.at, dur), end) > 0 ? sub(end, event.at) : dur);
    const dur = cut(event.dur);
    return {
      ...event,
      dur,
      notes: event.notes.map((note) => {
        const own = note.dur === null ? null : cut(note.dur);
        return { ...note, dur: own === dur ? null : own };
      }),
    };
  });

/** A piece in which no two notes of one pitch are struck together but on strings that are known. */
export const withoutDoubles = (piece: Piece): Piece => ({
  ...piece,
  parts: piece.parts.map((part) => ({
    ...part,
    riffs: part.riffs.map((riff) => ({
      ...riff,
      events: riff.events.map((event) => ({
        ...event,
        notes: event.notes.filter(
          (note, i) =>
            !event.notes.some((one, k) => k < i && one.pitch.midi === note.pitch.midi && (!one.place || !note.place)),
        ),
      })),
    })),
  })),
});
