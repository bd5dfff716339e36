import { expect, test, type Page } from '@playwright/test';
import { call, frets, goTo, keys, newPiece, noBarriers, openDemo, saved, strip } from './support/bench';

/** The whole piece: sections, order, variants, folding, playing, printing; by keyboard where it can be. */

const form = (page: Page): Promise<void> => goTo(page, 'Form');
const chart = (page: Page) => page.getByRole('main', { name: 'Chart' });
const typeIn = async (page: Page, label: string, line: string): Promise<void> => {
  const field = page.getByLabel(label, { exact: true });
  await field.fill(line);
  await field.press('Enter');
};

test('from riffs to a form: laid out, typed, played by keys, undone, kept', async ({ page }) => {
  await newPiece(page, 'Stage Door');
  await call(page, 'quarters on 5 3 3 5 3 | on 5 5 5 7 5');
  await form(page);
  await expect(page.getByRole('heading', { name: 'No section yet' })).toBeVisible();
  await noBarriers(page);
  await page.getByRole('button', { name: 'Lay out the 1 riff in order' }).click();
  await expect(chart(page).getByRole('link', { name: /bars 1 to 2: First riff/ })).toBeVisible();
  // The order is typed, with a section that is not there yet.
  await typeIn(page, 'Type it', 'first riff 2 times, coda');
  await expect(page.getByText('12 bars in all')).toBeVisible();
  await expect(page.getByRole('button', { name: /^coda from bar 5/ })).toBeVisible();
  // A place is moved and played more often by keys.
  await page.getByRole('button', { name: /^coda from bar/ }).focus();
  await keys(page, 'Alt+ArrowUp');
  await expect(page.getByRole('button', { name: /^coda from bar 1$/ })).toBeFocused();
  await keys(page, '+');
  await expect(page.getByText('20 bars in all')).toBeVisible();
  // What a part plays is typed; what can't be read stays, with the reason.
  await chart(page).getByRole('button', { name: 'coda' }).click();
  await typeIn(page, 'Electric guitar', 'First rif');
  await expect(page.getByRole('alert').filter({ hasText: 'There is no riff "First rif"' })).toBeVisible();
  await typeIn(page, 'Electric guitar', 'First riff up 2 frets 3 times, rest 2 bars');
  await typeIn(page, 'Chords over the bars', '| C | D | % | % | Am 3 E7 1 |');
  await expect(chart(page).getByRole('link', { name: /First riff, up 2 frets, 3 times in all/ })).toBeVisible();
  await expect(chart(page).getByText('E7')).toBeVisible();
  await noBarriers(page);
  await saved(page);
  await page.reload();
  await expect(chart(page).getByRole('link', { name: /First riff, up 2 frets, 3 times in all/ })).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(chart(page).getByText('E7')).toHaveCount(0);
});

test('a variant is worked on at the bench, follows its riff, and is played on its pass', async ({ page }) => {
  await newPiece(page, 'Two Moths');
  await call(page, 'quarters on 5 3 3 5 3');
  await page.getByLabel('Variant', { exact: true }).selectOption('new');
  await expect(page).toHaveURL(/variant=/);
  await strip(page).focus();
  await keys(page, 'End', 'Delete');
  await expect.poll(() => frets(page)).toEqual(['3', '3', '5']);
  await page.getByLabel('Variant', { exact: true }).selectOption('');
  await expect.poll(() => frets(page)).toEqual(['3', '3', '5', '3']);
  await form(page);
  await page.getByRole('button', { name: 'Lay out the 1 riff in order' }).click();
  await typeIn(page, 'Type it', 'first riff 2 times');
  await chart(page).getByRole('button', { name: 'First riff' }).click();
  await typeIn(page, 'Electric guitar', 'First riff (2nd: Variant 1)');
  await expect(chart(page).getByText('2nd time: Variant 1 (1 note differs)')).toBeVisible();
  await page.getByRole('button', { name: 'Unfolded' }).click();
  await expect(chart(page).getByRole('link', { name: /bars 3 to 4: First riff, Variant 1/ })).toBeVisible();
  // One step to the notes, and back.
  await chart(page)
    .getByRole('link', { name: /bars 1 to 2: First riff/ })
    .click();
  await expect(strip(page)).toBeVisible();
  await strip(page).focus();
  await keys(page, 'Home', 'ArrowUp');
  await form(page);
  await expect(chart(page).getByText('2nd time: Variant 1 (1 note differs)')).toBeVisible();
  await noBarriers(page);
});

test('the chart of a whole piece; chords and degrees at the bench; the sheet with endings', async ({ page }) => {
  await openDemo(page, 'Moth at the Lamp');
  await form(page);
  await expect(page.getByText('56 bars in all')).toBeVisible();
  await expect(chart(page).getByText('Guitar 1, 2nd time: 2nd ending (5 notes differ)')).toBeVisible();
  await noBarriers(page);
  await chart(page)
    .getByRole('link', { name: /Guitar 1, bars 9 to 10: Wing/ })
    .click();
  await expect(page.getByLabel('Where in the form')).toHaveValue(/./);
  await page.getByRole('button', { name: 'harmony' }).click();
  await expect(page.locator('svg[data-row="0"]')).toContainText('Dm');
  await form(page);
  await goTo(page, 'Teach');
  const sheet = page.getByRole('article', { name: 'Sheet' });
  await expect(sheet.getByText('2nd time, instead of bar 10')).toBeVisible();
  await expect(sheet.getByText('2 times in all, as at bar 1')).toBeVisible();
  await page.getByLabel('Bass').check();
  await page.getByLabel('as a score').check();
  await page.getByLabel('every bar').check();
  await expect(sheet.getByRole('img', { name: /^Bass, tab of bars/ }).first()).toBeVisible();
  await page.getByLabel('Large print').check();
  await page.getByLabel('By whom').fill('Written for the moth by the pit band');
  await page.keyboard.press('Enter');
  await expect(sheet.getByText('Written for the moth by the pit band')).toBeVisible();
  await noBarriers(page);
});

test('a form is played from a bar on; the order shows where the music is', async ({ page }) => {
  await openDemo(page, 'Twelve Lanterns');
  await form(page);
  const from = page.getByLabel('from bar', { exact: true });
  await from.fill('5');
  await from.press('Enter');
  await page.getByRole('button', { name: 'Play this' }).click();
  await expect(page.locator('[data-playing="true"]')).toBeVisible();
  await expect(page.locator('li.bg-chosen')).toContainText('Round', { timeout: 15_000 });
  await page.getByRole('button', { name: 'Stop' }).click();
  // Chords laid over the bars are what is played along with.
  await page.getByRole('button', { name: 'Sounds' }).click();
  await page.getByRole('button', { name: 'chords', exact: true }).click();
  await expect(page.getByText('Plain chords')).toBeVisible();
});

test('a long part is folded, and one undo brings it back; a map of bars takes riffs', async ({ page }) => {
  await newPiece(page, 'Trapdoor');
  await call(page, 'quarters on 5 3 3 5 3 | on 5 3 3 5 3 | on 5 5 5 7 5 | on 5 3 3 5 7');
  await form(page);
  await page.getByRole('button', { name: 'Fold a part…' }).click();
  const list = page.getByRole('list', { name: 'Stretches' });
  await expect(list).toContainText('bar 3: bar 1 again, up 2 frets');
  await expect(list).toContainText('bar 4: bar 1 again, with 1 difference');
  await noBarriers(page);
  await page.getByRole('button', { name: /^Fold into/ }).click();
  await expect(chart(page).getByRole('link', { name: /First riff A, up 2 frets/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('heading', { name: 'No section yet' })).toBeVisible();
  await page.getByRole('button', { name: 'Section', exact: true }).click();
  await page.getByRole('button', { name: /^12 bars, minor/ }).click();
  await page.keyboard.press('Escape');
  await expect(chart(page).getByText('Dm')).toBeVisible();
  await page.getByRole('button', { name: /^\+ First riff/ }).click();
  await expect(chart(page).getByRole('link', { name: /bars 1 to 4: First riff/ })).toBeVisible();
});

test('a moved use is written out as a riff of its own, and sounds the same where it stands', async ({ page }) => {
  await openDemo(page, 'Trapdoor March');
  await form(page);
  await chart(page)
    .getByRole('link', { name: /^Guitar 1, bars 7 to 8: Trap, up 3 frets/ })
    .click();
  await page.getByRole('button', { name: 'Write out' }).click();
  await expect(page.getByLabel('Part and riff')).toHaveValue(/./);
  await expect(page.getByRole('application', { name: /^Trap in March/ })).toBeVisible();
  await expect.poll(async () => (await frets(page)).slice(0, 3)).toEqual(['3', '3', '3']);
  await form(page);
  await expect(chart(page).getByRole('link', { name: /^Guitar 1, bars 7 to 8: Trap in March/ })).toBeVisible();
});

test('two windows on one form: nothing is overwritten in silence', async ({ page, context }) => {
  await newPiece(page, 'Echoes');
  await call(page, 'quarters on 5 3 3 5 3');
  await form(page);
  await page.getByRole('button', { name: 'Lay out the 1 riff in order' }).click();
  await saved(page);
  const other = await context.newPage();
  await other.goto(page.url());
  await typeIn(other, 'Type it', 'first riff 4 times');
  await saved(other);
  await typeIn(page, 'Type it', 'first riff 7 times');
  await expect(page.getByRole('dialog', { name: 'This piece was changed elsewhere' })).toBeVisible();
  await page.getByRole('button', { name: 'Go on with the other version' }).click();
  await expect(page.getByText('8 bars in all')).toBeVisible();
});

test('on a phone the chart, the order and the editor work without sideways scrolling', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await openDemo(page, 'Trapdoor March');
  await form(page);
  await expect(chart(page).getByRole('heading', { name: 'March' })).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  await chart(page).getByRole('button', { name: 'March' }).click();
  await typeIn(page, 'Cue', 'when the trap opens');
  await expect(chart(page).getByText('when the trap opens')).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  await noBarriers(page);
});
