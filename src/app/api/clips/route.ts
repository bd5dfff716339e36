import { z } from 'zod';
import { finding, pathOf } from '@/core/base';
import { beginClip } from '@/server/clips';
import { currentActor, db } from '@/server/context';
import { readJson, refusal } from '@/server/http';
import { pieceId } from '@/server/ids';
import { guarded } from '@/server/guarded';

const input = z.object({ piece: pieceId, name: z.string().max(300), bytes: z.number().int() });

/** Announces a recording; the answer says where its chunks go. */
export const POST = guarded(async (request: Request): Promise<Response> => {
  const parsed = input.safeParse(await readJson(request));
  if (!parsed.success)
    return refusal(
      finding('malformed', 'error', 'piece, name and bytes are wanted.', {
        path: pathOf(parsed.error.issues[0]?.path),
      }),
      400,
    );
  const made = await beginClip(db(), await currentActor(), parsed.data);
  return made.ok ? Response.json({ id: made.value, next: 0 }, { status: 201 }) : refusal(made.error, 422);
});
