import { guarded } from '@/server/guarded';

export const dynamic = 'force-dynamic';

/** Whether this process lives. Asks nobody else: a database that is away is no reason to end the server. */
export const GET = guarded((): Response => {
  return Response.json({ ok: true });
});
