// In the browser, on the production build: first page interactive, and keystroke to paint in a 100-bar riff.
import { chromium } from '@playwright/test';
import { answering, bin, chromium as chromiumPath, ensureBuild, ensureSystem, freePort, run, start, withEnd } from '../scripts/lib/system.mjs';
import { ensureDatabase, startPostgres, stopPostgres } from '../scripts/lib/postgres.mjs';

const middle = (list, share = 0.5) => [...list].sort((a, b) => a - b)[Math.floor(list.length * share)] ?? 0;
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
    start(process.execPath, [bin('next'), 'start', '-H', '127.0.0.1', '-p', String(port)], { env, stdio: 'ignore' });
    await answering(`${base}/api/health`);
    const browser = await chromium.launch({ executablePath: chromiumPath(), args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
    const interactive = [];
    for (let i = 0; i < 7; i++) {
      const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
      await page.goto(base, { waitUntil: 'commit' });
      // Interactive: React has taken the search field over.
      interactive.push(await page.evaluate(() => new Promise((resolve) => {
        const look = () => {
          const field = document.querySelector('input[type=search]');
          if (field && Object.keys(field).some((k) => k.startsWith('__reactProps'))) resolve(performance.now());
          else setTimeout(look, 4);
        };
        look();
      })));
      await page.context().close();
    }
    console.log(`first page interactive, empty cache: median ${middle(interactive).toFixed(0)} ms, worst ${Math.max(...interactive).toFixed(0)} ms (goal < 1,500)`);

    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    await page.goto(base);
    await page.getByRole('button', { name: 'New piece' }).click();
    await page.getByLabel('Name').fill('Hundred bars');
    await page.getByRole('button', { name: 'Begin with an empty riff' }).click();
    await page.getByLabel('Call notes').click();
    await page.keyboard.insertText('sixteenths [note E2 note G2 note A2 note B2 note D3 note E3 note G3 note E3 note D3 note B2 note A2 note G2 note E2 note G2 note A2 note B2] 100 times');
    await page.keyboard.press('Enter');
    await page.getByText('1600 notes').waitFor();
    await page.waitForTimeout(3000);
    await page.getByRole('application').focus();
    await page.evaluate(() => {
      globalThis.paints = [];
      document.addEventListener('keydown', () => {
        const began = performance.now();
        requestAnimationFrame(() => {
          const channel = new MessageChannel();
          channel.port1.onmessage = () => globalThis.paints.push(performance.now() - began);
          channel.port2.postMessage(0);
        });
      }, true);
    });
    for (const [what, keys] of [['choosing a note', Array(40).fill('ArrowRight')], ['changing a pitch', Array.from({ length: 24 }, (_, i) => (i % 2 ? '-' : '+'))], ['typing a fret', Array.from({ length: 20 }, (_, i) => String(1 + (i % 7)))]]) {
      await page.evaluate(() => (globalThis.paints.length = 0));
      for (const key of keys) {
        await page.keyboard.press(key);
        await page.waitForTimeout(120);
      }
      const paints = await page.evaluate(() => globalThis.paints);
      console.log(`100 bars, 1,600 notes, ${what}: keystroke to paint median ${middle(paints).toFixed(0)} ms, 95th percentile ${middle(paints, 0.95).toFixed(0)} ms (goal < 50)`);
    }
    await browser.close();
  },
  async () => {
    if (server) stopPostgres(server);
  },
);
