'use server';

import { z } from 'zod';
import { fail, ok, type Result } from '@/core/base';
import { clipDocumentSchema, CLIP_LIMITS, type ClipDocument } from '@/core/heard';
import { complete } from '@/server/clips';
import { currentStudio, db } from '@/server/context';
import {
  clipOverview,
  getClip,
  keepClip,
  listClips,
  putClipDocument,
  setClipDeleted,
  type ClipEntry,
} from '@/server/repositories/clips';

const id = z.string().max(64);
const sound = z.object({
  seconds: z.number().positive().max(CLIP_LIMITS.seconds),
  rate: z.number().int().min(1).max(768_000),
  channels: z.number().int().min(1).max(32),
  overview: z.string().max(200_000),
});

export async function listClipsAction(piece: string): Promise<ClipEntry[]> {
  return listClips(db(), currentStudio(), id.parse(piece));
}

/** A recording has come in and was decoded: its measures and its overview are kept. */
export async function keepClipAction(clip: string, measured: z.infer<typeof sound>): Promise<Result<ClipEntry>> {
  const parsed = sound.safeParse(measured);
  if (!parsed.success)
    return fail(
      'malformed',
      `The recording can't be kept: ${parsed.error.issues[0]?.message ?? 'malformed'}. ${CLIP_LIMITS.seconds / 60} minutes at most.`,
      String(parsed.error.issues[0]?.path[0] ?? ''),
    );
  const there = await getClip(db(), currentStudio(), id.parse(clip));
  if (!there || !complete(there)) return fail('no-clip', 'The recording has not come in whole. Send it again.', clip);
  const { overview, ...rest } = parsed.data;
  await keepClip(db(), currentStudio(), clip, { ...rest, overview: Buffer.from(overview, 'base64') });
  const kept = await getClip(db(), currentStudio(), clip);
  return kept ? ok(kept) : fail('no-clip', 'The recording is not here any more.', clip);
}

export async function overviewAction(clip: string): Promise<string | null> {
  const bytes = await clipOverview(db(), currentStudio(), id.parse(clip));
  return bytes ? Buffer.from(bytes).toString('base64') : null;
}

/** Keeps what is known of a clip; `stale` where another window did meanwhile. */
export async function saveClipAction(clip: string, revision: number, document: ClipDocument): Promise<Result<number>> {
  const parsed = clipDocumentSchema.safeParse(document);
  if (!parsed.success)
    return fail(
      'malformed',
      `${parsed.error.issues[0]?.path.join('.') ?? 'The clip'}: ${parsed.error.issues[0]?.message ?? 'malformed'}.`,
    );
  const next = await putClipDocument(
    db(),
    currentStudio(),
    id.parse(clip),
    z.number().int().parse(revision),
    parsed.data,
  );
  return next === null
    ? fail(
        'stale',
        'This recording’s bars or notes on it were changed in another window. Reload to go on from there.',
        clip,
      )
    : ok(next);
}

export async function deleteClipAction(clip: string, deleted: boolean): Promise<boolean> {
  return setClipDeleted(db(), currentStudio(), id.parse(clip), z.boolean().parse(deleted));
}
