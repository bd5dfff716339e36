import { jobsState } from '@/server/jobs/runner';
import { db } from '@/server/context';
import { migrated } from '@/server/db/migrate';
import { guarded } from '@/server/guarded';

export const dynamic = 'force-dynamic';

/** Whether this process can serve: the database answers and has what this program needs. For load balancers. */
export const GET = guarded(async (): Promise<Response> => {
  const database = await migrated(db()).then(
    (newest) => (newest ? 'ready' : 'not migrated'),
    () => 'does not answer',
  );
  const ok = database === 'ready';
  return Response.json({ ok, database, queue: jobsState() }, { status: ok ? 200 : 503 });
});
