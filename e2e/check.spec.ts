import { expect, test, type Page } from '@playwright/test';
import { call, goTo, newPiece, noBarriers, saved, strip } from './support/bench';

/** Proof-reading: questions with their answers, claims, marks on the strip, and a last look at the sheet. */

const question = (page: Page, rule: string) => page.locator(`main li[data-rule="${rule}"]`);

const BAR = 'eighths on 5 open 3 on 4 open 2 on 5 3 open on 6 3 on 5 open';

/** A piece of four bars, the same but for one fret in the third. */
async function withSlip(page: Page, name: string): Promise<void> {
  // Thirty-two notes are called, placed and read: on a busy machine that takes its time.
  test.slow();
  await newPiece(page, name);
  const slip = BAR.replace('on 4 open 2', 'on 4 open 1');
  await call(page, `${BAR} | ${BAR} | ${slip} | ${BAR}`);
  await expect(page.getByText(/32 notes/)).toBeVisible();
  await saved(page);
}

test('a slip in a copy is marked on the strip, asked about, and mended in one step', async ({ page }) => {
  await withSlip(page, 'Ladder to the Loft');
  // Quietly, once the writing has come to rest.
  await expect(page.locator('svg [data-asked]')).toHaveCount(1);
  await expect(page.getByRole('link', { name: /^Check/ })).toContainText('1');
  const beside = page.getByRole('region', { name: 'Asked by the check' });
  await expect(beside).toContainText('Bar 3 is bars 1, 2 and 4 again');
  await noBarriers(page);
  await page.getByRole('link', { name: /^Check/ }).click();
  await expect(page.getByRole('heading', { name: /1 question open/ })).toBeVisible();
  const asked = question(page, 'copy');
  await asked.getByRole('button', { name: 'Why?' }).click();
  await expect(asked).toContainText('3 bars have');
  await noBarriers(page);
  await asked.getByRole('button', { name: 'Make it fret 2' }).click();
  await expect(question(page, 'copy')).toHaveCount(0);
  await saved(page);
  await page.getByRole('button', { name: /^Undo: mended/ }).click();
  await expect(question(page, 'copy')).toHaveCount(1);
});

test('what is meant stays quiet through a reload, and is asked again when its ground changes', async ({ page }) => {
  await withSlip(page, 'Crooked Rung');
  await page.getByRole('link', { name: /^Check/ }).click();
  const asked = question(page, 'copy');
  await asked.getByRole('button', { name: 'Meant, with a reason' }).click();
  await page.getByRole('textbox', { name: 'Why it is meant' }).fill('the third rung is crooked');
  await page.getByRole('button', { name: 'Meant', exact: true }).last().click();
  await expect(asked).toHaveCount(0);
  await saved(page);
  await page.reload();
  await page.getByRole('button', { name: 'Meant 1' }).click();
  await expect(question(page, 'copy')).toContainText('the third rung is crooked');
  await question(page, 'copy').getByRole('button', { name: 'Ask again' }).click();
  await page.getByRole('button', { name: /^Questions/ }).click();
  await expect(question(page, 'copy')).toHaveCount(1);
  await question(page, 'copy').getByRole('button', { name: 'Later' }).click();
  await expect(page.getByRole('button', { name: 'Later 1' })).toBeVisible();
});

test('what is said of it is held against the notes, and said otherwise in one step', async ({ page }) => {
  await withSlip(page, 'Said of the Ladder');
  await page.getByRole('link', { name: /^Check/ }).click();
  const said = page.getByRole('region', { name: 'Said of it' });
  await page.getByLabel('Of what').selectOption({ index: 2 });
  await said.getByLabel('Say something of it').fill('all A major pentatonic');
  await expect(said.getByRole('status')).toContainText('Understood');
  await said.getByRole('button', { name: 'Say' }).click();
  await expect(said.getByText('doesn’t hold')).toBeVisible();
  const asked = question(page, 'claim-scale');
  await expect(asked).toContainText('is outside A major pentatonic');
  await asked
    .getByRole('button', { name: /^Say "/ })
    .first()
    .click();
  await expect(asked).toHaveCount(0);
  await expect(said.getByText('holds', { exact: true })).toBeVisible();
  await said.getByLabel('Say something of it').fill('the lamp is blue');
  await expect(said.getByRole('status')).toContainText('kept as you say it');
  await said.getByRole('button', { name: 'Say' }).click();
  await expect(said.getByText('not checked')).toBeVisible();
  await saved(page);
});

test('the sheet has a last look, the demo its one question, and a grip its names', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Moth at the Lamp', exact: true }).click();
  await expect(strip(page)).toBeVisible();
  await goTo(page, 'Teach');
  await expect(page.getByRole('link', { name: /questions? open/ })).toBeVisible();
  await page.getByRole('link', { name: /questions? open/ }).click();
  await expect(question(page, 'chord')).toContainText('G stands over bar 48');
  const harmony = page.getByRole('region', { name: 'Harmony' });
  await expect(harmony).toContainText('Refrain, said in A minor');
  await expect(harmony).toContainText('Sounds so');
  await newPiece(page, 'One Grip');
  await call(page, 'quarters on 5 2 + on 4 2');
  await strip(page).focus();
  await page.keyboard.press('Home');
  await expect(page.getByRole('region', { name: 'Name' })).toContainText('inverted power chord');
});

test('a file dropped anywhere goes where its kind is taken', async ({ page }) => {
  await newPiece(page, 'Dropped');
  const data = await page.evaluateHandle(() => {
    const transfer = new DataTransfer();
    const tab = 'G|--0--2--|\nD|--------|\nA|--3-----|\nE|--------|\n';
    transfer.items.add(new File([tab], 'riff.txt', { type: 'text/plain' }));
    transfer.items.add(new File(['no song'], 'letter.mid', { type: 'audio/midi' }));
    return transfer;
  });
  await page.locator('header').dispatchEvent('drop', { dataTransfer: data });
  await expect(page).toHaveURL(/bring-in/);
  await expect(page.getByRole('region', { name: 'riff.txt' })).toContainText('3 notes');
  await expect(page.getByText('“letter.mid” is nothing the program reads').first()).toBeVisible();
});
