import { readPiece, SCHEMA_VERSION, type Piece } from '@/core/score';

/**
 * A stored document in today's form, however old. One of today's version was checked when it was written and is not
 * read through again: reading a long piece costs more than all else that is done with it.
 */
export function documentOf(id: string, stored: unknown): Piece {
  if ((stored as { schemaVersion?: unknown } | null)?.schemaVersion === SCHEMA_VERSION) return stored as Piece;
  const read = readPiece(stored);
  if (!read.ok) throw new Error(`piece ${id} can't be read: ${read.error.words}`);
  return read.value;
}
