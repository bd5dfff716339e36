import { z } from 'zod';
import { beginClip } from '@/server/clips';
import { currentStudio, db } from '@/server/context';

const input = z.object({ piece: z.string().max(64), name: z.string().max(300), bytes: z.number().int() });

/** Announces a recording; the answer says where its chunks go. */
export async function POST(request: Request): Promise<Response> {
  const parsed = input.safeParse(await request.json().catch(() => null));
  if (!parsed.success)
    return Response.json(
      {
        error: {
          code: 'malformed',
          message: 'piece, name and bytes are wanted.',
          at: String(parsed.error.issues[0]?.path[0] ?? ''),
        },
      },
      { status: 400 },
    );
  const made = await beginClip(db(), currentStudio(), parsed.data);
  return made.ok
    ? Response.json({ id: made.value, next: 0 }, { status: 201 })
    : Response.json({ error: made.error }, { status: 422 });
}
