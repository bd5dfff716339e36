import { expect, test, type Page } from '@playwright/test';
import { frets, newPiece, noBarriers, saved, strip } from './support/bench';

/** On a phone: no page moves sideways, and the bench is worked by the thumb, one panel at a time. */
test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

const sideways = (page: Page): Promise<number> =>
  page.evaluate(() => Math.max(document.documentElement.scrollWidth, document.body.scrollWidth) - window.innerWidth);

test('no page moves sideways', async ({ page }) => {
  test.setTimeout(180_000);
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Lantern Crank', exact: true })).toBeVisible();
  expect(await sideways(page), 'the shelf').toBe(0);
  await page.getByRole('link', { name: 'Lantern Crank', exact: true }).click();
  await expect(strip(page)).toBeVisible();
  const riff = new URL(page.url()).pathname;
  const piece = riff.split('/riffs')[0] ?? '';
  const pages = [
    riff,
    `${riff}/sheet`,
    `${piece}/parts/p0`,
    `${piece}/hear`,
    `${piece}/bring-in`,
    `${piece}/files`,
    `${piece}/check`,
    '/rack',
    '/rack/tunings',
    '/rack/strings',
    '/rack/capo',
    '/rack/day',
    '/rack/tune',
    '/rack/instruments/r-loft',
    '/settings',
    '/settings/hands',
    '/settings/weights',
    '/settings/archive',
    '/calls',
  ];
  for (const at of pages) {
    await page.goto(at);
    await page.waitForLoadState('networkidle');
    await expect(page.getByRole('heading').first()).toBeVisible();
    expect(await sideways(page), at).toBe(0);
  }
});

test('a riff is written, looked at and played with the thumb', async ({ page }) => {
  await newPiece(page, 'Thumb Work');
  const panel = (name: string) => page.getByRole('radio', { name, exact: true }).tap();
  await panel('Call');
  await page.getByLabel('Call notes').click();
  await page.keyboard.type('eighths on 5 3 5 on 4 2 5');
  await page.keyboard.press('Enter');
  await expect.poll(() => frets(page)).toEqual(['3', '5', '2', '5']);
  await saved(page);
  await noBarriers(page);
  const note = page.locator('svg[data-row] g[data-note]').nth(2);
  await panel('Note');
  await note.click({ force: true });
  await expect(
    page
      .getByRole('complementary')
      .getByText(/String 4/)
      .first(),
  ).toBeVisible();
  await noBarriers(page);
  // The strip stays in sight above whatever is open, and the player under it.
  for (const name of ['Note', 'Neck', 'Call', 'Lanes', 'Strip']) {
    await panel(name);
    await expect(strip(page)).toBeInViewport();
    await expect(page.getByRole('button', { name: /Play/ }).first()).toBeInViewport();
    expect(await sideways(page), name).toBe(0);
  }
  await page.getByRole('button', { name: 'Play', exact: true }).tap();
  await expect(page.getByRole('group', { name: 'Player' })).toHaveAttribute('data-playing', 'true');
  await page.getByRole('button', { name: 'Stop', exact: true }).tap();
  await expect(page.getByRole('group', { name: 'Player' })).toHaveAttribute('data-playing', 'false');
});
