import { finding } from '@/core/base';
import { CLIP_LIMITS } from '@/core/hearing';
import { takeChunk } from '@/server/clips';
import { currentActor, db } from '@/server/context';
import { readBody, refusal } from '@/server/http';
import { clipId, readId } from '@/server/ids';
import { guarded } from '@/server/guarded';

/** Takes one chunk of a recording. */
export const PUT = guarded(
  async (
    request: Request,
    { params }: { readonly params: Promise<{ clip: string; number: string }> },
  ): Promise<Response> => {
    const { clip, number } = await params;
    const id = readId(clipId, clip);
    if (!id || !/^\d{1,6}$/.test(number))
      return refusal(finding('no-clip', 'error', 'This recording is not here.'), 404);
    const bytes = await readBody(request, CLIP_LIMITS.chunk);
    if (!bytes) return refusal(finding('too-large', 'error', `A chunk has ${CLIP_LIMITS.chunk} bytes at most.`), 413);
    const taken = await takeChunk(db(), await currentActor(), id, Number(number), bytes);
    return taken.ok
      ? Response.json({ next: taken.value })
      : refusal(taken.error, taken.error.rule === 'out-of-turn' ? 409 : 422);
  },
);
