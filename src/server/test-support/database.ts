import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { connect, type Db } from '../db/connection';
import { migrate } from '../db/migrate';

/** A database of its own for one test file, on the server the test script started. */
export async function freshDatabase(): Promise<{ db: Db; url: string; close: () => Promise<void> }> {
  const server = process.env.TEST_DATABASE_SERVER;
  if (!server) throw new Error('TEST_DATABASE_SERVER is not set: run npm test, which starts PostgreSQL');
  const name = `t_${randomUUID().replaceAll('-', '')}`;
  const admin = new pg.Client({ connectionString: `${server}/postgres` });
  await admin.connect();
  await admin.query(`create database ${name}`);
  await admin.end();
  const url = `${server}/${name}`;
  const db = connect(url, 8);
  await migrate(db, url);
  return { db, url, close: () => db.destroy() };
}
