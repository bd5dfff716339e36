import { runMigrations } from 'graphile-worker';
import { Migrator, sql, type Migration } from 'kysely';
import { quiet } from '../jobs/logger';
import type { Db } from './connection';
import { first } from './migrations/001-first';
import { rack } from './migrations/002-rack';
import { hands } from './migrations/003-hands';
import { clips } from './migrations/004-clips';
import { editVersion } from './migrations/005-edit-version';
import { keeping } from './migrations/006-keeping';
import { desk } from './migrations/007-desk';
import { originals } from './migrations/008-originals';

/** Forward only, in order of name. Kysely runs them in a transaction under an advisory lock. */
const MIGRATIONS: Record<string, Migration> = {
  '001-first': first,
  '002-rack': rack,
  '003-hands': hands,
  '004-clips': clips,
  '005-edit-version': editVersion,
  '006-keeping': keeping,
  '007-desk': desk,
  '008-originals': originals,
};

const migratorOf = (db: Db): Migrator =>
  new Migrator({ db, provider: { getMigrations: () => Promise.resolve(MIGRATIONS) } });

/** Whether every migration of this program was run. */
export async function migrated(db: Db): Promise<boolean> {
  const { rows } = await sql<{ name: string }>`select name from kysely_migration`.execute(db);
  const run = new Set(rows.map((row) => row.name));
  return Object.keys(MIGRATIONS).every((name) => run.has(name));
}

/** Brings the database, and the job queue in it, to the newest version; throws what stopped it. */
export async function migrate(db: Db, url: string): Promise<string[]> {
  const { error, results } = await migratorOf(db).migrateToLatest();
  if (error) throw error;
  await runMigrations({ connectionString: url, logger: quiet });
  await seekAll(db);
  return (results ?? []).filter((one) => one.status === 'Success').map((one) => one.migrationName);
}

/** Pieces that search doesn't know yet (older than search, or of a backup) are read when there is time. */
async function seekAll(db: Db): Promise<void> {
  await sql`
    select graphile_worker.add_job(
      'log-choices', json_build_object('studio', studio_id, 'piece', id),
      job_key := 'choices ' || id, max_attempts := 3, priority := 10
    )
    from piece where deleted_at is null and not exists (select 1 from said where said.piece_id = piece.id)`.execute(db);
}
