// npm run dev: the demo's database, with the development server on top.
import { bin, checkNode, ensureModules, ensureSystem, freePort, run, start, withEnd } from './lib/system.mjs';
import { ensureDatabase, startPostgres, stopPostgres } from './lib/postgres.mjs';

let server = null;
await withEnd(
  async () => {
    checkNode();
    ensureSystem();
    await ensureModules();
    server = await startPostgres('demo');
    ensureDatabase(server, 'intonazione');
    const env = { ...process.env, DATABASE_URL: server.url('intonazione'), NEXT_TELEMETRY_DISABLED: '1' };
    await run(process.execPath, ['--import', 'tsx', 'src/server/db/migrate-main.ts', '--demo'], { env });
    const port = await freePort(3000);
    const web = start(process.execPath, [bin('next'), 'dev', '-H', '127.0.0.1', '-p', String(port)], { env });
    await new Promise((resolve) => web.once('exit', resolve));
  },
  async () => {
    if (server) stopPostgres(server);
  },
);
