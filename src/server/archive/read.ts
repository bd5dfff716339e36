import { createHash, type Hash } from 'node:crypto';
import { Unzip, UnzipInflate } from 'fflate';
import { sql } from 'kysely';
import { fail, ok, type Finding, type Result } from '@/core/base';
import { CLIP_LIMITS } from '@/core/hearing';
import type { Actor } from '../actor';
import { together, type Db } from '../db/connection';
import { enqueue } from '../jobs/queue';
import type { PieceId } from '../ids';
import { choicesJob } from '../pieces';
import {
  ARCHIVE,
  ARCHIVED,
  ARCHIVE_LIMITS,
  headSchema,
  manifestSchema,
  type ArchivedTable,
  type Manifest,
} from './tables';

/** What was put back, and what was there already. */
export interface Restored {
  readonly madeAt: string;
  readonly pieces: number;
  readonly clips: number;
  readonly rows: number;
  /** Pieces that are on this shelf already: they stay as they are here. */
  readonly kept: number;
}

class Broken extends Error {
  constructor(readonly finding: Finding) {
    super(finding.words);
  }
}

const stop = (rule: string, words: string, path?: string): never => {
  const failed = fail(rule, words, path === undefined ? 'file' : { path: [path] });
  throw new Broken(failed.error);
};

/**
 * Puts an archive back into a studio: all of it or nothing. Every file is held against the manifest byte by byte, every
 * document is read through; pieces that are here already are left as they are here, with all that belongs to them.
 */
export async function readArchive(db: Db, actor: Actor, body: AsyncIterable<Uint8Array>): Promise<Result<Restored>> {
  try {
    return ok(await together(db, (tx) => restore(tx, actor, body)));
  } catch (reason) {
    if (reason instanceof Broken) return { ok: false, error: reason.finding };
    // What fflate finds wrong with a zip it throws as an error of its own.
    if (reason instanceof Error && 'code' in reason && typeof reason.code === 'number')
      return fail('broken-zip', 'The archive is damaged or cut short. Make it again.', 'file');
    throw reason;
  }
}

/** One file of the zip as it comes in. */
interface Incoming {
  readonly path: string;
  readonly hash: Hash;
  bytes: number;
  /** The whole of it, where it is read as a whole. */
  readonly chunks: Uint8Array[] | null;
}

async function restore(tx: Db, actor: Actor, body: AsyncIterable<Uint8Array>): Promise<Restored> {
  const state = new Restoring(tx, actor);
  const waiting: (() => Promise<void>)[] = [];
  const unzip = new Unzip((file) => {
    if (++state.files > ARCHIVE_LIMITS.files) stop('too-many', 'The archive holds too many files.');
    const incoming = state.opened(file.name);
    file.ondata = (error, chunk, final) => {
      if (error) throw error;
      waiting.push(() => state.took(incoming, chunk, final));
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  let bytes = 0;
  for await (const chunk of body) {
    bytes += chunk.length;
    if (bytes > ARCHIVE_LIMITS.bytes) stop('too-large', 'The archive is too large.');
    // Little at a time, so that a few bytes can't become gigabytes before anyone looks.
    for (let at = 0; at < chunk.length; at += 32_768) {
      unzip.push(chunk.subarray(at, at + 32_768));
      for (const step of waiting.splice(0)) await step();
    }
  }
  unzip.push(new Uint8Array(), true);
  for (const step of waiting.splice(0)) await step();
  return state.finish();
}

class Restoring {
  files = 0;
  private unpacked = 0;
  private madeAt: string | null = null;
  private manifest: Manifest | null = null;
  private readonly seen = new Map<string, { bytes: number; sha256: string }>();
  /** Pieces that come in, and those that are here already. */
  private readonly pieces = new Set<string>();
  private readonly kept = new Set<string>();
  private readonly clips = new Map<string, { chunks: number; next: number; part: Uint8Array[]; size: number }>();
  private readonly originals = new Map<string, Record<string, unknown>>();
  private rows = 0;

  constructor(
    private readonly tx: Db,
    private readonly actor: Actor,
  ) {}

  opened(path: string): Incoming {
    if (this.madeAt === null && path !== ARCHIVE.head && this.seen.size > 0)
      stop('not-archive', 'This is no studio archive of Intonazione.');
    const whole =
      path === ARCHIVE.head || path === ARCHIVE.manifest || path.startsWith('tables/') || path.startsWith('originals/');
    return { path, hash: createHash('sha256'), bytes: 0, chunks: whole ? [] : null };
  }

  async took(file: Incoming, chunk: Uint8Array, final: boolean): Promise<void> {
    file.bytes += chunk.length;
    this.unpacked += chunk.length;
    const most = file.path.startsWith('tables/') ? ARCHIVE_LIMITS.table : ARCHIVE_LIMITS.file;
    if (file.bytes > most || this.unpacked > ARCHIVE_LIMITS.unpacked)
      stop('too-large', `${file.path} is too large for an archive.`, file.path);
    file.hash.update(chunk);
    file.chunks?.push(chunk);
    const clip = /^clips\/([A-Za-z0-9_-]{1,64})$/.exec(file.path)?.[1];
    if (clip !== undefined) await this.clipBytes(clip, chunk, final);
    if (!final) return;
    const text = (): string => new TextDecoder().decode(Buffer.concat(file.chunks ?? []));
    if (file.path === ARCHIVE.head) this.readHead(text());
    else if (this.madeAt === null) stop('not-archive', 'This is no studio archive of Intonazione.');
    else if (file.path === ARCHIVE.manifest) this.manifest = this.parsed(text(), manifestSchema.parse, file.path);
    else if (file.path.startsWith('tables/')) await this.table(file.path, text());
    else if (file.path.startsWith('originals/'))
      await this.original(file.path.slice('originals/'.length), file.chunks ?? []);
    if (file.path !== ARCHIVE.manifest)
      this.seen.set(file.path, { bytes: file.bytes, sha256: file.hash.digest('hex') });
  }

  async finish(): Promise<Restored> {
    const { manifest, madeAt } = this;
    if (madeAt === null || !manifest)
      return stop('cut-short', 'The archive ends before its list of files: it was cut short. Copy it again.');
    for (const { path, bytes, sha256 } of manifest.files) {
      const found = this.seen.get(path);
      if (!found) return stop('missing', `${path} is missing in the archive.`, path);
      if (found.bytes !== bytes || found.sha256 !== sha256)
        return stop('changed', `${path} is not what it was when the archive was made. Nothing was put back.`, path);
      this.seen.delete(path);
    }
    const [strange] = this.seen.keys();
    if (strange !== undefined) return stop('strange', `${strange} is not in the archive's list of files.`, strange);
    for (const [id, clip] of this.clips)
      if (clip.next !== clip.chunks)
        return stop('missing', `Of the recording ${id} not all bytes are in the archive.`, `clips/${id}`);
    if (this.originals.size > 0) return stop('missing', 'A file a piece was made from is missing in the archive.');
    for (const piece of this.pieces) await enqueue(this.tx, choicesJob(this.actor.studio, piece as PieceId));
    return { madeAt, pieces: this.pieces.size, clips: this.clips.size, rows: this.rows, kept: this.kept.size };
  }

  private readHead(text: string): void {
    const head = this.parsed(text, headSchema.parse, ARCHIVE.head);
    this.madeAt = head.madeAt;
  }

  private parsed<T>(text: string, parse: (value: unknown) => T, path: string): T {
    try {
      return parse(JSON.parse(text));
    } catch {
      return stop('bad-json', `${path} is no file of an archive of this version.`, path);
    }
  }

  private async table(path: string, text: string): Promise<void> {
    const table =
      ARCHIVED.find((one) => `tables/${one.name}.json` === path) ??
      stop('strange', `${path} is no table of this program.`, path);
    const rows = this.parsed(text, (value) => value as Record<string, unknown>[], path);
    if (!Array.isArray(rows)) stop('bad-json', `${path} is no list of rows.`, path);
    for (const [i, row] of rows.entries()) await this.row(table, row, `${path}, row ${i + 1}`);
  }

  private async row(table: ArchivedTable, given: Readonly<Record<string, unknown>>, path: string): Promise<void> {
    const piece = table.piece === undefined ? null : String(given[table.piece]);
    if (table.name === 'piece') {
      if (await this.here(String(given.id))) return void this.kept.add(String(given.id));
      this.pieces.add(String(given.id));
    } else if (piece !== null && !this.pieces.has(piece)) return;
    const wrong = table.check?.(given) ?? null;
    if (wrong !== null) stop('bad-row', `${path}: ${wrong}`, path);
    const row: Record<string, unknown> = { ...given, studio_id: this.actor.studio };
    for (const column of table.loose ?? [])
      if (
        column === 'piece_id' &&
        row[column] !== null &&
        !this.pieces.has(String(row[column])) &&
        !this.kept.has(String(row[column]))
      )
        row[column] = null;
    if (table.name === 'piece_link' && !this.pieces.has(String(row.other_id)) && !this.kept.has(String(row.other_id)))
      return;
    for (const column of table.json) row[column] = row[column] === undefined ? null : JSON.stringify(row[column]);
    if (table.name === 'original') return void this.originals.set(String(row.id), row);
    if (table.name === 'clip') {
      // Its chunks are counted as they come.
      this.clips.set(String(row.id), {
        chunks: row.state === 'kept' ? Number(row.chunks) : 0,
        next: 0,
        part: [],
        size: 0,
      });
      if (row.state !== 'kept') row.chunks = 0;
    }
    if (table.own && (await this.known(table, row))) return;
    await this.insert(table.name, row, path);
  }

  /** Whether a row that has no id of its own is there already. */
  private async known({ name, key }: ArchivedTable, row: Readonly<Record<string, unknown>>): Promise<boolean> {
    const same = sql.join(
      key.map((column) => sql`${sql.ref(column)} = ${row[column]}`),
      sql` and `,
    );
    const { rows } = await sql`
      select 1 from ${sql.table(name)} where studio_id = ${this.actor.studio} and ${same} limit 1`.execute(this.tx);
    return rows.length > 0;
  }

  private async insert(name: string, row: Readonly<Record<string, unknown>>, path: string): Promise<void> {
    const columns = Object.keys(row);
    // Names come from a file: only those the table has get near the database.
    if (columns.some((column) => !/^[a-z_]{1,40}$/.test(column)))
      stop('bad-row', `${path} has a column no table has.`, path);
    try {
      const done = await sql`insert into ${sql.table(name)} (${sql.join(columns.map((column) => sql.ref(column)))})
        values (${sql.join(columns.map((column) => row[column]))}) on conflict do nothing`.execute(this.tx);
      this.rows += Number(done.numAffectedRows ?? 0);
    } catch (reason) {
      stop(
        'bad-row',
        `${path} can't be kept: ${reason instanceof Error ? reason.message : 'refused by the database'}.`,
        path,
      );
    }
  }

  /** Whether a piece is on this shelf; one on another's is nothing that may be put back here. */
  private async here(id: string): Promise<boolean> {
    const { rows } = await sql<{ studio_id: string }>`select studio_id from piece where id = ${id}`.execute(this.tx);
    const [row] = rows;
    if (row && row.studio_id !== this.actor.studio)
      stop('other-studio', 'A piece of this archive belongs to another studio here.', 'tables/piece.json');
    return row !== undefined;
  }

  /** Bytes of a recording, cut into the chunks it is kept in. */
  private async clipBytes(id: string, chunk: Uint8Array, final: boolean): Promise<void> {
    const clip = this.clips.get(id);
    if (!clip) return;
    clip.part.push(chunk);
    clip.size += chunk.length;
    while (clip.size >= CLIP_LIMITS.chunk || (final && clip.size > 0)) {
      const all = Buffer.concat(clip.part);
      const bytes = all.subarray(0, CLIP_LIMITS.chunk);
      const rest = all.subarray(bytes.length);
      const row = { clip_id: id, studio_id: this.actor.studio, number: clip.next, bytes };
      await this.insert('clip_chunk', row, `clips/${id}`);
      clip.next++;
      clip.part = rest.length > 0 ? [rest] : [];
      clip.size = rest.length;
      if (!final && rest.length < CLIP_LIMITS.chunk) break;
    }
  }

  private async original(id: string, chunks: readonly Uint8Array[]): Promise<void> {
    const row = this.originals.get(id);
    if (!row) return;
    this.originals.delete(id);
    await this.insert('original', { ...row, bytes: Buffer.concat(chunks) }, `originals/${id}`);
  }
}
