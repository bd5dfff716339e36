import { createHash } from 'node:crypto';
import { Zip, ZipDeflate } from 'fflate';
import { sql } from 'kysely';
import type { Actor } from '../actor';
import type { Db } from '../db/connection';
import { ARCHIVE, ARCHIVED, type ArchivedTable, type Manifest } from './tables';

/**
 * Everything of a studio as one zip, told chunk by chunk as it is made: a head, the tables as JSON, the pieces as files
 * one can open by themselves, recordings and originals byte by byte, and last what every file must be.
 */
export async function* writeArchive(db: Db, actor: Actor, now: Date): AsyncGenerator<Uint8Array> {
  const out: Uint8Array[] = [];
  let broken: Error | null = null;
  const zip = new Zip((error, chunk) => {
    broken ??= error;
    out.push(chunk);
  });
  const files: Manifest['files'] = [];
  /** Adds a file, of chunks as they come; what the zip has made is given on after each. */
  async function* add(path: string, chunks: AsyncIterable<Uint8Array> | Iterable<Uint8Array>, level: 0 | 6) {
    // Sounds are packed already: they go in as they are.
    const file = new ZipDeflate(path, { level });
    file.mtime = now;
    zip.add(file);
    const hash = createHash('sha256');
    let bytes = 0;
    for await (const chunk of chunks) {
      hash.update(chunk);
      bytes += chunk.length;
      file.push(chunk, false);
      if (broken) throw broken;
      yield* out.splice(0);
    }
    file.push(new Uint8Array(), true);
    files.push({ path, bytes, sha256: hash.digest('hex') });
    yield* out.splice(0);
  }
  const json = (value: unknown): Uint8Array[] => [new TextEncoder().encode(JSON.stringify(value))];

  yield* add(ARCHIVE.head, json({ format: ARCHIVE.format, version: ARCHIVE.version, madeAt: now.toISOString() }), 6);
  for (const table of ARCHIVED) yield* add(`tables/${table.name}.json`, rowsOf(db, actor, table), 6);
  const pieces = await db
    .selectFrom('piece')
    .select(['id', 'title', 'document'])
    .where('studio_id', '=', actor.studio)
    .where('deleted_at', 'is', null)
    .execute();
  for (const piece of pieces) yield* add(`pieces/${fileName(piece.title)}-${piece.id}.json`, json(piece.document), 6);
  const clips = await db
    .selectFrom('clip')
    .select(['id', 'chunks'])
    .where('studio_id', '=', actor.studio)
    .where('state', '=', 'kept')
    .execute();
  for (const clip of clips) yield* add(`clips/${clip.id}`, chunksOf(db, actor, clip.id, clip.chunks), 0);
  const originals = await db.selectFrom('original').select('id').where('studio_id', '=', actor.studio).execute();
  for (const { id } of originals) {
    const { bytes } = await db
      .selectFrom('original')
      .select('bytes')
      .where('studio_id', '=', actor.studio)
      .where('id', '=', id)
      .executeTakeFirstOrThrow();
    yield* add(`originals/${id}`, [bytes], 6);
  }
  yield* add(ARCHIVE.manifest, json({ files: [...files] }), 6);
  zip.end();
  yield* out.splice(0);
}

/** A title as a part of a file's name. */
const fileName = (title: string): string =>
  title
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60) || 'piece';

/** Rows fetched at once: a history may be long. */
const ROWS = 500;

/** A table's rows as a JSON array, some at a time, in one order. */
async function* rowsOf(db: Db, actor: Actor, table: ArchivedTable): AsyncGenerator<Uint8Array> {
  const encoder = new TextEncoder();
  const order = sql.raw(table.key.map((column) => `"${column}"`).join(', '));
  yield encoder.encode('[');
  for (let from = 0, first = true; ; from += ROWS) {
    // As the database itself tells a row: times to the microsecond, bytes as it reads them.
    const { rows } = await sql<{ row: Record<string, unknown> }>`
      select to_jsonb(t) as row from ${sql.table(table.name)} t
      where studio_id = ${actor.studio} order by ${order} limit ${ROWS} offset ${from}`.execute(db);
    for (const { row } of rows) {
      yield encoder.encode(`${first ? '' : ','}\n${JSON.stringify(told(row, table))}`);
      first = false;
    }
    if (rows.length < ROWS) break;
  }
  yield encoder.encode(']\n');
}

const told = (row: Readonly<Record<string, unknown>>, { own = [], apart = [] }: ArchivedTable): object =>
  Object.fromEntries(
    Object.entries(row).filter(
      ([column]) => column !== 'studio_id' && !own.includes(column) && !apart.includes(column),
    ),
  );

async function* chunksOf(db: Db, actor: Actor, clip: string, count: number): AsyncGenerator<Uint8Array> {
  for (let number = 0; number < count; number++) {
    const row = await db
      .selectFrom('clip_chunk')
      .select('bytes')
      .where('studio_id', '=', actor.studio)
      .where('clip_id', '=', clip as never)
      .where('number', '=', number)
      .executeTakeFirst();
    if (row) yield row.bytes;
  }
}
