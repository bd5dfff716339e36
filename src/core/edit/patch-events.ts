import { z } from 'zod';
import { fail, ok, type Result } from '../base';
import { eventSchema, noteSchema, type Note, type Riff, type RiffEvent } from '../score';
import { cmp } from '../time';
import { onRiff, riffName, riffOf } from './locate';
import { inversePatch, patched, type AnyPatch } from './patch';
import { where } from './riff-edits';
import { spec } from './spec';

const { id: _event, notes: _notes, ...eventFields } = eventSchema.shape;
const { id: _note, ...noteFields } = noteSchema.shape;

const optionalOf = (fields: Readonly<Record<string, z.ZodType>>): [string, ...string[]] =>
  Object.keys(fields).filter((key) => fields[key] instanceof z.ZodOptional) as [string, ...string[]];

/** The same change of fields, for all the events or notes it names. */
const changesOf = <Fields extends Readonly<Record<string, z.ZodType>>>(fields: Fields) =>
  z.array(
    z.object({
      ids: z.array(z.string()).min(1),
      set: z.object(fields).partial().strict(),
      clear: z.array(z.enum(optionalOf(fields))),
    }),
  );

export interface Change extends AnyPatch {
  readonly ids: readonly string[];
}

/**
 * Changes fields of events and notes that are there and stay there. What `putEvents` says with whole events this says
 * with what is different, once for all that change alike: a mark set over 300 bars is a line, not the riff twice.
 */
export const patchEvents = spec({
  schema: z.object({
    type: z.literal('patchEvents'),
    ...where,
    events: changesOf(eventFields),
    notes: changesOf(noteFields),
  }),
  apply: (piece, edit) => onRiff(piece, edit, (riff) => changed(riff, edit.events, edit.notes)),
  invert: (piece, edit) => {
    const found = riffOf(piece, edit);
    if (!found.ok) return found;
    const { events } = found.value.riff;
    const notes = events.flatMap((event) => event.notes);
    return ok({ ...edit, events: inverses(events, edit.events), notes: inverses(notes, edit.notes) });
  },
  describe: (piece, edit) => {
    const found = riffOf(piece, edit);
    const [events, notes] = [idsOf(edit.events), idsOf(edit.notes)];
    const touched = found.ok
      ? found.value.riff.events.filter((one) => events.has(one.id) || one.notes.some((note) => notes.has(note.id)))
      : [];
    return `changed ${touched.length} in "${riffName(piece, edit)}"`;
  },
  touches: ({ part, riff }) => ({ part, riff, aspects: ['events', 'places'] }),
});

const idsOf = (changes: readonly Change[]): Set<string> => new Set(changes.flatMap(({ ids }) => ids));
const patchesOf = (changes: readonly Change[]): Map<string, AnyPatch> =>
  new Map(changes.flatMap((change) => change.ids.map((id) => [id, change])));

function changed(riff: Riff, eventChanges: readonly Change[], noteChanges: readonly Change[]): Result<Riff> {
  const [ofEvents, ofNotes] = [patchesOf(eventChanges), patchesOf(noteChanges)];
  let moved = false;
  const events = riff.events.map((event): RiffEvent => {
    const patch = ofEvents.get(event.id);
    ofEvents.delete(event.id);
    let noted = false;
    const notes = event.notes.map((note): Note => {
      const own = ofNotes.get(note.id);
      if (!own) return note;
      ofNotes.delete(note.id);
      noted = true;
      return patched(note, own);
    });
    if (!patch && !noted) return event;
    const next = { ...(patch ? patched(event, patch) : event), notes };
    moved ||= next.at !== event.at;
    return next;
  });
  const [missing] = [...ofEvents.keys(), ...ofNotes.keys()];
  if (missing !== undefined)
    return fail('no-event', `There is no event or note "${missing}" to change.`, { event: missing });
  return ok({ ...riff, events: moved ? events.sort((a, b) => cmp(a.at, b.at)) : events });
}

/** Changes that are alike said once. */
export function grouped(changes: Iterable<readonly [id: string, patch: AnyPatch]>): Change[] {
  const by = new Map<string, { ids: string[]; set: object; clear: readonly string[] }>();
  for (const [id, { set, clear }] of changes) {
    const key = JSON.stringify([set, clear]);
    const there = by.get(key);
    if (there) there.ids.push(id);
    else by.set(key, { ids: [id], set, clear });
  }
  return [...by.values()];
}

function inverses(things: readonly { readonly id: string }[], changes: readonly Change[]): Change[] {
  const patches = patchesOf(changes);
  const found: [string, AnyPatch][] = [];
  for (const thing of things) {
    const patch = patches.get(thing.id);
    if (patch) found.push([thing.id, inversePatch(thing, patch)]);
  }
  return grouped(found);
}
