import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { setTitle } from '@/core/command';
import { applied, type Step } from '@/core/edit';
import { makePiece, SCHEMA_VERSION, type Piece } from '@/core/score';
import { programIn } from './actor';
import { connect, PATIENCE, type Db } from './db/connection';
import { migrate, migrated } from './db/migrate';
import { loadDemo } from './demo';
import type { ClipId, PieceId, RefusedId } from './ids';
import { beat, takeOver } from './jobs/beat';
import { enqueue } from './jobs/queue';
import { createPiece, openPiece, saveSteps } from './pieces';
import { purge, RETENTION } from './purge';
import { insertClip } from './repositories/clips';
import { keepRefused, settleRefused } from './repositories/history';
import { ensureStudio } from './repositories/studios';
import { emptyClip } from '@/core/hearing';
import { freshDatabase } from './test-support/database';

let db: Db;
let url = '';
let close: () => Promise<void>;
const HERE = programIn('here');
beforeAll(async () => {
  ({ db, url, close } = await freshDatabase());
  await ensureStudio(db, 'here', 'Here');
});
afterAll(() => close());

const piece = async (): Promise<Piece> => must(await createPiece(db, HERE, makePiece('new', 'Outage')));
const rename = (of: Piece, title: string): Step => ({
  version: SCHEMA_VERSION,
  kind: 'do',
  edit: setTitle(title),
  inverse: applied(of, setTitle(title)).inverse,
  what: title,
});
const seconds = async (does: Promise<unknown>): Promise<number> => {
  const began = performance.now();
  await does.catch(() => undefined);
  return (performance.now() - began) / 1000;
};

describe('a database that does not answer', () => {
  it('for one locked row gives an error in seconds, and everybody else goes on', async () => {
    const [held, free] = [await piece(), await piece()];
    const other = new pg.Client({ connectionString: url });
    await other.connect();
    await other.query('begin');
    await other.query('select 1 from piece where id = $1 for update', [held.id]);
    const waiting = Array.from({ length: 20 }, () =>
      saveSteps(db, HERE, held.id as PieceId, 0, randomUUID(), [rename(held, 'Waits')]),
    );
    const all = Promise.allSettled(waiting);
    let waitsStill = true;
    void all.then(() => (waitsStill = false));
    const saved = await saveSteps(db, HERE, free.id as PieceId, 0, randomUUID(), [rename(free, 'Goes on')]);
    expect([saved.status, waitsStill]).toEqual(['saved', true]);
    const answers = await all;
    expect(answers.every((answer) => answer.status === 'rejected')).toBe(true);
    await other.query('rollback');
    await other.end();
    // Whoever could not wait tries again, and then it goes through.
    const again = await saveSteps(db, HERE, held.id as PieceId, 0, randomUUID(), [rename(held, 'Through')]);
    expect(again.status).toBe('saved');
    expect((await openPiece(db, HERE, held.id as PieceId))?.document.title).toBe('Through');
  });

  it('gives up on a statement that takes for ever, and on a server nobody listens at', async () => {
    const impatient = connect(url, 1);
    const took = await seconds(sql`select pg_sleep(60)`.execute(impatient));
    expect(took).toBeLessThan(PATIENCE.statement / 1000 + 4);
    expect(took).toBeGreaterThan(2);
    await impatient.destroy();
    const nobody = connect('postgres://app:x@127.0.0.1:9/none', 1);
    expect(await seconds(sql`select 1`.execute(nobody))).toBeLessThan(PATIENCE.connect / 1000 + 2);
    await expect(migrated(nobody)).rejects.toThrow();
    await nobody.destroy();
  });
});

describe('two first starts at once', () => {
  it('make one database with one demo in it', async () => {
    const admin = new pg.Client({ connectionString: url });
    await admin.connect();
    const name = `t_${randomUUID().replaceAll('-', '')}`;
    await admin.query(`create database ${name}`);
    await admin.end();
    const first = new URL(url);
    first.pathname = `/${name}`;
    const starts = [0, 1, 2].map(async () => {
      const own = connect(first.href, 2, true);
      try {
        await migrate(own, first.href);
        const loaded = await loadDemo(own);
        return { loaded, ready: await migrated(own) };
      } finally {
        await own.destroy();
      }
    });
    const done = await Promise.all(starts);
    expect(done.map((one) => one.ready)).toEqual([true, true, true]);
    expect(done.filter((one) => one.loaded > 0)).toHaveLength(1);
  });
});

describe('jobs of a process that was killed', () => {
  it('are taken over when its workers have been silent for a minute, and not before', async () => {
    await enqueue(db, { task: 'log-choices', payload: { studio: 'here', piece: 'p' }, key: 'of-the-dead' });
    await enqueue(db, { task: 'log-choices', payload: { studio: 'here', piece: 'q' }, key: 'of-the-living' });
    const lock = (key: string, worker: string, ago: string) =>
      sql`update graphile_worker._private_jobs set locked_by = ${worker}, locked_at = now() - ${ago}::interval where key = ${key}`.execute(
        db,
      );
    await lock('of-the-dead', 'dead', '90 seconds');
    await lock('of-the-living', 'living', '90 seconds');
    await beat(db, ['living', 'dead']);
    expect(await takeOver(db)).toEqual([]);
    await sql`update house.job_worker set beat_at = now() - interval '70 seconds' where id = 'dead'`.execute(db);
    expect(await takeOver(db)).toEqual(['dead']);
    const { rows } = await sql<{ key: string; locked_by: string | null }>`
      select key, locked_by from graphile_worker.jobs where key like 'of-the-%' order by key`.execute(db);
    expect(rows).toEqual([
      { key: 'of-the-dead', locked_by: null },
      { key: 'of-the-living', locked_by: 'living' },
    ]);
    expect(await takeOver(db)).toEqual([]);
  });
});

describe('clearing up', () => {
  it('takes what has outlived its use, and nothing else', async () => {
    const one = await piece();
    const clip = (id: string) =>
      insertClip(db, HERE, {
        id: id as ClipId,
        piece: one.id as PieceId,
        type: 'audio/wav',
        bytes: 10,
        document: emptyClip(id),
      });
    await Promise.all(['fresh', 'stuck', 'deleted', 'just-deleted'].map(clip));
    await sql`update clip set made_at = now() - make_interval(days => ${RETENTION.unfinishedClip + 1}) where id = 'stuck'`.execute(
      db,
    );
    await sql`update clip set state = 'kept', deleted_at = now() - make_interval(days => ${RETENTION.deletedClip + 1}) where id = 'deleted'`.execute(
      db,
    );
    await sql`update clip set state = 'kept', deleted_at = now() where id = 'just-deleted'`.execute(db);
    for (const id of ['settled-long-ago', 'undecided'])
      await keepRefused(db, HERE, {
        id: id as RefusedId,
        pieceId: one.id as PieceId,
        baseRevision: 0,
        foundRevision: 1,
        document: one,
      });
    await settleRefused(db, HERE, 'settled-long-ago' as RefusedId, one);
    await sql`update refused_save set settled_at = now() - make_interval(days => ${RETENTION.settledVersion + 1}) where id = 'settled-long-ago'`.execute(
      db,
    );
    expect(await purge(db)).toEqual({ clips: 2, versions: 1, jobs: 0, condensed: 0 });
    expect(await purge(db)).toEqual({ clips: 0, versions: 0, jobs: 0, condensed: 0 });
    const left = await db.selectFrom('clip').select('id').orderBy('id').execute();
    expect(left.map((row) => row.id)).toEqual(['fresh', 'just-deleted']);
  });
});
