import { Kysely, PostgresDialect } from 'kysely';
import pg from 'pg';
import type { Database } from './types';

export type Db = Kysely<Database>;

/** A pool of connections to one database. Call `destroy` on it when done. */
export function connect(url: string, max = 10): Db {
  const pool = new pg.Pool({ connectionString: url, max, connectionTimeoutMillis: 5000 });
  // A connection that breaks while idle is replaced by the pool; without a listener it would end the process.
  pool.on('error', () => undefined);
  return new Kysely<Database>({ dialect: new PostgresDialect({ pool }) });
}
