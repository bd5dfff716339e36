import { fail, ok, type Result } from '../base';
import { FORM_LIMITS } from './form-schema';
import { LIMITS, type Piece } from './schema';

interface Size {
  readonly count: number;
  readonly most: number;
  readonly what: string;
}

/** Everything of a piece that grows by editing, by where it is. Linear in the riffs. */
function sizesOf(piece: Piece): Map<string, Size> {
  const sizes = new Map<string, Size>();
  let all = 0;
  sizes.set('parts', { count: piece.parts.length, most: LIMITS.parts, what: 'parts in a piece' });
  sizes.set('sections', { count: piece.sections.length, most: FORM_LIMITS.sections, what: 'sections in a piece' });
  for (const part of piece.parts) {
    const riffs = { count: part.riffs.length, most: LIMITS.riffs, what: `riffs in the part "${part.name}"` };
    sizes.set(`riffs of ${part.id}`, riffs);
    for (const { id, name, events } of part.riffs) {
      all += events.length;
      if (events.length > LIMITS.events)
        sizes.set(`events of ${id}`, {
          count: events.length,
          most: LIMITS.events,
          what: `events in the riff "${name}"`,
        });
    }
  }
  sizes.set('events', { count: all, most: LIMITS.allEvents, what: 'events in a piece' });
  return sizes;
}

/**
 * Whether a piece is of a size that is read again: the bounds of the schema that grow by editing. Asked after every
 * edit and before a document is stored, so that nothing is written that can't be opened. Against the piece `before`
 * only growth is refused: one that is too large already can be made smaller, bit by bit.
 */
export function checkSize(piece: Piece, before?: Piece): Result<Piece> {
  let known: Map<string, Size> | null = null;
  for (const [where, { count, most, what }] of sizesOf(piece)) {
    if (count <= most) continue;
    known ??= before ? sizesOf(before) : new Map<string, Size>();
    if (before && count <= (known.get(where)?.count ?? 0)) continue;
    return fail('too-large', `${count} ${what}: ${most} at most. Put the rest into a piece of its own.`, {});
  }
  return ok(piece);
}
