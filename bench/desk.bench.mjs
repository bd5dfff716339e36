// Searching words and music, and opening the desk, in a studio of 5,000 pieces: on a throwaway database.
import { run, withEnd } from '../scripts/lib/system.mjs';
import { ensureDatabase, startPostgres, stopPostgres } from '../scripts/lib/postgres.mjs';

let server = null;
await withEnd(
  async () => {
    server = await startPostgres('bench', { throwaway: true, fresh: true });
    ensureDatabase(server, 'desk');
    const env = { ...process.env, DATABASE_URL: server.url('desk') };
    await run(process.execPath, ['--import', 'tsx', 'bench/lib/desk.ts'], { env });
  },
  async () => {
    if (server) stopPostgres(server);
  },
);
