import { CLIP_LIMITS } from '@/core/heard';
import { takeChunk } from '@/server/clips';
import { currentStudio, db } from '@/server/context';

/** Takes one chunk of a recording. */
export async function PUT(
  request: Request,
  { params }: { readonly params: Promise<{ clip: string; number: string }> },
): Promise<Response> {
  const { clip, number } = await params;
  if (Number(request.headers.get('content-length') ?? 0) > CLIP_LIMITS.chunk)
    return Response.json(
      { error: { code: 'too-large', message: `A chunk has ${CLIP_LIMITS.chunk} bytes at most.` } },
      { status: 413 },
    );
  const bytes = new Uint8Array(await request.arrayBuffer());
  const taken = await takeChunk(db(), currentStudio(), clip, /^\d{1,6}$/.test(number) ? Number(number) : -1, bytes);
  return taken.ok
    ? Response.json({ next: taken.value })
    : Response.json({ error: taken.error }, { status: taken.error.code === 'out-of-turn' ? 409 : 422 });
}
