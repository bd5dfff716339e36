import { expect, test, type Page } from '@playwright/test';
import { call, goTo, newPiece, noBarriers, saved } from './support/bench';

/** Which set-up was it, and carrying a part to another. */

/** A piece with a low riff on open strings, looked at from its set-up. */
async function atSetup(page: Page, name: string, calls: string, notes: number): Promise<void> {
  test.slow();
  await newPiece(page, name);
  await call(page, calls);
  await expect(page.getByText(new RegExp(`${notes} notes`))).toBeVisible();
  await saved(page);
  await goTo(page, 'Set up');
}

const RIFF = 'eighths on 6 open open on 5 2 on 4 2 on 6 open open on 5 3 on 4 open';

test('the set-up is found from the notes, a clue is said with one key, and one step uses another', async ({ page }) => {
  await atSetup(page, 'Which Strings', RIFF, 8);
  await page.getByRole('link', { name: 'Find the set-up' }).click();
  const notes = page.getByRole('group', { name: 'Notes' });
  await expect(notes.getByRole('button')).toHaveCount(8);
  await noBarriers(page);
  await notes.getByRole('button').first().click();
  await page.keyboard.press('o');
  await expect(page.getByRole('list', { name: 'Clues', exact: true })).toContainText('E2, bar 1: sounds open');
  // The same key again takes it back, and says it anew.
  await page.keyboard.press('o');
  await expect(page.getByRole('list', { name: 'Clues', exact: true })).toHaveCount(0);
  await page.keyboard.press('o');
  await page.getByRole('button', { name: 'Find the set-up' }).click();
  const answers = page.getByRole('region', { name: 'Answers' });
  await expect(answers.getByRole('listitem').first()).toContainText('as it is now', { timeout: 60_000 });
  await expect(answers).toContainText('sets of open strings were looked at');
  await noBarriers(page);
  const other = answers.getByRole('button', { name: /^Use (?!Standard \(E)/ }).first();
  await other.click();
  await saved(page);
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeEnabled();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await saved(page);
});

test('carried over to a bass: the table says what is lost, and an edition knows its model', async ({ page }) => {
  await atSetup(page, 'Down to the Cellar', RIFF, 8);
  await page.getByRole('link', { name: 'Carry over' }).click();
  const table = page.getByRole('table', { name: 'What is kept and lost on each set-up' });
  await expect(table.getByRole('button', { name: /^Make an edition/ })).toHaveCount(5, { timeout: 60_000 });
  await expect(table).toContainText('is no open string any more');
  await noBarriers(page);
  await page.getByLabel('Keep the shape').check();
  await expect(table).toContainText('becomes');
  await page.getByRole('combobox', { name: 'Tuning' }).fill('C G C F A');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'names 5 strings' })).toBeVisible();
  await table.getByRole('button', { name: /^Make an edition for .*[Bb]ass/ }).click();
  await expect(page.getByText(/Carried over from/)).toContainText('up to date with it');
  await saved(page);
  await noBarriers(page);
});

test('the whole piece in another key, and one pitch on every instrument', async ({ page }) => {
  await atSetup(page, 'For a Lower Voice', RIFF, 8);
  await page.getByRole('link', { name: 'Retune the piece' }).click();
  const field = page.getByRole('textbox', { name: 'To the key, or by semitones' });
  await field.fill('nowhere');
  await expect(page.getByRole('alert').filter({ hasText: /key/ })).toBeVisible();
  await field.fill('2');
  const capo = page.getByRole('region', { name: 'By capo' });
  await expect(capo).toContainText('with the capo at fret 2');
  await noBarriers(page);
  await capo.getByRole('button', { name: 'Use: By capo' }).click();
  await saved(page);
  await page.getByRole('link', { name: 'One pitch everywhere' }).click();
  await page.getByRole('textbox', { name: 'Pitch, notes or chord' }).fill('F#2');
  // With the capo at fret 2 the thickest string sounds it open.
  await expect(page.getByRole('img', { name: /string 6 open/ }).first()).toBeVisible();
  await page.getByRole('textbox', { name: 'Pitch, notes or chord' }).fill('H9');
  await expect(page.getByRole('alert').filter({ hasText: 'no pitch and no chord' })).toBeVisible();
  await noBarriers(page);
});

test('a phrase is moved on the bench, and what its open strings become is shown before', async ({ page }) => {
  test.slow();
  await newPiece(page, 'Up Five');
  await call(page, 'eighths on 6 open on 5 2 on 4 2');
  await expect(page.getByText(/3 notes/)).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('Move the phrase');
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Move the phrase' });
  await expect(dialog.getByRole('list', { name: 'Open strings' })).toContainText('Open string 6 is stopped');
  await dialog.getByLabel('go on under it').check();
  await expect(dialog).toContainText('The shape stays');
  await noBarriers(page);
  await dialog.getByRole('button', { name: 'Move it' }).click();
  await expect(dialog).toHaveCount(0);
  await saved(page);
});
