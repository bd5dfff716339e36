import { sql, type Kysely, type Migration } from 'kysely';

/**
 * Players' hands, cost tables by version, choices logged with their alternatives, phrases placed before, fits of the
 * weights.
 */
export const hands: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await db.schema
      .createTable('player')
      .addColumn('id', 'text', (c) => c.notNull())
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('document', 'jsonb', (c) => c.notNull())
      .addColumn('changed_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`clock_timestamp()`))
      .addColumn('deleted_at', 'timestamptz')
      .addPrimaryKeyConstraint('player_key', ['studio_id', 'id'])
      .execute();
    await db.schema
      .createTable('cost_table')
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('version', 'integer', (c) => c.notNull())
      .addColumn('name', 'text', (c) => c.notNull())
      .addColumn('weights', 'jsonb', (c) => c.notNull())
      .addColumn('made_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`clock_timestamp()`))
      .addPrimaryKeyConstraint('cost_table_key', ['studio_id', 'version'])
      .execute();
    await db.schema
      .createTable('choice')
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (c) => c.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('riff_id', 'text', (c) => c.notNull())
      .addColumn('phrase', 'text', (c) => c.notNull())
      .addColumn('sample', 'jsonb', (c) => c.notNull())
      .addColumn('alternatives', 'jsonb', (c) => c.notNull())
      .addColumn('notes', 'integer', (c) => c.notNull())
      .addColumn('made_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`clock_timestamp()`))
      .addPrimaryKeyConstraint('choice_key', ['piece_id', 'riff_id', 'phrase'])
      .execute();
    await db.schema.createIndex('choice_by_studio').on('choice').columns(['studio_id', 'made_at']).execute();
    await db.schema
      .createTable('placed_phrase')
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (c) => c.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('riff_id', 'text', (c) => c.notNull())
      .addColumn('riff_name', 'text', (c) => c.notNull())
      .addColumn('tokens', 'text', (c) => c.notNull())
      .addColumn('document', 'jsonb', (c) => c.notNull())
      .addPrimaryKeyConstraint('placed_phrase_key', ['piece_id', 'riff_id'])
      .execute();
    await db.schema.createIndex('placed_phrase_by_studio').on('placed_phrase').column('studio_id').execute();
    await db.schema
      .createTable('fit')
      .addColumn('id', 'text', (c) => c.primaryKey())
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('state', 'text', (c) =>
        c.notNull().check(sql`state in ('waiting', 'working', 'done', 'failed', 'accepted', 'set aside')`),
      )
      .addColumn('progress', 'float8', (c) => c.notNull().defaultTo(0))
      .addColumn('result', 'jsonb')
      .addColumn('asked_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`clock_timestamp()`))
      .execute();
    await db.schema.createIndex('fit_by_studio').on('fit').columns(['studio_id', 'asked_at']).execute();
  },
};
