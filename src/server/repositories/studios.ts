import { jsonArrayFrom } from 'kysely/helpers/postgres';
import type { Tuning } from '@/core/instrument';
import type { Schools } from '@/core/schools';
import type { PieceCosts, Player } from '@/core/score';
import type { Actor } from '../actor';
import type { Db } from '../db/connection';
import { playersOf, weightsOf } from './learning';
import { instrumentsOf, schoolsOf, type RackEntry } from './rack';

/** Makes a studio unless it is there; true where it was made now. */
export async function ensureStudio(db: Db, id: string, name: string): Promise<boolean> {
  const made = await db
    .insertInto('studio')
    .values({ id, name })
    .onConflict((conflict) => conflict.column('id').doNothing())
    .executeTakeFirst();
  return (made.numInsertedOrUpdatedRows ?? 0n) > 0n;
}

/** What pages of every kind show of a studio beside what they are about. */
export interface StudioView {
  readonly name: string;
  readonly schools: Schools;
  readonly instruments: readonly RackEntry[];
  readonly tunings: readonly Tuning[];
  readonly players: readonly Player[];
  /** Newest first. */
  readonly tables: readonly PieceCosts[];
}

/** All of it in one question to the database: every page asks it, and five small ones cost five times as much. */
export async function studioView(db: Db, actor: Actor): Promise<StudioView> {
  const own = actor.studio;
  const row = await db
    .selectFrom('studio')
    .where('id', '=', own)
    .select((on) => [
      'name',
      on.selectFrom('setting').select('schools').where('studio_id', '=', own).as('schools'),
      jsonArrayFrom(
        on
          .selectFrom('instrument')
          .select(['document', 'revision', 'changed_at'])
          .where('studio_id', '=', own)
          .where('deleted_at', 'is', null),
      ).as('instruments'),
      jsonArrayFrom(
        on
          .selectFrom('tuning')
          .select('document')
          .where('studio_id', '=', own)
          .where('deleted_at', 'is', null)
          .orderBy('changed_at')
          .orderBy('id'),
      ).as('tunings'),
      jsonArrayFrom(
        on.selectFrom('player').select('document').where('studio_id', '=', own).where('deleted_at', 'is', null),
      ).as('players'),
      jsonArrayFrom(
        on
          .selectFrom('cost_table')
          .select(['version', 'name', 'weights'])
          .where('studio_id', '=', own)
          .orderBy('version', 'desc')
          .limit(50),
      ).as('tables'),
    ])
    .executeTakeFirst();
  return {
    name: row?.name ?? '',
    schools: schoolsOf(row?.schools),
    instruments: instrumentsOf(row?.instruments ?? []),
    tunings: row?.tunings.map((one) => one.document) ?? [],
    players: playersOf(row?.players ?? []),
    tables: row?.tables.map(({ name, version, weights }) => ({ name, version, weights: weightsOf(weights) })) ?? [],
  };
}
