import type { Actor } from './actor';
import type { HandoutId, LinkId, PieceId, RequestId, SeriesId } from './ids';
import { randomBytes } from 'node:crypto';
import { fail, ok, type Result } from '@/core/base';
import { VERSION_WORDS, type Handout, type LinkKind, type Request, type Series, type Version } from '@/core/desk';
import { makePiece, PROGRAM_COSTS } from '@/core/score';
import { together, type Db } from './db/connection';
import { createPiece } from './pieces';
import {
  getRequest,
  handoutsOf,
  insertHandout,
  insertLink,
  insertRequest,
  lastHandouts,
  linksOf,
  listRequests,
  listSeries,
  putSeries,
  requestsOf,
  updateRequest,
  type HandedOver,
  type KeptHandout,
  type KeptLink,
  type KeptRequest,
  type KeptSeries,
} from './repositories/desk';
import { currentCosts } from './repositories/learning';
import { getPiece, havePieces } from './repositories/pieces';
import { indexRequest } from './search';

/** The desk: requests and promises, series, how pieces belong together, what was handed over. */

export interface Desk {
  readonly requests: readonly KeptRequest[];
  readonly series: readonly KeptSeries[];
  /** What was handed to whom, the last first. */
  readonly handed: readonly HandedOver[];
}

/** What stands behind a piece. */
export interface Background {
  readonly requests: readonly KeptRequest[];
  readonly links: readonly KeptLink[];
  readonly handouts: readonly KeptHandout[];
}

/** A request as it is to be kept. */
export interface RequestDraft {
  readonly request: Request;
  readonly series: SeriesId | null;
  readonly piece: PieceId | null;
}

const newId = <Id extends string>(): Id => randomBytes(6).toString('hex') as Id;

export async function openDesk(db: Db, actor: Actor): Promise<Desk> {
  const [requests, series, handed] = await Promise.all([
    listRequests(db, actor),
    listSeries(db, actor),
    lastHandouts(db, actor),
  ]);
  return { requests, series, handed };
}

export async function backgroundOf(db: Db, actor: Actor, piece: PieceId): Promise<Background> {
  const [requests, links, handouts] = await Promise.all([
    requestsOf(db, actor, piece),
    linksOf(db, actor, piece),
    handoutsOf(db, actor, piece),
  ]);
  return { requests, links, handouts };
}

const GONE = 'This request is not on the desk any more.';

/**
 * Keeps a request: a new one where `id` is null, else over the revision it was opened at. What somebody else changed
 * meanwhile is never written over: the answer is then a fault, and what they wrote stands.
 */
export async function keepRequest(
  db: Db,
  actor: Actor,
  id: RequestId | null,
  revision: number,
  draft: RequestDraft,
): Promise<Result<KeptRequest>> {
  return together(db, async (tx) => {
    const series = draft.series && (await listSeries(tx, actor)).some((one) => one.id === draft.series);
    if (draft.series && !series) return fail('no-series', 'This series is not there any more.', 'series');
    if (draft.piece && !(await havePieces(tx, actor, [draft.piece])))
      return fail('no-piece', 'The piece of this request is not on the shelf any more.', 'piece');
    const before = id === null ? null : await getRequest(tx, actor, id);
    if (id !== null && !before) return fail('no-request', GONE, id);
    const own = id ?? newId<RequestId>();
    if (id === null) await insertRequest(tx, actor, own, draft);
    else if (!(await updateRequest(tx, actor, id, revision, draft)))
      return fail(
        'stale',
        'This request was changed in another window meanwhile. Open it again; what you typed is still here to be copied.',
        id,
      );
    await indexRequest(tx, actor, own, draft.request);
    const kept = await getRequest(tx, actor, own);
    return kept ? ok(kept) : fail('no-request', GONE, own);
  });
}

/** Makes the piece that was asked for, in one step: with its title and credit; the request stays with it. */
export async function makeRequested(db: Db, actor: Actor, id: RequestId): Promise<Result<KeptRequest>> {
  const found = await getRequest(db, actor, id);
  if (!found) return fail('no-request', GONE, id);
  if (found.piece) return ok(found);
  const { request } = found;
  const costs = (await currentCosts(db, actor)) ?? PROGRAM_COSTS;
  const made = await createPiece(
    db,
    actor,
    makePiece('new', request.title, { costs, ...(request.credit ? { credit: request.credit } : {}) }),
  );
  if (!made.ok) return made;
  const state = request.state === 'asked' || request.state === 'accepted' ? ('working' as const) : request.state;
  return keepRequest(db, actor, id, found.revision, {
    ...{ request: { ...request, state }, series: found.series, piece: made.value.id as PieceId },
  });
}

export async function keepSeries(db: Db, actor: Actor, id: SeriesId | null, series: Series): Promise<Result<SeriesId>> {
  const own = id ?? newId<SeriesId>();
  return (await putSeries(db, actor, own, series))
    ? ok(own)
    : fail('no-series', 'This series is not there any more.', own);
}

/**
 * Another version of a piece, to be worked out on its own: a copy that says which version it is, linked to the first.
 * From then on nothing of one goes into the other.
 */
export async function makeVersion(db: Db, actor: Actor, id: PieceId, version: Version): Promise<Result<PieceId>> {
  return together(db, async (tx) => {
    const piece = await getPiece(tx, actor, id);
    if (!piece) return fail('no-piece', 'This piece is not on the shelf any more.', id);
    const { document } = piece;
    const made = await createPiece(tx, actor, {
      ...document,
      title: `${document.title} (${VERSION_WORDS[version].replace(/^(an?|the) /, '')})`.slice(0, 160),
      // What the first rests on says nothing of the other.
      source: { version, name: '', evidence: [], authorship: document.source?.authorship ?? '' },
    });
    if (!made.ok) return made;
    const other = made.value.id as PieceId;
    await insertLink(tx, actor, newId<LinkId>(), { piece: other, other: id, kind: 'other version' });
    return ok(other);
  });
}

export async function linkPieces(
  db: Db,
  actor: Actor,
  link: { readonly piece: PieceId; readonly other: PieceId; readonly kind: LinkKind },
): Promise<Result<readonly KeptLink[]>> {
  if (link.piece === link.other) return fail('same-piece', 'A piece is not linked to itself.', 'other');
  const made = await insertLink(db, actor, newId<LinkId>(), link);
  if (!made) return fail('no-piece', 'One of the pieces is not on the shelf any more.', 'other');
  return ok(await linksOf(db, actor, link.piece));
}

export async function handOver(
  db: Db,
  actor: Actor,
  piece: PieceId,
  handout: Handout,
): Promise<Result<readonly KeptHandout[]>> {
  if (!(await insertHandout(db, actor, newId<HandoutId>(), piece, handout)))
    return fail('no-piece', 'This piece is not on the shelf any more.', 'piece');
  return ok(await handoutsOf(db, actor, piece));
}
