import { sql, type Kysely, type Migration } from 'kysely';

/** Recordings of a piece, their bytes in chunks that are read by range. */
export const clips: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await db.schema
      .createTable('clip')
      .addColumn('id', 'text', (c) => c.primaryKey())
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (c) => c.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('type', 'text', (c) => c.notNull())
      .addColumn('bytes', 'integer', (c) => c.notNull().check(sql`bytes > 0`))
      .addColumn('chunks', 'integer', (c) => c.notNull().defaultTo(0))
      .addColumn('state', 'text', (c) =>
        c
          .notNull()
          .defaultTo('arriving')
          .check(sql`state in ('arriving', 'kept')`),
      )
      .addColumn('seconds', 'float8')
      .addColumn('rate', 'integer')
      .addColumn('channels', 'integer')
      .addColumn('overview', 'bytea')
      .addColumn('document', 'jsonb', (c) => c.notNull())
      .addColumn('revision', 'integer', (c) => c.notNull().defaultTo(0))
      .addColumn('made_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`clock_timestamp()`))
      .addColumn('deleted_at', 'timestamptz')
      .execute();
    await db.schema.createIndex('clip_by_piece').on('clip').columns(['studio_id', 'piece_id', 'made_at']).execute();
    await db.schema
      .createTable('clip_chunk')
      .addColumn('clip_id', 'text', (c) => c.notNull().references('clip.id').onDelete('cascade'))
      .addColumn('studio_id', 'text', (c) => c.notNull().references('studio.id'))
      .addColumn('number', 'integer', (c) => c.notNull())
      .addColumn('bytes', 'bytea', (c) => c.notNull())
      .addPrimaryKeyConstraint('clip_chunk_key', ['clip_id', 'number'])
      .execute();
    // Sound does not shrink any more: kept as it came, so that a range of a chunk is read without unpacking it.
    await sql`alter table clip_chunk alter column bytes set storage external`.execute(db);
  },
};
