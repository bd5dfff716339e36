import { finding } from '@/core/base';
import { JSON_LIMITS } from '@/core/formats/json';
import { readWhole } from '@/core/formats/registry';
import { currentActor, db } from '@/server/context';
import { readBody, refusal } from '@/server/http';
import { createPiece } from '@/server/pieces';
import { guarded } from '@/server/guarded';

/** Puts a piece file, of any version, on the shelf under an id of its own. */
export const POST = guarded(async (request: Request): Promise<Response> => {
  const bytes = await readBody(request, JSON_LIMITS.bytes);
  if (!bytes)
    return refusal(finding('too-large', 'error', `A piece of ${JSON_LIMITS.bytes / 1048576} MB at most.`), 413);
  const piece = readWhole(bytes);
  if (!piece.ok) return refusal(piece.error, 422);
  const made = await createPiece(db(), await currentActor(), piece.value);
  return made.ok ? Response.json({ id: made.value.id }, { status: 201 }) : refusal(made.error, 422);
});
