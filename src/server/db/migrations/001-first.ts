import { sql, type Kysely, type Migration } from 'kysely';

export const first: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await db.schema
      .createTable('studio')
      .addColumn('id', 'text', (c) => c.primaryKey())
      .addColumn('name', 'text', (c) => c.notNull())
      .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
      .execute();
    await db.schema
      .createTable('piece')
      .addColumn('id', 'text', (c) => c.primaryKey())
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('title', 'text', (c) => c.notNull())
      .addColumn('summary', 'text', (c) => c.notNull())
      .addColumn('document', 'jsonb', (c) => c.notNull())
      .addColumn('revision', 'integer', (c) => c.notNull())
      .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
      .addColumn('worked_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`clock_timestamp()`))
      .addColumn('deleted_at', 'timestamptz')
      .execute();
    await db.schema.createIndex('piece_by_work').on('piece').columns(['studio_id', 'worked_at']).execute();
    await db.schema
      .createTable('edit')
      .addColumn('piece_id', 'text', (c) => c.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('revision', 'integer', (c) => c.notNull())
      .addColumn('kind', 'text', (c) => c.notNull().check(sql`kind in ('do', 'follow', 'undo', 'redo')`))
      .addColumn('edit', 'jsonb', (c) => c.notNull())
      .addColumn('inverse', 'jsonb', (c) => c.notNull())
      .addColumn('what', 'text', (c) => c.notNull())
      .addColumn('save_id', 'text', (c) => c.notNull())
      .addColumn('made_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
      .addPrimaryKeyConstraint('edit_key', ['piece_id', 'revision'])
      .execute();
    await db.schema
      .createTable('refused_save')
      .addColumn('id', 'text', (c) => c.primaryKey())
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (c) => c.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('base_revision', 'integer', (c) => c.notNull())
      .addColumn('found_revision', 'integer', (c) => c.notNull())
      .addColumn('document', 'jsonb', (c) => c.notNull())
      .addColumn('refused_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
      .addColumn('settled_at', 'timestamptz')
      .execute();
  },
};
