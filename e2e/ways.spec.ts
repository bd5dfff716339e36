import { expect, test } from '@playwright/test';
import { call, frets, newPiece, noBarriers, saved } from './support/bench';

test('other ways of a phrase stand side by side, and one is taken in a single step', async ({ page }) => {
  await newPiece(page, 'Two Ladders');
  await call(page, 'eighths note A2 note C3 note D3 note E3 note G3 note A3 note C4 note D4');
  await saved(page);
  await expect.poll(async () => (await frets(page)).length).toBe(8);
  await page.getByRole('application').focus();
  await page.keyboard.press('Control+a');
  await page.getByRole('tab', { name: 'Phrase' }).click();
  await page.getByRole('button', { name: 'Other ways for 8 chosen' }).click();
  const ways = page.getByRole('region', { name: 'Ways' });
  await expect(ways.getByText('easiest')).toBeVisible();
  await expect(ways.getByRole('button', { name: 'Take this way' }).nth(1)).toBeVisible();
  await noBarriers(page);
  const before = await frets(page);
  await ways.getByRole('button', { name: 'Take this way' }).nth(1).click();
  await expect.poll(() => frets(page)).not.toEqual(before);
  await saved(page);
  const taken = await frets(page);
  await page.reload();
  await expect.poll(() => frets(page)).toEqual(taken);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect.poll(() => frets(page)).toEqual(before);
});
