import { sql } from 'kysely';
import type { Db } from './db/connection';
import { condenseHistory } from './repositories/history';

/** How long what nobody needs is kept, in days. Said in the README under "Deployment". */
export const RETENTION = {
  /** A recording that never came in whole. */
  unfinishedClip: 2,
  /** A recording that was deleted: so long it can be put back. */
  deletedClip: 30,
  /** A version that gave way to another, after somebody decided about it. */
  settledVersion: 90,
  /** A job that failed for good. */
  failedJob: 30,
} as const;

/** What was cleared away. */
export interface PurgeReport {
  readonly clips: number;
  readonly versions: number;
  readonly jobs: number;
  readonly condensed: number;
}

/** Clears away what has outlived its use, in every studio. Repeatable, and safe beside others doing the same. */
export async function purge(db: Db): Promise<PurgeReport> {
  const clips = await sql`
    delete from clip where (state = 'arriving' and made_at < now() - make_interval(days => ${RETENTION.unfinishedClip}))
      or deleted_at < now() - make_interval(days => ${RETENTION.deletedClip})`.execute(db);
  const versions = await sql`
    delete from refused_save where settled_at < now() - make_interval(days => ${RETENTION.settledVersion})`.execute(db);
  const { rows } = await sql<{ id: string }>`
    select id from graphile_worker.jobs where attempts >= max_attempts and locked_by is null
      and updated_at < now() - make_interval(days => ${RETENTION.failedJob})`.execute(db);
  if (rows.length > 0)
    await sql`select graphile_worker.complete_jobs(${rows.map((row) => row.id)}::bigint[])`.execute(db);
  let condensed = 0;
  for (let more = 1; more > 0; condensed += more) more = await condenseHistory(db);
  return {
    clips: Number(clips.numAffectedRows ?? 0),
    versions: Number(versions.numAffectedRows ?? 0),
    jobs: rows.length,
    condensed,
  };
}
