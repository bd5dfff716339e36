'use server';

import { z } from 'zod';
import { fail, ok, pathWords, type Result } from '@/core/base';
import { clipDocumentSchema, CLIP_LIMITS } from '@/core/hearing';
import { complete } from '@/server/clips';
import { clipId, pieceId } from '@/server/ids';
import { action } from '@/server/action';
import {
  clipOverview,
  getClip,
  keepClip,
  listClips,
  putClipDocument,
  setClipDeleted,
  type ClipEntry,
} from '@/server/repositories/clips';

const sound = z.object({
  seconds: z.number().positive().max(CLIP_LIMITS.seconds),
  rate: z.number().int().min(1).max(768_000),
  channels: z.number().int().min(1).max(32),
  overview: z.string().max(200_000),
});

const whole = z.number().int();

export const listClipsAction = action('read', z.tuple([pieceId]), ({ actor, db }, piece) =>
  listClips(db, actor, piece),
);

/** A recording has come in and was decoded: its measures and its overview are kept. */
export const keepClipAction = action(
  'write',
  z.tuple([clipId, sound]),
  async ({ actor, db }, clip, { overview, ...measured }): Promise<Result<ClipEntry>> => {
    const there = await getClip(db, actor, clip);
    if (!there || !complete(there)) return fail('no-clip', 'The recording has not come in whole. Send it again.', clip);
    await keepClip(db, actor, clip, { ...measured, overview: Buffer.from(overview, 'base64') });
    const kept = await getClip(db, actor, clip);
    return kept ? ok(kept) : fail('no-clip', 'The recording is not here any more.', clip);
  },
  (why) =>
    fail(
      'malformed',
      `The recording can't be kept: ${why.words}. ${CLIP_LIMITS.seconds / 60} minutes at most.`,
      why.locus,
    ),
);

export const overviewAction = action('read', z.tuple([clipId]), async ({ actor, db }, clip): Promise<string | null> => {
  const bytes = await clipOverview(db, actor, clip);
  return bytes ? Buffer.from(bytes).toString('base64') : null;
});

const STALE = 'This recording’s bars or notes on it were changed in another window. Reload to go on from there.';

/** Keeps what is known of a clip; `stale` where another window did meanwhile. */
export const saveClipAction = action(
  'write',
  z.tuple([clipId, whole, clipDocumentSchema]),
  async ({ actor, db }, clip, revision, document): Promise<Result<number>> => {
    const next = await putClipDocument(db, actor, clip, revision, document);
    return next === null ? fail('stale', STALE, clip) : ok(next);
  },
  (why) => fail('malformed', `${pathWords(why.locus) || 'The clip'}: ${why.words}.`),
);

export const deleteClipAction = action('write', z.tuple([clipId, z.boolean()]), ({ actor, db }, clip, deleted) =>
  setClipDeleted(db, actor, clip, deleted),
);
