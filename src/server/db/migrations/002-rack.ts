import { sql, type Kysely, type Migration } from 'kysely';

/** Instruments with their history, tunings of one's own, tuner readings, and the instructor's schools. */
export const rack: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await db.schema
      .createTable('instrument')
      .addColumn('id', 'text', (c) => c.primaryKey())
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('document', 'jsonb', (c) => c.notNull())
      .addColumn('revision', 'integer', (c) => c.notNull())
      .addColumn('changed_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
      .addColumn('deleted_at', 'timestamptz')
      .execute();
    await db.schema
      .createTable('instrument_change')
      .addColumn('instrument_id', 'text', (c) => c.notNull().references('instrument.id').onDelete('cascade'))
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('revision', 'integer', (c) => c.notNull())
      .addColumn('what', 'text', (c) => c.notNull())
      .addColumn('document', 'jsonb', (c) => c.notNull())
      .addColumn('made_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
      .addPrimaryKeyConstraint('instrument_change_key', ['instrument_id', 'revision'])
      .execute();
    await db.schema
      .createTable('tuning')
      .addColumn('id', 'text', (c) => c.notNull())
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('document', 'jsonb', (c) => c.notNull())
      .addColumn('changed_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
      .addColumn('deleted_at', 'timestamptz')
      .addPrimaryKeyConstraint('tuning_key', ['studio_id', 'id'])
      .execute();
    await db.schema
      .createTable('tuner_reading')
      .addColumn('id', 'bigserial', (c) => c.primaryKey())
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('instrument_id', 'text', (c) => c.notNull())
      .addColumn('string', 'integer', (c) => c.notNull())
      .addColumn('kind', 'text', (c) => c.notNull().check(sql`kind in ('open', 'capo', 'harmonic12', 'stopped12')`))
      .addColumn('capo', 'integer', (c) => c.notNull())
      .addColumn('cents', 'float8', (c) => c.notNull())
      .addColumn('read_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`clock_timestamp()`))
      .execute();
    await db.schema
      .createIndex('tuner_reading_by_instrument')
      .on('tuner_reading')
      .columns(['studio_id', 'instrument_id', 'read_at'])
      .execute();
    await db.schema
      .createTable('setting')
      .addColumn('studio_id', 'text', (c) => c.primaryKey().references('studio.id'))
      .addColumn('schools', 'jsonb', (c) => c.notNull())
      .addColumn('changed_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
      .execute();
  },
};
