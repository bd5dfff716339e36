import { z } from 'zod';
import { migrateEdit, readEdit } from '@/core/edit';
import { handoutSchema, linkKindSchema, requestSchema, seriesSchema } from '@/core/desk';
import { costTableSchema } from '@/core/hand';
import { clipDocumentSchema } from '@/core/hearing';
import { ownTuningSchema, rackInstrumentSchema } from '@/core/instrument';
import { schoolsSchema } from '@/core/schools';
import { checkPiece, playerSchema, readPiece } from '@/core/score';
import type { Database } from '../db/types';

/** What of a studio goes into an archive, in the order it can be put back: what is pointed at comes first. */

export interface ArchivedTable {
  readonly name: keyof Database;
  /** What tells a row from others. */
  readonly key: readonly string[];
  /** Columns whose values are JSON. */
  readonly json: readonly string[];
  /** Columns a database gives itself. */
  readonly own?: readonly string[];
  /** Left out of the table's file: they are files of their own. */
  readonly apart?: readonly string[];
  /** The column that names the piece a row belongs to: it comes only with that piece. */
  readonly piece?: string;
  /** Columns that may name a piece which did not come along: then they name none. */
  readonly loose?: readonly string[];
  /** Why a row may not be kept; null where it may. */
  readonly check?: (row: Readonly<Record<string, unknown>>) => string | null;
}

const by =
  (column: string, schema: z.ZodType) =>
  (row: Readonly<Record<string, unknown>>): string | null => {
    const read = schema.safeParse(row[column]);
    const issue = read.success ? undefined : read.error.issues[0];
    return issue ? `${column}.${issue.path.join('.')}: ${issue.message}` : null;
  };

const wholePiece =
  (column: string) =>
  (row: Readonly<Record<string, unknown>>): string | null => {
    const read = readPiece(row[column]);
    if (!read.ok) return read.error.words;
    const checked = checkPiece(read.value);
    return checked.ok ? null : checked.error.words;
  };

const plain = { json: ['document'] } as const;

export const ARCHIVED: readonly ArchivedTable[] = [
  { name: 'setting', key: ['studio_id'], json: ['schools'], check: by('schools', schoolsSchema) },
  {
    name: 'cost_table',
    key: ['studio_id', 'version'],
    json: ['weights'],

    check: by('weights', costTableSchema),
  },
  { name: 'player', key: ['studio_id', 'id'], ...plain, check: by('document', playerSchema) },
  { name: 'instrument', key: ['id'], ...plain, check: by('document', rackInstrumentSchema) },
  {
    name: 'instrument_change',
    key: ['instrument_id', 'revision'],
    ...plain,
    check: by('document', rackInstrumentSchema),
  },
  { name: 'tuning', key: ['studio_id', 'id'], ...plain, check: by('document', ownTuningSchema) },
  {
    name: 'tuner_reading',
    key: ['instrument_id', 'string', 'kind', 'capo', 'read_at'],
    json: [],

    own: ['id'],
  },
  { name: 'series', key: ['id'], ...plain, check: by('document', seriesSchema) },
  { name: 'piece', key: ['id'], ...plain, piece: 'id', check: wholePiece('document') },
  {
    name: 'edit',
    key: ['piece_id', 'revision'],
    json: ['edit', 'inverse'],

    piece: 'piece_id',
    check: (row) => {
      if (row.condensed === true) return null;
      for (const column of ['edit', 'inverse']) {
        const read = readEdit(migrateEdit(row[column], Number(row.version)));
        if (!read.ok) return read.error.words;
      }
      return null;
    },
  },
  { name: 'refused_save', key: ['id'], ...plain, piece: 'piece_id', check: wholePiece('document') },
  {
    name: 'choice',
    key: ['piece_id', 'riff_id', 'phrase'],
    json: ['sample', 'alternatives'],

    piece: 'piece_id',
  },
  {
    name: 'clip',
    key: ['id'],
    json: ['document'],
    piece: 'piece_id',
    check: by('document', clipDocumentSchema),
  },
  { name: 'original', key: ['id'], json: [], apart: ['bytes'], piece: 'piece_id' },
  { name: 'request', key: ['id'], ...plain, loose: ['piece_id', 'series_id'], check: by('document', requestSchema) },
  { name: 'piece_link', key: ['id'], json: [], piece: 'piece_id', check: by('kind', linkKindSchema) },
  { name: 'handout', key: ['id'], ...plain, piece: 'piece_id', check: by('document', handoutSchema) },
];

export const ARCHIVE = {
  format: 'intonazione-archive',
  version: 1,
  /** The first file says what this is, the last what every other must be. */
  head: 'intonazione-archive.json',
  manifest: 'manifest.json',
} as const;

export const ARCHIVE_LIMITS = {
  /** Of the archive as it comes, unpacked, of one table, and of one file beside the tables. */
  ...{ bytes: 4 * 1024 ** 3, unpacked: 8 * 1024 ** 3, table: 512 * 1024 ** 2, file: 300 * 1024 ** 2 },
  files: 200_000,
} as const;

export const headSchema = z.object({
  format: z.literal(ARCHIVE.format),
  version: z.literal(ARCHIVE.version),
  madeAt: z.string(),
});
export const manifestSchema = z.object({
  files: z.array(
    z.object({ path: z.string().max(300), bytes: z.number().int().min(0), sha256: z.string().length(64) }),
  ),
});
export type Manifest = z.infer<typeof manifestSchema>;
