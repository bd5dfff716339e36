import { sql } from 'kysely';
import { db } from '@/server/context';

export const dynamic = 'force-dynamic';

/** Answers 200 when the database answers, for load balancers and the scripts. */
export async function GET(): Promise<Response> {
  try {
    await sql`select 1`.execute(db());
    return Response.json({ ok: true });
  } catch {
    return Response.json({ ok: false, message: 'The database does not answer.' }, { status: 503 });
  }
}
