import { sql, type RawBuilder } from 'kysely';
import type { Db } from '../db/connection';

export interface Job {
  readonly task: 'log-choices' | 'fit-weights';
  readonly payload: Readonly<Record<string, string>>;
  /** One job a key waits at a time. */
  readonly key: string;
  readonly delaySeconds?: number;
}

/** The call that puts a job into the queue, to be part of a larger question. */
export const jobCall = ({ task, payload, key, delaySeconds = 0 }: Job): RawBuilder<unknown> =>
  sql`graphile_worker.add_job(${task}, ${JSON.stringify(payload)}::json, job_key := ${key}, max_attempts := 3, run_at := clock_timestamp() + make_interval(secs => ${delaySeconds}))`;

/** Puts a job into the queue, in the caller's transaction: it is there if and only if the change is. */
export async function enqueue(db: Db, job: Job): Promise<void> {
  await sql`select ${jobCall(job)}`.execute(db);
}
