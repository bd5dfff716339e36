import 'server-only';
import type { Actor, PersonId, StudioId } from './actor';
import { connect, type Db } from './db/connection';
import { DEMO_STUDIO } from './demo';

// One pool a process, kept over hot reloads in development.
const shared = globalThis as typeof globalThis & { __intonazioneDb?: Db };

export function db(): Db {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set: start the program with npm run demo or npm run dev');
  return (shared.__intonazioneDb ??= connect(url));
}

/** Who a request acts for. Until there are accounts, everyone is at home in the demo studio, with every right. */
export const currentActor = (): Promise<Actor> =>
  Promise.resolve({
    studio: DEMO_STUDIO.id as StudioId,
    person: 'demo' as PersonId,
    rights: new Set(['read', 'write', 'manage'] as const),
  });
