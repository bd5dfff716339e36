import { type Kysely, type Migration } from 'kysely';
import { UNMARKED } from '@/core/edit';

/**
 * Stored edits say the version of the document they are written for; those from before are of the last unmarked one.
 */
export const editVersion: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await db.schema
      .alterTable('edit')
      .addColumn('version', 'integer', (column) => column.notNull().defaultTo(UNMARKED))
      .execute();
  },
};
