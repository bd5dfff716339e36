import { Kysely, PostgresDialect } from 'kysely';
import pg from 'pg';
import type { Database } from './types';

export type Db = Kysely<Database>;

/**
 * How long the database may take, in milliseconds. A frozen server, a locked row or a forgotten transaction gives an
 * error in seconds; who asked tries again, and nothing that was typed waits here.
 */
export const PATIENCE = { connect: 4000, lock: 3000, statement: 12_000, idle: 15_000 } as const;

/**
 * A pool of connections to one database. Call `destroy` on it when done. A `patient` one is for migrations and the
 * demo, which may take their time.
 */
export function connect(url: string, max = 10, patient = false): Db {
  const pool = new pg.Pool({
    connectionString: url,
    max,
    connectionTimeoutMillis: PATIENCE.connect,
    ...(patient
      ? {}
      : {
          statement_timeout: PATIENCE.statement,
          lock_timeout: PATIENCE.lock,
          idle_in_transaction_session_timeout: PATIENCE.idle,
          // Told by the page's own clock, for a server that answers nothing at all.
          query_timeout: PATIENCE.statement + 2000,
        }),
  });
  // A connection that breaks while idle is replaced by the pool; without a listener it would end the process.
  pool.on('error', () => undefined);
  return new Kysely<Database>({ dialect: new PostgresDialect({ pool }) });
}

/** Runs within the caller's transaction where there is one, else in one of its own. */
export const together = <T>(db: Db, run: (tx: Db) => Promise<T>): Promise<T> =>
  db.isTransaction ? run(db) : db.transaction().execute(run);
