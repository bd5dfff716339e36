import { sql } from 'kysely';
import type { Db } from '../db/connection';

/**
 * Puts a job into the queue, in the caller's transaction: it is there if and only if the change is. One job a key
 * waits at a time.
 */
export async function enqueue(
  db: Db,
  task: 'log-choices' | 'fit-weights',
  payload: Readonly<Record<string, string>>,
  key: string,
  delaySeconds = 0,
): Promise<void> {
  await sql`select graphile_worker.add_job(${task}, ${JSON.stringify(payload)}::json, job_key := ${key}, max_attempts := 3, run_at := clock_timestamp() + make_interval(secs => ${delaySeconds}))`.execute(
    db,
  );
}
