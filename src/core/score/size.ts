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
  for (const [where, size] of unfoldedSizes(piece)) sizes.set(where, size);
  sizes.set('events', { count: all, most: LIMITS.allEvents, what: 'events in a piece' });
  return sizes;
}

/** What the form comes to when it is played from end to end: what is short to say may be long to play. */
function unfoldedSizes(piece: Piece): Map<string, Size> {
  const sizes = new Map<string, Size>();
  if (piece.sections.length === 0) return sizes;
  const passes = new Map<string, number>();
  for (const { section, plays } of piece.form) passes.set(section, (passes.get(section) ?? 0) + plays);
  const events = new Map(
    piece.parts.flatMap((part) => part.riffs.map((riff) => [riff.id, riff.events.length] as const)),
  );
  const played = new Map<string, number>();
  let bars = 0;
  for (const section of piece.sections) {
    const times = piece.form.length === 0 ? 1 : (passes.get(section.id) ?? 0);
    bars += times * section.bars;
    for (const { part, uses } of section.rows) {
      const once = uses.reduce((sum, use) => sum + use.plays * (events.get(use.riff ?? '') ?? 0), 0);
      played.set(part, (played.get(part) ?? 0) + times * once);
    }
  }
  sizes.set('form', { count: bars, most: FORM_LIMITS.bars, what: 'bars in the form' });
  for (const { id, name } of piece.parts)
    sizes.set(`form of ${id}`, {
      count: played.get(id) ?? 0,
      most: FORM_LIMITS.played,
      what: `notes and chords for "${name}" in the form`,
    });
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
