import equal from 'fast-deep-equal';
import type { Piece } from '../score';
import { riffOf } from './locate';
import type { AnyPatch } from './patch';
import { grouped } from './patch-events';
import type { Edit, SimpleEdit } from './types';

/** What makes `after` of `before`, the fields of `without` left aside; null where nothing does. */
function differenceOf(before: object, after: object, without: ReadonlySet<string>): AnyPatch | null {
  const [from, to] = [before as Record<string, unknown>, after as Record<string, unknown>];
  const set: Record<string, unknown> = {};
  const clear: string[] = [];
  for (const key of new Set([...Object.keys(from), ...Object.keys(to)])) {
    if (without.has(key) || equal(from[key], to[key])) continue;
    if (to[key] === undefined) clear.push(key);
    else set[key] = to[key];
  }
  return clear.length > 0 || Object.keys(set).length > 0 ? { set, clear } : null;
}

const OF_EVENT = new Set(['id', 'notes']);
const OF_NOTE = new Set(['id']);

/** The same edit said shortest: events put over ones with the same notes are said by what is different in them. */
export function compactEdit(piece: Piece, edit: Edit): Edit {
  if (edit.type !== 'batch') return compactSimple(piece, edit);
  // Only the first rests on the piece as it is: the others on what the ones before them made.
  const [first, ...others] = edit.edits;
  return first && others.length === 0 ? { ...edit, edits: [compactSimple(piece, first)] } : edit;
}

function compactSimple(piece: Piece, edit: SimpleEdit): SimpleEdit {
  if (edit.type !== 'putEvents' || edit.remove.length > 0) return edit;
  const found = riffOf(piece, edit);
  if (!found.ok) return edit;
  const known = new Map(found.value.riff.events.map((event) => [event.id, event]));
  const events: [string, AnyPatch][] = [];
  const notes: [string, AnyPatch][] = [];
  for (const put of edit.put) {
    const before = known.get(put.id);
    if (!before || before.notes.length !== put.notes.length) return edit;
    for (const [i, note] of put.notes.entries()) {
      const was = before.notes[i];
      if (was?.id !== note.id) return edit;
      const patch = differenceOf(was, note, OF_NOTE);
      if (patch) notes.push([note.id, patch]);
    }
    const patch = differenceOf(before, put, OF_EVENT);
    if (patch) events.push([put.id, patch]);
  }
  return {
    type: 'patchEvents',
    part: edit.part,
    riff: edit.riff,
    events: grouped(events),
    notes: grouped(notes),
  } as SimpleEdit;
}
