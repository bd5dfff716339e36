import type { InstrumentId, TuningId } from '../ids';
import type { Actor } from '../actor';
import { rackInstrumentSchema, type RackInstrument, type Tuning } from '@/core/instrument';
import { DEFAULT_SCHOOLS, schoolsSchema, type Schools } from '@/core/schools';
import type { TunerReading } from '@/core/tuner';
import type { Db } from '../db/connection';

export interface RackEntry extends RackInstrument {
  readonly revision: number;
  readonly changedAt: string;
}

export interface RackChange {
  readonly revision: number;
  readonly what: string;
  readonly madeAt: string;
}

interface InstrumentRow {
  readonly document: unknown;
  readonly revision: number;
  readonly changed_at: Date | string;
}

/** Instruments out of their rows, by name. */
export const instrumentsOf = (rows: readonly InstrumentRow[]): RackEntry[] =>
  rows
    .map((one) => ({
      ...(rackInstrumentSchema.parse(one.document) as RackInstrument),
      revision: one.revision,
      changedAt: new Date(one.changed_at).toISOString(),
    }))
    .sort(
      (a, b) =>
        a.instrument.name.localeCompare(b.instrument.name, 'en') || a.instrument.id.localeCompare(b.instrument.id),
    );

export const schoolsOf = (stored: unknown): Schools => {
  const parsed = schoolsSchema.safeParse(stored ?? {});
  return parsed.success ? parsed.data : DEFAULT_SCHOOLS;
};

/** The studio's instruments by name. */
export async function listInstruments(db: Db, actor: Actor): Promise<RackEntry[]> {
  const rows = await db
    .selectFrom('instrument')
    .select(['document', 'revision', 'changed_at'])
    .where('studio_id', '=', actor.studio)
    .where('deleted_at', 'is', null)
    .execute();
  return instrumentsOf(rows);
}

/** One instrument, locked until the transaction ends. */
export async function getInstrumentForUpdate(
  db: Db,
  actor: Actor,
  id: InstrumentId,
): Promise<{ document: RackInstrument; revision: number } | null> {
  const row = await db
    .selectFrom('instrument')
    .select(['document', 'revision'])
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .forUpdate()
    .executeTakeFirst();
  return row ?? null;
}

/** Puts an instrument on the rack or changes it, with what was done in words. */
export async function putInstrument(
  db: Db,
  actor: Actor,
  document: RackInstrument,
  revision: number,
  what: string,
): Promise<void> {
  const id = document.instrument.id as InstrumentId;
  const json = JSON.stringify(document);
  if (revision === 0)
    await db.insertInto('instrument').values({ id, studio_id: actor.studio, document: json, revision }).execute();
  else {
    const there = await db
      .updateTable('instrument')
      .set({ document: json, revision, changed_at: new Date(), deleted_at: null })
      .where('studio_id', '=', actor.studio)
      .where('id', '=', id)
      .executeTakeFirst();
    if (there.numUpdatedRows === 0n) throw new Error(`instrument ${id} is not on this studio's rack`);
  }
  await db
    .insertInto('instrument_change')
    .values({ instrument_id: id, studio_id: actor.studio, revision, what, document: json })
    .execute();
}

/** Takes an instrument off the rack or puts it back. True when there was one. */
export async function setInstrumentDeleted(db: Db, actor: Actor, id: InstrumentId, deleted: boolean): Promise<boolean> {
  const result = await db
    .updateTable('instrument')
    .set({ deleted_at: deleted ? new Date() : null })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return result.numUpdatedRows > 0n;
}

/** What was done to an instrument, newest first. */
export async function instrumentChanges(db: Db, actor: Actor, id: InstrumentId): Promise<RackChange[]> {
  const rows = await db
    .selectFrom('instrument_change')
    .select(['revision', 'what', 'made_at'])
    .where('studio_id', '=', actor.studio)
    .where('instrument_id', '=', id)
    .orderBy('revision', 'desc')
    .limit(200)
    .execute();
  return rows.map((one) => ({ revision: one.revision, what: one.what, madeAt: one.made_at.toISOString() }));
}

export async function listTunings(db: Db, actor: Actor): Promise<Tuning[]> {
  const rows = await db
    .selectFrom('tuning')
    .select('document')
    .where('studio_id', '=', actor.studio)
    .where('deleted_at', 'is', null)
    .orderBy('changed_at')
    .orderBy('id')
    .execute();
  return rows.map((one) => one.document);
}

export async function putTuning(db: Db, actor: Actor, tuning: Tuning): Promise<void> {
  const document = JSON.stringify(tuning);
  await db
    .insertInto('tuning')
    .values({ id: tuning.id, studio_id: actor.studio, document })
    .onConflict((conflict) =>
      conflict.columns(['studio_id', 'id']).doUpdateSet({ document, changed_at: new Date(), deleted_at: null }),
    )
    .execute();
}

export async function setTuningDeleted(db: Db, actor: Actor, id: TuningId, deleted: boolean): Promise<boolean> {
  const result = await db
    .updateTable('tuning')
    .set({ deleted_at: deleted ? new Date() : null })
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return result.numUpdatedRows > 0n;
}

/** Tuner readings of an instrument, oldest first: the last thousand. */
export async function listReadings(db: Db, actor: Actor, instrumentId: InstrumentId): Promise<TunerReading[]> {
  const rows = await db
    .selectFrom('tuner_reading')
    .select(['id', 'string', 'kind', 'capo', 'cents', 'read_at'])
    .where('studio_id', '=', actor.studio)
    .where('instrument_id', '=', instrumentId)
    .orderBy('read_at', 'desc')
    .limit(1000)
    .execute();
  return rows.reverse().map((one) => ({
    id: one.id,
    string: one.string,
    kind: one.kind,
    capo: one.capo,
    cents: one.cents,
    at: one.read_at.getTime() / 1000,
  }));
}

export async function addReadings(
  db: Db,
  actor: Actor,
  instrumentId: InstrumentId,
  readings: readonly Omit<TunerReading, 'id' | 'at'>[],
): Promise<void> {
  if (readings.length === 0) return;
  await db
    .insertInto('tuner_reading')
    .values(
      readings.map((one) => ({
        studio_id: actor.studio,
        instrument_id: instrumentId,
        string: one.string,
        kind: one.kind,
        capo: one.capo,
        cents: one.cents,
      })),
    )
    .execute();
}

export async function deleteReading(db: Db, actor: Actor, id: string): Promise<boolean> {
  const result = await db
    .deleteFrom('tuner_reading')
    .where('studio_id', '=', actor.studio)
    .where('id', '=', id)
    .executeTakeFirst();
  return result.numDeletedRows > 0n;
}

/** The instructor's schools; what was never set is as usual. */

export async function putSchools(db: Db, actor: Actor, schools: Schools): Promise<void> {
  const json = JSON.stringify(schools);
  await db
    .insertInto('setting')
    .values({ studio_id: actor.studio, schools: json })
    .onConflict((conflict) => conflict.column('studio_id').doUpdateSet({ schools: json, changed_at: new Date() }))
    .execute();
}
