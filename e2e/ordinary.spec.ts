import { expect, test } from '@playwright/test';
import { call, frets, keys, newPiece, noBarriers, saved, strip } from './support/bench';

/** Ordinary playing, written through the page as an instructor would, without a fight. */

test('what a call would write over is said first; locked notes take a second Enter; it can be inserted instead', async ({
  page,
}) => {
  await newPiece(page, 'Borrowed Lamp');
  await call(page, 'quarters on 5 3 5 7 8');
  await strip(page).focus();
  await keys(page, 'Home');
  const line = page.getByLabel('Call notes');
  await line.click();
  await line.pressSequentially('quarter on 4 2', { delay: 5 });
  await expect(page.getByText('Enter writes over 1 note, 1 of them locked.')).toBeVisible();
  // Where it goes stands on the strip while it is typed.
  await expect(page.locator('[data-target]')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(page.getByText('Enter again writes over 1 note, 1 of them locked.')).toBeVisible();
  expect(await frets(page)).toEqual(['3', '5', '7', '8']);
  await noBarriers(page);
  await page.getByRole('button', { name: 'Insert by beat' }).click();
  await expect.poll(() => frets(page)).toEqual(['3', '2', '5', '7', '8']);
  await strip(page).focus();
  await keys(page, 'Home');
  await line.click();
  await line.pressSequentially('quarter on 4 4', { delay: 5 });
  await keys(page, 'Enter', 'Enter');
  await expect.poll(() => frets(page)).toEqual(['3', '4', '5', '7', '8']);
  await expect(page.locator('[data-target]')).toHaveCount(0);
  await saved(page);
});

test('some fingers of a chord hammer while others hold, and it is drawn, spoken and kept so', async ({ page }) => {
  await newPiece(page, 'Three Hinges');
  await call(page, 'on 4 9 + on 3 9 + on 2 9 hammer on 4 11 + on 2 10');
  await expect(page.locator('svg[data-row="0"]')).toHaveAttribute('aria-label', /while string 3 sounds on/);
  await expect(page.getByText('can’t', { exact: false })).toHaveCount(0);
  await saved(page);
  await page.reload();
  await expect(page.locator('svg[data-row="0"]')).toHaveAttribute('aria-label', /hammer on to string 4/);
});

test('a mark goes to the note of a chord in focus, from the chord as a whole to all of it', async ({ page }) => {
  await newPiece(page, 'Paper Bells');
  await call(page, 'on 4 2 + on 3 2');
  await strip(page).focus();
  await keys(page, 'Home', 'ArrowUp', 'x');
  await expect.poll(() => frets(page)).toEqual(expect.arrayContaining(['×', '2']));
  // Escape goes back to the whole chord: then the mark goes to all of it.
  await keys(page, 'Escape', 'x');
  await expect.poll(async () => (await frets(page)).filter((one) => one === '×').length).toBe(2);
});

test('a pickup, rests that fill their bar, and another place that is swapped by one key', async ({ page }) => {
  await newPiece(page, 'Long Corridor');
  await call(
    page,
    'pickup eighths on 5 3 5 | A12 or D7 "rounder" rest for half rest for quarter rest for eighth rest for whole rest for whole',
  );
  const row = page.locator('svg[data-row="0"]');
  await expect(row).toHaveAttribute('aria-label', /^Pickup\./);
  await expect(row).toHaveAttribute('aria-label', /or string 4 \(D\), fret 7 \(rounder\)/);
  await expect(row.locator('[data-other] text')).toHaveText('(7)');
  await expect(row.locator('[data-other] title')).toHaveText('rounder');
  await strip(page).focus();
  await keys(page, 'End', 'Shift+A');
  await expect(row.locator('[data-other] text')).toHaveText('(12)');
  await noBarriers(page);
  await saved(page);
});

test('riffs change their order and their part; a tuning typed with flats stays with flats', async ({ page }) => {
  await newPiece(page, 'Winding Stair');
  await call(page, 'on 5 3');
  await page.getByRole('link', { name: 'Change the set-up' }).click();
  await page.getByRole('button', { name: 'Add a riff' }).click();
  await page.getByRole('button', { name: 'Riff 2 earlier' }).click();
  const names = () =>
    page
      .getByRole('region', { name: 'Riffs' })
      .getByLabel('Name')
      .evaluateAll((all) => all.map((one) => (one as HTMLInputElement).value));
  await expect.poll(names).toEqual(['Riff 2', 'First riff']);
  await noBarriers(page);
});
