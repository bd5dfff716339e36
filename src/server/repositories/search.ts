import type { PieceId, RequestId } from '../ids';
import type { Actor } from '../actor';
import { sql } from 'kysely';
import type { MusicChains, MusicEntry, SaidEntry, WordKind } from '@/core/search';
import { setupSchema, type Setup } from '@/core/instrument';
import type { Db } from '../db/connection';
import type { SaidPlace } from '../db/types';

/** What search looks through, as rows. Every function acts for one studio. */

export interface RiffMusic extends MusicEntry {
  readonly part: string;
  readonly partName: string;
  readonly riff: string;
  readonly riffName: string;
  readonly setup: Setup;
}
/** Something said that was found, with the piece or the request it belongs to. */
export interface FoundWords {
  readonly kind: WordKind;
  readonly words: string;
  readonly place: SaidPlace;
  readonly piece: PieceId | null;
  readonly request: RequestId | null;
  /** The title of the piece or the request. */
  readonly title: string;
}
export interface FoundRiff extends RiffMusic {
  readonly piece: PieceId;
  readonly title: string;
}

/** What is found at most. */
export const FOUND_MOST = 120;
/** Rows written in one statement. */
const BATCH = 500;

/** Writes what is said in a piece or a request, over what was known of it. */
export async function replaceSaid(
  db: Db,
  actor: Actor,
  of: { readonly piece: PieceId } | { readonly request: RequestId },
  entries: readonly SaidEntry[],
): Promise<void> {
  const [piece, request] = 'piece' in of ? [of.piece, null] : [null, of.request];
  await db
    .deleteFrom('said')
    .where('studio_id', '=', actor.studio)
    .where(piece === null ? 'request_id' : 'piece_id', '=', (piece ?? request) as never)
    .execute();
  for (let i = 0; i < entries.length; i += BATCH)
    await db
      .insertInto('said')
      .values(
        entries.slice(i, i + BATCH).map(({ kind, words, ...place }) => ({
          ...{ studio_id: actor.studio, piece_id: piece, request_id: request, kind, words },
          place: JSON.stringify(place),
        })),
      )
      .execute();
}

export async function replaceMusic(db: Db, actor: Actor, piece: PieceId, riffs: readonly RiffMusic[]): Promise<void> {
  await db.deleteFrom('riff_music').where('studio_id', '=', actor.studio).where('piece_id', '=', piece).execute();
  for (let i = 0; i < riffs.length; i += BATCH)
    await db
      .insertInto('riff_music')
      .values(
        riffs.slice(i, i + BATCH).map((one) => ({
          ...{ studio_id: actor.studio, piece_id: piece, part_id: one.part, part_name: one.partName },
          ...{ riff_id: one.riff, riff_name: one.riffName },
          ...{ high: one.high, low: one.low, shape: one.shape, rhythm: one.rhythm },
          ...{ anchors: JSON.stringify(one.anchors), setup: JSON.stringify(one.setup) },
        })),
      )
      .execute();
}

const escaped = (word: string): string => word.replace(/[\\%_]/g, '\\$&');

/**
 * Everything said that holds all words sought, the last of them perhaps begun only; where that is little, what holds
 * something much like it, so that a slip of the finger finds too. Names come before remarks.
 */
export async function findWords(db: Db, actor: Actor, sought: string): Promise<FoundWords[]> {
  const words =
    sought
      .toLowerCase()
      .match(/[\p{L}\p{N}]+/gu)
      ?.slice(0, 12) ?? [];
  if (words.length === 0) return [];
  const query = words.map((word, i) => (i === words.length - 1 ? `${word}:*` : word)).join(' & ');
  const whole = escaped(sought.trim());
  // One statement for each way, so that each uses its own index; joined, the planner looks at every row.
  const from = (condition: ReturnType<typeof sql>, rank: ReturnType<typeof sql>) =>
    sql<FoundRow>`
      select said.kind, said.words, said.place, said.piece_id, said.request_id,
        coalesce(piece.title, request.document ->> 'title') as title, ${rank} as rank
      from said
      left join piece on piece.id = said.piece_id
      left join request on request.id = said.request_id
      where said.studio_id = ${actor.studio} and ${condition}
        and (piece.id is not null and piece.deleted_at is null or request.id is not null and request.deleted_at is null)
      order by rank desc, said.id
      limit ${FOUND_MOST}`.execute(db);
  const known = sql`ts_rank(said.lexemes, to_tsquery('simple', ${query}))
    + case said.kind when 'title' then 3 when 'riff' then 2 when 'request' then 2 when 'section' then 1 else 0 end`;
  const exact = await from(sql`said.lexemes @@ to_tsquery('simple', ${query})`, known);
  const rows = [...exact.rows];
  if (rows.length < 5 && whole.length >= 3) {
    const within = await from(sql`said.words ilike ${`%${whole}%`}`, sql`1`);
    const like = await from(sql`${sought.trim()} <% said.words`, sql`word_similarity(${sought.trim()}, said.words)`);
    rows.push(...within.rows, ...like.rows);
  }
  const seen = new Set<string>();
  return rows.flatMap((row) => {
    const key = JSON.stringify([row.piece_id, row.request_id, row.kind, row.words, row.place]);
    if (seen.has(key) || seen.size >= FOUND_MOST) return [];
    seen.add(key);
    return [
      {
        ...{ kind: row.kind, words: row.words, place: row.place, title: row.title ?? '' },
        ...{ piece: row.piece_id, request: row.request_id },
      },
    ];
  });
}

interface FoundRow {
  readonly kind: WordKind;
  readonly words: string;
  readonly place: SaidPlace;
  readonly piece_id: PieceId | null;
  readonly request_id: RequestId | null;
  readonly title: string | null;
}

/** Riffs of the studio that hold one of the chains sought. */
export async function findMusic(db: Db, actor: Actor, sought: MusicChains): Promise<FoundRiff[]> {
  const rows = await db
    .selectFrom('riff_music')
    .innerJoin('piece', 'piece.id', 'riff_music.piece_id')
    .selectAll('riff_music')
    .select('piece.title')
    .where('riff_music.studio_id', '=', actor.studio)
    .where('piece.deleted_at', 'is', null)
    .where((where) => {
      const holds = (column: 'high' | 'low' | 'shape' | 'rhythm') =>
        sql<boolean>`position(${sought[column]} in riff_music.${sql.ref(column)}) > 0`;
      return where.or([
        where.and([holds('high'), holds('low')]),
        ...(sought.shape.includes('?') ? [] : [holds('shape')]),
        ...(sought.rhythm === '' ? [] : [holds('rhythm')]),
      ]);
    })
    // What sounds alike comes first: rhythms alone are many.
    .orderBy(sql`(position(${sought.high} in riff_music.high) > 0) desc`)
    .orderBy(sql`(position(${sought.shape} in riff_music.shape) > 0) desc`)
    .limit(FOUND_MOST)
    .execute();
  return rows.flatMap((row) => {
    const setup = setupSchema.safeParse(row.setup);
    if (!setup.success) return [];
    return [
      {
        ...{ piece: row.piece_id, title: row.title, part: row.part_id, partName: row.part_name },
        ...{ riff: row.riff_id, riffName: row.riff_name, setup: setup.data, anchors: row.anchors },
        ...{ high: row.high, low: row.low, shape: row.shape, rhythm: row.rhythm },
      },
    ];
  });
}
