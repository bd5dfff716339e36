import { finding } from '@/core/base';
import { clipStream, complete, rangeOf } from '@/server/clips';
import { currentActor, db } from '@/server/context';
import { refusal } from '@/server/http';
import { clipId, readId } from '@/server/ids';
import { getClip, type ClipEntry } from '@/server/repositories/clips';
import { guarded } from '@/server/guarded';

interface Props {
  readonly params: Promise<{ clip: string }>;
}

async function found(params: Props['params']): Promise<ClipEntry | null> {
  const id = readId(clipId, (await params).clip);
  return id && getClip(db(), await currentActor(), id);
}

/** A recording, whole or by range. Never kept by anyone between: it is the studio's own. */
export const GET = guarded(async (request: Request, { params }: Props): Promise<Response> => {
  const clip = await found(params);
  if (!clip || !complete(clip)) return refusal(finding('no-clip', 'error', 'This recording is not here.'), 404);
  const range = rangeOf(request.headers.get('range'), clip.bytes);
  if (!range) return new Response(null, { status: 416, headers: { 'content-range': `bytes */${clip.bytes}` } });
  const part = request.headers.has('range');
  return new Response(clipStream(db(), await currentActor(), clip.id, range.from, range.to), {
    status: part ? 206 : 200,
    headers: {
      'content-type': clip.type,
      'content-length': String(range.to - range.from + 1),
      'accept-ranges': 'bytes',
      'cache-control': 'private, no-store',
      ...(part ? { 'content-range': `bytes ${range.from}-${range.to}/${clip.bytes}` } : {}),
    },
  });
});

/** How far a recording has come in: where to go on after a broken connection. */
export const HEAD = guarded(async (_request: Request, { params }: Props): Promise<Response> => {
  const clip = await found(params);
  return clip
    ? new Response(null, { headers: { 'x-next-chunk': String(clip.chunks) } })
    : new Response(null, { status: 404 });
});
