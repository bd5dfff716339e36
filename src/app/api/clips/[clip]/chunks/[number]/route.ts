import { finding } from '@/core/base';
import { CLIP_LIMITS } from '@/core/heard';
import { takeChunk } from '@/server/clips';
import { currentActor, db } from '@/server/context';
import { refusal } from '@/server/http';

/** Takes one chunk of a recording. */
export async function PUT(
  request: Request,
  { params }: { readonly params: Promise<{ clip: string; number: string }> },
): Promise<Response> {
  const { clip, number } = await params;
  if (Number(request.headers.get('content-length') ?? 0) > CLIP_LIMITS.chunk)
    return refusal(finding('too-large', 'error', `A chunk has ${CLIP_LIMITS.chunk} bytes at most.`), 413);
  const bytes = new Uint8Array(await request.arrayBuffer());
  const taken = await takeChunk(
    db(),
    await currentActor(),
    clip,
    /^\d{1,6}$/.test(number) ? Number(number) : -1,
    bytes,
  );
  return taken.ok
    ? Response.json({ next: taken.value })
    : refusal(taken.error, taken.error.rule === 'out-of-turn' ? 409 : 422);
}
