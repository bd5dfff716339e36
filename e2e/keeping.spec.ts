import { expect, test } from '@playwright/test';
import { call, frets, goTo, newPiece, noBarriers, openDemo, saved, strip } from './support/bench';

test('two windows never overwrite each other: the stale one is told and both versions are kept', async ({
  page,
  context,
}) => {
  await newPiece(page, 'Two Hands');
  await call(page, 'on 5 3');
  await saved(page);
  const other = await context.newPage();
  await other.goto(page.url());
  await expect.poll(async () => (await frets(other)).length).toBe(1);
  await call(page, 'on 5 5');
  await saved(page);
  await call(other, 'on 4 7');
  const dialog = other.getByRole('dialog', { name: 'This piece was changed elsewhere' });
  await expect(dialog).toBeVisible();
  await noBarriers(other);
  await dialog.getByRole('button', { name: 'Keep mine as a piece of its own' }).click();
  await expect(other.getByRole('heading', { name: 'Two Hands (my version)' })).toBeVisible();
  await expect.poll(() => frets(other)).toEqual(['3', '7']);
  await page.reload();
  await expect.poll(() => frets(page)).toEqual(['3', '5']);
});

test('nothing typed is lost while the server does not answer', async ({ page, context }) => {
  await newPiece(page, 'Broken Wire');
  await call(page, 'on 5 3');
  await saved(page);
  await context.setOffline(true);
  await call(page, 'on 5 7');
  await expect(page.getByRole('status')).toContainText('Not saved');
  await expect(page.getByText('kept on this device')).toBeVisible();
  await call(page, 'on 5 8');
  await context.setOffline(false);
  await saved(page);
  await page.reload();
  await expect.poll(() => frets(page)).toEqual(['3', '7', '8']);
});

test('the shelf finds, duplicates, takes off and puts back', async ({ page }) => {
  await newPiece(page, 'Shelf Mouse', { instrument: 'bass-5' });
  await page.goto('/');
  await page.getByLabel('Search pieces').fill('mouse');
  await expect(page.getByRole('link', { name: 'Shelf Mouse' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Lantern Crank' })).toBeHidden();
  await page.getByRole('button', { name: 'Duplicate Shelf Mouse' }).click();
  await expect(page.getByRole('heading', { name: 'Shelf Mouse (copy)' })).toBeVisible();
  await page.goto('/');
  // Other tests work on their own pieces at the same time, so the order is asked among these two only.
  await page.getByLabel('Search pieces').fill('mouse');
  await expect(page.getByRole('link', { name: 'Lantern Crank' })).toBeHidden();
  await expect(page.getByRole('list').first().getByRole('link').first()).toContainText('Shelf Mouse (copy)');
  await page.getByRole('button', { name: 'Delete Shelf Mouse (copy)' }).click();
  await expect(page.getByRole('link', { name: 'Shelf Mouse (copy)' })).toBeHidden();
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByRole('link', { name: 'Shelf Mouse (copy)' })).toBeVisible();
});

test('a set-up is changed keeping the sound or the shape', async ({ page }) => {
  await newPiece(page, 'Changing Coats');
  await call(page, 'on 5 3 on 4 5');
  await saved(page);
  await goTo(page, 'Set up');
  await page.getByLabel('Spelled thick to thin').fill('E A D G');
  await expect(page.getByText('names 4 strings')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Use this set-up' })).toBeDisabled();
  await page.getByLabel('Spelled thick to thin').fill('D G C F A D');
  await expect(page.getByText('2 notes are placed anew, 2 of them you had placed yourself')).toBeVisible();
  await page.getByLabel('Keep the shape').check();
  await expect(page.getByText('2 notes sound another pitch')).toBeVisible();
  await page.getByLabel('Keep the sound').check();
  await page.getByRole('button', { name: 'Use this set-up' }).click();
  await expect(page.getByRole('cell', { name: 'C3' })).toBeVisible();
  await expect(page.getByText('A D minor shape sounds C minor.')).toBeVisible();
  await noBarriers(page);
  await goTo(page, 'Place');
  await expect.poll(async () => (await frets(page)).join()).not.toBe('3,5');
  await expect(page.getByText('2 notes, 0 placed by you, 2 by the program')).toBeVisible();
});

test('a riff plays with count-in, follows, changes tempo, and stops', async ({ page }) => {
  await openDemo(page, 'Lantern Crank');
  const player = page.getByRole('group', { name: 'Player' });
  await strip(page).focus();
  await page.keyboard.press('Space');
  await expect(player).toHaveAttribute('data-playing', 'true');
  const head = strip(page).locator('div[aria-hidden]');
  await expect.poll(() => head.evaluate((one) => one.style.opacity), { timeout: 8000 }).toBe('1');
  const first = await head.evaluate((one) => one.style.transform);
  await expect.poll(() => head.evaluate((one) => one.style.transform)).not.toBe(first);
  const slider = player.getByRole('slider', { name: 'Tempo in percent' });
  await slider.focus();
  await page.keyboard.press('Home');
  await expect(player.getByText('25 %')).toBeVisible();
  await expect(player.getByText('23 bpm')).toBeVisible();
  await expect(player).toHaveAttribute('data-playing', 'true');
  await strip(page).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Space');
  await expect(player).toHaveAttribute('data-playing', 'false');
  await expect(player.getByRole('button', { name: 'Play this' })).toBeVisible();
});

for (const theme of ['light', 'dark'] as const) {
  test(`no barriers on any view, ${theme}`, async ({ page }) => {
    await page.addInitScript((text) => localStorage.setItem('theme', text), theme);
    await page.goto('/');
    await noBarriers(page);
    await page.getByRole('button', { name: 'New piece' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await noBarriers(page);
    await page.goto('/calls');
    await noBarriers(page);
    await openDemo(page, 'Lantern Crank');
    await noBarriers(page);
    await strip(page).focus();
    for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight');
    await expect(page.getByRole('complementary').getByText(/^(yours|proposed)$/)).toBeVisible();
    await noBarriers(page);
    for (const stage of ['Set up', 'Check', 'Teach']) {
      await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: stage }).click();
      await expect(page.getByRole('main')).toBeVisible();
      await noBarriers(page);
    }
    await page.goto('/pieces/nothing-here');
    await expect(page.getByRole('heading', { name: 'Not on the shelf' })).toBeVisible();
    await noBarriers(page);
  });
}
