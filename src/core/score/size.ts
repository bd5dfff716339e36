import { fail, ok, type Result } from '../base';
import { FORM_LIMITS } from './form-schema';
import { LIMITS, type Piece } from './schema';

/**
 * Whether a piece is of a size that is read again: the bounds of the schema that grow by editing. Asked after every
 * edit and before a document is stored, so that nothing is written that can't be opened. Linear in the riffs.
 */
export function checkSize(piece: Piece): Result<Piece> {
  if (piece.parts.length > LIMITS.parts) return tooMany(piece.parts.length, 'parts', LIMITS.parts, 'a piece');
  if (piece.sections.length > FORM_LIMITS.sections)
    return tooMany(piece.sections.length, 'sections', FORM_LIMITS.sections, 'a piece');
  let all = 0;
  for (const part of piece.parts) {
    if (part.riffs.length > LIMITS.riffs)
      return tooMany(part.riffs.length, 'riffs', LIMITS.riffs, `the part "${part.name}"`);
    for (const riff of part.riffs) {
      all += riff.events.length;
      if (riff.events.length > LIMITS.events)
        return tooMany(riff.events.length, 'events', LIMITS.events, `the riff "${riff.name}"`);
    }
  }
  return all > LIMITS.allEvents ? tooMany(all, 'events', LIMITS.allEvents, 'a piece') : ok(piece);
}

const tooMany = (count: number, what: string, most: number, where: string) =>
  fail(
    'too-large',
    `That would be ${count} ${what} in ${where}; ${most} at most. Put the rest into a piece of its own.`,
    {},
  );
