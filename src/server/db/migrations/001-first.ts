import { sql, type Kysely, type Migration } from 'kysely';

export const first: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await db.schema
      .createTable('studio')
      .addColumn('id', 'text', (column) => column.primaryKey())
      .addColumn('name', 'text', (column) => column.notNull())
      .addColumn('created_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`now()`))
      .execute();
    await db.schema
      .createTable('piece')
      .addColumn('id', 'text', (column) => column.primaryKey())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('title', 'text', (column) => column.notNull())
      .addColumn('summary', 'text', (column) => column.notNull())
      .addColumn('document', 'jsonb', (column) => column.notNull())
      .addColumn('revision', 'integer', (column) => column.notNull())
      .addColumn('created_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`now()`))
      .addColumn('worked_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`clock_timestamp()`))
      .addColumn('deleted_at', 'timestamptz')
      .execute();
    await db.schema.createIndex('piece_by_work').on('piece').columns(['studio_id', 'worked_at']).execute();
    await db.schema
      .createTable('edit')
      .addColumn('piece_id', 'text', (column) => column.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('revision', 'integer', (column) => column.notNull())
      .addColumn('kind', 'text', (column) => column.notNull().check(sql`kind in ('do', 'follow', 'undo', 'redo')`))
      .addColumn('edit', 'jsonb', (column) => column.notNull())
      .addColumn('inverse', 'jsonb', (column) => column.notNull())
      .addColumn('what', 'text', (column) => column.notNull())
      .addColumn('save_id', 'text', (column) => column.notNull())
      .addColumn('made_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`now()`))
      .addPrimaryKeyConstraint('edit_key', ['piece_id', 'revision'])
      .execute();
    await db.schema
      .createTable('refused_save')
      .addColumn('id', 'text', (column) => column.primaryKey())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (column) => column.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('base_revision', 'integer', (column) => column.notNull())
      .addColumn('found_revision', 'integer', (column) => column.notNull())
      .addColumn('document', 'jsonb', (column) => column.notNull())
      .addColumn('refused_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`now()`))
      .addColumn('settled_at', 'timestamptz')
      .execute();
  },
};
