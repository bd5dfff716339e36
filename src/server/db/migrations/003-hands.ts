import { sql, type Kysely, type Migration } from 'kysely';

/**
 * Players' hands, cost tables by version, choices logged with their alternatives, phrases placed before, fits of the
 * weights.
 */
export const hands: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await db.schema
      .createTable('player')
      .addColumn('id', 'text', (column) => column.notNull())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('document', 'jsonb', (column) => column.notNull())
      .addColumn('changed_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`clock_timestamp()`))
      .addColumn('deleted_at', 'timestamptz')
      .addPrimaryKeyConstraint('player_key', ['studio_id', 'id'])
      .execute();
    await db.schema
      .createTable('cost_table')
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('version', 'integer', (column) => column.notNull())
      .addColumn('name', 'text', (column) => column.notNull())
      .addColumn('weights', 'jsonb', (column) => column.notNull())
      .addColumn('made_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`clock_timestamp()`))
      .addPrimaryKeyConstraint('cost_table_key', ['studio_id', 'version'])
      .execute();
    await db.schema
      .createTable('choice')
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (column) => column.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('riff_id', 'text', (column) => column.notNull())
      .addColumn('phrase', 'text', (column) => column.notNull())
      .addColumn('sample', 'jsonb', (column) => column.notNull())
      .addColumn('alternatives', 'jsonb', (column) => column.notNull())
      .addColumn('notes', 'integer', (column) => column.notNull())
      .addColumn('made_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`clock_timestamp()`))
      .addPrimaryKeyConstraint('choice_key', ['piece_id', 'riff_id', 'phrase'])
      .execute();
    await db.schema.createIndex('choice_by_studio').on('choice').columns(['studio_id', 'made_at']).execute();
    await db.schema
      .createTable('placed_phrase')
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (column) => column.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('riff_id', 'text', (column) => column.notNull())
      .addColumn('riff_name', 'text', (column) => column.notNull())
      .addColumn('tokens', 'text', (column) => column.notNull())
      .addColumn('document', 'jsonb', (column) => column.notNull())
      .addPrimaryKeyConstraint('placed_phrase_key', ['piece_id', 'riff_id'])
      .execute();
    await db.schema.createIndex('placed_phrase_by_studio').on('placed_phrase').column('studio_id').execute();
    await db.schema
      .createTable('fit')
      .addColumn('id', 'text', (column) => column.primaryKey())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('state', 'text', (column) =>
        column.notNull().check(sql`state in ('waiting', 'working', 'done', 'failed', 'accepted', 'set aside')`),
      )
      .addColumn('progress', 'float8', (column) => column.notNull().defaultTo(0))
      .addColumn('result', 'jsonb')
      .addColumn('asked_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`clock_timestamp()`))
      .execute();
    await db.schema.createIndex('fit_by_studio').on('fit').columns(['studio_id', 'asked_at']).execute();
  },
};
