import type { Actor } from '../actor';
import type { Db } from '../db/connection';

/** Makes a studio unless it is there; true where it was made now. */
export async function ensureStudio(db: Db, id: string, name: string): Promise<boolean> {
  const made = await db
    .insertInto('studio')
    .values({ id, name })
    .onConflict((conflict) => conflict.column('id').doNothing())
    .executeTakeFirst();
  return (made.numInsertedOrUpdatedRows ?? 0n) > 0n;
}

export async function studioName(db: Db, actor: Actor): Promise<string | null> {
  const row = await db.selectFrom('studio').select('name').where('id', '=', actor.studio).executeTakeFirst();
  return row?.name ?? null;
}
