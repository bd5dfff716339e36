import { sql, type Kysely, type Migration } from 'kysely';

/**
 * The desk: what was asked and promised, series, how pieces belong together, what was handed over; and what search
 * looks through: everything said, and every riff as chains of steps, grips and gaps.
 */
export const desk: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    // Comes with the server; makes parts of words and words with a slip in them quick to find.
    await sql`create extension if not exists pg_trgm`.execute(db);
    const now = sql`clock_timestamp()`;
    await db.schema
      .createTable('series')
      .addColumn('id', 'text', (column) => column.primaryKey())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('document', 'jsonb', (column) => column.notNull())
      .addColumn('changed_at', 'timestamptz', (column) => column.notNull().defaultTo(now))
      .addColumn('deleted_at', 'timestamptz')
      .execute();
    await db.schema.createIndex('series_by_studio').on('series').columns(['studio_id']).execute();
    await db.schema
      .createTable('request')
      .addColumn('id', 'text', (column) => column.primaryKey())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (column) => column.references('piece.id').onDelete('set null'))
      .addColumn('series_id', 'text', (column) => column.references('series.id').onDelete('set null'))
      .addColumn('document', 'jsonb', (column) => column.notNull())
      .addColumn('revision', 'integer', (column) => column.notNull().defaultTo(0))
      .addColumn('changed_at', 'timestamptz', (column) => column.notNull().defaultTo(now))
      .addColumn('deleted_at', 'timestamptz')
      .execute();
    await sql`create index request_open on request (studio_id, (document ->> 'state'), changed_at desc) where deleted_at is null`.execute(
      db,
    );
    await db.schema.createIndex('request_by_piece').on('request').columns(['piece_id']).execute();
    await db.schema
      .createTable('piece_link')
      .addColumn('id', 'text', (column) => column.primaryKey())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (column) => column.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('other_id', 'text', (column) => column.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('kind', 'text', (column) => column.notNull())
      .addColumn('made_at', 'timestamptz', (column) => column.notNull().defaultTo(now))
      .addUniqueConstraint('piece_link_once', ['piece_id', 'other_id', 'kind'])
      .addCheckConstraint('piece_link_two', sql`piece_id <> other_id`)
      .execute();
    await db.schema.createIndex('piece_link_back').on('piece_link').columns(['other_id']).execute();
    await db.schema
      .createTable('handout')
      .addColumn('id', 'text', (column) => column.primaryKey())
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (column) => column.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('document', 'jsonb', (column) => column.notNull())
      .addColumn('made_at', 'timestamptz', (column) => column.notNull().defaultTo(now))
      .execute();
    await db.schema.createIndex('handout_by_piece').on('handout').columns(['piece_id', 'made_at']).execute();
    await sql`create index handout_lately on handout (studio_id, (document ->> 'on') desc)`.execute(db);
    await sql`
      create table said (
        id bigint generated always as identity primary key,
        studio_id text not null references studio (id),
        piece_id text references piece (id) on delete cascade,
        request_id text references request (id) on delete cascade,
        kind text not null,
        words text not null,
        place jsonb not null,
        lexemes tsvector generated always as (to_tsvector('simple', words)) stored
      )`.execute(db);
    await sql`create index said_lexemes on said using gin (lexemes)`.execute(db);
    await sql`create index said_words on said using gin (words gin_trgm_ops)`.execute(db);
    await db.schema.createIndex('said_by_piece').on('said').columns(['piece_id']).execute();
    await db.schema.createIndex('said_by_request').on('said').columns(['request_id']).execute();
    await db.schema
      .createTable('riff_music')
      .addColumn('studio_id', 'text', (column) => column.notNull().references('studio.id'))
      .addColumn('piece_id', 'text', (column) => column.notNull().references('piece.id').onDelete('cascade'))
      .addColumn('part_id', 'text', (column) => column.notNull())
      .addColumn('riff_id', 'text', (column) => column.notNull())
      .addColumn('riff_name', 'text', (column) => column.notNull())
      .addColumn('part_name', 'text', (column) => column.notNull())
      .addColumn('high', 'text', (column) => column.notNull())
      .addColumn('low', 'text', (column) => column.notNull())
      .addColumn('shape', 'text', (column) => column.notNull())
      .addColumn('rhythm', 'text', (column) => column.notNull())
      .addColumn('anchors', 'jsonb', (column) => column.notNull())
      .addColumn('setup', 'jsonb', (column) => column.notNull())
      .addPrimaryKeyConstraint('riff_music_key', ['piece_id', 'riff_id'])
      .execute();
    await db.schema.createIndex('riff_music_by_studio').on('riff_music').columns(['studio_id']).execute();
  },
};
