import { fail, ok, type Result } from '../base';
import {
  checkIds,
  checkLanes,
  checkPart,
  checkRiff,
  findPart,
  type Note,
  type Part,
  type Piece,
  type Riff,
  type RiffEvent,
} from '../score';
import { cmp } from '../time';
import type { Edit, SimpleEdit } from './types';

/** The document after an edit, or why the edit can't be made; the old document is untouched. */
export function applyEdit(piece: Piece, edit: Edit): Result<Piece> {
  if (edit.type !== 'batch') return applySimple(piece, edit);
  let current = piece;
  for (const one of edit.edits) {
    const next = applySimple(current, one);
    if (!next.ok) return next;
    current = next.value;
  }
  return ok(current);
}

function applySimple(piece: Piece, edit: SimpleEdit): Result<Piece> {
  switch (edit.type) {
    case 'setTitle':
      return ok({ ...piece, title: edit.title });
    case 'setTempo':
      return checkLanes({ ...piece, lanes: { ...piece.lanes, tempo: edit.tempo } });
    case 'setKey':
      return checkLanes({ ...piece, lanes: { ...piece.lanes, key: edit.key } });
    case 'setCosts': {
      const { costs: _, ...rest } = piece;
      return ok(edit.costs ? { ...rest, costs: edit.costs } : rest);
    }
    case 'setPlayer':
      return onPart(piece, edit.part, ({ player: _, ...part }) =>
        ok(edit.player ? { ...part, player: edit.player } : part),
      );
    case 'setWishes':
      return onRiff(piece, edit, ({ wishes: _, ...riff }) =>
        ok(edit.wishes.length > 0 ? { ...riff, wishes: edit.wishes } : riff),
      );
    case 'addPart': {
      const checked = checkPart(edit.part);
      return checked.ok ? checkIds({ ...piece, parts: inserted(piece.parts, edit.at, edit.part) }) : checked;
    }
    case 'removePart':
      if (!findPart(piece, edit.part)) return noPart(edit.part);
      return ok({ ...piece, parts: piece.parts.filter((p) => p.id !== edit.part) });
    case 'renamePart':
      return onPart(piece, edit.part, (part) => ok({ ...part, name: edit.name, role: edit.role }));
    case 'setSetup':
      return onPart(piece, edit.part, (part) => checkPart({ ...part, setup: edit.setup, riffs: edit.riffs }));
    case 'addRiff': {
      const added = onPart(piece, edit.part, (part) => {
        const checked = checkRiff(edit.riff, part.setup);
        return checked.ok ? ok({ ...part, riffs: inserted(part.riffs, edit.at, edit.riff) }) : checked;
      });
      return added.ok ? checkIds(added.value) : added;
    }
    case 'removeRiff':
      return onPart(piece, edit.part, (part) =>
        part.riffs.some((r) => r.id === edit.riff)
          ? ok({ ...part, riffs: part.riffs.filter((r) => r.id !== edit.riff) })
          : noRiff(edit.riff),
      );
    case 'setRiff':
      return onRiff(piece, edit, (riff) =>
        ok({
          ...without(riff, FRAME),
          name: edit.name,
          bars: edit.bars,
          pickup: edit.pickup,
          meters: edit.meters,
          ...said(edit, FRAME),
        }),
      );
    case 'setReadings':
      return onRiff(piece, edit, (riff) =>
        ok({ ...without(riff, ['readings']), ...(edit.readings.length > 0 ? { readings: edit.readings } : {}) }),
      );
    case 'setUnsaid': {
      const { part } = edit;
      if (part === null)
        return ok({
          ...without(piece, ['unsaid']),
          ...(edit.unsaid.includes('tempo') ? { unsaid: ['tempo' as const] } : {}),
        });
      return onPart(piece, part, (found) =>
        ok({
          ...without(found, ['unsaid']),
          ...(edit.unsaid.includes('tuning') ? { unsaid: ['tuning' as const] } : {}),
        }),
      );
    }
    case 'putEvents':
      return onRiff(piece, edit, (riff) => {
        const put = new Map(edit.put.map((e) => [e.id, e]));
        const gone = new Set([...edit.remove, ...put.keys()]);
        const unknown = edit.remove.find((id) => !riff.events.some((e) => e.id === id));
        if (unknown !== undefined)
          return fail('no-event', `There is no event "${unknown}" to remove.`, { event: unknown });
        // Mostly events change in place, and their order stays.
        let stayed = 0;
        for (const e of riff.events) if (put.get(e.id)?.at === e.at) stayed++;
        if (stayed === edit.put.length && edit.remove.length === 0)
          return ok({ ...riff, events: riff.events.map((e) => put.get(e.id) ?? e) });
        const events = [...riff.events.filter((e) => !gone.has(e.id)), ...edit.put].sort((a, b) => cmp(a.at, b.at));
        return ok({ ...riff, events });
      });
    case 'placeNote':
      return onRiff(piece, edit, (riff) => placeNotes(riff, [{ note: edit.note, place: edit.place }], false));
    case 'proposePlaces':
      return onRiff(piece, edit, (riff) => placeNotes(riff, edit.places, true));
  }
}

/** What a riff's frame may hold beside its name, bars, pickup and meters. */
export const FRAME = ['tempo', 'feel', 'click', 'plays', 'picking'] as const;

function without<T extends object, K extends keyof T>(value: T, keys: readonly K[]): Omit<T, K> {
  const rest = { ...value };
  for (const key of keys) Reflect.deleteProperty(rest, key);
  return rest;
}

/** Those of the keys that are said at all. */
export function said<T extends object, K extends keyof T>(value: T, keys: readonly K[]): Partial<Pick<T, K>> {
  const out: Partial<Pick<T, K>> = {};
  for (const key of keys) if (value[key] !== undefined) out[key] = value[key];
  return out;
}

function placeNotes(
  riff: Riff,
  places: readonly { note: string; place: Note['place'] }[],
  proposed: boolean,
): Result<Riff> {
  const wanted = new Map(places.map((p) => [p.note, p.place]));
  let refused: string | null = null;
  const events = riff.events.map((event): RiffEvent => {
    if (!event.notes.some((n) => wanted.has(n.id))) return event;
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

const inserted = <T>(list: readonly T[], at: number, item: T): T[] => [...list.slice(0, at), item, ...list.slice(at)];
const noPart = (id: string) => fail('no-part', `There is no part "${id}".`, id);
const noRiff = (id: string) => fail('no-riff', `There is no riff "${id}".`, id);

function onPart(piece: Piece, id: string, change: (part: Part) => Result<Part>): Result<Piece> {
  const part = findPart(piece, id);
  if (!part) return noPart(id);
  const next = change(part);
  return next.ok ? ok({ ...piece, parts: piece.parts.map((p) => (p === part ? next.value : p)) }) : next;
}

function onRiff(
  piece: Piece,
  ref: { part: string; riff: string },
  change: (riff: Riff, part: Part) => Result<Riff>,
): Result<Piece> {
  return onPart(piece, ref.part, (part) => {
    const riff = part.riffs.find((r) => r.id === ref.riff);
    if (!riff) return noRiff(ref.riff);
    const next = change(riff, part);
    if (!next.ok) return next;
    const checked = checkRiff(next.value, part.setup, riff);
    return checked.ok ? ok({ ...part, riffs: part.riffs.map((r) => (r === riff ? checked.value : r)) }) : checked;
  });
}
