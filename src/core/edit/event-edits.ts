import { z } from 'zod';
import { fail, ok, type Result } from '../base';
import {
  eventFrom4,
  eventSchema,
  notesOf,
  placeSchema,
  placeTo5,
  type Note,
  type Piece,
  type Riff,
  type RiffEvent,
  type Json,
} from '../score';
import { barOf, cmp } from '../time';
import { onRiff, riffName, riffOf, type RiffRef } from './locate';
import { spec } from './spec';
import { where } from './riff-edits';

/** Puts events (new or replacing those of the same id) and removes others, in one go. */
export const putEvents = spec({
  schema: z.object({ type: z.literal('putEvents'), ...where, put: z.array(eventSchema), remove: z.array(z.string()) }),
  apply: (piece, edit) =>
    onRiff(piece, edit, (riff) => {
      const put = new Map(edit.put.map((event) => [event.id, event]));
      const gone = new Set([...edit.remove, ...put.keys()]);
      const unknown = edit.remove.find((id) => !riff.events.some((event) => event.id === id));
      if (unknown !== undefined)
        return fail('no-event', `There is no event "${unknown}" to remove.`, { event: unknown });
      // Mostly events change in place, and their order stays.
      let stayed = 0;
      for (const event of riff.events) if (put.get(event.id)?.at === event.at) stayed++;
      if (stayed === edit.put.length && edit.remove.length === 0)
        return ok({ ...riff, events: riff.events.map((event) => put.get(event.id) ?? event) });
      const events = [...riff.events.filter((event) => !gone.has(event.id)), ...edit.put];
      return ok({ ...riff, events: events.sort((a, b) => cmp(a.at, b.at)) });
    }),
  invert: (piece, edit) => {
    const found = riffOf(piece, edit);
    if (!found.ok) return found;
    const { events } = found.value.riff;
    const touched = new Set([...edit.remove, ...edit.put.map((event) => event.id)]);
    const known = new Set(events.map((event) => event.id));
    return ok({
      type: 'putEvents',
      part: edit.part,
      riff: edit.riff,
      put: events.filter((event) => touched.has(event.id)),
      remove: edit.put.filter((event) => !known.has(event.id)).map((event) => event.id),
    });
  },
  describe: (piece, edit) => {
    const found = riffOf(piece, edit);
    const known = new Set(found.ok ? found.value.riff.events.map((event) => event.id) : []);
    const fresh = edit.put.filter((event) => !known.has(event.id)).length;
    const changed = edit.put.length - fresh;
    const lines: string[] = [];
    if (fresh > 0) lines.push(`wrote ${fresh} ${fresh === 1 ? 'event' : 'events'}`);
    if (changed > 0) lines.push(`changed ${changed}`);
    if (edit.remove.length > 0) lines.push(`deleted ${edit.remove.length}`);
    return `${lines.join(', ') || 'changed nothing'} in "${riffName(piece, edit)}"`;
  },
  touches: ({ part, riff }) => ({ part, riff, aspects: ['events', 'places'] }),
  migrate: { 5: (old) => ({ ...old, put: (old.put as Json[]).map(eventFrom4) }) },
});

/** Decides where one note lies; null gives the choice back to the solver. */
export const placeNote = spec({
  schema: z.object({
    type: z.literal('placeNote'),
    ...where,
    event: z.string(),
    note: z.string(),
    place: placeSchema.nullable(),
  }),
  apply: (piece, edit) => onRiff(piece, edit, (riff) => placed(riff, [{ note: edit.note, place: edit.place }], false)),
  invert: (piece, edit) => {
    const found = riffOf(piece, edit);
    return found.ok ? ok({ ...edit, place: placeIn(found.value.riff, edit.note) }) : found;
  },
  describe: (piece, edit) =>
    edit.place
      ? `put ${barWord(piece, edit, edit.event)} on string ${edit.place.string}, ${edit.place.fret === 0 ? 'open' : `fret ${edit.place.fret}`}`
      : `gave ${barWord(piece, edit, edit.event)} back to the program to place`,
  touches: ({ part, riff }) => ({ part, riff, aspects: ['places'] }),
  migrate: { 5: (old) => ({ ...old, place: placeTo5(old.place) }) },
});

/** The solver's proposals for many notes. Locked places are refused. */
export const proposePlaces = spec({
  schema: z.object({
    type: z.literal('proposePlaces'),
    ...where,
    places: z.array(z.object({ note: z.string(), place: placeSchema.nullable() })),
  }),
  apply: (piece, edit) => onRiff(piece, edit, (riff) => placed(riff, edit.places, true)),
  invert: (piece, edit) => {
    const found = riffOf(piece, edit);
    if (!found.ok) return found;
    const places = edit.places.map(({ note }) => ({ note, place: placeIn(found.value.riff, note) }));
    return ok({ ...edit, places });
  },
  describe: (_, { places }) => `placed ${places.length} note${places.length === 1 ? '' : 's'}`,
  touches: ({ part, riff }) => ({ part, riff, aspects: ['places'] }),
  migrate: {
    5: (old) => ({ ...old, places: (old.places as Json[]).map((one) => ({ ...one, place: placeTo5(one.place) })) }),
  },
});

function placed(
  riff: Riff,
  places: readonly { readonly note: string; readonly place: Note['place'] }[],
  proposed: boolean,
): Result<Riff> {
  const wanted = new Map(places.map(({ note, place }) => [note, place]));
  let refused: string | null = null;
  const events = riff.events.map((event): RiffEvent => {
    if (!event.notes.some((note) => wanted.has(note.id))) return event;
    const notes = event.notes.map((note): Note => {
      const place = wanted.get(note.id);
      if (place === undefined) return note;
      wanted.delete(note.id);
      const lock = note.place?.locked ? note.place : null;
      // A proposal may give a locked place its finger, never another place.
      if (proposed && lock && (place?.string !== lock.string || place.fret !== lock.fret || !place.locked))
        refused = note.id;
      return { ...note, place };
    });
    return { ...event, notes };
  });
  if (refused !== null) return fail('locked', 'A locked place can only be moved by hand.', { note: refused });
  const [missing] = wanted.keys();
  return missing === undefined
    ? ok({ ...riff, events })
    : fail('no-note', `There is no note "${missing}".`, { note: missing });
}

function placeIn(riff: Riff, noteId: string): Note['place'] {
  for (const { note } of notesOf(riff)) if (note.id === noteId) return note.place;
  return null;
}

function barWord(piece: Piece, ref: RiffRef, eventId: string): string {
  const found = riffOf(piece, ref);
  const event = found.ok ? found.value.riff.events.find((one) => one.id === eventId) : undefined;
  if (!found.ok || !event) return 'a note';
  const { bar } = barOf(found.value.riff.meters, event.at);
  return bar < 0 ? 'a note of the pickup' : `a note of bar ${bar + 1}`;
}
