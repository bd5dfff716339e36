import { readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { call, frets, goTo, keys, newPiece, noBarriers, openDemo, saved, strip } from './support/bench';

/** Writing everything down by keyboard, text, pointer and ear. */
const texts = (page: Page): Promise<string[]> => page.locator('svg[data-row] text').allTextContents();
const toast = (page: Page, text: string | RegExp) => expect(page.getByText(text).first()).toBeVisible();

test('techniques are toggled by their keys, drawn, refused with the reason, and come back as text', async ({
  page,
}) => {
  await newPiece(page, 'Wire Spider');
  await call(page, 'sixteenths on 5 open 3 on 4 5 7 on 3 5 7 on 2 8 on 1 12');
  await strip(page).focus();
  await keys(page, 'Home', 'Shift+ArrowRight', 'm');
  await expect.poll(() => texts(page)).toContain('P.M.');
  await keys(page, 'Home', 'b');
  await toast(page, 'An open string has no finger that could bend it.');
  await keys(page, 'End', 'ArrowLeft', 'b');
  await expect.poll(async () => (await texts(page)).filter((text) => text === '1').length).toBeGreaterThan(0);
  await keys(page, 'ArrowRight', 'y');
  await expect.poll(() => texts(page)).toContain('T');
  await keys(page, 'Home', 'ArrowRight', 'ArrowRight', 'h', 'ArrowRight', 'u');
  await toast(page, 'This note is not struck');
  await keys(page, 'ArrowLeft', 'ArrowLeft', 'v', 'j');
  await saved(page);
  // What is chosen goes into the call line as text, is changed there, and takes its own place.
  await keys(page, 'Control+a', 'Control+e');
  const line = page.getByLabel('Call notes');
  await expect(line).toContainText('open palm');
  await expect(line).toContainText('tapped');
  await expect(line).toContainText('vibrato likely');
  await expect(page.getByText('Call new notes')).toBeVisible();
  await keys(page, 'Control+End');
  await page.keyboard.type(' accent');
  await keys(page, 'Enter');
  await expect.poll(() => frets(page)).toEqual(['0', '3', '5', '7', '5', '7', '8', '12']);
  await strip(page).focus();
  await keys(page, 'End', 'Control+e');
  await expect(line).toContainText('accent');
  await keys(page, 'Escape');
  await saved(page);
});

test('every command is in the list by its name; numbers and questions are typed with it', async ({ page }) => {
  await openDemo(page, 'Ink and Wire');
  await strip(page).focus();
  await keys(page, 'Control+k');
  const list = page.getByRole('dialog', { name: 'Commands' });
  await expect(list).toBeVisible();
  await noBarriers(page);
  await page.keyboard.type('find every bend above fret 7');
  await list.getByText('Choose all 2 places').click();
  await expect(page.getByRole('complementary').getByRole('heading', { name: '3 notes chosen' })).toBeVisible();
  await keys(page, 'Control+k');
  await page.keyboard.type('find every bnd');
  await expect(list.getByText('"bnd" is nothing that can be looked for', { exact: false })).toBeVisible();
  await keys(page, 'Escape');
  await expect(list).toBeHidden();
  await strip(page).focus();
  await keys(page, 'Home', ',');
  await page.keyboard.type('wide vibrato');
  await keys(page, 'Enter');
  await toast(page, 'An open string has no finger that could shake it.');
});

test('frame of a riff: meter, tempo that slows, swing, strokes and how often, shown on the sheet', async ({ page }) => {
  await newPiece(page, 'Slow Curtain');
  await call(page, 'eighths [on 5 open 3 on 4 2 5 on 5 open 3 on 4 2 5] twice');
  await strip(page).focus();
  await keys(page, 'Home');
  await page.getByRole('tab', { name: 'Riff' }).click();
  const side = page.getByRole('complementary');
  await side.getByLabel('Swing, percent').fill('67');
  await side.getByLabel('Swing, percent').press('Enter');
  await expect(side.getByText('2 to 1')).toBeVisible();
  await side.getByLabel('Played in all, times').fill('3');
  await side.getByLabel('Played in all, times').press('Enter');
  await side.getByLabel('Strokes go').selectOption('down');
  await expect
    .poll(() =>
      page
        .locator('svg[data-row] [data-stroke]')
        .evaluateAll((list) => [...new Set(list.map((one) => one.getAttribute('data-stroke')))]),
    )
    .toEqual(['down']);
  await expect(side.getByText(/16 strokes, \d+\.\d a second at the fastest/)).toBeVisible();
  await strip(page).focus();
  await keys(page, 'End');
  await side.getByLabel('Tempo from bar 2').fill('60');
  await side.getByLabel('Tempo from bar 2').press('Enter');
  await strip(page).focus();
  await keys(page, 'Home');
  await side.getByLabel('From there').selectOption('ramp');
  await side.getByLabel('Meter').fill('4');
  await side.getByLabel('Meter').press('Enter');
  await expect(side.getByText('Such as 4/4 or 7/8.')).toBeVisible();
  await noBarriers(page);
  await saved(page);
  await goTo(page, 'Teach');
  const sheet = page.getByRole('article', { name: 'Sheet' });
  await expect(sheet.getByText('96 quarters a minute, slowing to 60')).toBeVisible();
  await expect(sheet.getByText('swing 2 to 1 in eighths')).toBeVisible();
  await expect(sheet.getByText('3 times')).toBeVisible();
});

test('standard notation stands over strip and sheet, in step with the tab', async ({ page }) => {
  await openDemo(page, 'Ink and Wire');
  await page.getByRole('button', { name: 'staff' }).click();
  const staff = page.locator('[data-staff] svg').first();
  await expect(staff).toBeVisible();
  const heads = staff.locator('.vf-notehead');
  await expect.poll(() => heads.count()).toBeGreaterThan(15);
  // Heads stand over their figures: the first head and the first figure within a few pixels.
  const head = await heads.first().boundingBox();
  const figure = await page.locator('svg[data-row] g[data-note]').first().boundingBox();
  expect(
    Math.abs((head?.x ?? 0) + (head?.width ?? 0) / 2 - ((figure?.x ?? 0) + (figure?.width ?? 0) / 2)),
  ).toBeLessThan(9);
  // A semitone up needs a sign, which undo takes away again.
  const signs = staff.locator('text', { hasText: /[\uE260-\uE262]/ });
  const before = await signs.count();
  await strip(page).focus();
  await keys(page, 'Home', '1');
  await expect.poll(() => signs.count()).toBeGreaterThan(before);
  await keys(page, 'Control+z');
  await expect.poll(() => signs.count()).toBe(before);
  await noBarriers(page);
  await goTo(page, 'Teach');
  await page.getByLabel('Standard notation').check();
  await page.getByLabel('Strokes').check();
  await expect.poll(() => page.locator('[data-staff] .vf-notehead').count()).toBeGreaterThan(30);
  await noBarriers(page);
});

test('four bars of sixteenths stand in one row with all lanes in sight, and eight bars too', async ({ page }) => {
  await newPiece(page, 'Sixteen Wheels');
  await call(page, 'sixteenths [on 5 open 10 12 10 on 4 10 12 on 3 9 11 9 on 4 12 10 on 5 12 10 open 3 5] 8 times');
  await expect.poll(async () => (await frets(page)).length).toBeGreaterThan(60);
  await strip(page).focus();
  await keys(page, 'Home', 'Shift+W');
  const row = page.locator('svg[data-row="0"]');
  await expect(row).toHaveAttribute('aria-label', /Bar 4/);
  const box = await row.boundingBox();
  const area = await strip(page).boundingBox();
  expect(box?.height ?? 999).toBeLessThanOrEqual((area?.height ?? 0) + 8);
  const sizes = await row.locator('g[data-note]').evaluateAll((notes) => {
    const boxes = notes.map((one) => one.querySelector('text')?.getBoundingClientRect()).filter((b) => b !== undefined);
    const near = boxes.flatMap((a, i) =>
      boxes.slice(i + 1).filter((b) => Math.abs(a.y - b.y) < 4 && a.x < b.right - 0.5 && b.x < a.right - 0.5),
    );
    return { overlaps: near.length, height: Math.min(...boxes.map((b) => b.height)) };
  });
  expect(sizes.overlaps).toBe(0);
  expect(sizes.height).toBeGreaterThan(12);
  await keys(page, 'Shift+Z', 'Shift+Z', 'Shift+Z', 'Shift+Z');
  await expect(row).toHaveAttribute('aria-label', /Bar 8/);
});

test('a rhythm is tapped on a key and by the simulated player, with its errors, and laid on the notes', async ({
  page,
}) => {
  await newPiece(page, 'Tin Drum', { instrument: 'bass-4' });
  await call(page, 'quarters on 4 3 3 3 3');
  await strip(page).focus();
  await keys(page, 'Control+a', 'Shift+T');
  const dialog = page.getByRole('dialog', { name: 'Tap the rhythm' });
  await dialog.getByRole('button', { name: 'Simulated player' }).click();
  await expect(dialog.getByText(/4 taps, \d+ ms off the written rhythm/)).toBeVisible();
  await noBarriers(page);
  await dialog.getByRole('button', { name: 'Tap again' }).click();
  const pad = dialog.getByRole('button', { name: 'Tap here' });
  await expect(pad).toBeFocused();
  // A bar of clicks at 96, then taps an eighth apart: four eighths instead of four quarters.
  await page.waitForTimeout((4 * 60_000) / 96 + 150);
  for (let i = 0; i < 4; i++) {
    await page.keyboard.press('j');
    await page.waitForTimeout(312);
  }
  await expect(dialog.getByText(/4 taps/)).toBeVisible();
  await dialog.getByRole('button', { name: 'Lay the notes on it' }).click();
  await expect(dialog).toBeHidden();
  await strip(page).focus();
  await keys(page, 'Control+a', 'Control+e');
  await expect(page.getByLabel('Call notes')).not.toContainText(/^quarters on 4/);
  await saved(page);
});

test('readings compete side by side and are swapped without loss; what is unsaid is listed and linked', async ({
  page,
}) => {
  await newPiece(page, 'Two Ears');
  await call(page, 'quarters on 5 3 on 4 5 on 3 7 bend ? hole');
  await strip(page).focus();
  await keys(page, 'Home', 'ArrowRight');
  await page.getByRole('tab', { name: 'Phrase' }).click();
  const side = page.getByRole('complementary');
  await side.getByRole('button', { name: 'Keep what is chosen beside' }).click();
  await strip(page).focus();
  await keys(page, '7');
  await expect.poll(() => frets(page)).toEqual(['3', '7', '7']);
  await side.getByRole('button', { name: 'Take it' }).click();
  await expect.poll(() => frets(page)).toEqual(['3', '5', '7']);
  await expect(side.getByText('instead of Alternative 1')).toBeVisible();
  await side.getByRole('button', { name: 'Take it' }).click();
  await expect.poll(() => frets(page)).toEqual(['3', '7', '7']);
  await side.getByRole('button', { name: 'This', exact: true }).click();
  await expect(side.getByRole('button', { name: 'This', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await saved(page);
  // Tempo and tuning were left as offered, the bend and the hole are open, nobody said how often.
  await page.getByRole('link', { name: '5 unsaid' }).click();
  const open = page.locator('main li[data-rule="unsaid"]');
  await expect(open).toHaveCount(5);
  await noBarriers(page);
  await page.getByRole('button', { name: 'It is right as set' }).first().click();
  await expect(open).toHaveCount(4);
  await open.filter({ hasText: 'how far it is bent' }).getByRole('link').click();
  await expect(page.getByRole('complementary').getByRole('heading', { level: 2 }).first()).toContainText('D');
  await page.getByText('Techniques', { exact: true }).click();
  const bend = page.getByRole('textbox', { name: 'Bent up to' });
  await bend.fill('E4');
  await bend.press('Enter');
  await expect(page.getByText('200 cents · 2 frets · fret 9 · E4')).toBeVisible();
  await bend.fill('banana');
  await bend.press('Enter');
  await expect(page.getByText('Say cents ("150"), frets', { exact: false })).toBeVisible();
  await page.getByLabel('It rests on').selectOption('seen');
  await page.getByLabel('At, seconds in the clip').fill('12.4');
  await page.getByLabel('At, seconds in the clip').press('Enter');
  await expect(page.getByRole('link', { name: '3 unsaid' })).toBeVisible();
  await saved(page);
});

test('notes are dragged to another string and in time, moved in shape, pasted moved, and played in', async ({
  page,
}) => {
  await newPiece(page, 'Loose Marionette');
  await call(page, 'quarters on 5 7 on 4 5');
  const first = page.locator('svg[data-row] g[data-note]').first();
  const box = await first.boundingBox();
  if (!box) throw new Error('no note');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 21, { steps: 4 });
  await expect(page.getByText('to string 4')).toBeVisible();
  await page.mouse.up();
  await expect.poll(() => frets(page)).toEqual(['2', '5']);
  // Notes are chosen one by one with Ctrl.
  const notes = page.locator('svg[data-row] g[data-note]');
  await notes.nth(0).click();
  await notes.nth(1).click({ modifiers: ['Control'] });
  await expect(page.getByRole('complementary').getByRole('heading', { name: '2 notes chosen' })).toBeVisible();
  await notes.nth(1).click({ modifiers: ['Control'] });
  await expect(page.getByRole('complementary').getByRole('heading', { name: '2 notes chosen' })).toBeHidden();
  await strip(page).focus();
  await keys(page, 'Control+a', ']', ']');
  await expect.poll(() => frets(page)).toEqual(['4', '7']);
  await keys(page, 'Control+c', 'End', 'Control+Shift+V');
  const dialog = page.getByRole('dialog', { name: 'Paste moved' });
  await dialog.getByLabel('By').fill('50');
  await expect(dialog.getByText('A whole number, up to 36 either way.')).toBeVisible();
  await dialog.getByLabel('By').fill('3');
  await dialog.getByRole('button', { name: 'Paste' }).click();
  await expect.poll(() => frets(page)).toEqual(['4', '7', '7', '10']);
  // The letters are a piano, the neck a keyboard.
  await page.getByRole('button', { name: 'Play in' }).click();
  await strip(page).focus();
  await keys(page, 'End', 'd');
  await expect.poll(async () => (await frets(page)).length).toBe(5);
  await keys(page, 'g', ' ', 'h');
  await expect.poll(async () => (await frets(page)).length).toBe(7);
  await saved(page);
});

test('a MIDI keyboard is written in, chords as chords', async ({ page }) => {
  // No keyboard is on this machine: the page is given one that answers as the browser's would.
  await page.addInitScript(() => {
    const input: { name: string; onmidimessage: ((one: { data: Uint8Array }) => void) | null } = {
      name: 'Two-octave keys',
      onmidimessage: null,
    };
    Object.assign(globalThis, { testKeys: input });
    Object.defineProperty(navigator, 'requestMIDIAccess', {
      value: () => Promise.resolve({ inputs: new Map([['1', input]]), onstatechange: null }),
    });
  });
  await newPiece(page, 'Plugged In');
  await page.getByRole('button', { name: 'Play in' }).click();
  await expect(page.getByText('Two-octave keys')).toBeVisible();
  const press = (...notes: number[]): Promise<void> =>
    page.evaluate((all) => {
      for (const n of all)
        (
          globalThis as unknown as { testKeys: { onmidimessage: (one: { data: Uint8Array }) => void } }
        ).testKeys.onmidimessage({ data: new Uint8Array([0x90, n, 90]) });
    }, notes);
  await press(45);
  await expect.poll(async () => (await frets(page)).length).toBe(1);
  await press(52, 57, 60);
  await expect.poll(async () => (await frets(page)).length).toBe(4);
  await press(20);
  await toast(page, 'That note is not on this neck.');
  await saved(page);
});

/** The words and keys of the guide: docs/keys-count.md says them, this drives them. */
test('a four-bar riff of sixteenths with hammer-ons, a slide, a bend and palm mutes is entered by the keys the guide counts', async ({
  page,
}) => {
  const guide = readFileSync(path.resolve(import.meta.dirname, '../docs/four-bars.md'), 'utf8');
  const typed = /```\n([\s\S]*?)\n```/.exec(guide)?.[1]?.replaceAll('\n', ' ') ?? '';
  const counted = Number(/(\d+) keys in all/.exec(guide)?.[1]);
  await newPiece(page, 'Against the Clock');
  await strip(page).focus();
  const began = Date.now();
  let pressed = 0;
  const press = async (key: string): Promise<void> => {
    pressed++;
    await page.keyboard.press(key);
  };
  await press('c');
  for (const letter of typed) await press(letter === ' ' ? 'Space' : letter);
  await press('Enter');
  await expect.poll(async () => (await frets(page)).length).toBeGreaterThanOrEqual(32);
  expect(pressed).toBe(counted);
  // At five keys a second, which is slow typing, it is written well within a minute.
  expect(counted / 5).toBeLessThan(60);
  console.log(`${pressed} keys; the machine took ${((Date.now() - began) / 1000).toFixed(1)} s`);
  const all = await texts(page);
  expect(all.filter((text) => text === 'P.M.').length).toBeGreaterThan(0);
  expect(all).toContain('½');
  await saved(page);
});
