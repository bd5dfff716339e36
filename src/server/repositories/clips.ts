import type { ClipId, PieceId } from '../ids';
import type { Actor } from '../actor';
import { clipDocumentSchema, type ClipDocument } from '@/core/hearing';
import type { Db } from '../db/connection';

/** Clips of a studio. Every function acts for one studio. */
export interface ClipEntry {
  readonly id: ClipId;
  readonly piece: PieceId;
  readonly type: string;
  readonly bytes: number;
  readonly chunks: number;
  readonly state: 'arriving' | 'kept';
  readonly seconds: number | null;
  readonly rate: number | null;
  readonly channels: number | null;
  readonly document: ClipDocument;
  readonly revision: number;
  readonly madeAt: string;
}

const COLUMNS = [
  'id',
  'piece_id',
  'type',
  'bytes',
  'chunks',
  'state',
  'seconds',
  'rate',
  'channels',
  'document',
  'revision',
  'made_at',
] as const;

interface Row {
  id: ClipId;
  piece_id: PieceId;
  type: string;
  bytes: number;
  chunks: number;
  state: 'arriving' | 'kept';
  seconds: number | null;
  rate: number | null;
  channels: number | null;
  document: unknown;
  revision: number;
  made_at: Date;
}

const entry = ({ piece_id, made_at, document, ...r }: Row): ClipEntry => ({
  ...r,
  piece: piece_id,
  document: clipDocumentSchema.parse(document),
  madeAt: made_at.toISOString(),
});

export async function listClips(db: Db, actor: Actor, pieceId: PieceId): Promise<ClipEntry[]> {
  const rows = await db
    .selectFrom('clip')
    .select(COLUMNS)
    .where('studio_id', '=', actor.studio)
    .where('piece_id', '=', pieceId)
    .where('deleted_at', 'is', null)
    .orderBy('made_at')
    .orderBy('id')
    .execute();
  return rows.map(entry);
}

export async function getClip(db: Db, actor: Actor, id: ClipId): Promise<ClipEntry | null> {
  const row = await db
    .selectFrom('clip')
    .select(COLUMNS)
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .where('deleted_at', 'is', null)
    .executeTakeFirst();
  return row ? entry(row) : null;
}

/** A new clip whose bytes are still to come. The piece must be the studio's own; false where it is not. */
export async function insertClip(
  db: Db,
  actor: Actor,
  clip: { id: ClipId; piece: PieceId; type: string; bytes: number; document: ClipDocument },
): Promise<boolean> {
  const piece = await db
    .selectFrom('piece')
    .select('id')
    .where('studio_id', '=', actor.studio)
    .where('id', '=', clip.piece)
    .executeTakeFirst();
  if (!piece) return false;
  await db
    .insertInto('clip')
    .values({
      id: clip.id,
      studio_id: actor.studio,
      piece_id: clip.piece,
      type: clip.type,
      bytes: clip.bytes,
      chunks: 0,
      state: 'arriving',
      document: JSON.stringify(clip.document),
      revision: 0,
    })
    .execute();
  return true;
}

/**
 * Puts the next chunk in; one that is there already is left as it is. Gives how many there are now, or null where the
 * clip is not the studio's or the chunk not the next.
 */
export async function putChunk(
  db: Db,
  actor: Actor,
  id: ClipId,
  number: number,
  bytes: Uint8Array,
): Promise<number | null> {
  const put = async (tx: Db): Promise<number | null> => {
    const clip = await tx
      .selectFrom('clip')
      .select(['chunks', 'state'])
      .where('studio_id', '=', actor.studio)
      .where('id', '=', id)
      .where('deleted_at', 'is', null)
      .forUpdate()
      .executeTakeFirst();
    if (!clip || number > clip.chunks) return null;
    if (number < clip.chunks || clip.state === 'kept') return clip.chunks;
    await tx
      .insertInto('clip_chunk')
      .values({ clip_id: id, studio_id: actor.studio, number, bytes: Buffer.from(bytes) })
      .execute();
    await tx
      .updateTable('clip')
      .set({ chunks: number + 1 })
      .where('id', '=', id)
      .execute();
    return number + 1;
  };
  return db.isTransaction ? put(db) : db.transaction().execute(put);
}

export async function keepClip(
  db: Db,
  actor: Actor,
  id: ClipId,
  sound: { seconds: number; rate: number; channels: number; overview: Uint8Array },
): Promise<boolean> {
  const { overview, ...rest } = sound;
  const done = await db
    .updateTable('clip')
    .set({ ...rest, overview: Buffer.from(overview), state: 'kept' })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return done.numUpdatedRows > 0n;
}

export async function clipOverview(db: Db, actor: Actor, id: ClipId): Promise<Uint8Array | null> {
  const row = await db
    .selectFrom('clip')
    .select('overview')
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return row?.overview ?? null;
}

/** A chunk's bytes, null where there is none. */
export async function clipChunk(db: Db, actor: Actor, id: ClipId, number: number): Promise<Buffer | null> {
  const row = await db
    .selectFrom('clip_chunk')
    .select('bytes')
    .where('studio_id', '=', actor.studio)
    .where('clip_id', '=', id)
    .where('number', '=', number)
    .executeTakeFirst();
  return row?.bytes ?? null;
}

/** Writes what is known of a clip if nobody did since `revision`; the new revision, or null. */
export async function putClipDocument(
  db: Db,
  actor: Actor,
  id: ClipId,
  revision: number,
  document: ClipDocument,
): Promise<number | null> {
  const done = await db
    .updateTable('clip')
    .set({ document: JSON.stringify(document), revision: revision + 1 })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .where('revision', '=', revision)
    .executeTakeFirst();
  return done.numUpdatedRows > 0n ? revision + 1 : null;
}

export async function setClipDeleted(db: Db, actor: Actor, id: ClipId, deleted: boolean): Promise<boolean> {
  const done = await db
    .updateTable('clip')
    .set({ deleted_at: deleted ? new Date() : null })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return done.numUpdatedRows > 0n;
}
