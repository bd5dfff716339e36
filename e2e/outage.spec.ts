import { expect, test, type Page } from '@playwright/test';
import { call, frets, saved, strip } from './support/bench';
import { OwnServer } from './support/own-server';

/** What is typed outlives the server and the database: both are killed while notes are being called. */
/** Of npm test, which starts PostgreSQL; without it the tests fail and say so. */
const url = process.env.DATABASE_URL ?? 'postgres://DATABASE_URL-is-not-set:1/none';

const begun = async (page: Page, base: string, name: string): Promise<void> => {
  await page.goto(base);
  await page.getByRole('button', { name: 'New piece' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Begin with an empty riff' }).click();
  await expect(strip(page)).toBeVisible();
};

test('a killed server and a lost database are seen, work goes on, and nothing typed is lost', async ({ page }) => {
  test.setTimeout(240_000);
  const own = new OwnServer(url);
  await own.begin();
  try {
    await begun(page, own.url, 'Blown Fuse');
    await call(page, 'on 5 3');
    await saved(page);

    await own.kill();
    await call(page, 'on 5 5');
    await expect(page.getByRole('status')).toContainText('Not saved');
    await expect(page.getByText('kept on this device')).toBeVisible();
    await call(page, 'on 5 7');
    // A note is changed as well, not only added.
    await strip(page).focus();
    await page.keyboard.press('End');
    await page.keyboard.press('m');
    await own.start();
    await saved(page);
    await page.reload();
    await expect.poll(() => frets(page)).toEqual(['3', '5', '7']);
    await expect(page.locator('svg[data-row]').getByText('P.M.')).toBeVisible();

    await own.wire.cut();
    await call(page, 'on 4 5');
    await expect(page.getByRole('status')).toContainText('Not saved');
    await call(page, 'on 4 7');
    // Even a closed window does not lose it: the device gives it back.
    await own.wire.up();
    await saved(page);
    await page.reload();
    await expect.poll(() => frets(page)).toEqual(['3', '5', '7', '5', '7']);
  } finally {
    await own.end();
  }
});

test('a window closed while the server was down gives its work back when it is opened again', async ({
  page,
  context,
}) => {
  test.setTimeout(240_000);
  const own = new OwnServer(url);
  await own.begin();
  try {
    await begun(page, own.url, 'Closed Lid');
    await call(page, 'on 6 3');
    await saved(page);
    const where = page.url();
    await own.kill();
    await call(page, 'on 6 5 hammer 7');
    await expect(page.getByRole('status')).toContainText('Not saved');
    await page.close({ runBeforeUnload: false });
    await own.start();
    const again = await context.newPage();
    await again.goto(where);
    await expect.poll(() => frets(again)).toEqual(['3', '5', '7']);
    await saved(again);
  } finally {
    await own.end();
  }
});
