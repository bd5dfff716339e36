// In the browser, on the production build: the form page of a piece of 400 bars, 6 parts and 60 uses opened with an
// empty cache, and from a change of its order or of a section to its paint.
import { execFileSync } from 'node:child_process';
import { freshPage, inBrowser, middle } from './lib/browser.mjs';

await inBrowser(async (browser, base, env) => {
  const id = execFileSync(process.execPath, ['--import', 'tsx', 'bench/lib/form-setup.ts'], { env }).toString();
  const opened = [];
  const working = [];
  const whole = [];
  for (let i = 0; i < 7; i++) {
    const page = await freshPage(browser);
    await page.goto(`${base}/pieces/${id}/form`, { waitUntil: 'commit' });
    const [sight, works, all] = await page.evaluate(
      () =>
        new Promise((resolve) => {
          // Sections that reach into the window have their slips; the last of the ten has them too.
          let sight = 0;
          let works = 0;
          const firstPaint = () => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0;
          const look = () => {
            const drawn = [...document.querySelectorAll('[data-section]')];
            const below = drawn.at(-1)?.getBoundingClientRect().bottom ?? 0;
            if (sight === 0 && below >= innerHeight && drawn.every((one) => one.querySelector('svg')))
              sight = performance.now();
            if (works === 0 && Object.keys(drawn[0] ?? {}).some((key) => key.startsWith('__react')))
              works = performance.now();
            if (drawn.length === 10) resolve([Math.max(sight, firstPaint()), works, performance.now()]);
            else setTimeout(look, 4);
          };
          look();
        }),
    );
    opened.push(sight);
    working.push(works);
    whole.push(all);
    await page.context().close();
  }
  console.log(
    `form of 400 bars, 6 parts, 60 uses, empty cache: chart in sight drawn after ${middle(opened).toFixed(0)} ms, worst ${Math.max(...opened).toFixed(0)} ms (goal < 1,000), works after ${middle(working).toFixed(0)} ms, all of it after ${middle(whole).toFixed(0)} ms`,
  );
  const page = await freshPage(browser);
  await page.goto(`${base}/pieces/${id}/form`);
  await page.locator('[data-place]').first().waitFor();
  await page.waitForTimeout(2500);
  await page.evaluate(() => {
    globalThis.paints = [];
    new PerformanceObserver((list) => {
      for (const e of list.getEntries()) if (e.name === 'keydown') globalThis.paints.push(e.duration);
    }).observe({ type: 'event', durationThreshold: 16 });
  });
  // The chart follows its edit: how long until the last it changes is on the screen.
  await page.evaluate(() => {
    globalThis.drawn = [];
    let pressed = 0;
    document.addEventListener('keydown', () => (pressed = performance.now()), true);
    new MutationObserver(() => {
      const since = pressed;
      requestAnimationFrame(() => {
        const took = performance.now() - since;
        if (globalThis.drawn.at(-1)?.since === since) globalThis.drawn.at(-1).took = took;
        else globalThis.drawn.push({ since, took });
      });
    }).observe(document.querySelector('main'), {
      subtree: true,
      childList: true,
      characterData: true,
      attributes: true,
    });
  });
  const told = async (what, count, press) => {
    await page.evaluate(() => (globalThis.drawn.length = globalThis.paints.length = 0));
    for (let i = 0; i < count; i++) {
      await press(i);
      await page.waitForTimeout(300);
    }
    await page.waitForTimeout(800);
    const paints = await page.evaluate(() => globalThis.paints);
    const all = [...paints, ...Array(Math.max(0, count - paints.length)).fill(16)];
    const drawn = await page.evaluate(() => globalThis.drawn.map((one) => one.took));
    console.log(
      `form of 400 bars, ${what}: chart redrawn after median ${middle(drawn).toFixed(0)} ms, 95th percentile ${middle(drawn, 0.95).toFixed(0)} ms; key to paint median ${middle(all).toFixed(0)} ms, 95th percentile ${middle(all, 0.95).toFixed(0)} ms (goal < 50)`,
    );
  };
  await page.locator('[data-place]').nth(3).focus();
  await told('a place played once more or less', 20, (i) => page.keyboard.press(i % 2 ? '-' : '+'));
  await page.getByRole('main', { name: 'Chart' }).getByRole('button', { name: 'Section 2', exact: true }).click();
  const cue = page.getByLabel('Cue', { exact: true });
  await told('a cue taken', 12, async (i) => {
    await cue.fill(`cue ${i}`);
    await cue.press('Enter');
  });
});
