import AxeBuilder from '@axe-core/playwright';
import { expect, type Locator, type Page } from '@playwright/test';

/** What every browser test does: open, call, wait until it is saved, look for barriers. */

export const strip = (page: Page): Locator => page.getByRole('application');

export async function newPiece(
  page: Page,
  name: string,
  setup: { tuning?: string; instrument?: string; capo?: string } = {},
): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New piece' }).click();
  await page.getByLabel('Name').fill(name);
  if (setup.instrument) await page.getByLabel('Instrument').selectOption(setup.instrument);
  if (setup.tuning) await page.getByLabel('Spelled thick to thin').fill(setup.tuning);
  if (setup.capo) await page.getByLabel('Capo at fret').fill(setup.capo);
  await page.getByRole('button', { name: 'Begin with an empty riff' }).click();
  await expect(strip(page)).toBeVisible();
}

export async function openDemo(page: Page, title: string): Promise<void> {
  await page.goto('/');
  const link = page.getByRole('link', { name: title, exact: true });
  // Other tests' pieces may stand before it: the shelf shows a window of them, so it is searched for.
  await expect(async () => {
    await page.getByLabel('Search pieces').fill('');
    await page.getByLabel('Search pieces').fill(title);
    await expect(link).toBeVisible({ timeout: 5000 });
  }).toPass({ timeout: 60_000 });
  await link.click();
  await expect(strip(page)).toBeVisible();
  // A phone has no room for it.
  if ((page.viewportSize()?.width ?? 0) >= 900) await expect(page.getByText(/notes, \d+ placed by you/)).toBeVisible();
}

/** Goes to a place of work by the path, and waits until it is there: the links of the page before are other ones. */
export async function goTo(page: Page, place: 'Set up' | 'Hear' | 'Place' | 'Form' | 'Check' | 'Teach'): Promise<void> {
  const link = page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: place });
  await link.click();
  await expect(link).toHaveAttribute('aria-current', 'page');
}

export async function call(page: Page, calls: string): Promise<void> {
  await page.getByLabel('Call notes').click();
  await page.keyboard.type(calls);
  await page.keyboard.press('Enter');
}

/** Presses keys one after another. */
export const keys = async (page: Page, ...all: string[]): Promise<void> => {
  for (const key of all) await page.keyboard.press(key);
};

export const saved = (page: Page): Promise<void> =>
  expect(page.locator('[data-save]')).toHaveAttribute('data-save', 'saved');

/** The frets of the strip as drawn, in order of the document. */
export const frets = (page: Page): Promise<string[]> =>
  page
    .locator('svg[data-row] g[data-note]')
    .evaluateAll((notes) => notes.map((one) => one.querySelector('text')?.textContent ?? ''));

export async function noBarriers(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])
    .analyze();
  expect(
    violations.map(
      (made) =>
        `${made.id}: ${made.nodes
          .map((one) => one.target.join(' '))
          .slice(0, 3)
          .join(' | ')}`,
    ),
  ).toEqual([]);
}
