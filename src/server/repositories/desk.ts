import type { HandoutId, LinkId, PieceId, RequestId, SeriesId } from '../ids';
import type { Actor } from '../actor';
import { sql } from 'kysely';
import {
  handoutSchema,
  requestSchema,
  seriesSchema,
  type Day,
  type Handout,
  type LinkKind,
  type Request,
  type Series,
} from '@/core/desk';
import type { Db } from '../db/connection';
import { havePieces } from './pieces';

/** Requests, series, links between pieces and what was handed over, as rows. Every function acts for one studio. */

/** A request as the desk shows it. */
export interface KeptRequest {
  readonly id: RequestId;
  readonly request: Request;
  readonly revision: number;
  /** The piece that was made for it, while that is on the shelf. */
  readonly piece: { readonly id: PieceId; readonly title: string } | null;
  readonly series: SeriesId | null;
}
export interface KeptSeries extends Series {
  readonly id: SeriesId;
}
export interface KeptLink {
  readonly id: LinkId;
  readonly kind: LinkKind;
  /** The piece at the other end, and whether the link leads there or comes from there. */
  readonly piece: PieceId;
  readonly title: string;
  readonly back: boolean;
}
export interface KeptHandout extends Handout {
  readonly id: HandoutId;
}

/** Ended requests the desk still shows; the others are found by search. */
const ENDED_SHOWN = 60;
const OPEN_SHOWN = 1000;

const requests = (db: Db, actor: Actor) =>
  db
    .selectFrom('request')
    .leftJoin('piece', (on) =>
      on
        .onRef('piece.id', '=', 'request.piece_id')
        .on('piece.studio_id', '=', actor.studio)
        .on('piece.deleted_at', 'is', null),
    )
    .where('request.studio_id', '=', actor.studio)
    .where('request.deleted_at', 'is', null)
    .select([
      ...(['request.id', 'request.document', 'request.revision', 'request.series_id'] as const),
      ...(['piece.id as made', 'piece.title as title'] as const),
    ]);

interface RequestRow {
  readonly id: RequestId;
  readonly document: Request;
  readonly revision: number;
  readonly series_id: SeriesId | null;
  readonly made: string | null;
  readonly title: string | null;
}

const kept = (row: RequestRow): KeptRequest => ({
  id: row.id,
  request: requestSchema.parse(row.document),
  revision: row.revision,
  piece: row.made === null ? null : { id: row.made as PieceId, title: row.title ?? '' },
  series: row.series_id,
});

const ended = sql<boolean>`request.document ->> 'state' in ('handed', 'declined')`;

/** The requests that are open or still owe something. */
export async function openRequests(db: Db, actor: Actor): Promise<KeptRequest[]> {
  const rows = await requests(db, actor)
    .where(sql<boolean>`not ${ended}`)
    .orderBy('request.changed_at', 'desc')
    .limit(OPEN_SHOWN)
    .execute();
  return rows.map(kept);
}

/** All requests that are open or still owe something, and the last that ended. */
export async function listRequests(db: Db, actor: Actor): Promise<KeptRequest[]> {
  const [open, done] = await Promise.all([
    openRequests(db, actor),
    requests(db, actor).where(ended).orderBy('request.changed_at', 'desc').limit(ENDED_SHOWN).execute(),
  ]);
  return [...open, ...done.map(kept)];
}

export async function getRequest(db: Db, actor: Actor, id: RequestId): Promise<KeptRequest | null> {
  const row = await requests(db, actor).where('request.id', '=', id).executeTakeFirst();
  return row ? kept(row) : null;
}

/** The requests a piece was made for. */
export async function requestsOf(db: Db, actor: Actor, piece: PieceId): Promise<KeptRequest[]> {
  const rows = await requests(db, actor)
    .where('request.piece_id', '=', piece)
    .orderBy('request.changed_at', 'desc')
    .limit(50)
    .execute();
  return rows.map(kept);
}

/** For whom a piece is made and by when, as its head says it. */
export interface AskedFor {
  readonly asker: string;
  readonly due: Day | null;
}

/** The request a piece is worked on for: the open one that is due first. */
export async function askedFor(db: Db, actor: Actor, piece: PieceId): Promise<AskedFor | null> {
  const row = await db
    .selectFrom('request')
    .select('document')
    .where('studio_id', '=', actor.studio)
    .where('piece_id', '=', piece)
    .where('deleted_at', 'is', null)
    .where(sql<boolean>`document ->> 'state' not in ('handed', 'declined')`)
    .orderBy(sql`document ->> 'due' nulls last`)
    .limit(1)
    .executeTakeFirst();
  return row ? { asker: row.document.asker, due: row.document.due } : null;
}

interface RequestWrite {
  readonly request: Request;
  readonly piece: PieceId | null;
  readonly series: SeriesId | null;
}

export async function insertRequest(db: Db, actor: Actor, id: RequestId, write: RequestWrite): Promise<void> {
  await db
    .insertInto('request')
    .values({
      ...{ id, studio_id: actor.studio, piece_id: write.piece, series_id: write.series },
      document: JSON.stringify(write.request),
    })
    .execute();
}

/** Writes a request over the revision it was made on; false where another was written since. */
export async function updateRequest(
  db: Db,
  actor: Actor,
  id: RequestId,
  base: number,
  write: RequestWrite,
): Promise<boolean> {
  const done = await db
    .updateTable('request')
    .set({
      ...{ piece_id: write.piece, series_id: write.series, revision: base + 1, changed_at: new Date() },
      document: JSON.stringify(write.request),
    })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .where('revision', '=', base)
    .executeTakeFirst();
  return done.numUpdatedRows > 0n;
}

/** Takes a request off the desk or puts it back. True when there was one. */
export async function setRequestDeleted(db: Db, actor: Actor, id: RequestId, deleted: boolean): Promise<boolean> {
  const done = await db
    .updateTable('request')
    .set({ deleted_at: deleted ? new Date() : null })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return done.numUpdatedRows > 0n;
}

export async function listSeries(db: Db, actor: Actor): Promise<KeptSeries[]> {
  const rows = await db
    .selectFrom('series')
    .select(['id', 'document'])
    .where('studio_id', '=', actor.studio)
    .where('deleted_at', 'is', null)
    .limit(500)
    .execute();
  return rows
    .map((row) => ({ id: row.id, ...seriesSchema.parse(row.document) }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'));
}

/** Makes a series, or writes it anew. False where it is another studio's. */
export async function putSeries(db: Db, actor: Actor, id: SeriesId, series: Series): Promise<boolean> {
  const document = JSON.stringify(series);
  const done = await db
    .insertInto('series')
    .values({ id, studio_id: actor.studio, document })
    .onConflict((on) =>
      on
        .column('id')
        .doUpdateSet({ document, changed_at: new Date(), deleted_at: null })
        .where('series.studio_id', '=', actor.studio),
    )
    .executeTakeFirst();
  return (done.numInsertedOrUpdatedRows ?? 0n) > 0n;
}

/** Takes a series away; its requests stay, without it. */
export async function deleteSeries(db: Db, actor: Actor, id: SeriesId): Promise<boolean> {
  const done = await db
    .updateTable('series')
    .set({ deleted_at: new Date() })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  if (done.numUpdatedRows === 0n) return false;
  await db
    .updateTable('request')
    .set({ series_id: null })
    .where('studio_id', '=', actor.studio)
    .where('series_id', '=', id)
    .execute();
  return true;
}

/** How a piece belongs to others, from either side. */
export async function linksOf(db: Db, actor: Actor, piece: PieceId): Promise<KeptLink[]> {
  const rows = await db
    .selectFrom('piece_link')
    .innerJoin('piece', (on) =>
      on.on((where) =>
        where.or([
          where.and([
            where('piece_link.piece_id', '=', piece),
            where('piece.id', '=', where.ref('piece_link.other_id')),
          ]),
          where.and([
            where('piece_link.other_id', '=', piece),
            where('piece.id', '=', where.ref('piece_link.piece_id')),
          ]),
        ]),
      ),
    )
    .select(['piece_link.id', 'piece_link.kind', 'piece_link.piece_id', 'piece.id as other', 'piece.title'])
    .where('piece_link.studio_id', '=', actor.studio)
    .where('piece.deleted_at', 'is', null)
    .orderBy('piece_link.made_at')
    .limit(200)
    .execute();
  return rows.map((row) => ({
    ...{ id: row.id, kind: row.kind, piece: row.other as PieceId, title: row.title, back: row.piece_id !== piece },
  }));
}

/** Links two pieces of the studio, once; false where one of them is not there. */
export async function insertLink(
  db: Db,
  actor: Actor,
  id: LinkId,
  { piece, other, kind }: { readonly piece: PieceId; readonly other: PieceId; readonly kind: LinkKind },
): Promise<boolean> {
  if (!(await havePieces(db, actor, [piece, other]))) return false;
  await db
    .insertInto('piece_link')
    .values({ id, studio_id: actor.studio, piece_id: piece, other_id: other, kind })
    .onConflict((on) => on.doNothing())
    .execute();
  return true;
}

export async function deleteLink(db: Db, actor: Actor, id: LinkId): Promise<boolean> {
  const done = await db
    .deleteFrom('piece_link')
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return done.numDeletedRows > 0n;
}

/** What of a piece was handed to whom, the last first. */
export async function handoutsOf(db: Db, actor: Actor, piece: PieceId): Promise<KeptHandout[]> {
  const rows = await db
    .selectFrom('handout')
    .select(['id', 'document'])
    .where('studio_id', '=', actor.studio)
    .where('piece_id', '=', piece)
    .orderBy('made_at', 'desc')
    .limit(200)
    .execute();
  return rows.map((row) => ({ id: row.id, ...handoutSchema.parse(row.document) }));
}

/** Something handed over, with the piece it is of. */
export interface HandedOver extends KeptHandout {
  readonly piece: PieceId;
  readonly title: string;
}

/** What was handed over lately, of all pieces on the shelf. */
export async function lastHandouts(db: Db, actor: Actor): Promise<HandedOver[]> {
  const rows = await db
    .selectFrom('handout')
    .innerJoin('piece', 'piece.id', 'handout.piece_id')
    .select(['handout.id', 'handout.document', 'handout.piece_id', 'piece.title'])
    .where('handout.studio_id', '=', actor.studio)
    .where('piece.deleted_at', 'is', null)
    .orderBy(sql`handout.document ->> 'on' desc`)
    .orderBy('handout.made_at', 'desc')
    .limit(40)
    .execute();
  return rows.map((row) => ({
    ...{ id: row.id, piece: row.piece_id, title: row.title },
    ...handoutSchema.parse(row.document),
  }));
}

/** Notes that something was handed over; false where the piece is not there. */
export async function insertHandout(
  db: Db,
  actor: Actor,
  id: HandoutId,
  piece: PieceId,
  handout: Handout,
): Promise<boolean> {
  if (!(await havePieces(db, actor, [piece]))) return false;
  await db
    .insertInto('handout')
    .values({ id, studio_id: actor.studio, piece_id: piece, document: JSON.stringify(handout) })
    .execute();
  return true;
}

export async function deleteHandout(db: Db, actor: Actor, id: HandoutId): Promise<boolean> {
  const done = await db
    .deleteFrom('handout')
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return done.numDeletedRows > 0n;
}
