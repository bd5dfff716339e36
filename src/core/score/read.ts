import { fail, type Result, pathOf } from '../base';
import { checkPiece } from './invariants';
import { checkSize } from './size';
import { PIECE_STEPS } from './migrate';
import { pieceSchema, SCHEMA_VERSION, type Piece } from './schema';

/** Reads a document from outside: brings old versions up to date, checks the schema, then the invariants. */
export function readPiece(json: unknown): Result<Piece> {
  const read = readUnchecked(json);
  return read.ok ? checkPiece(read.value) : read;
}

/** The same without the invariants: for proof-reading only, which asks about what breaks them. */
export function readUnchecked(json: unknown): Result<Piece> {
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    return fail('not-a-piece', 'This is no piece: an object was expected.', {});
  let document = json as Record<string, unknown>;
  const version = document.schemaVersion;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) {
    return fail('not-a-piece', 'This is no piece: "schemaVersion" is missing.', 'schemaVersion');
  }
  if (version > SCHEMA_VERSION) {
    return fail(
      'newer-version',
      `This piece was written by a newer program (version ${version}, this one reads ${SCHEMA_VERSION}).`,
      'schemaVersion',
    );
  }
  for (let v = version; v < SCHEMA_VERSION; v++) {
    const step = PIECE_STEPS[v];
    if (!step) return fail('no-migration', `Version ${v} can't be read any more.`, 'schemaVersion');
    document = step(document);
  }
  const parsed = pieceSchema.safeParse(document);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    return fail('schema', `${issue?.message ?? 'malformed'}`, { path: pathOf(issue?.path) });
  }
  return checkSize(parsed.data);
}
