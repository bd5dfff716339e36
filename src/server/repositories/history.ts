import type { PieceId, RefusedId } from '../ids';
import type { Actor } from '../actor';
import { migrateEdit, migrateStep, type Edit, type Step } from '@/core/edit';
import type { Piece } from '@/core/score';
import type { Db } from '../db/connection';
import { documentOf } from './pieces';

export interface LoggedStep extends Step {
  readonly revision: number;
  readonly madeAt: string;
}

/** The last steps of a piece in order, oldest first. */
export async function lastSteps(db: Db, actor: Actor, pieceId: PieceId, limit = 600): Promise<LoggedStep[]> {
  const rows = await db
    .selectFrom('edit')
    .select(['revision', 'version', 'kind', 'edit', 'inverse', 'what', 'made_at'])
    .where('studio_id', '=', actor.studio)
    .where('piece_id', '=', pieceId)
    .orderBy('revision', 'desc')
    .limit(limit)
    .execute();
  return rows
    .reverse()
    .map(({ made_at, revision, ...step }) => ({ ...migrateStep(step), revision, madeAt: made_at.toISOString() }));
}

/** Steps after a revision, newest first: what must be taken back to see the piece as it was then. */
export async function stepsAfter(
  db: Db,
  actor: Actor,
  pieceId: PieceId,
  revision: number,
): Promise<Pick<Step, 'inverse'>[]> {
  const rows = await db
    .selectFrom('edit')
    .select(['inverse', 'version'])
    .where('studio_id', '=', actor.studio)
    .where('piece_id', '=', pieceId)
    .where('revision', '>', revision)
    .orderBy('revision', 'desc')
    .execute();
  return rows.map((row) => ({ inverse: migrateEdit(row.inverse, row.version) as Edit }));
}

/** The revision a save that was taken already made, or null. */
export async function savedRevision(db: Db, actor: Actor, pieceId: PieceId, saveId: string): Promise<number | null> {
  const row = await db
    .selectFrom('edit')
    .select((on) => on.fn.max('revision').as('revision'))
    .where('studio_id', '=', actor.studio)
    .where('piece_id', '=', pieceId)
    .where('save_id', '=', saveId)
    .executeTakeFirst();
  return row?.revision ?? null;
}

export async function appendSteps(
  db: Db,
  actor: Actor,
  pieceId: PieceId,
  fromRevision: number,
  saveId: string,
  steps: readonly Step[],
): Promise<void> {
  if (steps.length === 0) return;
  const rows = steps.map((step, i) => ({
    piece_id: pieceId,
    studio_id: actor.studio,
    revision: fromRevision + i + 1,
    version: step.version,
    kind: step.kind,
    edit: JSON.stringify(step.edit),
    inverse: JSON.stringify(step.inverse),
    what: step.what,
    save_id: saveId,
  }));
  await db.insertInto('edit').values(rows).execute();
}

export async function keepRefused(
  db: Db,
  actor: Actor,
  save: { id: RefusedId; pieceId: PieceId; baseRevision: number; foundRevision: number; document: Piece },
): Promise<void> {
  await db
    .insertInto('refused_save')
    .values({
      id: save.id,
      studio_id: actor.studio,
      piece_id: save.pieceId,
      base_revision: save.baseRevision,
      found_revision: save.foundRevision,
      document: JSON.stringify(save.document),
    })
    .onConflict((conflict) => conflict.column('id').doNothing())
    .execute();
}

export async function getRefused(db: Db, actor: Actor, id: RefusedId): Promise<Piece | null> {
  const row = await db
    .selectFrom('refused_save')
    .select('document')
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return row ? documentOf(id, row.document) : null;
}

export async function settleRefused(db: Db, actor: Actor, id: RefusedId): Promise<void> {
  await db
    .updateTable('refused_save')
    .set({ settled_at: new Date() })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .execute();
}
