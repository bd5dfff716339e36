import { expect, test } from '@playwright/test';
import { call, frets, goTo, newPiece, noBarriers, saved } from './support/bench';

// Settings hold for the whole studio, so this file runs alone, after all others (see playwright.config.ts).

test('a school takes effect everywhere at once', async ({ page }) => {
  await newPiece(page, 'Schoolroom');
  await call(page, 'on 6 3');
  await saved(page);
  const bench = page.url();
  await goTo(page, 'Set up');
  await page.getByRole('button', { name: 'Capo', exact: true }).click();
  await page.getByLabel('Keep the shape').check();
  await page.getByRole('button', { name: 'Use this set-up' }).click();
  await saved(page);
  await page.goto('/settings');
  try {
    await page.getByLabel('Frets with a capo').selectOption('nut');
    await page.getByLabel('Note names').selectOption('solfege');
    await expect(page.getByText('counted from the nut; an open string')).toBeVisible();
    await expect(page.getByText(/fret 8, ring finger, sounding Si♭/)).toBeVisible();
    await noBarriers(page);
    await page.goto(bench);
    await expect.poll(() => frets(page)).toEqual(['5']);
    await call(page, 'on 5 2 on 5 7');
    await expect.poll(() => frets(page)).toEqual(['5', '0', '7'].map((f) => (f === '0' ? '2' : f)));
    await page.goto(`${bench}/sheet`);
    await expect(page.getByText('counted from the nut; an open string')).toBeVisible();
  } finally {
    await page.goto('/settings');
    await page.getByLabel('Frets with a capo').selectOption('capo');
    await page.getByLabel('Note names').selectOption('letters');
    await expect(page.getByText('B3, B♭3, E4')).toBeVisible();
  }
  await page.goto(bench);
  await expect.poll(() => frets(page)).toEqual(['3', '0', '5']);
});
