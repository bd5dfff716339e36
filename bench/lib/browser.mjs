// What benchmarks in the browser share: a production build on a throwaway database with the demo in it, and Chromium.
import { chromium } from '@playwright/test';
import {
  answering,
  ensureBuild,
  ensureSystem,
  freePort,
  run,
  chromium as chromiumPath,
  startServer,
  withEnd,
} from '../../scripts/lib/system.mjs';
import { ensureDatabase, startPostgres, stopPostgres } from '../../scripts/lib/postgres.mjs';

export const middle = (list, share = 0.5) => [...list].sort((a, b) => a - b)[Math.floor(list.length * share)] ?? 0;

/** Starts all of it, runs the measures, ends all of it. */
export async function inBrowser(measures) {
  let server = null;
  await withEnd(
    async () => {
      ensureSystem({ browser: true });
      await ensureBuild();
      server = await startPostgres('bench', { throwaway: true, fresh: true });
      ensureDatabase(server, 'bench');
      const env = { ...process.env, DATABASE_URL: server.url('bench'), NEXT_TELEMETRY_DISABLED: '1' };
      await run(process.execPath, ['--import', 'tsx', 'src/server/db/migrate-main.ts', '--demo'], { env });
      const port = await freePort(0);
      const base = `http://127.0.0.1:${port}`;
      startServer(port, { env, stdio: 'ignore' });
      await answering(`${base}/api/ready`);
      const browser = await chromium.launch({
        executablePath: chromiumPath(),
        args: [
          '--no-sandbox',
          '--disable-gpu',
          '--disable-background-networking',
          '--autoplay-policy=no-user-gesture-required',
          '--js-flags=--expose-gc',
          '--enable-precise-memory-info',
        ],
      });
      await measures(browser, base, env);
      await browser.close();
    },
    async () => {
      if (server) stopPostgres(server);
    },
  );
}

export const freshPage = async (browser) =>
  (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();

/** A new piece with an empty riff, its page open. */
export async function newPiece(page, base, name) {
  await page.goto(base);
  await page.getByRole('button', { name: 'New piece' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Begin with an empty riff' }).click();
  await page.getByRole('application').waitFor();
}

/** Share of frames dropped, in percent: one for each whole 60th of a second beyond the first that a gap lasts. */
export function dropped(gaps) {
  const lost = gaps.reduce((n, g) => n + Math.max(0, Math.round(g / (1000 / 60)) - 1), 0);
  return (100 * lost) / (gaps.length + lost);
}
