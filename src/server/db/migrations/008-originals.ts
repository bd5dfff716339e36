import { sql, type Kysely, type Migration } from 'kysely';

/** Files a piece was made from, kept as they came. */
export const originals: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await db.schema
      .createTable('original')
      .addColumn('id', 'text', (column) => column.primaryKey())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (column) => column.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('name', 'text', (column) => column.notNull())
      .addColumn('type', 'text', (column) => column.notNull())
      .addColumn('mark', 'text', (column) => column.notNull())
      .addColumn('size', 'integer', (column) => column.notNull())
      .addColumn('bytes', 'bytea', (column) => column.notNull())
      .addColumn('made_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`clock_timestamp()`))
      .addUniqueConstraint('original_once', ['piece_id', 'mark'])
      .execute();
    await db.schema.createIndex('original_by_piece').on('original').columns(['studio_id', 'piece_id']).execute();
  },
};
