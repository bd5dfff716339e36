import { Migrator, type Migration } from 'kysely';
import type { Db } from './connection';
import { first } from './migrations/001-first';
import { rack } from './migrations/002-rack';

/** Forward only, in order of name. Kysely runs them in a transaction under an advisory lock. */
const MIGRATIONS: Record<string, Migration> = { '001-first': first, '002-rack': rack };

/** Brings the database to the newest version; throws what stopped it. */
export async function migrate(db: Db): Promise<string[]> {
  const migrator = new Migrator({ db, provider: { getMigrations: () => Promise.resolve(MIGRATIONS) } });
  const { error, results } = await migrator.migrateToLatest();
  if (error) throw error;
  return (results ?? []).filter((r) => r.status === 'Success').map((r) => r.migrationName);
}
