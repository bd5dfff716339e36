import type { PieceId, RefusedId } from '../ids';
import type { Actor } from '../actor';
import { migrateEdit, migrateStep, type Edit, type Step } from '@/core/edit';
import type { Piece } from '@/core/score';
import { sql, type RawBuilder, type Selectable } from 'kysely';
import type { Db } from '../db/connection';
import type { EditTable } from '../db/types';
import { documentOf } from './documents';

type EditRow = Selectable<EditTable>;

export interface LoggedStep extends Step {
  readonly revision: number;
  readonly madeAt: string;
}

export type LastDone = Pick<Step, 'what' | 'kind'>;

/** Above every revision: the largest number its column takes. */
const NEWEST = 2_147_483_647;

/** What is read of a history at a time, in steps and in bytes as they are stored. */
export const HISTORY_PAGE = { steps: 300, bytes: 1_000_000 } as const;

/**
 * The last steps up to a revision in order, oldest first, that can still be taken back: as many as fit a page, one at
 * least.
 */
export async function lastSteps(db: Db, actor: Actor, pieceId: PieceId, upTo = NEWEST): Promise<LoggedStep[]> {
  const { rows } = await sql<Pick<EditRow, 'revision' | 'version' | 'kind' | 'edit' | 'inverse' | 'what' | 'made_at'>>`
    select revision, version, kind, edit, inverse, what, made_at from (
      select *, sum(pg_column_size(edit) + pg_column_size(inverse)) over (order by revision desc) as bytes,
        row_number() over (order by revision desc) as place
      from (
        select * from edit
        where studio_id = ${actor.studio} and piece_id = ${pieceId} and revision <= ${upTo} and not condensed
        order by revision desc limit ${HISTORY_PAGE.steps}
      ) newest
    ) counted
    where bytes <= ${HISTORY_PAGE.bytes} or place = 1
    order by revision`.execute(db);
  return rows.map(({ made_at, revision, ...step }) => ({
    ...migrateStep(step),
    revision,
    madeAt: made_at.toISOString(),
  }));
}

/** A line of a piece's history in words. */
export interface HistoryLine {
  readonly revision: number;
  readonly kind: Step['kind'];
  readonly what: string;
  readonly madeAt: string;
  /** Whether the piece can still be seen as it was after this step. */
  readonly kept: boolean;
}

/** Lines of history at a time. */
export const HISTORY_LINES = 120;

/** What was done to a piece in words, the last first, from below a revision on. */
export async function historyLines(db: Db, actor: Actor, pieceId: PieceId, below = NEWEST): Promise<HistoryLine[]> {
  const rows = await db
    .selectFrom('edit')
    .select(['revision', 'kind', 'what', 'made_at'])
    // What a step after this one changed must still be known, not this one itself.
    .select(
      sql<boolean>`not exists (
        select 1 from edit later where later.piece_id = edit.piece_id and later.revision > edit.revision and later.condensed
      )`.as('kept'),
    )
    .where('studio_id', '=', actor.studio)
    .where('piece_id', '=', pieceId)
    .where('revision', '<', below)
    .orderBy('revision', 'desc')
    .limit(HISTORY_LINES)
    .execute();
  return rows.map(({ made_at, ...line }) => ({ ...line, madeAt: made_at.toISOString() }));
}

/** What was done last, and in which way; null where nothing was. */
export async function lastDone(db: Db, actor: Actor, pieceId: PieceId): Promise<LastDone | null> {
  const row = await db
    .selectFrom('edit')
    .select(['what', 'kind'])
    .where('studio_id', '=', actor.studio)
    .where('piece_id', '=', pieceId)
    .where('kind', '<>', 'follow')
    .orderBy('revision', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row ?? null;
}

/** Edits after a revision up to another, in order: what a stored document is behind. */
export async function editsBetween(
  db: Db,
  actor: Actor,
  pieceId: PieceId,
  after: number,
  upTo: number,
): Promise<Edit[]> {
  const rows = await db
    .selectFrom('edit')
    .select(['edit', 'version'])
    .where('studio_id', '=', actor.studio)
    .where('piece_id', '=', pieceId)
    .where('revision', '>', after)
    .where('revision', '<=', upTo)
    .orderBy('revision')
    .execute();
  return rows.map((row) => migrateEdit(row.edit, row.version) as Edit);
}

/**
 * Steps after a revision, newest first: what must be taken back to see the piece as it was then. Null where some of
 * them are condensed.
 */
export async function stepsAfter(
  db: Db,
  actor: Actor,
  pieceId: PieceId,
  revision: number,
): Promise<Pick<Step, 'inverse'>[] | null> {
  const rows = await db
    .selectFrom('edit')
    .select(['inverse', 'version', 'condensed'])
    .where('studio_id', '=', actor.studio)
    .where('piece_id', '=', pieceId)
    .where('revision', '>', revision)
    .orderBy('revision', 'desc')
    .execute();
  if (rows.some((row) => row.condensed)) return null;
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

/** Steps of one save, made on the revision `from`. */
export interface AppendedSteps {
  readonly piece: PieceId;
  readonly from: number;
  readonly save: string;
  /** One at least. */
  readonly steps: readonly Step[];
}

/** Keeps steps, moves their piece on to the revision after them, and calls what follows: one question. */
export async function appendSteps(
  db: Db,
  actor: Actor,
  { piece, from, save, steps }: AppendedSteps,
  then: RawBuilder<unknown> = sql`null`,
): Promise<void> {
  const rows = steps.map((step, i) => ({
    piece_id: piece,
    studio_id: actor.studio,
    revision: from + i + 1,
    version: step.version,
    kind: step.kind,
    edit: JSON.stringify(step.edit),
    inverse: JSON.stringify(step.inverse),
    what: step.what,
    save_id: save,
  }));
  await db
    .with('appended', (on) => on.insertInto('edit').values(rows).returning('revision'))
    .with('advanced', (on) =>
      on
        .updateTable('piece')
        .set({ revision: from + steps.length, worked_at: new Date() })
        .where('studio_id', '=', actor.studio)
        .where('id', '=', piece)
        .returning('id'),
    )
    .selectNoFrom(then.as('then'))
    .execute();
}

/**
 * The same for a piece that stands on the revision `from` and whose document was written at `written` or later, by
 * itself and all or nothing; false where it does not, and nothing is done. Who writes at the same time is waited for.
 */
export async function appendStepsAt(
  db: Db,
  actor: Actor,
  { piece, from, save, steps }: AppendedSteps,
  written: number,
  then: RawBuilder<unknown>,
): Promise<boolean> {
  const to = from + steps.length;
  const rows = steps.map(({ version, kind, edit, inverse, what }, i) => ({
    ...{ revision: from + i + 1, version, kind, edit, inverse, what },
  }));
  const { rows: done } = await sql`
    with held as (
      select id from piece
      where studio_id = ${actor.studio} and id = ${piece} and deleted_at is null
        and revision = ${from} and document_revision >= ${written}
      for update
    ), appended as (
      insert into edit (piece_id, studio_id, revision, version, kind, edit, inverse, what, save_id)
      select held.id, ${actor.studio}, step.revision, step.version, step.kind, step.edit, step.inverse, step.what, ${save}
      from held, jsonb_to_recordset(${JSON.stringify(rows)}::jsonb)
        as step(revision int, version int, kind text, edit jsonb, inverse jsonb, what text)
    ), advanced as (
      update piece set revision = ${to}, worked_at = clock_timestamp()
      from held where piece.id = held.id
    )
    select ${then} from held`.execute(db);
  return done.length > 0;
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

/** Marks a refused version as decided about, as it was then. */
export async function settleRefused(db: Db, actor: Actor, id: RefusedId, document: Piece): Promise<void> {
  await db
    .updateTable('refused_save')
    .set({ settled_at: new Date(), document: JSON.stringify(document) })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .execute();
}

/** Steps that may be condensed: older than so many days, and so many steps behind the newest of their piece. */
export const CONDENSE_AFTER = { days: 30, steps: 600 } as const;

/** Takes out of old steps what they changed, their words stay; gives how many. At most `most` at a time. */
export async function condenseHistory(db: Db, most = 2000): Promise<number> {
  const nothing = JSON.stringify({ type: 'batch', what: '', edits: [] });
  const result = await sql`
    update edit set edit = ${nothing}::jsonb, inverse = ${nothing}::jsonb, condensed = true
    where (piece_id, revision) in (
      select edit.piece_id, edit.revision from edit join piece on piece.id = edit.piece_id
      where not condensed and made_at < now() - make_interval(days => ${CONDENSE_AFTER.days})
        and edit.revision < piece.revision - ${CONDENSE_AFTER.steps} and edit.revision <= piece.document_revision
      limit ${most}
    )`.execute(db);
  return Number(result.numAffectedRows ?? 0);
}
