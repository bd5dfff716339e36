import type { Actor } from '../actor';
import type { Db } from '../db/connection';

/** Makes a studio unless it is there. */
export async function ensureStudio(db: Db, id: string, name: string): Promise<void> {
  await db
    .insertInto('studio')
    .values({ id, name })
    .onConflict((conflict) => conflict.column('id').doNothing())
    .execute();
}

export async function studioName(db: Db, actor: Actor): Promise<string | null> {
  const row = await db.selectFrom('studio').select('name').where('id', '=', actor.studio).executeTakeFirst();
  return row?.name ?? null;
}
