// npm test: everything, on a bare machine. Lint and types, unit, property and database tests, build, browser tests.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import {
  answering,
  bin,
  checkNode,
  chromium,
  ensureBuild,
  ensureModules,
  ensureSystem,
  freePort,
  ROOT,
  run,
  say,
  startServer,
  Stop,
  withEnd,
} from './lib/system.mjs';
import { ensureDatabase, startPostgres, stopPostgres } from './lib/postgres.mjs';

/** --drill: only the fire drill, a hundred rounds of it or as many as DRILL_ROUNDS says. */
const drill = process.argv.includes('--drill');
const results = path.join(ROOT, 'test-results');
let server = null;
const node = (args, options) => run(process.execPath, args, options);

function counted() {
  const sum = { passed: 0, failed: 0, skipped: 0 };
  const unit = path.join(results, 'unit.json');
  if (existsSync(unit)) {
    const report = JSON.parse(readFileSync(unit, 'utf8'));
    sum.passed += report.numPassedTests;
    sum.failed += report.numFailedTests;
    sum.skipped += report.numPendingTests;
  }
  const browser = path.join(results, 'browser.json');
  if (existsSync(browser)) {
    const { stats } = JSON.parse(readFileSync(browser, 'utf8'));
    sum.passed += stats.expected + stats.flaky;
    sum.failed += stats.unexpected;
    sum.skipped += stats.skipped;
  }
  return sum;
}

/** What failed, by name and with the first words of why: said last, where a long run is read first. */
function failures() {
  const plain = (text) => String(text).replace(/\u001b\[[0-9;]*m/g, '');
  const told = [];
  const tell = (where, name, why) =>
    told.push(
      `✗ ${where}: ${name}\n${plain(why ?? 'no reason given')
        .split('\n')
        .slice(0, 14)
        .join('\n')
        .slice(0, 1500)}`,
    );
  const unit = path.join(results, 'unit.json');
  if (existsSync(unit))
    for (const file of JSON.parse(readFileSync(unit, 'utf8')).testResults) {
      const where = path.relative(ROOT, file.name);
      const broken = file.assertionResults.filter((one) => one.status === 'failed');
      for (const one of broken) tell(where, one.fullName, one.failureMessages[0]);
      if (file.status === 'failed' && broken.length === 0) tell(where, 'the file itself', file.message);
    }
  const browser = path.join(results, 'browser.json');
  if (existsSync(browser)) {
    const suites = [...JSON.parse(readFileSync(browser, 'utf8')).suites];
    for (const suite of suites) {
      suites.push(...(suite.suites ?? []));
      for (const spec of suite.specs)
        for (const run of spec.tests)
          if (run.status === 'unexpected') tell(spec.file, spec.title, run.results.at(-1)?.error?.message);
          else if (run.status === 'flaky') told.push(`· ${spec.file}: ${spec.title}: needed its second try`);
    }
  }
  return told;
}

/** Runs a stage and remembers that it failed, so that later stages still tell what they know. */
const failed = [];
async function stage(name, body) {
  const began = Date.now();
  say(`${name} …`);
  try {
    await body();
    say(`${name}: done in ${((Date.now() - began) / 1000).toFixed(0)} s`);
  } catch (error) {
    if (!(error instanceof Stop)) throw error;
    failed.push(name);
    say(`${name}: FAILED (${error.message})`);
  }
}

/** Everything that needs no browser. */
async function checked(env) {
  await stage('route types', () => node([bin('next'), 'typegen'], { env }));
  await Promise.all([
    stage('lint and types', async () => {
      await node([bin('prettier'), '--check', '.', '--log-level', 'warn']);
      await node([bin('eslint'), '.', '--max-warnings', '0']);
      await node(['scripts/circles.mjs']);
      await node(['scripts/licences.mjs']);
      await node([bin('tsc'), '--noEmit']);
    }),
    stage('build', () => ensureBuild()),
  ]);
  await stage('unit, property and database tests', () =>
    node(
      [
        bin('vitest'),
        'run',
        '--reporter=default',
        '--reporter=json',
        `--outputFile.json=${path.join(results, 'unit.json')}`,
      ],
      { env },
    ),
  );
}

await withEnd(
  async () => {
    checkNode();
    rmSync(results, { recursive: true, force: true });
    mkdirSync(results, { recursive: true });
    ensureSystem({ browser: true });
    await ensureModules();
    server = await startPostgres('test', { throwaway: true, fresh: true });
    const env = { ...process.env, NEXT_TELEMETRY_DISABLED: '1', TEST_DATABASE_SERVER: server.base };
    if (drill) {
      await stage('build', () => ensureBuild());
      env.DRILL_ROUNDS ??= '100';
    } else await checked(env);
    await stage('browser tests', async () => {
      ensureDatabase(server, 'browser');
      const web = { ...env, DATABASE_URL: server.url('browser') };
      await node(['--import', 'tsx', 'src/server/db/migrate-main.ts', '--demo'], { env: web });
      const port = await freePort(0);
      startServer(port, { env: web, stdio: ['ignore', 'ignore', 'inherit'] });
      await answering(`http://127.0.0.1:${port}/api/ready`);
      await node([bin('playwright'), 'test', ...(drill ? ['e2e/drill.spec.ts'] : [])], {
        env: { ...web, BASE_URL: `http://127.0.0.1:${port}`, CHROMIUM: chromium() },
      });
    });
    for (const one of failures()) console.log(one);
    const { passed, failed: broken, skipped } = counted();
    console.log(
      `${passed} passed, ${broken + (broken === 0 ? failed.length : 0)} failed${skipped > 0 ? `, ${skipped} skipped` : ''}`,
    );
    if (failed.length > 0 || broken > 0 || passed === 0) throw new Stop(`Failed: ${failed.join(', ') || 'tests'}`);
  },
  async () => {
    if (server) stopPostgres(server);
  },
);
