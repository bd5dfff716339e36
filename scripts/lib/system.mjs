// Plain Node, nothing installed yet: running commands, Debian's packages, npm packages, free ports.
import { execFileSync, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../..');
export const DATA = path.join(ROOT, '.data');
export const isRoot = process.getuid?.() === 0;

export const say = (text) => console.log(`· ${text}`);

export class Stop extends Error {}

/** A named binary of the project's node_modules, as arguments for node itself: no shell between. */
export const bin = (name) => path.join(ROOT, 'node_modules', '.bin', name);

/** Runs a command to its end with its output shown; rejects with Stop when it fails. */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
    children.add(child);
    child.on('error', reject);
    child.on('exit', (code, signal) => {
      children.delete(child);
      if (code === 0) resolve();
      else reject(new Stop(`${path.basename(command)} ${args.slice(0, 3).join(' ')} ended with ${signal ?? code}`));
    });
  });
}

const children = new Set();

/** Starts a command that keeps running; `stopAll` ends it. */
export function start(command, args, options = {}) {
  const child = spawn(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  children.add(child);
  child.on('exit', () => children.delete(child));
  return child;
}

/**
 * Heap of a server process in MB. The runtime would take a share of the machine's memory and clear up late; several
 * processes stand on one machine, and the largest thing that may be sent needs a third of this.
 */
const HEAP = 300;

/** Starts a server process on loopback. */
export const startServer = (port, options = {}) =>
  start(
    process.execPath,
    [`--max-old-space-size=${HEAP}`, bin('next'), 'start', '-H', '127.0.0.1', '-p', String(port)],
    options,
  );

export async function stopAll() {
  const waiting = [...children].map(
    (child) =>
      new Promise((resolve) => {
        if (child.exitCode !== null || child.signalCode !== null) return resolve();
        child.once('exit', resolve);
        child.kill('SIGTERM');
        setTimeout(() => child.kill('SIGKILL'), 8000).unref();
      }),
  );
  await Promise.all(waiting);
}

/** Runs `body`, and `end` after it however it ends: by itself, by a fault, or by a signal. */
export async function withEnd(body, end) {
  let ending = null;
  const finish = () =>
    (ending ??= (async () => {
      await stopAll();
      await end();
    })());
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) {
    process.on(signal, () => finish().then(() => process.exit(signal === 'SIGINT' ? 130 : 143)));
  }
  try {
    await body();
    await finish();
  } catch (error) {
    await finish();
    console.error(error instanceof Stop ? `\n${error.message}` : error);
    process.exit(1);
  }
}

/** Whether a process of this id exists. */
export function alive(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
}

const has = (file) => existsSync(file);

export function postgresBin() {
  const base = '/usr/lib/postgresql';
  if (!has(base)) return null;
  const versions = readdirSync(base)
    .filter((v) => has(path.join(base, v, 'bin', 'initdb')) && has(path.join(base, v, 'bin', 'postgres')))
    .sort((a, b) => Number(b) - Number(a));
  return versions.length > 0 ? path.join(base, versions[0], 'bin') : null;
}

export const chromium = () => ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find(has) ?? null;

/** Makes sure Debian's packages are there; says what to run where it may not install them itself. */
export function ensureSystem({ browser = false } = {}) {
  const missing = [];
  if (!postgresBin()) missing.push('postgresql');
  if (browser && !chromium()) missing.push('chromium');
  if (missing.length === 0) return;
  const install = ['-o', 'DPkg::Lock::Timeout=300', 'install', '-y', '--no-install-recommends', ...missing];
  if (!isRoot || !has('/usr/bin/apt-get')) {
    throw new Stop(
      `These Debian packages are needed: ${missing.join(', ')}.\nRun as root, then try again:\n  apt-get update && apt-get install -y --no-install-recommends ${missing.join(' ')}`,
    );
  }
  say(`installing ${missing.join(' and ')}`);
  // Packages must not start a cluster of their own on the usual port: this program keeps a private one.
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive', RUNLEVEL: '1' };
  execFileSync('apt-get', ['-o', 'DPkg::Lock::Timeout=300', 'update', '-q'], { stdio: 'inherit', env });
  execFileSync('apt-get', ['-q', ...install], { stdio: 'inherit', env });
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 9))
    throw new Stop(`Node.js 20.9 or newer is needed; this is ${process.versions.node}.`);
}

const sha = (text) => createHash('sha256').update(text).digest('hex');

/** npm ci, unless what is installed came from this very lock file. */
export async function ensureModules() {
  const stamp = path.join(ROOT, 'node_modules', '.lock-stamp');
  const wanted = sha(readFileSync(path.join(ROOT, 'package-lock.json')));
  if (has(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('installing npm packages');
  await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(stamp, wanted);
}

/** A fingerprint of everything a build is made from. */
export function sourceStamp() {
  const hash = createHash('sha256');
  const walk = (entry) => {
    const full = path.join(ROOT, entry);
    if (!has(full)) return;
    if (statSync(full).isDirectory()) for (const name of readdirSync(full).sort()) walk(path.join(entry, name));
    else if (!/\.test\.tsx?$/.test(entry)) hash.update(entry).update(readFileSync(full));
  };
  for (const entry of ['src', 'public', 'package-lock.json', 'next.config.ts', 'postcss.config.mjs', 'tsconfig.json'])
    walk(entry);
  return hash.digest('hex');
}

export async function ensureBuild() {
  const stamp = path.join(ROOT, '.next', 'source-stamp');
  const wanted = sourceStamp();
  if (has(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('building');
  await run(process.execPath, [bin('next'), 'build'], { env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' } });
  await run(process.execPath, ['scripts/inline-scripts.mjs']);
  writeFileSync(stamp, wanted);
}

/** The first free port on loopback from `from` on, or any when `from` is 0. */
export async function freePort(from = 0) {
  for (let port = from; port < from + 200; port++) {
    const found = await new Promise((resolve) => {
      const server = createServer();
      server.once('error', () => resolve(null));
      server.listen(port, '127.0.0.1', () => {
        const taken = server.address().port;
        server.close(() => resolve(taken));
      });
    });
    if (found) return found;
  }
  throw new Stop(`No free port from ${from} on.`);
}

/** Waits until an address answers with success. */
export async function answering(url, seconds = 60) {
  const until = Date.now() + seconds * 1000;
  while (Date.now() < until) {
    try {
      const response = await fetch(url);
      if (response.ok) return;
    } catch {
      // Not up yet.
    }
    await new Promise((r) => setTimeout(r, 150));
  }
  throw new Stop(`${url} did not answer within ${seconds} s.`);
}

export function dataFolder(name) {
  mkdirSync(DATA, { recursive: true });
  return path.join(DATA, name);
}
