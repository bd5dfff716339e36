// A ten-minute recording in the browser, on the production build: how soon it is open, how it scrolls and zooms, what
// it takes of memory.
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { writeWav } from '../src/core/formats/wav/index.ts';
import { dropped, freshPage, inBrowser, middle, newPiece } from './lib/browser.mjs';

const SECONDS = 600;
const RATE = 44_100;

/** Plucked tones over noise, two channels: what it sounds does not matter here, its length does. */
function recording() {
  const channels = [new Float32Array(SECONDS * RATE), new Float32Array(SECONDS * RATE)];
  let seed = 7;
  for (let i = 0; i < channels[0].length; i++) {
    const beat = Math.floor(i / 16_000);
    const since = (i - beat * 16_000) / RATE;
    const hz = 82.4 * 2 ** (((beat * 5) % 24) / 12);
    let v = 0;
    for (let k = 1; k <= 6; k++) v += Math.sin(2 * Math.PI * hz * k * since) / k;
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    const noise = (seed / 4294967296 - 0.5) * 0.01;
    channels[0][i] = 0.25 * v * Math.exp(-4 * since) + noise;
    channels[1][i] = 0.2 * v * Math.exp(-5 * since) - noise;
  }
  return writeWav({ rate: RATE, channels });
}

/** Resident memory of the largest process of the browser, in MB: the page's own. */
const resident = () =>
  Math.max(
    ...execFileSync('ps', ['-eo', 'rss,args'], { encoding: 'utf8' })
      .split('\n')
      .filter((l) => l.includes('--type=renderer'))
      .map((l) => Number(l.trim().split(/\s+/)[0]) / 1024),
  );

/** Gaps between frames while the page does something in every one of them. */
const frames = (page, what, count) =>
  page.evaluate(
    async ([kind, n]) => {
      const box = document.querySelector('[role=img][aria-label*="seen from"]');
      const { left, top, width } = box.getBoundingClientRect();
      const gaps = [];
      let before = performance.now();
      for (let i = 0; i < n; i++) {
        box.dispatchEvent(
          new WheelEvent('wheel', {
            bubbles: true,
            cancelable: true,
            clientX: left + width / 2,
            clientY: top + 200,
            ...(kind === 'scroll' ? { shiftKey: true, deltaY: 12 } : { deltaY: i % 80 < 40 ? -14 : 14 }),
          }),
        );
        await new Promise((r) => requestAnimationFrame(r));
        const now = performance.now();
        gaps.push(now - before);
        before = now;
      }
      return gaps.slice(5);
    },
    [what, count],
  );

await inBrowser(async (browser, base) => {
  mkdirSync('test-results', { recursive: true });
  writeFileSync('test-results/ten minutes.wav', recording());
  const page = await freshPage(browser);
  await newPiece(page, base, 'Ten minutes');
  await page.getByRole('link', { name: 'Hear' }).click();
  await page.getByText('Drop a recording here').waitFor();
  const sent = Date.now();
  await page.locator('input[type=file]').setInputFiles('test-results/ten minutes.wav');
  await page.getByRole('button', { name: 'ten minutes' }).waitFor({ timeout: 180_000 });
  console.log(`105 MB decoded, sent in chunks and kept in ${((Date.now() - sent) / 1000).toFixed(1)} s`);
  const url = page.url();
  await page.context().close();

  const opened = [];
  let open = null;
  for (let i = 0; i < 3; i++) {
    await open?.context().close();
    open = await freshPage(browser);
    const began = Date.now();
    await open.goto(url);
    await open.getByRole('button', { name: 'Play', exact: true, disabled: false }).waitFor({ timeout: 60_000 });
    opened.push((Date.now() - began) / 1000);
  }
  console.log(
    `a recording of ten minutes is open, to be played, after ${middle(opened).toFixed(1)} s (of ${opened.map((s) => s.toFixed(1)).join(', ')}; goal < 3)`,
  );
  await open.waitForTimeout(3000);
  for (const [what, words] of [
    ['scroll', 'scrolled along'],
    ['zoom', 'zoomed in and out'],
  ]) {
    const gaps = await frames(open, what, 300);
    console.log(
      `${words} in every frame: median ${middle(gaps).toFixed(1)} ms, 95th percentile ${middle(gaps, 0.95).toFixed(1)} ms, ${dropped(gaps).toFixed(1)} % of frames dropped (goal: 60 frames a second)`,
    );
  }
  console.log(`memory with it open: ${resident().toFixed(0)} MB (goal < 1,500)`);
  const began = Date.now();
  await open.getByRole('button', { name: 'Listen to all of it' }).click();
  let most = 0;
  while (await open.getByText(/^Listening:/).isVisible()) {
    most = Math.max(most, resident());
    await open.waitForTimeout(250);
  }
  console.log(
    `listened to whole in ${((Date.now() - began) / 1000).toFixed(0)} s, ${(SECONDS / ((Date.now() - began) / 1000)).toFixed(0)} x real time; memory at most ${most.toFixed(0)} MB (goal < 1,500)`,
  );
});
