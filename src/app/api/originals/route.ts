import { finding } from '@/core/base';
import { currentActor, db } from '@/server/context';
import { readBody, refusal } from '@/server/http';
import { pieceId, readId } from '@/server/ids';
import { keepOriginal, MOST_ORIGINAL } from '@/server/originals';
import { guarded } from '@/server/guarded';

/** Keeps a file with the piece it was brought into: `?piece=ID&name=NAME`, the file as the body. */
export const POST = guarded(async (request: Request): Promise<Response> => {
  const query = new URL(request.url).searchParams;
  const piece = readId(pieceId, query.get('piece') ?? '');
  if (!piece) return refusal(finding('malformed', 'error', 'A piece and a name are wanted.', { path: ['piece'] }), 400);
  const bytes = await readBody(request, MOST_ORIGINAL);
  if (!bytes) return refusal(finding('too-large', 'error', `The file has over ${MOST_ORIGINAL / 1048576} MB.`), 413);
  const kept = await keepOriginal(db(), await currentActor(), { piece, name: query.get('name') ?? '', bytes });
  return kept.ok ? Response.json({ id: kept.value }, { status: 201 }) : refusal(kept.error, 422);
});
