// npm run demo: from a bare machine to a running program with the demo studio in it.
//   --fresh   throw the demo's data away and start over
//   --port N  where to serve (default: the first free port from 3000 on)
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import {
  alive,
  answering,
  checkNode,
  DATA,
  ensureBuild,
  ensureModules,
  ensureSystem,
  freePort,
  run,
  say,
  startServer,
  withEnd,
} from './lib/system.mjs';
import { ensureDatabase, startPostgres, stopPostgres } from './lib/postgres.mjs';

/** The note of a running demo; null where there is none, or one that a crash left empty or cut short. */
function readNote(file) {
  try {
    const read = JSON.parse(readFileSync(file, 'utf8'));
    return Number.isInteger(read?.pid) ? read : null;
  } catch {
    return null;
  }
}

/** Whether that process is a demo: after a crash the number may be another program's by now. */
function isDemo(pid) {
  if (!alive(pid)) return false;
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('demo.mjs');
  } catch {
    return true;
  }
}

const isServer = (pid) => {
  try {
    return alive(pid) && /next/.test(readFileSync(`/proc/${pid}/cmdline`, 'utf8'));
  } catch {
    return false;
  }
};

const args = process.argv.slice(2);
const wanted = Number(args[args.indexOf('--port') + 1]);
let server = null;

// One demo at a time in one checkout: a second would share the database that the first stops.
const note = path.join(DATA, 'demo-running.json');
const running = readNote(note);
if (running && isDemo(running.pid)) {
  console.log(
    `· The demo is running already${running.address ? `, at ${running.address}` : ''} (process ${running.pid}).`,
  );
  process.exit(0);
}
const remember = (address, web = null) => {
  mkdirSync(DATA, { recursive: true });
  writeFileSync(note, JSON.stringify({ pid: process.pid, web, address }));
};
// A starter that was killed outright leaves its server behind: nobody would end that one any more.
if (running?.web && isServer(running.web)) {
  console.log(`· ending the server of a demo that was killed (process ${running.web})`);
  process.kill(running.web, 'SIGTERM');
}
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
    const web = startServer(port, { env });
    const ended = new Promise((resolve) => web.once('exit', resolve));
    await Promise.race([
      answering(`http://127.0.0.1:${port}/api/ready`),
      ended.then(() => Promise.reject(new Error('the server ended'))),
    ]);
    remember(`http://127.0.0.1:${port}`, web.pid);
    say(`Intonazione is at http://127.0.0.1:${port}  (Ctrl-C stops it; the data stays)`);
    await ended;
  },
  async () => {
    if (server) stopPostgres(server);
    rmSync(note, { force: true });
  },
);
