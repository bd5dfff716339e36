import { z } from 'zod';
import { fail, ok, type Result } from '../../base';
import { checkPiece, pieceSchema, readPiece, SCHEMA_VERSION, type Piece } from '../../score';

/** The largest piece file that is read. */
export const JSON_LIMITS = { bytes: 32 * 1024 * 1024 } as const;

/**
 * A piece as a file: its document, indented, the same text for the same piece. Its version stands first, whatever order
 * a store keeps the fields in, so that the file's beginning says what it is.
 */
export function writePieceFile({ schemaVersion, id, title, ...rest }: Piece): string {
  return `${JSON.stringify({ schemaVersion, id, title, ...rest }, null, 1)}\n`;
}

/** Reads a piece file of any version; faults name the place in the document. */
export function readPieceFile(text: string): Result<Piece> {
  if (text.length > JSON_LIMITS.bytes)
    return fail('too-large', `The file has over ${JSON_LIMITS.bytes / 1048576} MB.`, 'file');
  let data: unknown;
  try {
    data = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (reason) {
    return fail(
      'bad-json',
      `The file is damaged or cut short: ${reason instanceof Error ? reason.message : 'no JSON'}.`,
      'file',
    );
  }
  const read = readPiece(data);
  if (!read.ok) return read;
  const checked = checkPiece(read.value);
  return checked.ok ? ok(read.value) : checked;
}

/** Whether a text may be a piece file. */
export const looksLikePiece = (text: string): boolean =>
  /^\ufeff?\s*\{/.test(text) && (text.includes('"schemaVersion"') || /"parts"\s*:\s*\[/.test(text));

/** The document's form as a JSON Schema (draft 2020-12), as it is published. */
export function pieceJsonSchema(): object {
  return {
    $id: `piece-${SCHEMA_VERSION}.schema.json`,
    title: 'A piece of Intonazione',
    description:
      'Musical times are quarters as text ("3/2"). Beyond this schema the invariants of src/core/score/invariants.ts hold: places and pitches agree, events go forward, ids are used once.',
    ...z.toJSONSchema(pieceSchema, { io: 'input', unrepresentable: 'any' }),
  };
}
