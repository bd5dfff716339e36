import { fail, must, ok, type Result } from '../base';
import { findPart, notesOf, type Piece, type Riff } from '../score';
import { applyEdit, FRAME, said } from './apply';
import type { Edit, SimpleEdit } from './types';

/** The edit that undoes `edit` when applied to the document that `edit` made of `piece`. */
export function invertEdit(piece: Piece, edit: Edit): Result<Edit> {
  if (edit.type !== 'batch') return invertSimple(piece, edit);
  const undone: SimpleEdit[] = [];
  let current = piece;
  for (const one of edit.edits) {
    const back = invertSimple(current, one);
    if (!back.ok) return back;
    undone.unshift(back.value);
    const next = applyEdit(current, one);
    if (!next.ok) return next;
    current = next.value;
  }
  return ok({ type: 'batch', what: edit.what, edits: undone });
}

function invertSimple(piece: Piece, edit: SimpleEdit): Result<SimpleEdit> {
  switch (edit.type) {
    case 'setTitle':
      return ok({ type: 'setTitle', title: piece.title });
    case 'setTempo':
      return ok({ type: 'setTempo', tempo: piece.lanes.tempo });
    case 'setKey':
      return ok({ type: 'setKey', key: piece.lanes.key });
    case 'setCosts':
      return ok({ type: 'setCosts', costs: piece.costs ?? null });
    case 'setUnsaid': {
      const part = edit.part === null ? null : findPart(piece, edit.part);
      return part === undefined
        ? fail('no-part', `There is no part "${edit.part ?? ''}".`, edit.part === null ? {} : { part: edit.part })
        : ok({ type: 'setUnsaid', part: edit.part, unsaid: (part === null ? piece.unsaid : part.unsaid) ?? [] });
    }
    case 'addPart':
      return ok({ type: 'removePart', part: edit.part.id });
    case 'addRiff':
      return ok({ type: 'removeRiff', part: edit.part, riff: edit.riff.id });
  }
  const part = findPart(piece, edit.part);
  if (!part) return fail('no-part', `There is no part "${edit.part}".`, { part: edit.part });
  switch (edit.type) {
    case 'removePart':
      return ok({ type: 'addPart', part: part, at: piece.parts.indexOf(part) });
    case 'renamePart':
      return ok({ type: 'renamePart', part: part.id, name: part.name, role: part.role });
    case 'setPlayer':
      return ok({ type: 'setPlayer', part: part.id, player: part.player ?? null });
    case 'setSetup':
      return ok({ type: 'setSetup', part: part.id, setup: part.setup, riffs: part.riffs });
  }
  const riff = part.riffs.find((r) => r.id === edit.riff);
  if (!riff) return fail('no-riff', `There is no riff "${edit.riff}".`, { riff: edit.riff });
  const where = { part: part.id, riff: riff.id };
  switch (edit.type) {
    case 'removeRiff':
      return ok({ type: 'addRiff', part: part.id, riff: riff, at: part.riffs.indexOf(riff) });
    case 'setWishes':
      return ok({ type: 'setWishes', ...where, wishes: riff.wishes ?? [] });
    case 'setRiff':
      return ok({
        type: 'setRiff',
        ...where,
        name: riff.name,
        bars: riff.bars,
        pickup: riff.pickup,
        meters: riff.meters,
        ...said(riff, FRAME),
      });
    case 'setReadings':
      return ok({ type: 'setReadings', ...where, readings: riff.readings ?? [] });
    case 'putEvents': {
      const touched = new Set([...edit.remove, ...edit.put.map((e) => e.id)]);
      const before = riff.events.filter((e) => touched.has(e.id));
      const fresh = edit.put.filter((e) => !riff.events.some((old) => old.id === e.id)).map((e) => e.id);
      return ok({ type: 'putEvents', ...where, put: before, remove: fresh });
    }
    case 'placeNote':
      return ok({ type: 'placeNote', ...where, event: edit.event, note: edit.note, place: placeIn(riff, edit.note) });
    case 'proposePlaces':
      return ok({
        type: 'proposePlaces',
        ...where,
        places: edit.places.map(({ note }) => ({ note, place: placeIn(riff, note) })),
      });
  }
}

const placeIn = (riff: Riff, id: string) => {
  for (const { note } of notesOf(riff)) if (note.id === id) return note.place;
  return null;
};

/** Applies an edit and gives its inverse in one call; throws where the edit does not apply. */
export function applied(piece: Piece, edit: Edit): { piece: Piece; inverse: Edit } {
  return { inverse: must(invertEdit(piece, edit)), piece: must(applyEdit(piece, edit)) };
}
