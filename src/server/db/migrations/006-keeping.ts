import { sql, type Kysely, type Migration } from 'kysely';

/**
 * A piece's document may be some steps behind its revision: a small save writes its steps alone. Old steps lose what
 * they changed and keep their words.
 */
export const keeping: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await db.schema
      .alterTable('piece')
      .addColumn('document_revision', 'integer', (column) => column.notNull().defaultTo(0))
      .execute();
    await sql`update piece set document_revision = revision`.execute(db);
    await db.schema
      .alterTable('edit')
      .addColumn('condensed', 'boolean', (column) => column.notNull().defaultTo(false))
      .execute();
    // Of the house, not of a studio: which workers of the queue live.
    await db.schema.createSchema('house').execute();
    await db.schema
      .withSchema('house')
      .createTable('job_worker')
      .addColumn('id', 'text', (column) => column.primaryKey())
      .addColumn('beat_at', 'timestamptz', (column) => column.notNull())
      .execute();
    await db.schema.createIndex('edit_by_save').on('edit').columns(['piece_id', 'save_id']).execute();
    await db.schema
      .createIndex('edit_to_condense')
      .on('edit')
      .columns(['made_at'])
      .where(sql.ref('condensed'), '=', false)
      .execute();
  },
};
