import { expect, test, type Page } from '@playwright/test';
import { call, goTo, newPiece, noBarriers, saved, strip } from './support/bench';

/** The desk, search, what stands behind a piece, and its parts together; by keyboard where it can be. */

const dialog = (page: Page) => page.getByRole('dialog');
const column = (page: Page, name: string) => page.getByRole('region', { name, exact: true });
const demo = async (page: Page, title: string): Promise<void> => {
  await page.goto('/');
  await page.getByRole('link', { name: title, exact: true }).click();
  await expect(strip(page)).toBeVisible();
};

/** A copy of a demo piece, so that nobody else's window changes it. */
const copyOf = async (page: Page, title: string): Promise<void> => {
  await page.goto('/');
  await page.getByRole('button', { name: `Duplicate ${title}`, exact: true }).click();
  await expect(page.getByRole('heading', { name: `${title} (copy)`, level: 1 })).toBeVisible();
  await expect(strip(page)).toBeVisible();
};

test('a request is noted, moved by keys, due on the shelf, and becomes a piece that says for whom', async ({
  page,
}) => {
  await page.goto('/desk');
  await noBarriers(page);
  await page.getByRole('button', { name: 'Request', exact: true }).click();
  await dialog(page).getByRole('button', { name: 'Save' }).click();
  await expect(dialog(page).getByRole('alert')).toContainText('Say which piece is asked for');
  await dialog(page).getByLabel('Piece asked for').fill('Ropewalk Reel');
  await dialog(page).getByLabel('Who asked').fill('Ottla');
  const today = new Date();
  const day = `${today.getFullYear()}-${String(today.getMonth() + 1).padStart(2, '0')}-${String(today.getDate()).padStart(2, '0')}`;
  await dialog(page).getByLabel('Due', { exact: true }).fill(day);
  await dialog(page).getByRole('button', { name: 'Item' }).click();
  await dialog(page).getByLabel('Item 1: what').fill('the whole reel');
  await dialog(page).getByLabel('Series').selectOption({ label: 'a new one…' });
  await dialog(page).getByLabel('Name of the new series').fill('Reels');
  await noBarriers(page);
  await dialog(page).getByRole('button', { name: 'Save' }).click();
  await expect(dialog(page)).toHaveCount(0);
  const card = column(page, 'Asked for').getByRole('button', { name: /Ropewalk Reel/ });
  await expect(card).toContainText('the whole reel');
  // By keys from column to column.
  await card.focus();
  await page.keyboard.press('Alt+ArrowRight');
  await expect(column(page, 'Promised').getByRole('button', { name: /Ropewalk Reel/ })).toBeFocused();
  await expect(page.getByLabel('Series')).toContainText('Reels');
  await page.getByRole('button', { name: 'By day' }).click();
  await expect(page.getByRole('region', { name: 'This week' })).toContainText('Ropewalk Reel');
  await expect(page.getByRole('region', { name: 'Handed over' })).toContainText(
    'Trapdoor March: the sheet of the guitar',
  );
  await page.goto('/');
  await page
    .getByRole('complementary', { name: 'Due' })
    .getByRole('button', { name: /Ropewalk Reel/ })
    .click();
  await expect(dialog(page)).toBeVisible();
  await dialog(page).getByRole('button', { name: 'Make the piece' }).click();
  await expect(page.getByRole('heading', { name: 'Ropewalk Reel', level: 1 })).toBeVisible();
  await page.getByRole('link', { name: 'for Ottla' }).click();
  await expect(page.getByRole('region', { name: 'Asked for' })).toContainText('the whole reel');
  await page.goto('/desk');
  await expect(column(page, 'In work').getByRole('button', { name: /Ropewalk Reel/ })).toContainText('on the shelf');
});

test('everything said is found by words, every riff by its music, also moved', async ({ page }) => {
  await page.goto('/search');
  await page.getByLabel('Words sought').fill('lamp went out');
  await expect(page.getByRole('link', { name: /the evening the lamp went out/ }).first()).toBeVisible();
  await page.getByLabel('Words sought').fill('Wilma');
  await expect(page.getByRole('link', { name: /request/ }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Music' }).click();
  await page.getByLabel('Notes sought, called').fill('on 5 99');
  await expect(page.getByRole('alert').first()).toBeVisible();
  await page.getByLabel('Notes sought, called').fill('on 5 open on 4 2 on 3 2 on 2 1');
  await expect(
    page.getByRole('link', { name: /Lamp Moth at the Lamp.*the same notes, the same grips/ }).first(),
  ).toBeVisible();
  await expect(page).toHaveURL(/calls=/);
  await noBarriers(page);
  await page.reload();
  await page
    .getByRole('link', { name: /Lamp Moth at the Lamp/ })
    .first()
    .click();
  await expect(strip(page)).toBeVisible();
});

test('history in words: an earlier state is looked at, brought back, and undone again', async ({ page }) => {
  await newPiece(page, 'Weather Vane');
  await call(page, 'quarters on 5 3 5 3 5');
  await saved(page);
  await call(page, 'quarters on 5 8 8 8 8');
  await saved(page);
  await page.getByRole('link', { name: 'About', exact: true }).click();
  const lines = page.getByRole('region', { name: 'History' }).getByRole('listitem');
  await expect(lines).toHaveCount(2);
  await noBarriers(page);
  await lines.last().getByRole('button').click();
  await expect(dialog(page).getByRole('heading', { name: 'Weather Vane' })).toBeVisible();
  await dialog(page).getByRole('button', { name: 'Bring it back' }).click();
  await saved(page);
  await goTo(page, 'Place');
  await expect(strip(page).getByText('8', { exact: true })).toHaveCount(0);
  await page.getByRole('button', { name: /^Undo: brought back/ }).click();
  await expect(strip(page).getByText('8', { exact: true }).first()).toBeVisible();
});

test('sources, links and hand-outs are kept, and two versions compared bar by bar', async ({ page }) => {
  await demo(page, 'Moth at the Lamp');
  await page.getByRole('link', { name: 'for Wilma, lights' }).click();
  await expect(page.getByLabel('Which one')).toHaveValue('the evening the lamp went out, second act');
  await page.getByLabel('To whom').fill('Ottla');
  await page.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByRole('region', { name: 'Handed over' })).toContainText('the sheet to Ottla');
  await page.getByRole('button', { name: 'Link', exact: true }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Choose a piece' })).toBeVisible();
  await page.getByLabel('Piece', { exact: true }).fill('Twelve Lanterns');
  await expect(async () => {
    await page.getByLabel('Piece', { exact: true }).fill('Twelve Lantern');
    await page.getByLabel('Piece', { exact: true }).fill('Twelve Lanterns');
    await page.getByRole('button', { name: 'Link', exact: true }).click();
    await expect(page.getByRole('region', { name: 'Belongs with' })).toContainText(
      'another version of Twelve Lanterns',
      {
        timeout: 1500,
      },
    );
  }).toPass();
  await page
    .getByRole('region', { name: 'Belongs with' })
    .getByRole('listitem')
    .filter({ hasText: 'Twelve Lanterns' })
    .getByRole('button', { name: 'Compare' })
    .click();
  await expect(dialog(page).getByRole('status')).toContainText('bars are the same');
  await expect(dialog(page).getByRole('row').nth(1)).toContainText('1');
  await page.keyboard.press('Escape');
  // Another version is a piece of its own, linked to the first.
  await page.getByLabel('Make another version').selectOption({ label: 'a cover' });
  await expect(page.getByRole('heading', { name: 'Moth at the Lamp (cover)', level: 1 })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Belongs with' })).toContainText('another version of Moth at the Lamp');
  await expect(page.getByRole('combobox', { name: 'Version', exact: true })).toHaveValue('cover');
});

test('parts together: what rings, a second voice with its table, fewer players, an easier level', async ({ page }) => {
  await copyOf(page, 'Moth at the Lamp');
  await goTo(page, 'Form');
  await page.getByRole('link', { name: 'Parts together' }).click();
  await expect(page.getByText('silent here').first()).toBeVisible();
  await page.getByRole('button', { name: 'The next bars' }).click();
  await expect(page.getByRole('region', { name: 'What rings' })).toContainText('Bass');
  await noBarriers(page);
  await page.getByRole('button', { name: 'Second voice' }).click();
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('region', { name: 'Intervals between two parts' }).getByRole('status')).toContainText(
    /^A third above, in the key/,
  );
  await noBarriers(page);
  await page.getByRole('button', { name: 'Fewer players' }).click();
  await page.getByLabel('Players').fill('1');
  await expect(page.getByRole('region', { name: 'What is lost' }).getByRole('listitem').first()).toBeVisible();
  await expect(page.getByText(/plays on\. \d+ % of what is heard/)).toBeVisible();
  await noBarriers(page);
  await page.getByRole('button', { name: 'Levels' }).click();
  await page.getByRole('combobox', { name: 'Part', exact: true }).selectOption({ label: 'Guitar 2' });
  await page.getByRole('button', { name: 'Make the level' }).click();
  await expect(page.getByText(/(\d+) of \1 bars are the same/)).toBeVisible();
  await page
    .getByRole('button', { name: /^Take it: .*no barre/ })
    .first()
    .click();
  await expect(page.getByText(/(\d+) of \1 bars are the same/)).toHaveCount(0);
  await noBarriers(page);
});

test('a part’s sounds are set, copied and printed with their knobs', async ({ page }) => {
  await copyOf(page, 'Moth at the Lamp');
  await goTo(page, 'Set up');
  const sound = page.getByRole('region', { name: 'Sound of the part' });
  await expect(sound.getByLabel('Sound 1 name')).toHaveValue('Lamp');
  await page.getByLabel('Copy a sound').selectOption({ index: 1 });
  await expect(sound.getByLabel('Sound 3 name')).toBeVisible();
  await saved(page);
  await page.goto(`${page.url().replace(/\/parts\/.*/, '')}/sheet`);
  await page.getByLabel('Sounds', { exact: true }).check();
  await expect(page.getByText('warm, no edge')).toBeVisible();
});

test('the desk, search and what stands behind a piece work on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  for (const path of ['/desk', '/search']) {
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await noBarriers(page);
  }
  await demo(page, 'Moth at the Lamp');
  const root = page.url().replace(/\/riffs\/.*/, '');
  for (const path of ['/about', '/together']) {
    await page.goto(root + path);
    await expect(page.getByRole('main')).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await noBarriers(page);
  }
});
