import { sql, type Kysely, type Migration } from 'kysely';

/** Instruments with their history, tunings of one's own, tuner readings, and the instructor's schools. */
export const rack: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await db.schema
      .createTable('instrument')
      .addColumn('id', 'text', (column) => column.primaryKey())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('document', 'jsonb', (column) => column.notNull())
      .addColumn('revision', 'integer', (column) => column.notNull())
      .addColumn('changed_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`now()`))
      .addColumn('deleted_at', 'timestamptz')
      .execute();
    await db.schema
      .createTable('instrument_change')
      .addColumn('instrument_id', 'text', (column) => column.notNull().references('instrument.id').onDelete('cascade'))
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('revision', 'integer', (column) => column.notNull())
      .addColumn('what', 'text', (column) => column.notNull())
      .addColumn('document', 'jsonb', (column) => column.notNull())
      .addColumn('made_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`now()`))
      .addPrimaryKeyConstraint('instrument_change_key', ['instrument_id', 'revision'])
      .execute();
    await db.schema
      .createTable('tuning')
      .addColumn('id', 'text', (column) => column.notNull())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('document', 'jsonb', (column) => column.notNull())
      .addColumn('changed_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`now()`))
      .addColumn('deleted_at', 'timestamptz')
      .addPrimaryKeyConstraint('tuning_key', ['studio_id', 'id'])
      .execute();
    await db.schema
      .createTable('tuner_reading')
      .addColumn('id', 'bigserial', (column) => column.primaryKey())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('instrument_id', 'text', (column) => column.notNull())
      .addColumn('string', 'integer', (column) => column.notNull())
      .addColumn('kind', 'text', (column) =>
        column.notNull().check(sql`kind in ('open', 'capo', 'harmonic12', 'stopped12')`),
      )
      .addColumn('capo', 'integer', (column) => column.notNull())
      .addColumn('cents', 'float8', (column) => column.notNull())
      .addColumn('read_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`clock_timestamp()`))
      .execute();
    await db.schema
      .createIndex('tuner_reading_by_instrument')
      .on('tuner_reading')
      .columns(['studio_id', 'instrument_id', 'read_at'])
      .execute();
    await db.schema
      .createTable('setting')
      .addColumn('studio_id', 'text', (column) => column.primaryKey().references('studio.id'))
      .addColumn('schools', 'jsonb', (column) => column.notNull())
      .addColumn('changed_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`now()`))
      .execute();
  },
};
