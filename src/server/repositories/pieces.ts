import type { PieceId } from '../ids';
import type { Actor } from '../actor';
import { sql } from 'kysely';
import { must } from '@/core/base';
import { applyEdit } from '@/core/edit';
import type { Piece } from '@/core/score';
import { documentOf } from './documents';
import { editsBetween } from './history';
import {
  capoWords,
  migrateSetup,
  setupSchema,
  spellTuning,
  toneSchema,
  type Setup,
  type Tone,
} from '@/core/instrument';
import type { Db } from '../db/connection';

/** A piece as the shelf shows it. */
export interface ShelfEntry {
  readonly id: string;
  readonly title: string;
  readonly summary: string;
  readonly revision: number;
  readonly workedAt: string;
}

/** What a piece says of itself on the shelf and to the search. */
export function summaryOf(piece: Piece): string {
  return piece.parts
    .map(
      (part) =>
        `${part.name} · ${part.setup.instrument.name} · ${spellTuning(part.setup.open, part.setup.absent, part.setup.signs)}${part.setup.capos.length > 0 ? ` · capo ${capoWords(part.setup)}` : ''}`,
    )
    .join('\n');
}

export type ShelfSort = 'work' | 'title';

/** What of the shelf is asked for. */
export interface ShelfQuery {
  /** Words that all must be in the title, or among part names, instruments and tunings. */
  readonly search?: string;
  /** By last work, the newest first, or by title. */
  readonly sort?: ShelfSort;
  /** How many were shown already. */
  readonly from?: number;
}

/** A page of the shelf, and how many pieces there are in all that match. */
export interface ShelfPage {
  readonly entries: readonly ShelfEntry[];
  readonly total: number;
}

/** Entries a page. */
export const SHELF_PAGE = 60;

/** A page of the studio's pieces; sought, sorted and counted by the database, however many there are. */
export async function listPieces(
  db: Db,
  actor: Actor,
  { search = '', sort = 'work', from = 0 }: ShelfQuery = {},
): Promise<ShelfPage> {
  let query = db.selectFrom('piece').where('studio_id', '=', actor.studio).where('deleted_at', 'is', null);
  for (const word of search.trim().split(/\s+/).filter(Boolean).slice(0, 8)) {
    const pattern = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
    query = query.where((on) => on.or([on('title', 'ilike', pattern), on('summary', 'ilike', pattern)]));
  }
  const page = query
    .select(['id', 'title', 'summary', 'revision', 'worked_at'])
    .$if(sort === 'work', (by) => by.orderBy('worked_at', 'desc'))
    .$if(sort === 'title', (by) => by.orderBy(sql`lower(title)`))
    .orderBy('id')
    .limit(SHELF_PAGE)
    .offset(from);
  const [rows, counted] = await Promise.all([
    page.execute(),
    query.select((on) => on.fn.countAll<string>().as('total')).executeTakeFirstOrThrow(),
  ]);
  return {
    total: Number(counted.total),
    entries: rows.map((one) => ({
      id: one.id,
      title: one.title,
      summary: one.summary,
      revision: one.revision,
      workedAt: one.worked_at.toISOString(),
    })),
  };
}

/** What a page says of a piece before the piece itself has come. */
export interface PieceHead {
  readonly title: string;
  readonly revision: number;
}

export async function pieceHead(db: Db, actor: Actor, id: PieceId): Promise<PieceHead | null> {
  const row = await db
    .selectFrom('piece')
    .select(['title', 'revision'])
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .where('deleted_at', 'is', null)
    .executeTakeFirst();
  return row ?? null;
}

/**
 * The id of a piece's first riff, null where it has none, undefined where there is no such piece. Read out of the
 * stored document, in which parts and riffs are never behind.
 */
export async function firstRiff(db: Db, actor: Actor, id: PieceId): Promise<string | null | undefined> {
  const row = await db
    .selectFrom('piece')
    .select(sql<string | null>`jsonb_path_query_first(document, '$.parts[*].riffs[0].id') #>> '{}'`.as('riff'))
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .where('deleted_at', 'is', null)
    .executeTakeFirst();
  return row?.riff;
}

interface PieceAtRevision {
  readonly document: Piece;
  readonly revision: number;
}

export async function getPiece(db: Db, actor: Actor, id: PieceId): Promise<PieceAtRevision | null> {
  const row = await db
    .selectFrom('piece')
    .select(['document', 'revision', 'document_revision'])
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .where('deleted_at', 'is', null)
    .executeTakeFirst();
  if (!row) return null;
  const document = documentOf(id, row.document);
  return { revision: row.revision, document: await upTo(db, actor, id, document, row) };
}

/** A document with the steps it is behind laid over it. */
async function upTo(
  db: Db,
  actor: Actor,
  id: PieceId,
  document: Piece,
  { revision, document_revision }: { readonly revision: number; readonly document_revision: number },
): Promise<Piece> {
  if (document_revision === revision) return document;
  let current = document;
  for (const edit of await editsBetween(db, actor, id, document_revision, revision))
    current = must(applyEdit(current, edit));
  return current;
}

/** The revisions of a piece, which stays locked until the transaction ends; its document is not read. */
export async function lockPiece(
  db: Db,
  actor: Actor,
  id: PieceId,
): Promise<{ readonly revision: number; readonly documentRevision: number } | null> {
  const row = await db
    .selectFrom('piece')
    .select(['revision', 'document_revision'])
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .where('deleted_at', 'is', null)
    .forUpdate()
    .executeTakeFirst();
  return row ? { revision: row.revision, documentRevision: row.document_revision } : null;
}

/** Whether all of these pieces are on this studio's shelf. */
export async function havePieces(db: Db, actor: Actor, ids: readonly PieceId[]): Promise<boolean> {
  const rows = await db
    .selectFrom('piece')
    .select('id')
    .where('studio_id', '=', actor.studio)
    .where('deleted_at', 'is', null)
    .where('id', 'in', ids)
    .execute();
  return rows.length === new Set(ids).size;
}

export async function insertPiece(db: Db, actor: Actor, document: Piece): Promise<void> {
  await db
    .insertInto('piece')
    .values({
      id: document.id,
      studio_id: actor.studio,
      title: document.title,
      summary: summaryOf(document),
      document: JSON.stringify(document),
      revision: 0,
      document_revision: 0,
    })
    .execute();
}

/** Writes a piece's document, with what the shelf shows of it; a piece that rests is not worked on by that. */
export async function updatePiece(
  db: Db,
  actor: Actor,
  document: Piece,
  revision: number,
  as: 'worked' | 'resting' = 'worked',
): Promise<void> {
  await db
    .updateTable('piece')
    .set({
      title: document.title,
      summary: summaryOf(document),
      document: JSON.stringify(document),
      revision,
      document_revision: revision,
      ...(as === 'worked' ? { worked_at: new Date() } : {}),
    })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', document.id)
    .execute();
}

/** Takes a piece off the shelf, or puts it back. True when there was one. */
export async function setDeleted(db: Db, actor: Actor, id: PieceId, deleted: boolean): Promise<boolean> {
  const result = await db
    .updateTable('piece')
    .set({ deleted_at: deleted ? new Date() : null })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return result.numUpdatedRows > 0n;
}

/** A part's set-up with the piece it belongs to. */
export interface PartSetup {
  readonly id: string;
  readonly piece: string;
  readonly title: string;
  readonly part: string;
  readonly partId: string;
  readonly setup: Setup;
}

/** The set-ups of all parts on the shelf, without their notes, by title. */
export async function listSetups(db: Db, actor: Actor): Promise<PartSetup[]> {
  const { rows } = await sql<{ id: string; title: string; part: string; part_id: string; setup: unknown }>`
    select piece.id, piece.title, part ->> 'name' as part, part ->> 'id' as part_id, part -> 'setup' as setup
    from piece, jsonb_array_elements(piece.document -> 'parts') with ordinality as parts(part, place)
    where piece.studio_id = ${actor.studio} and piece.deleted_at is null
    order by piece.title, piece.id, place
    limit 500`.execute(db);
  return rows.flatMap((one) => {
    const setup = setupSchema.safeParse(migrateSetup(one.setup));
    return setup.success
      ? [
          {
            id: `${one.id}.${one.part_id}`,
            piece: one.id,
            title: one.title,
            part: one.part,
            partId: one.part_id,
            setup: setup.data,
          },
        ]
      : [];
  });
}

/** A sound of a part, and which part of which piece. */
export interface PartTone {
  readonly from: string;
  readonly tone: Tone;
}

/** The sounds written down in all pieces of the shelf, those of the last work first. */
export async function listTones(db: Db, actor: Actor): Promise<PartTone[]> {
  const { rows } = await sql<{ title: string; part: string; tone: unknown }>`
    select piece.title, part ->> 'name' as part, tone
    from piece, jsonb_array_elements(piece.document -> 'parts') as part, jsonb_array_elements(part -> 'tones') as tone
    where piece.studio_id = ${actor.studio} and piece.deleted_at is null and part ? 'tones'
    order by piece.worked_at desc
    limit 200`.execute(db);
  return rows.flatMap(({ title, part, tone }) => {
    const read = toneSchema.safeParse(tone);
    return read.success ? [{ from: `${title}, ${part}`, tone: read.data }] : [];
  });
}
