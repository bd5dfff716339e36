import type { FitId, PieceId, PlayerId } from '../ids';
import type { Actor } from '../actor';
import { sql } from 'kysely';
import { costTableSchema, DEFAULT_COSTS, type CostTable } from '@/core/hand';
import type { PlacedPhrase } from '@/core/place';
import { playerSchema, type PieceCosts, type Player } from '@/core/score';
import type { Db } from '../db/connection';
import type { FitResult, FitState, KeptAlternative, KeptSample } from '../learning-types';

/** Players out of their rows, by name. */
export const playersOf = (rows: readonly { readonly document: unknown }[]): Player[] =>
  rows.map((one) => playerSchema.parse(one.document)).sort((a, b) => a.name.localeCompare(b.name, 'en'));

/** Players, by name. */
export async function listPlayers(db: Db, actor: Actor): Promise<Player[]> {
  const rows = await db
    .selectFrom('player')
    .select('document')
    .where('studio_id', '=', actor.studio)
    .where('deleted_at', 'is', null)
    .execute();
  return playersOf(rows);
}

export async function putPlayer(db: Db, actor: Actor, player: Player & { readonly id: string }): Promise<void> {
  const document = JSON.stringify(player);
  await db
    .insertInto('player')
    .values({ id: player.id, studio_id: actor.studio, document })
    .onConflict((conflict) =>
      conflict.columns(['studio_id', 'id']).doUpdateSet({ document, changed_at: new Date(), deleted_at: null }),
    )
    .execute();
}

export async function setPlayerDeleted(db: Db, actor: Actor, id: PlayerId, deleted: boolean): Promise<boolean> {
  const result = await db
    .updateTable('player')
    .set({ deleted_at: deleted ? new Date() : null })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return result.numUpdatedRows > 0n;
}

/** Weights kept by an older program lack what came since: the program's own stand in. */
export const weightsOf = (kept: unknown): CostTable => {
  const merged = { ...DEFAULT_COSTS, ...(kept as Partial<CostTable>) };
  const parsed = costTableSchema.safeParse(
    Object.fromEntries(Object.keys(DEFAULT_COSTS).map((key) => [key, merged[key as keyof CostTable]])),
  );
  return parsed.success ? (parsed.data as CostTable) : DEFAULT_COSTS;
};

/** The table new pieces are placed by, or null for the program's own. */
export async function currentCosts(db: Db, actor: Actor): Promise<PieceCosts | null> {
  const row = await db
    .selectFrom('cost_table')
    .select(['version', 'name', 'weights'])
    .where('studio_id', '=', actor.studio)
    .orderBy('version', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row ? { name: row.name, version: row.version, weights: weightsOf(row.weights) } : null;
}

/** Keeps a table under the next version; none is ever changed. */
export async function addCostTable(db: Db, actor: Actor, name: string, weights: CostTable): Promise<PieceCosts> {
  const row = await db
    .insertInto('cost_table')
    .values((eb) => ({
      studio_id: actor.studio,
      name,
      weights: JSON.stringify(weights),
      version: eb
        .selectFrom('cost_table')
        .where('studio_id', '=', actor.studio)
        .select(sql<number>`coalesce(max(version), 0) + 1`.as('next')),
    }))
    .returning('version')
    .executeTakeFirstOrThrow();
  return { name, version: row.version, weights };
}

export interface Choice {
  readonly riffId: string;
  readonly phrase: string;
  readonly sample: KeptSample;
  readonly alternatives: readonly KeptAlternative[];
}

/** Replaces what is logged of a piece. */
export async function replaceChoices(
  db: Db,
  actor: Actor,
  pieceId: PieceId,
  choices: readonly Choice[],
): Promise<void> {
  await db.deleteFrom('choice').where('studio_id', '=', actor.studio).where('piece_id', '=', pieceId).execute();
  for (const choice of choices) {
    await db
      .insertInto('choice')
      .values({
        studio_id: actor.studio,
        piece_id: pieceId,
        riff_id: choice.riffId,
        phrase: choice.phrase,
        sample: JSON.stringify(choice.sample),
        alternatives: JSON.stringify(choice.alternatives),
        notes: choice.sample.chosen.length,
      })
      .execute();
  }
}

/** The newest logged phrases, up to so many. */
export async function newestSamples(db: Db, actor: Actor, most: number): Promise<KeptSample[]> {
  const rows = await db
    .selectFrom('choice')
    .select('sample')
    .where('studio_id', '=', actor.studio)
    .orderBy('made_at', 'desc')
    .orderBy('riff_id')
    .orderBy('phrase')
    .limit(most)
    .execute();
  return rows.map((one) => one.sample);
}

export async function choiceCounts(db: Db, actor: Actor): Promise<{ phrases: number; notes: number }> {
  const row = await db
    .selectFrom('choice')
    .select((eb) => [
      eb.fn.countAll<string>().as('phrases'),
      eb.fn.coalesce(eb.fn.sum<string>('notes'), sql<string>`0`).as('notes'),
    ])
    .where('studio_id', '=', actor.studio)
    .executeTakeFirstOrThrow();
  return { phrases: Number(row.phrases), notes: Number(row.notes) };
}

export interface KeptPhrase {
  readonly pieceId: PieceId;
  readonly title: string;
  readonly riffId: string;
  readonly riffName: string;
  readonly tokens: string;
  readonly phrase: PlacedPhrase;
}

export async function replacePlaced(
  db: Db,
  actor: Actor,
  pieceId: PieceId,
  riffs: readonly { riffId: string; riffName: string; tokens: string; phrase: PlacedPhrase }[],
): Promise<void> {
  await db.deleteFrom('placed_phrase').where('studio_id', '=', actor.studio).where('piece_id', '=', pieceId).execute();
  for (const one of riffs)
    await db
      .insertInto('placed_phrase')
      .values({
        studio_id: actor.studio,
        piece_id: pieceId,
        riff_id: one.riffId,
        riff_name: one.riffName,
        tokens: one.tokens,
        document: JSON.stringify(one.phrase),
      })
      .execute();
}

/** Riffs of the studio in which a run of tokens recurs, the last worked on first. */
export async function findPlaced(db: Db, actor: Actor, run: string, most: number): Promise<KeptPhrase[]> {
  const rows = await db
    .selectFrom('placed_phrase')
    .innerJoin('piece', 'piece.id', 'placed_phrase.piece_id')
    .select(['placed_phrase.piece_id', 'piece.title', 'riff_id', 'riff_name', 'tokens', 'placed_phrase.document'])
    .where('placed_phrase.studio_id', '=', actor.studio)
    .where('piece.studio_id', '=', actor.studio)
    .where('piece.deleted_at', 'is', null)
    .where(sql<boolean>`strpos(tokens, ${run}) > 0`)
    .orderBy('piece.worked_at', 'desc')
    .limit(most)
    .execute();
  return rows.map((one) => ({
    pieceId: one.piece_id,
    title: one.title,
    riffId: one.riff_id,
    riffName: one.riff_name,
    tokens: one.tokens,
    phrase: one.document,
  }));
}

export interface KeptFit {
  readonly id: FitId;
  readonly state: FitState;
  readonly progress: number;
  readonly result: FitResult | null;
}

export async function insertFit(db: Db, actor: Actor, id: FitId): Promise<void> {
  await db
    .insertInto('fit')
    .values({ id, studio_id: actor.studio, state: 'waiting', progress: 0, result: JSON.stringify(null) })
    .execute();
}

export async function latestFit(db: Db, actor: Actor): Promise<KeptFit | null> {
  const row = await db
    .selectFrom('fit')
    .select(['id', 'state', 'progress', 'result'])
    .where('studio_id', '=', actor.studio)
    .orderBy('asked_at', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row ?? null;
}

export async function getFit(db: Db, actor: Actor, id: FitId): Promise<KeptFit | null> {
  const row = await db
    .selectFrom('fit')
    .select(['id', 'state', 'progress', 'result'])
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return row ?? null;
}

/** Changes a fit that is in one of the states given; true when it was. */
export async function moveFit(
  db: Db,
  actor: Actor,
  id: FitId,
  from: readonly FitState[],
  to: { state: FitState; progress?: number; result?: FitResult },
): Promise<boolean> {
  const result = await db
    .updateTable('fit')
    .set({
      state: to.state,
      ...(to.progress === undefined ? {} : { progress: to.progress }),
      ...(to.result === undefined ? {} : { result: JSON.stringify(to.result) }),
    })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .where('state', 'in', from)
    .executeTakeFirst();
  return result.numUpdatedRows > 0n;
}
