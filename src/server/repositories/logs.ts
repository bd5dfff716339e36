import type { Actor } from '../actor';
import type { Db } from '../db/connection';
import type { PieceId } from '../ids';

/** Logs as rows of a table, to be saved as CSV. Every function acts for one studio. */

export type LogRow = Readonly<Record<string, string | number | null>>;

/** Rows of one log at most: the newest of them. */
export const LOG_ROWS = 100_000;

export async function tunerLog(db: Db, actor: Actor): Promise<LogRow[]> {
  const rows = await db
    .selectFrom('tuner_reading')
    .innerJoin('instrument', (on) =>
      on
        .onRef('instrument.id', '=', 'tuner_reading.instrument_id')
        .onRef('instrument.studio_id', '=', 'tuner_reading.studio_id'),
    )
    .select(['instrument_id', 'instrument.document', 'string', 'kind', 'capo', 'cents', 'read_at'])
    .where('tuner_reading.studio_id', '=', actor.studio)
    .orderBy('read_at', 'desc')
    .limit(LOG_ROWS)
    .execute();
  return rows.reverse().map((row) => ({
    ...{ read_at: row.read_at.toISOString(), instrument: row.document.instrument.name, string: row.string },
    ...{ what: row.kind, capo: row.capo, cents: row.cents },
  }));
}

export async function historyLog(db: Db, actor: Actor, piece: PieceId): Promise<LogRow[]> {
  const rows = await db
    .selectFrom('edit')
    .select(['revision', 'kind', 'what', 'made_at'])
    .where('studio_id', '=', actor.studio)
    .where('piece_id', '=', piece)
    .orderBy('revision', 'desc')
    .limit(LOG_ROWS)
    .execute();
  return rows.reverse().map((row) => ({
    ...{ revision: row.revision, made_at: row.made_at.toISOString(), kind: row.kind, what: row.what },
  }));
}

export async function requestLog(db: Db, actor: Actor): Promise<LogRow[]> {
  const rows = await db
    .selectFrom('request')
    .leftJoin('piece', (on) =>
      on.onRef('piece.id', '=', 'request.piece_id').onRef('piece.studio_id', '=', 'request.studio_id'),
    )
    .select(['request.document', 'piece.title', 'request.changed_at'])
    .where('request.studio_id', '=', actor.studio)
    .where('request.deleted_at', 'is', null)
    .orderBy('request.changed_at', 'desc')
    .limit(LOG_ROWS)
    .execute();
  const items = (list: readonly { kind: string; what: string }[], kind: string): string =>
    list
      .filter((item) => item.kind === kind)
      .map((item) => item.what)
      .join('; ');
  return rows.map(({ document, title, changed_at }) => ({
    ...{ asked: document.asked, asker: document.asker, title: document.title, version: document.version },
    ...{ state: document.state, due: document.due, release: document.release, credit: document.credit },
    ...{ covered: items(document.items, 'covered'), left_out: items(document.items, 'leftOut') },
    ...{ later: items(document.items, 'later'), piece: title, changed_at: changed_at.toISOString() },
  }));
}
