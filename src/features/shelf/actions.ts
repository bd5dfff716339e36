'use server';

import { z } from 'zod';
import { makePart, makePiece, makeRiff, pieceSchema, PROGRAM_COSTS, type PieceCosts } from '@/core/score';
import { parseMeter, quarter } from '@/core/time';
import { pieceId } from '@/server/ids';
import { action, type ActionRequest } from '@/server/action';
import { createPiece, duplicatePiece } from '@/server/pieces';
import { makeStudioSetup } from '@/server/rack';
import { currentCosts } from '@/server/repositories/learning';
import { listPieces, setDeleted, type ShelfPage } from '@/server/repositories/pieces';

const newPiece = z.object({
  title: pieceSchema.shape.title,
  instrument: z.string().max(60),
  tuning: z.string().max(120),
  capo: z.array(z.object({ fret: z.number(), strings: z.array(z.number()).max(12).nullable() })).max(4),
  tempo: z.coerce.number().min(10, 'a tempo from 10 to 500').max(500, 'a tempo from 10 to 500'),
  meter: z.string().max(10),
  /** What was said rather than left as offered: the rest is kept as unsaid. */
  stated: z.object({ tempo: z.boolean(), tuning: z.boolean() }).default({ tempo: true, tuning: true }),
});

export type Made =
  { readonly ok: true; readonly path: string } | { readonly ok: false; readonly at: string; readonly message: string };

/** A new piece keeps the weights it is placed by: the studio's own, or the program's of today. */
async function ownCosts({ db, actor }: ActionRequest): Promise<{ costs: PieceCosts }> {
  return { costs: (await currentCosts(db, actor)) ?? PROGRAM_COSTS };
}

const NO_TITLE = { ok: false, at: 'title', message: 'Give the piece a name of 1 to 160 characters.' } as const;

/** Makes a piece with one part and one empty riff, ready to be called. */
export const newPieceAction = action(
  'write',
  z.tuple([newPiece]),
  async (request, { title, tempo, meter, stated: stated, ...setup }): Promise<Made> => {
    const { db, actor } = request;
    const made = await makeStudioSetup(db, actor, setup);
    if (!made.ok) return { ok: false, at: String(made.error.locus.path?.[0] ?? 'tuning'), message: made.error.words };
    const beats = parseMeter(meter);
    if (!beats) return { ok: false, at: 'meter', message: `"${meter}" is no meter. Write it as 4/4 or 6/8.` };
    const riff = makeRiff('r0', 'First riff', { bars: 2, meters: [{ bar: 0, ...beats }] });
    const part = makePart('p0', made.value.setup.instrument.name.split(',')[0] ?? 'Guitar', made.value.setup, {
      riffs: [riff],
      ...(stated.tuning ? {} : { unspecified: ['tuning' as const] }),
    });
    const piece = await createPiece(
      db,
      actor,
      makePiece('new', title, {
        parts: [part],
        context: { tempo: [{ at: quarter(0), bpm: tempo }], key: [] },
        ...(stated.tempo ? {} : { unspecified: ['tempo' as const] }),
        ...(await ownCosts(request)),
      }),
    );
    return piece.ok
      ? { ok: true, path: `/pieces/${piece.value.id}/riffs/r0` }
      : { ok: false, at: 'title', message: piece.error.words };
  },
  ({ locus, words }): Made => {
    const at = String(locus.path?.[0] ?? 'title');
    return at === 'title' ? NO_TITLE : { ok: false, at, message: words };
  },
);

/** Makes an empty piece that a file is then brought into. */
export const emptyPieceAction = action(
  'write',
  z.tuple([pieceSchema.shape.title]),
  async (request, title): Promise<Made> => {
    const piece = await createPiece(request.db, request.actor, makePiece('new', title, await ownCosts(request)));
    return piece.ok
      ? { ok: true, path: `/pieces/${piece.value.id}/bring-in` }
      : { ok: false, at: 'title', message: piece.error.words };
  },
  () => NO_TITLE,
);

export const listAction = action(
  'read',
  z.tuple([
    z.object({
      search: z.string().max(200),
      sort: z.enum(['work', 'title']),
      from: z.number().int().min(0).max(1_000_000),
    }),
  ]),
  ({ actor, db }, query): Promise<ShelfPage> => listPieces(db, actor, query),
);

export const duplicateAction = action('write', z.tuple([pieceId]), async ({ actor, db }, piece): Promise<Made> => {
  const copy = await duplicatePiece(db, actor, piece);
  return copy.ok
    ? { ok: true, path: `/pieces/${copy.value.id}` }
    : { ok: false, at: 'title', message: copy.error.words };
});

export const deleteAction = action('write', z.tuple([pieceId, z.boolean()]), ({ actor, db }, piece, deleted) =>
  setDeleted(db, actor, piece, deleted),
);
