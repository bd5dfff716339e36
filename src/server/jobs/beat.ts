import { sql } from 'kysely';
import type { Db } from '../db/connection';

/**
 * Which workers of the queue are alive. The queue's library holds a job of a killed process for four hours; here each
 * process says every so often that its workers live, and any process frees the jobs of those that went silent.
 */
export const BEAT = { every: 15_000, silentSeconds: 60 } as const;

/** Says that these workers live. */
export async function beat(db: Db, workers: readonly string[]): Promise<void> {
  if (workers.length === 0) return;
  await sql`
    insert into house.job_worker (id, beat_at) select id, now() from unnest(${workers}::text[]) as id
    on conflict (id) do update set beat_at = excluded.beat_at`.execute(db);
}

/** Frees the jobs of workers that went silent, to be done by who lives; gives the silent ones. */
export async function takeOver(db: Db): Promise<readonly string[]> {
  const { rows } = await sql<{ worker: string }>`
    select distinct locked_by as worker from graphile_worker.jobs
    where locked_by is not null and locked_at < now() - make_interval(secs => ${BEAT.silentSeconds})
      and not exists (
        select 1 from house.job_worker
        where id = locked_by and beat_at > now() - make_interval(secs => ${BEAT.silentSeconds})
      )`.execute(db);
  const silent = rows.map((row) => row.worker);
  if (silent.length > 0) await sql`select graphile_worker.force_unlock_workers(${silent}::text[])`.execute(db);
  await sql`delete from house.job_worker where beat_at < now() - interval '1 day'`.execute(db);
  return silent;
}
