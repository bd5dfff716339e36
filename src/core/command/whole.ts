import { freshIds, fail, ok, type Result } from '../base';
import type { Edit } from '../edit';
import { findPart, type Part, type Piece, type Riff, type RiffEvent } from '../score';

/** Parts and riffs put into a piece: with ids that were never given in it, whatever ids they came with. */

type Fresh = (prefix: string) => string;

const renewEvent = (event: RiffEvent, fresh: Fresh): RiffEvent => ({
  ...event,
  id: fresh('e'),
  notes: event.notes.map((note) => ({ ...note, id: fresh('n') })),
});

/** A riff with new ids all through. Its variants point at its events and go along with them. */
function renewRiff(riff: Riff, fresh: Fresh): Riff {
  const names = new Map<string, string>();
  const renew = (event: RiffEvent): RiffEvent => {
    const next = renewEvent(event, fresh);
    names.set(event.id, next.id);
    return next;
  };
  const { wishes, alternatives, variants, ...rest } = riff;
  const events = riff.events.map(renew);
  const same = (event: RiffEvent): RiffEvent => {
    const next = renewEvent(event, fresh);
    return { ...next, id: names.get(event.id) ?? next.id };
  };
  return {
    ...rest,
    id: fresh('r'),
    events,
    ...(wishes ? { wishes: wishes.map((wish) => ({ ...wish, id: fresh('w') })) } : {}),
    ...(alternatives
      ? { alternatives: alternatives.map((one) => ({ ...one, id: fresh('v'), events: one.events.map(same) })) }
      : {}),
    ...(variants
      ? {
          variants: variants.map((one) => ({
            ...one,
            id: fresh('x'),
            change: {
              replaced: one.change.replaced.map(same),
              removed: one.change.removed.map((id) => names.get(id) ?? id),
              inserted: one.change.inserted.map((event) => renewEvent(event, fresh)),
            },
          })),
        }
      : {}),
  };
}

/** Puts a part into a piece; its riffs come along. Gives the edit, and the part as it is there. */
export function insertPart(piece: Piece, part: Part, at = piece.parts.length): { edit: Edit; part: Part } {
  const fresh = freshIds(piece.lastId);
  const renewed = { ...part, id: fresh('p'), riffs: part.riffs.map((riff) => renewRiff(riff, fresh)) };
  return { edit: { type: 'addPart', part: renewed, at }, part: renewed };
}

/** Puts a riff into a part, behind the others where `at` is not said. Gives the edit, and the riff as it is there. */
export function insertRiff(piece: Piece, partId: string, riff: Riff, at?: number): Result<{ edit: Edit; riff: Riff }> {
  const part = findPart(piece, partId);
  if (!part) return fail('no-part', 'That part is not there any more.', { part: partId });
  const renewed = renewRiff(riff, freshIds(piece.lastId));
  return ok({ edit: { type: 'addRiff', part: partId, riff: renewed, at: at ?? part.riffs.length }, riff: renewed });
}
