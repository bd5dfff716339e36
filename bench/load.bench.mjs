// Many at once on loopback, against the production build: two processes on one PostgreSQL, readers who pause one to
// three seconds between pages, two in the mean (each page whole, then all that it asks for by itself), and editors who
// save one note at a time in pieces of 300 bars. Prints waiting times, errors, memory, the size of a page and what a
// request costs. What comes in the first WARM seconds is not counted: a server is begun once. --seconds=N (default 40;
// the goal is stated for 120), --readers=N, --editors=N.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import http from 'node:http';
import { gunzipSync } from 'node:zlib';
import {
  answering,
  ensureBuild,
  ensureSystem,
  freePort,
  ROOT,
  run,
  startServer,
  withEnd,
} from '../scripts/lib/system.mjs';
import { ensureDatabase, startPostgres, stopPostgres } from '../scripts/lib/postgres.mjs';

const flag = (name, usual) => {
  const given = process.argv.find((one) => one.startsWith(`--${name}=`));
  return given === undefined ? usual : Number(given.slice(name.length + 3));
};
const SECONDS = flag('seconds', 40);
const WARM = 15;
const STUDIO = '/api/views/studio?studio=';
const READERS = flag('readers', 200);
const EDITORS = flag('editors', 20);
const share = (list, part) => [...list].sort((a, b) => a - b)[Math.floor(list.length * part)] ?? 0;
const rest = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
// As a browser does, no line is taken up again that the server is about to close (it keeps them for five seconds).
const agent = new http.Agent({ keepAlive: true, maxSockets: 512, timeout: 4000, scheduling: 'lifo' });

/** One request, read to its end. */
const asked = (url, { method = 'GET', headers = {}, body } = {}) =>
  new Promise((resolve, reject) => {
    const began = performance.now();
    const request = http.request(
      url,
      { method, agent, headers: { 'accept-encoding': 'gzip', ...headers } },
      (answer) => {
        const parts = [];
        answer.on('data', (part) => parts.push(part));
        answer.on('end', () =>
          resolve({
            status: answer.statusCode,
            ms: performance.now() - began,
            bytes: Buffer.concat(parts),
            zipped: answer.headers['content-encoding'] === 'gzip',
          }),
        );
      },
    );
    request.on('error', reject);
    request.end(body);
  });

/** Seconds of the processor a process has used, and all of them together; of the kernel's hundredths. */
const cpuOf = (pid) => {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ');
  return (Number(fields[11]) + Number(fields[12])) / 100;
};
const cpuOfAll = () => {
  const [user, nice, system] = readFileSync('/proc/stat', 'utf8').split(/\s+/).slice(1, 4).map(Number);
  return (user + nice + system) / 100;
};

const memoryOf = (pid) =>
  Number(execFileSync('ps', ['-o', 'rss=', '-p', String(pid)], { encoding: 'utf8' }).trim()) / 1024;

let server = null;
await withEnd(
  async () => {
    ensureSystem();
    await ensureBuild();
    server = await startPostgres('bench', { throwaway: true, fresh: true });
    ensureDatabase(server, 'load');
    const env = { ...process.env, DATABASE_URL: server.url('load'), NEXT_TELEMETRY_DISABLED: '1' };
    await run(process.execPath, ['--import', 'tsx', 'src/server/db/migrate-main.ts', '--demo'], { env });
    const pieces = JSON.parse(
      execFileSync(process.execPath, ['--import', 'tsx', 'bench/lib/load-setup.ts'], {
        cwd: ROOT,
        env,
        encoding: 'utf8',
      }),
    );
    const web = [];
    for (let i = 0; i < 2; i++) {
      const port = await freePort(0);
      const child = startServer(port, { env, stdio: 'ignore' });
      await answering(`http://127.0.0.1:${port}/api/ready`);
      web.push({ base: `http://127.0.0.1:${port}`, pid: child.pid });
    }
    const [one] = web;
    const sizes = [];
    for (const at of [`/pieces/${pieces[0]}/riffs/r0`, `/api/pieces/${pieces[0]}/open`, STUDIO]) {
      const { bytes } = await asked(one.base + at);
      const whole = bytes[0] === 0x1f && bytes[1] === 0x8b ? gunzipSync(bytes) : bytes;
      sizes.push([bytes.length / 1024, whole.length / 1024]);
    }
    const [page, document, studio] = sizes.map(
      ([zipped, whole]) => `${zipped.toFixed(0)} KB zipped (${whole.toFixed(0)} whole)`,
    );
    console.log(
      `a piece of 300 bars: the page ${page}, the piece ${document}, the studio ${studio} (goal < 150 KB zipped together)`,
    );

    let from = Infinity;
    let until = Infinity;
    const counts = () => performance.now() >= from;
    const reads = [];
    const saves = [];
    const errors = new Map();
    const wrong = (what) => errors.set(what, (errors.get(what) ?? 0) + 1);
    const reader = async (n) => {
      await rest((n * 2000) / READERS);
      for (let i = n; performance.now() < until; i++) {
        const piece = pieces[20];
        const [at, ...asks] = [
          ['/', '/api/views/shelf?studio='],
          [`/pieces/${piece}/riffs/r0`, `/api/pieces/${piece}/open`, STUDIO],
          ['/rack', STUDIO],
          ['/rack/tunings', STUDIO],
          ['/settings', STUDIO],
        ][i % 5];
        const base = web[n % 2].base;
        const began = performance.now();
        // A page says in its head what it will ask for: it has come when that has.
        const page = await asked(base + at).catch(() => null);
        const answers = [page, ...(await Promise.all(asks.map((one) => asked(base + one).catch(() => null))))];
        if (answers.every((answer) => answer?.status === 200)) {
          if (counts()) reads.push(performance.now() - began);
        } else wrong(`read ${answers.map((answer) => answer?.status ?? 'broken off').join(' and ')}`);
        // Nobody turns pages in step with others.
        await rest(1000 + 2000 * Math.random());
      }
    };
    const editor = async (n) => {
      const piece = pieces[n % 20];
      await rest((n * 1500) / EDITORS);
      for (let revision = 0; performance.now() < until; revision++) {
        const mark = (accent) => ({
          type: 'patchEvents',
          part: 'p0',
          riff: 'r0',
          notes: [],
          events: [
            { ids: [`e${(revision * 13) % 2400}`], set: accent ? { accent } : {}, clear: accent ? [] : ['accent'] },
          ],
        });
        const step = { version: 5, kind: 'do', edit: mark('accent'), inverse: mark(null), what: 'set an accent' };
        const answer = await asked(`${web[n % 2].base}/api/pieces/${piece}/steps`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ base: revision, save: `bench-save-${n}-${revision}`, steps: [step] }),
        }).catch(() => null);
        const text = answer && (answer.zipped ? gunzipSync(answer.bytes) : answer.bytes).toString('utf8');
        if (text?.includes('"saved"')) {
          if (counts()) saves.push(answer.ms);
        } else wrong(`save ${answer ? `${answer.status} ${/"status":"(\w+)"/.exec(text)?.[1] ?? ''}` : 'broken off'}`);
        await rest(1500);
      }
    };
    // Once around to warm up what is compiled as it is first used.
    for (const { base } of web)
      for (const at of ['/', `/pieces/${pieces[20]}/riffs/r0`, '/rack', '/settings', '/api/views/shelf?studio='])
        await asked(base + at);
    // What the framework takes for an answer of two words, so that figures of machines can be compared.
    const bare = async () => {
      const before = cpuOf(one.pid);
      for (let i = 0; i < 500; i++) await asked(`${one.base}/api/health`);
      return ((cpuOf(one.pid) - before) * 1000) / 500;
    };
    await bare();
    const empty = await bare();
    let most = 0;
    const watch = setInterval(() => {
      for (const { pid } of web) most = Math.max(most, memoryOf(pid));
    }, 2000);
    const cpu = () => ({
      web: web.reduce((sum, { pid }) => sum + cpuOf(pid), 0),
      self: cpuOf('self'),
      all: cpuOfAll(),
    });
    let before = cpu();
    from = performance.now() + WARM * 1000;
    until = from + SECONDS * 1000;
    setTimeout(() => (before = cpu()), WARM * 1000);
    await Promise.all([
      ...Array.from({ length: READERS }, (_, n) => reader(n)),
      ...Array.from({ length: EDITORS }, (_, n) => editor(n)),
    ]);
    clearInterval(watch);
    const after = cpu();
    const [servers, load, all] = ['web', 'self', 'all'].map((whose) => after[whose] - before[whose]);
    const each = (seconds) => `${((seconds * 1000) / (reads.length + saves.length)).toFixed(1)} ms`;
    console.log(
      `${((reads.length + saves.length) / SECONDS).toFixed(0)} requests a second; each costs the servers ${each(servers)} of a core (an empty answer, alone: ${empty.toFixed(1)}), the load itself ${each(load)}, the database and the rest ${each(all - servers - load)}`,
    );
    const told = (name, list, goal) =>
      console.log(
        `${name}: ${list.length} in ${SECONDS} s, p50 ${share(list, 0.5).toFixed(0)} ms, p95 ${share(list, 0.95).toFixed(0)} ms (goal < ${goal})`,
      );
    told(`${READERS} readers`, reads, 800);
    told(`${EDITORS} editors, one note a save in 300 bars`, saves, 100);
    console.log(
      `errors: ${[...errors].map(([what, count]) => `${count} ${what}`).join(', ') || 'none'}; memory of a process at most ${most.toFixed(0)} MB (goal < 400)`,
    );
  },
  async () => {
    if (server) stopPostgres(server);
  },
);
