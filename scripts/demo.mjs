// npm run demo: from a bare machine to a running program with the demo studio in it.
//   --fresh   throw the demo's data away and start over
//   --port N  where to serve (default: the first free port from 3000 on)
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import {
  alive,
  answering,
  bin,
  checkNode,
  ensureBuild,
  ensureModules,
  DATA,
  ensureSystem,
  freePort,
  run,
  say,
  start,
  withEnd,
} from './lib/system.mjs';
import { ensureDatabase, startPostgres, stopPostgres } from './lib/postgres.mjs';

const args = process.argv.slice(2);
const wanted = Number(args[args.indexOf('--port') + 1]);
let server = null;

// One demo at a time in one checkout: a second would share the database that the first stops.
const note = path.join(DATA, 'demo-running.json');
const running = existsSync(note) ? JSON.parse(readFileSync(note, 'utf8')) : null;
if (running && alive(running.pid)) {
  console.log(
    `· The demo is running already${running.address ? `, at ${running.address}` : ''} (process ${running.pid}).`,
  );
  process.exit(0);
}
const remember = (address) => {
  mkdirSync(DATA, { recursive: true });
  writeFileSync(note, JSON.stringify({ pid: process.pid, address }));
};
remember(null);

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
    await Promise.race([
      answering(`http://127.0.0.1:${port}/api/ready`),
      ended.then(() => Promise.reject(new Error('the server ended'))),
    ]);
    remember(`http://127.0.0.1:${port}`);
    say(`Intonazione is at http://127.0.0.1:${port}  (Ctrl-C stops it; the data stays)`);
    await ended;
  },
  async () => {
    if (server) stopPostgres(server);
    rmSync(note, { force: true });
  },
);
