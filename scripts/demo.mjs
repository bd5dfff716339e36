// npm run demo: from a bare machine to a running program with the demo studio in it.
//   --fresh   throw the demo's data away and start over
//   --port N  where to serve (default: the first free port from 3000 on)
import { bin, answering, checkNode, ensureBuild, ensureModules, ensureSystem, freePort, run, say, start, withEnd } from './lib/system.mjs';
import { ensureDatabase, startPostgres, stopPostgres } from './lib/postgres.mjs';

const args = process.argv.slice(2);
const wanted = Number(args[args.indexOf('--port') + 1]);
let server = null;

await withEnd(
  async () => {
    checkNode();
    ensureSystem();
    await ensureModules();
    server = await startPostgres('demo', { fresh: args.includes('--fresh') });
    ensureDatabase(server, 'intonazione');
    const env = { ...process.env, DATABASE_URL: server.url('intonazione'), NEXT_TELEMETRY_DISABLED: '1' };
    await run(process.execPath, ['--import', 'tsx', 'src/server/db/migrate-main.ts', '--demo'], { env });
    await ensureBuild();
    const port = await freePort(args.includes('--port') && wanted > 0 ? wanted : 3000);
    const web = start(process.execPath, [bin('next'), 'start', '-H', '127.0.0.1', '-p', String(port)], { env });
    const ended = new Promise((resolve) => web.once('exit', resolve));
    await Promise.race([answering(`http://127.0.0.1:${port}/api/health`), ended.then(() => Promise.reject(new Error('the server ended')))]);
    say(`Intonazione is at http://127.0.0.1:${port}  (Ctrl-C stops it; the data stays)`);
    await ended;
  },
  async () => {
    if (server) stopPostgres(server);
  },
);
