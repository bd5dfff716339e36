'use server';

import { z } from 'zod';
import type { Finding, Result } from '@/core/base';
import type { Piece } from '@/core/score';
import { handoutSchema, linkKindSchema, requestSchema, seriesSchema, versionSchema } from '@/core/desk';
import { action } from '@/server/action';
import {
  handOver,
  keepRequest,
  keepSeries,
  linkPieces,
  makeRequested,
  makeVersion,
  openDesk,
  type Desk,
} from '@/server/desk';
import { handoutId, linkId, pieceId, requestId, seriesId, type SeriesId } from '@/server/ids';
import { createPiece, pastPiece, type PastPiece } from '@/server/pieces';
import { makeStudioSetup } from '@/server/rack';
import {
  deleteHandout,
  deleteLink,
  deleteSeries,
  setRequestDeleted,
  type KeptHandout,
  type KeptLink,
  type KeptRequest,
} from '@/server/repositories/desk';
import { historyLines, type HistoryLine } from '@/server/repositories/history';
import { getPiece, listPieces } from '@/server/repositories/pieces';
import type { FoundWords } from '@/server/repositories/search';
import { searchMusic, searchWords, type MusicHit } from '@/server/search';

const refused = (error: Finding): { readonly ok: false; readonly error: Finding } => ({ ok: false, error });

export const deskAction = action('read', z.tuple([]), ({ actor, db }): Promise<Desk> => openDesk(db, actor));

export const keepRequestAction = action(
  'write',
  z.tuple([
    requestId.nullable(),
    z.number().int().min(0),
    z.object({ request: requestSchema, series: seriesId.nullable(), piece: pieceId.nullable() }),
  ]),
  ({ actor, db }, id, revision, draft): Promise<Result<KeptRequest>> => keepRequest(db, actor, id, revision, draft),
  refused,
);

export const deleteRequestAction = action('write', z.tuple([requestId, z.boolean()]), ({ actor, db }, id, deleted) =>
  setRequestDeleted(db, actor, id, deleted),
);

export const makeRequestedAction = action(
  'write',
  z.tuple([requestId]),
  ({ actor, db }, id): Promise<Result<KeptRequest>> => makeRequested(db, actor, id),
  refused,
);

export const keepSeriesAction = action(
  'write',
  z.tuple([seriesId.nullable(), seriesSchema]),
  ({ actor, db }, id, series): Promise<Result<SeriesId>> => keepSeries(db, actor, id, series),
  refused,
);

export const deleteSeriesAction = action('write', z.tuple([seriesId]), ({ actor, db }, id) =>
  deleteSeries(db, actor, id),
);

export const linkAction = action(
  'write',
  z.tuple([z.object({ piece: pieceId, other: pieceId, kind: linkKindSchema })]),
  ({ actor, db }, link): Promise<Result<readonly KeptLink[]>> => linkPieces(db, actor, link),
  refused,
);

/** Makes another version of a piece, linked to it; gives the path of the new one. */
export const makeVersionAction = action(
  'write',
  z.tuple([pieceId, versionSchema]),
  async ({ actor, db }, piece, version): Promise<Result<string>> => {
    const made = await makeVersion(db, actor, piece, version);
    return made.ok ? { ok: true, value: `/pieces/${made.value}` } : made;
  },
  refused,
);

export const unlinkAction = action('write', z.tuple([linkId]), ({ actor, db }, id) => deleteLink(db, actor, id));

export const handOverAction = action(
  'write',
  z.tuple([pieceId, handoutSchema]),
  ({ actor, db }, piece, handout): Promise<Result<readonly KeptHandout[]>> => handOver(db, actor, piece, handout),
  refused,
);

export const takeBackHandoutAction = action('write', z.tuple([handoutId]), ({ actor, db }, id) =>
  deleteHandout(db, actor, id),
);

export const searchWordsAction = action(
  'read',
  z.tuple([z.string().max(200)]),
  ({ actor, db }, words): Promise<FoundWords[]> => searchWords(db, actor, words),
);

/** Calls are read in a set-up given by its instrument and tuning, as a new piece's is. */
export const searchMusicAction = action(
  'read',
  z.tuple([z.string().max(2000), z.object({ instrument: z.string().max(60), tuning: z.string().max(120) })]),
  async ({ actor, db }, calls, place): Promise<Result<MusicHit[]>> => {
    const made = await makeStudioSetup(db, actor, { ...place, capo: [] });
    return made.ok ? searchMusic(db, actor, calls, made.value.setup) : made;
  },
  refused,
);

const revisions = z.number().int().min(0).max(2_000_000_000);

/** What was done to a piece in words, from below a revision on. */
export const historyLinesAction = action(
  'read',
  z.tuple([pieceId, revisions]),
  ({ actor, db }, piece, below): Promise<HistoryLine[]> => historyLines(db, actor, piece, below),
);

/** A piece as it was after one of its steps. */
export const pastPieceAction = action(
  'read',
  z.tuple([pieceId, revisions]),
  ({ actor, db }, piece, revision): Promise<Result<PastPiece>> => pastPiece(db, actor, piece, revision),
  refused,
);

/** Makes a piece of its own of one as it was. */
export const copyPastAction = action(
  'write',
  z.tuple([pieceId, revisions]),
  async ({ actor, db }, piece, revision): Promise<Result<string>> => {
    const past = await pastPiece(db, actor, piece, revision);
    if (!past.ok) return past;
    const { document } = past.value;
    const made = await createPiece(db, actor, { ...document, title: `${document.title} (as it was)`.slice(0, 160) });
    return made.ok ? { ok: true, value: `/pieces/${made.value.id}` } : made;
  },
  refused,
);

/** The pieces a piece can be linked to or compared with: by title, those that hold the words. */
export const choosePieceAction = action('read', z.tuple([z.string().max(160)]), async ({ actor, db }, search) =>
  (await listPieces(db, actor, { search, sort: 'title' })).entries.map(({ id, title }) => ({ id, title })),
);

/** Another piece whole, to be compared with. */
export const otherPieceAction = action(
  'read',
  z.tuple([pieceId]),
  async ({ actor, db }, piece): Promise<Piece | null> => (await getPiece(db, actor, piece))?.document ?? null,
);
