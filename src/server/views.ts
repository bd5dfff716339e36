import { z } from 'zod';
import type { Actor } from './actor';
import type { Db } from './db/connection';
import { backgroundOf, openDesk } from './desk';
import { instrumentId, pieceId } from './ids';
import { listClips } from './repositories/clips';
import { openRequests } from './repositories/desk';
import { historyLines } from './repositories/history';
import { choiceCounts, latestFit } from './repositories/learning';
import { listOriginals } from './repositories/originals';
import { listPieces, listSetups } from './repositories/pieces';
import { instrumentChanges, listInstruments } from './repositories/rack';
import { studioView, type StudioView } from './repositories/studios';
import { today } from './today';

/** What a page shows beside the studio: read by a schema from the address, null where there is no such thing. */
const view = <Given extends z.ZodObject, Out>(
  given: Given,
  read: (db: Db, actor: Actor, asked: z.output<Given>) => Promise<Out | null>,
) => ({ given, read });

const NOTHING = z.object({});
const ofPiece = z.object({ piece: pieceId });

/**
 * Pages are the same for everyone and built once; what they show comes from here, by the name of the view. A view
 * answers for the actor's studio alone.
 */
export const VIEWS = {
  /** The studio itself, which every view brings along when it is wanted. */
  studio: view(NOTHING, () => Promise.resolve({})),
  shelf: view(NOTHING, async (db, actor) => {
    const [page, requests] = await Promise.all([listPieces(db, actor), openRequests(db, actor)]);
    return { page, requests, today: today() };
  }),
  desk: view(NOTHING, async (db, actor) => ({ desk: await openDesk(db, actor), today: today() })),
  setups: view(NOTHING, async (db, actor) => ({ parts: await listSetups(db, actor) })),
  /** The set-up of a piece's part, the first of its parts where none is named: to tune to. */
  tune: view(ofPiece.extend({ part: z.string().max(120).optional() }), async (db, actor, { piece, part }) => {
    const setups = await listSetups(db, actor);
    const found = setups.find((one) => one.piece === piece && (part === undefined || one.partId === part));
    return { setup: found?.setup ?? null };
  }),
  instrument: view(z.object({ instrument: instrumentId }), async (db, actor, { instrument }) => {
    const entry = (await listInstruments(db, actor)).find((one) => one.instrument.id === instrument);
    return entry ? { entry, changes: await instrumentChanges(db, actor, instrument) } : null;
  }),
  weights: view(NOTHING, async (db, actor) => {
    const [counts, fit] = await Promise.all([choiceCounts(db, actor), latestFit(db, actor)]);
    return { counts, fit };
  }),
  about: view(ofPiece, async (db, actor, { piece }) => {
    const [background, history] = await Promise.all([backgroundOf(db, actor, piece), historyLines(db, actor, piece)]);
    return { background, history, today: today() };
  }),
  files: view(ofPiece, async (db, actor, { piece }) => ({ originals: await listOriginals(db, actor, piece) })),
  clips: view(ofPiece, async (db, actor, { piece }) => ({ clips: await listClips(db, actor, piece) })),
};

export type ViewName = keyof typeof VIEWS;
/** What each view gives. */
export type Views = { readonly [Name in ViewName]: NonNullable<Awaited<ReturnType<(typeof VIEWS)[Name]['read']>>> };

export interface ViewAnswer<Name extends ViewName> {
  readonly data: Views[Name];
  /** Where it was asked for: a page that has it does not ask again. */
  readonly studio?: StudioView;
}

/** What a page asks for by its address: null where there is no such view, thing or id. */
export async function answerView(
  db: Db,
  actor: Actor,
  name: string,
  asked: URLSearchParams,
): Promise<ViewAnswer<ViewName> | null> {
  if (!Object.hasOwn(VIEWS, name)) return null;
  const { given, read } = VIEWS[name as ViewName] as ReturnType<typeof view<z.ZodObject, Views[ViewName]>>;
  const parsed = given.safeParse(Object.fromEntries(asked));
  if (!parsed.success) return null;
  const [data, studio] = await Promise.all([
    read(db, actor, parsed.data),
    asked.has('studio') ? studioView(db, actor) : undefined,
  ]);
  return data && { data, ...(studio ? { studio } : {}) };
}
