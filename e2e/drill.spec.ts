import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, expect, test, type BrowserContext, type Page } from '@playwright/test';
import { call, frets, strip } from './support/bench';
import { OwnServer } from './support/own-server';

/**
 * The fire drill: server, database and browser are killed at moments of chance while notes are called. What the head
 * of the page said was kept is there afterwards. A few rounds in npm test; npm run drill does a hundred.
 */
const ROUNDS = Number(process.env.DRILL_ROUNDS ?? 6);
const PIECE_ROUNDS = 12;
const url = process.env.DATABASE_URL ?? 'postgres://DATABASE_URL-is-not-set:1/none';

/** Chance that can be repeated. */
function dice(seed: number): (sides: number) => number {
  let state = seed;
  return (sides) => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((state / 2_147_483_648) * sides);
  };
}

/** A browser with a device of its own that outlives it. */
class Device {
  private readonly folder = mkdtempSync(path.join(tmpdir(), 'drill-'));
  private context: BrowserContext | null = null;

  async open(): Promise<Page> {
    const { launchOptions, viewport } = test.info().project.use;
    this.context = await chromium.launchPersistentContext(this.folder, {
      ...launchOptions,
      viewport: viewport ?? null,
    });
    return this.context.pages()[0] ?? this.context.newPage();
  }

  /** Kills it with everything it is made of, as a dead battery would. */
  kill(): void {
    const found = execFileSync('pgrep', ['-f', '--', this.folder], { encoding: 'utf8' });
    for (const pid of found.split('\n').filter(Boolean))
      try {
        process.kill(Number(pid), 'SIGKILL');
      } catch {
        // It went with another.
      }
  }

  async end(): Promise<void> {
    await this.context?.close().catch(() => undefined);
    rmSync(this.folder, { recursive: true, force: true });
  }
}

test(`${ROUNDS} rounds of killing server, database and browser: nothing that was kept is lost`, async () => {
  test.setTimeout(120_000 + ROUNDS * 60_000);
  const [own, device, roll] = [new OwnServer(url), new Device(), dice(Number(process.env.DRILL_SEED ?? 7))];
  await own.begin();
  try {
    let page = await device.open();
    let where = '';
    let typed: string[] = [];
    let all = 0;
    // The strip draws what is in sight: a new piece now and then keeps all notes countable.
    const begin = async (): Promise<void> => {
      await page.goto(own.url);
      await page.getByRole('button', { name: 'New piece' }).click();
      await page.getByLabel('Name').fill('Fire Drill');
      await page.getByRole('button', { name: 'Begin with an empty riff' }).click();
      await expect(strip(page)).toBeVisible();
      where = page.url();
      typed = [];
      await write();
      await expect(page.locator('[data-save="saved"]')).toBeVisible();
    };
    const write = async (): Promise<void> => {
      const fret = String(1 + roll(9));
      await call(page, `on ${3 + roll(4)} ${fret}`);
      typed.push(fret);
      all++;
      await expect.poll(async () => (await frets(page)).length).toBe(typed.length);
    };
    const kept = () => expect(page.locator('[data-kept="true"]')).toBeVisible();
    for (let round = 0; round < ROUNDS; round++) {
      if (round % PIECE_ROUNDS === 0) await begin();
      const victim = ['server', 'database', 'browser', 'server and browser'][round % 4] ?? 'server';
      for (let i = roll(3); i >= 0; i--) await write();
      if (victim.includes('server')) await own.kill();
      if (victim === 'database') await own.wire.cut();
      await write();
      await kept();
      await page.waitForTimeout(roll(700));
      if (victim.includes('browser')) device.kill();
      if (victim.includes('server')) await own.start();
      if (victim === 'database') await own.wire.up();
      if (victim.includes('browser')) {
        page = await device.open();
        await page.goto(where);
      }
      await expect(strip(page)).toBeVisible();
      await expect.poll(() => frets(page), `round ${round}: ${victim}`).toEqual(typed);
      await expect(page.locator('[data-save="saved"]')).toBeVisible({ timeout: 60_000 });
    }
    await page.reload();
    await expect.poll(() => frets(page)).toEqual(typed);
    process.stdout.write(`${ROUNDS} rounds, ${all} notes typed, none lost\n`);
  } finally {
    await device.end();
    await own.end();
  }
});
