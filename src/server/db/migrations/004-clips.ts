import { sql, type Kysely, type Migration } from 'kysely';

/** Recordings of a piece, their bytes in chunks that are read by range. */
export const clips: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await db.schema
      .createTable('clip')
      .addColumn('id', 'text', (column) => column.primaryKey())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (column) => column.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('type', 'text', (column) => column.notNull())
      .addColumn('bytes', 'integer', (column) => column.notNull().check(sql`bytes > 0`))
      .addColumn('chunks', 'integer', (column) => column.notNull().defaultTo(0))
      .addColumn('state', 'text', (column) =>
        column
          .notNull()
          .defaultTo('arriving')
          .check(sql`state in ('arriving', 'kept')`),
      )
      .addColumn('seconds', 'float8')
      .addColumn('rate', 'integer')
      .addColumn('channels', 'integer')
      .addColumn('overview', 'bytea')
      .addColumn('document', 'jsonb', (column) => column.notNull())
      .addColumn('revision', 'integer', (column) => column.notNull().defaultTo(0))
      .addColumn('made_at', 'timestamptz', (column) => column.notNull().defaultTo(sql`clock_timestamp()`))
      .addColumn('deleted_at', 'timestamptz')
      .execute();
    await db.schema.createIndex('clip_by_piece').on('clip').columns(['studio_id', 'piece_id', 'made_at']).execute();
    await db.schema
      .createTable('clip_chunk')
      .addColumn('clip_id', 'text', (column) => column.notNull().references('clip.id').onDelete('cascade'))
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('number', 'integer', (column) => column.notNull())
      .addColumn('bytes', 'bytea', (column) => column.notNull())
      .addPrimaryKeyConstraint('clip_chunk_key', ['clip_id', 'number'])
      .execute();
    // Sound does not shrink any more: kept as it came, so that a range of a chunk is read without unpacking it.
    await sql`alter table clip_chunk alter column bytes set storage external`.execute(db);
  },
};
