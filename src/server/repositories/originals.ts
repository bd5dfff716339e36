import type { OriginalId, PieceId } from '../ids';
import type { Actor } from '../actor';
import type { Db } from '../db/connection';

/** Files pieces were made from. Every function acts for one studio. */
export interface OriginalEntry {
  readonly id: OriginalId;
  readonly name: string;
  readonly type: string;
  readonly size: number;
  readonly madeAt: string;
}

export async function listOriginals(db: Db, actor: Actor, piece: PieceId): Promise<OriginalEntry[]> {
  const rows = await db
    .selectFrom('original')
    .select(['id', 'name', 'type', 'size', 'made_at'])
    .where('studio_id', '=', actor.studio)
    .where('piece_id', '=', piece)
    .orderBy('made_at')
    .orderBy('id')
    .execute();
  return rows.map(({ made_at, ...row }) => ({ ...row, madeAt: made_at.toISOString() }));
}

/** Keeps a file with a piece of the studio's own; false where the piece is not there. The same bytes are kept once. */
export async function insertOriginal(
  db: Db,
  actor: Actor,
  file: { id: OriginalId; piece: PieceId; name: string; type: string; mark: string; bytes: Uint8Array },
): Promise<boolean> {
  const piece = await db
    .selectFrom('piece')
    .select('id')
    .where('studio_id', '=', actor.studio)
    .where('id', '=', file.piece)
    .executeTakeFirst();
  if (!piece) return false;
  await db
    .insertInto('original')
    .values({
      ...{ id: file.id, studio_id: actor.studio, piece_id: file.piece, name: file.name, type: file.type },
      ...{ mark: file.mark, size: file.bytes.length, bytes: Buffer.from(file.bytes) },
    })
    .onConflict((conflict) => conflict.columns(['piece_id', 'mark']).doNothing())
    .execute();
  return true;
}

export async function getOriginal(
  db: Db,
  actor: Actor,
  id: OriginalId,
): Promise<(OriginalEntry & { readonly bytes: Uint8Array }) | null> {
  const row = await db
    .selectFrom('original')
    .select(['id', 'name', 'type', 'size', 'made_at', 'bytes'])
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  if (!row) return null;
  const { made_at, ...rest } = row;
  return { ...rest, madeAt: made_at.toISOString() };
}
