import { createHash, randomBytes } from 'node:crypto';
import { fail, ok, wellFormedText, type Result } from '@/core/base';
import { FORMATS, sniff, type MusicFormat } from '@/core/formats/registry';
import type { Actor } from './actor';
import type { Db } from './db/connection';
import type { OriginalId, PieceId } from './ids';
import { insertOriginal } from './repositories/originals';

/** The rules of keeping the files pieces were made from. */

/** The largest file that is kept. */
export const MOST_ORIGINAL = 32 * 1024 * 1024;
const MOST_NAME = 200;

/** Keeps a file as it came. What it is is told by what it holds; nothing the program can't read is kept. */
export async function keepOriginal(
  db: Db,
  actor: Actor,
  file: { readonly piece: PieceId; readonly name: string; readonly bytes: Uint8Array },
): Promise<Result<OriginalId>> {
  if (file.bytes.length === 0) return fail('empty', 'The file is empty.', 'file');
  if (file.bytes.length > MOST_ORIGINAL)
    return fail('too-large', `The file has over ${MOST_ORIGINAL / 1048576} MB: it is not kept with the piece.`, 'file');
  const kind = sniff(file.bytes);
  if (kind === null || !(kind in FORMATS))
    return fail('unknown-kind', 'Only files of music the program reads are kept with a piece.', 'file');
  const id = randomBytes(9).toString('hex') as OriginalId;
  // A name is a name: no folders, no line breaks.
  const name =
    wellFormedText(file.name)
      .replace(/[\\/\r\n"]+/g, ' ')
      .trim()
      .slice(0, MOST_NAME) || 'file';
  const mark = createHash('sha256').update(file.bytes).digest('hex');
  const type = FORMATS[kind as MusicFormat].mediaType;
  const there = await insertOriginal(db, actor, { id, piece: file.piece, name, type, mark, bytes: file.bytes });
  return there ? ok(id) : fail('no-piece', 'This piece is not on the shelf any more.', file.piece);
}
