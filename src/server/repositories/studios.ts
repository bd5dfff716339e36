import type { Db } from '../db/connection';

/** Makes a studio unless it is there. */
export async function ensureStudio(db: Db, id: string, name: string): Promise<void> {
  await db
    .insertInto('studio')
    .values({ id, name })
    .onConflict((c) => c.column('id').doNothing())
    .execute();
}

export async function studioName(db: Db, studioId: string): Promise<string | null> {
  const row = await db.selectFrom('studio').select('name').where('id', '=', studioId).executeTakeFirst();
  return row?.name ?? null;
}
