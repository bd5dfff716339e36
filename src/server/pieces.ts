import type { Actor, StudioId } from './actor';
import type { PieceId, RefusedId } from './ids';
import { randomBytes, randomUUID } from 'node:crypto';
import { fail, ok, type Result } from '@/core/base';
import { applyEdit, touchesOf, type Aspect, type Step } from '@/core/edit';
import { readPiece, type Piece } from '@/core/score';
import type { Db } from './db/connection';
import {
  appendSteps,
  getRefused,
  keepRefused,
  lastSteps,
  savedRevision,
  settleRefused,
  stepsAfter,
  type LoggedStep,
} from './repositories/history';
import { enqueue } from './jobs/queue';
import { getPiece, getPieceForUpdate, insertPiece, updatePiece } from './repositories/pieces';

/** The rules of keeping pieces: revisions, history, stale saves. Every function acts for one studio. */

export interface OpenPiece {
  readonly document: Piece;
  readonly revision: number;
  readonly steps: readonly LoggedStep[];
}

export type SaveAnswer =
  | { readonly status: 'saved'; readonly revision: number }
  /** Someone else saved first. Nothing was overwritten; the version refused is kept under `refusedId`. */
  | { readonly status: 'stale'; readonly current: OpenPiece; readonly refusedId: RefusedId }
  | { readonly status: 'rejected'; readonly message: string };

/** Seconds a piece rests before the choices in it are logged: not after every key. */
const LOG_AFTER = 20;

const logLater = (db: Db, studio: StudioId, piece: PieceId, delay: number): Promise<void> =>
  enqueue(db, 'log-choices', { studio, piece }, `choices ${piece}`, delay);

export const newPieceId = (): PieceId => randomBytes(6).toString('hex') as PieceId;

export async function openPiece(db: Db, actor: Actor, id: PieceId): Promise<OpenPiece | null> {
  const piece = await getPiece(db, actor, id);
  if (!piece) return null;
  return { document: piece.document, revision: piece.revision, steps: await lastSteps(db, actor, id) };
}

/** Puts a new piece on the shelf under a fresh id. */
export async function createPiece(db: Db, actor: Actor, document: Piece): Promise<Result<Piece>> {
  const id = newPieceId();
  const checked = readPiece({ ...document, id });
  if (!checked.ok) return checked;
  await insertPiece(db, actor, checked.value);
  await logLater(db, actor.studio, id, 0);
  return ok(checked.value);
}

export async function duplicatePiece(db: Db, actor: Actor, id: PieceId): Promise<Result<Piece>> {
  const piece = await getPiece(db, actor, id);
  if (!piece) return fail('no-piece', 'This piece is not on the shelf any more.', id);
  return createPiece(db, actor, { ...piece.document, title: `${piece.document.title} (copy)`.slice(0, 160) });
}

/**
 * Saves steps made on a revision. All or nothing, in one transaction that holds the piece. A save
 * sent twice (the answer got lost) is known by its id and answered as the first time.
 */
export async function saveSteps(
  db: Db,
  actor: Actor,
  pieceId: PieceId,
  baseRevision: number,
  saveId: string,
  steps: readonly Step[],
): Promise<SaveAnswer> {
  return db.transaction().execute(async (tx): Promise<SaveAnswer> => {
    const piece = await getPieceForUpdate(tx, actor, pieceId);
    if (!piece)
      return {
        status: 'rejected',
        message:
          'This piece is not on the shelf any more. Copy what you need; it can be brought back from the shelf’s undo.',
      };
    // Its own revision, not that of now: what someone else saved since must not be written over.
    const known = await savedRevision(tx, actor, pieceId, saveId);
    if (known !== null) return { status: 'saved', revision: known };
    if (piece.revision !== baseRevision) return refuse(tx, actor, pieceId, piece, baseRevision, steps);
    const made = applied(piece.document, steps);
    if (!made.ok) return { status: 'rejected', message: `${made.error.words} The change was not saved.` };
    const revision = baseRevision + steps.length;
    await updatePiece(tx, actor, made.value, revision);
    await appendSteps(tx, actor, pieceId, baseRevision, saveId, steps);
    if (steps.some(choosesPlaces)) await logLater(tx, actor.studio, pieceId, LOG_AFTER);
    return { status: 'saved', revision };
  });
}

/** Whether a step may hold a choice of places, which is what is learnt from. */
const choosesPlaces = ({ edit }: Step): boolean =>
  touchesOf(edit).some(({ aspects }) => aspects.some((aspect) => LEARNT_FROM.has(aspect)));
const LEARNT_FROM: ReadonlySet<Aspect> = new Set(['parts', 'riffs', 'setup', 'events', 'places']);

function applied(document: Piece, steps: readonly Step[]): Result<Piece> {
  let current = document;
  for (const step of steps) {
    const next = applyEdit(current, step.edit);
    if (!next.ok) return next;
    current = next.value;
  }
  return ok(current);
}

async function refuse(
  tx: Db,
  actor: Actor,
  pieceId: PieceId,
  piece: { document: Piece; revision: number },
  baseRevision: number,
  steps: readonly Step[],
): Promise<SaveAnswer> {
  // The refused version is rebuilt from the revision it was made on: what came after is taken back first.
  let then = piece.document;
  for (const { inverse } of await stepsAfter(tx, actor, pieceId, baseRevision)) {
    const before = applyEdit(then, inverse);
    if (before.ok) then = before.value;
  }
  const theirs = applied(then, steps);
  if (!theirs.ok || baseRevision > piece.revision)
    return { status: 'rejected', message: 'The change does not fit any version that was saved.' };
  const refusedId = randomUUID() as RefusedId;
  await keepRefused(tx, actor, {
    id: refusedId,
    pieceId,
    baseRevision,
    foundRevision: piece.revision,
    document: theirs.value,
  });
  const current = { document: piece.document, revision: piece.revision, steps: await lastSteps(tx, actor, pieceId) };
  return { status: 'stale', current, refusedId };
}

/** Settles a refused save: its version becomes a piece of its own beside the other, or is left in the archive. */
export async function settleStale(
  db: Db,
  actor: Actor,
  refusedId: RefusedId,
  keep: boolean,
): Promise<Result<Piece | null>> {
  const document = await getRefused(db, actor, refusedId);
  if (!document) return fail('no-refused', 'That version is not kept any more.', refusedId);
  const made = keep
    ? await createPiece(db, actor, { ...document, title: `${document.title} (my version)`.slice(0, 160) })
    : ok(null);
  if (made.ok) await settleRefused(db, actor, refusedId);
  return made;
}
