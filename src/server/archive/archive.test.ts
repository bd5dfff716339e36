import { strToU8, strFromU8, unzipSync, zipSync } from 'fflate';
import { sql } from 'kysely';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { setTitle } from '@/core/command';
import { invertEdit } from '@/core/edit';
import { writeMidi } from '@/core/formats/midi';
import { musicOf } from '@/core/formats/music';
import { programIn } from '../actor';
import type { Db } from '../db/connection';
import { DEMO_STUDIO, loadDemo } from '../demo';
import type { PieceId } from '../ids';
import { keepOriginal } from '../originals';
import { openPiece, saveSteps } from '../pieces';
import { listOriginals, getOriginal } from '../repositories/originals';
import { ensureStudio } from '../repositories/studios';
import { freshDatabase } from '../test-support/database';
import { readArchive } from './read';
import { ARCHIVE, ARCHIVED } from './tables';
import { writeArchive } from './write';

const actor = programIn(DEMO_STUDIO.id);
const NOW = new Date('2026-11-29T12:00:00Z');
const closing: (() => Promise<void>)[] = [];
let home: Db;
let archive: Buffer;
let piece: PieceId;

async function empty(studio: string = DEMO_STUDIO.id): Promise<Db> {
  const made = await freshDatabase();
  closing.push(made.close);
  await ensureStudio(made.db, studio, 'Another machine');
  return made.db;
}

async function made(db: Db): Promise<Buffer> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of writeArchive(db, actor, NOW)) chunks.push(chunk);
  return Buffer.concat(chunks);
}

/** A body as it comes over a line: cut anywhere. */
async function* body(bytes: Uint8Array, size = 70_001): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
}

/** All rows of a studio, table by table, as text. */
async function contents(db: Db): Promise<Record<string, string[]>> {
  const out: Record<string, string[]> = {};
  for (const name of [...ARCHIVED.map((table) => table.name), 'clip_chunk'] as const) {
    const { rows } = await sql<Record<string, unknown>>`
      select to_jsonb(t) - 'studio_id' - ${name === 'tuner_reading' ? 'id' : '-'}::text as row from ${sql.table(name)} t
      where studio_id = ${DEMO_STUDIO.id}`.execute(db);
    out[name] = rows.map((row) => JSON.stringify(row)).sort();
  }
  return out;
}

beforeAll(async () => {
  home = await empty('somewhere');
  await loadDemo(home);
  const first = await home.selectFrom('piece').select(['id', 'document']).orderBy('title').executeTakeFirstOrThrow();
  piece = first.id as PieceId;
  const edit = setTitle('A title that was changed');
  const step = {
    id: 's1',
    kind: 'do',
    edit,
    inverse: must(invertEdit(first.document, edit)),
    what: 'renamed',
  } as const;
  await saveSteps(home, actor, piece, 0, 'save-1', [step as never]);
  must(await keepOriginal(home, actor, { piece, name: 'as it came.mid', bytes: writeMidi(musicOf(first.document)) }));
  archive = await made(home);
}, 120_000);
afterAll(async () => {
  for (const close of closing) await close();
});

describe('a studio archive', () => {
  it('comes back on another machine row by row and byte by byte, and makes the same archive again', async () => {
    const there = await empty();
    const done = must(await readArchive(there, actor, body(archive)));
    expect(done).toMatchObject({ kept: 0, madeAt: NOW.toISOString() });
    expect(done.pieces).toBeGreaterThan(5);
    expect(done.clips).toBeGreaterThan(0);
    const [before, after] = [await contents(home), await contents(there)];
    for (const name of Object.keys(before)) expect(after[name], name).toEqual(before[name]);
    expect(Object.values(before).filter((rows) => rows.length > 0).length).toBeGreaterThan(9);
    const opened = await openPiece(there, actor, piece);
    expect(opened?.document.title).toBe('A title that was changed');
    const [original] = await listOriginals(there, actor, piece);
    const file = original && (await getOriginal(there, actor, original.id));
    expect(strFromU8((file?.bytes ?? new Uint8Array()).subarray(0, 4))).toBe('MThd');
    const [first, second] = [unzipSync(archive), unzipSync(await made(there))];
    expect(Object.keys(second).sort()).toEqual(Object.keys(first).sort());
    for (const path of Object.keys(first).filter(
      (one) => one !== ARCHIVE.manifest && one !== 'tables/tuner_reading.json',
    ))
      expect(Buffer.compare(Buffer.from(second[path] ?? []), Buffer.from(first[path] ?? [])), path).toBe(0);
  }, 120_000);

  it('leaves what is here already as it is here, and can be put back twice', async () => {
    const there = await empty();
    must(await readArchive(there, actor, body(archive)));
    const edit = setTitle('Changed here since');
    const opened = await openPiece(there, actor, piece);
    const inverse = must(invertEdit(opened?.document as never, edit));
    const step = { id: 's2', kind: 'do', edit, inverse, what: 'renamed' };
    await saveSteps(there, actor, piece, opened?.revision ?? 0, 'save-2', [step as never]);
    const before = await contents(there);
    const again = must(await readArchive(there, actor, body(archive, 5000)));
    expect(again).toMatchObject({ pieces: 0, rows: 0 });
    expect(again.kept).toBeGreaterThan(5);
    expect(await contents(there)).toEqual(before);
  }, 120_000);

  it('opens as a zip whose pieces are files of their own', () => {
    const files = unzipSync(archive);
    const names = Object.keys(files);
    expect(names[0]).toBe(ARCHIVE.head);
    expect(names.at(-1)).toBe(ARCHIVE.manifest);
    expect(names.filter((name) => name.startsWith('pieces/')).length).toBeGreaterThan(5);
  });
});

describe('an archive that is not what it was', () => {
  const repacked = (change: (files: Record<string, Uint8Array>) => void): Uint8Array => {
    const files = unzipSync(archive);
    change(files);
    return zipSync(files, { level: 0 });
  };
  const wrong = async (bytes: Uint8Array, target?: Db): Promise<string> => {
    const there = target ?? (await empty());
    const done = await readArchive(there, actor, body(bytes));
    expect((await contents(there)).piece).toEqual([]);
    return done.ok ? 'ok' : done.error.rule;
  };

  it('is refused whole, with the file that is wrong, and nothing is put back', async () => {
    const there = await empty();
    expect(await wrong(archive.subarray(0, archive.length * 0.6), there)).toMatch(/cut-short|broken-zip|missing/);
    expect(await wrong(new TextEncoder().encode('no zip at all'), there)).toMatch(/cut-short|broken-zip|not-archive/);
    expect(await wrong(zipSync({ 'a.txt': strToU8('a'), 'b.txt': strToU8('b') }), there)).toBe('not-archive');
    const clip = Object.keys(unzipSync(archive)).find((name) => name.startsWith('clips/')) ?? '';
    expect(
      await wrong(
        repacked((files) => void ((files[clip] as Uint8Array)[99] = 1)),
        there,
      ),
    ).toBe('changed');
    expect(
      await wrong(
        repacked((files) => void Reflect.deleteProperty(files, clip)),
        there,
      ),
    ).toBe('missing');
    const piecesFile = 'tables/piece.json';
    const bad = repacked((files) => {
      files[piecesFile] = strToU8(
        strFromU8(files[piecesFile] as Uint8Array).replace('"schemaVersion":5', '"schemaVersion":"five"'),
      );
    });
    expect(await wrong(bad, there)).toBe('bad-row');
    const columns = repacked((files) => {
      files['tables/series.json'] = strToU8(
        '[{"id":"x","document":{"name":"n"},"studio_id\\"; drop table piece; --":1}]',
      );
    });
    expect(await wrong(columns, there)).toBe('bad-row');
  }, 120_000);

  it('never takes what belongs to another studio', async () => {
    const there = await empty();
    await ensureStudio(there, 'other', 'Other');
    must(await readArchive(there, programIn('other'), body(archive)));
    const done = await readArchive(there, actor, body(archive));
    expect(done).toMatchObject({ ok: false, error: { rule: 'other-studio' } });
  }, 120_000);
});
