import type { Note, RiffEvent } from './schema';
import type { Join } from './technique';

/** How an event is joined to the next one, by the first of its notes that is; null where none is. */
export const joinOf = (event: Pick<RiffEvent, 'notes'> | null | undefined): Join | null =>
  event?.notes.find((note) => note.join)?.join ?? null;

/** A note joined to the next in a way, or with null to none. */
export function withNoteJoin({ join: _, ...note }: Note, join: Join | null): Note {
  return join === null ? note : { ...note, join };
}

/** An event all notes of which are joined to the next event in one way, or with null none. */
export const withJoin = (event: RiffEvent, join: Join | null): RiffEvent =>
  event.notes.every((note) => (note.join ?? null) === join)
    ? event
    : { ...event, notes: event.notes.map((note) => withNoteJoin(note, join)) };
