import { expect, test, type Page } from '@playwright/test';
import { call, frets, goTo, newPiece, noBarriers, saved } from './support/bench';

/** The needle's answer after a string was struck: the last reading before it dies away. */
async function read(page: Page, string: number): Promise<number> {
  const needle = page.getByTestId('needle');
  await page.getByRole('button', { name: `String ${string}: strike` }).click();
  await expect(needle).toHaveAttribute('data-string', String(string));
  // The median over some readings: wait until the stroke is well under way.
  await page.waitForTimeout(700);
  return Number(await needle.getAttribute('data-cents'));
}

test('an instrument is put on the rack, asked about, changed, and kept with its history', async ({ page }) => {
  // A name of its own, so that a second run finds its own instrument.
  const name = `Attic guitar ${Date.now().toString(36)}`;
  await page.goto('/rack');
  await page.getByRole('button', { name: 'Instrument', exact: true }).click();
  await page.getByLabel('Copy of').selectOption('guitar-6');
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Put it on the rack' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await page.getByLabel('Scale length, mm').fill('25.5');
  await expect(page.getByText('25.5 in is 648 mm')).toBeVisible();
  await page.getByRole('button', { name: 'Take 648 mm' }).click();
  await page.getByLabel('String 1 gauge in mm').fill('0');
  await expect(page.getByRole('alert').getByText('a string has a thickness')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep the changes' })).toBeDisabled();
  await page.getByLabel('String 1 gauge in mm').fill('0,279');
  await page.getByRole('button', { name: 'Thicker string' }).click();
  await expect(page.getByLabel('String 7 made for')).toHaveValue('B1');
  await page.getByLabel('String 6 course').selectOption('octave');
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  await page.getByLabel('Sound 1, knob 1 value').fill('2:00');
  await page.getByLabel('Sound 1 goal').fill('warm, far away');
  await expect(page.getByLabel('Sound 1, knob 1 value')).toHaveValue('7');
  await page.getByRole('button', { name: 'Keep the changes' }).click();
  await expect(page.getByText('from 6 to 7 strings; tone notes changed')).toBeVisible();
  await noBarriers(page);
  await page.reload();
  await expect(page.getByLabel('Sound 1 goal')).toHaveValue('warm, far away');
  await expect(page.getByLabel('String 6 second gauge in mm')).not.toHaveValue('');
  // What is handed out can be brought in again.
  const down = page.waitForEvent('download');
  await page.goto('/rack');
  await page.getByRole('link', { name: 'Hand out' }).click();
  const file = await (await down).path();
  await page.getByLabel('Rack file').setInputFiles({
    name: 'rack.json',
    mimeType: 'application/json',
    buffer: (await import('node:fs')).readFileSync(file),
  });
  await expect(page.getByRole('link', { name })).toHaveCount(2);
  await page
    .getByLabel('Rack file')
    .setInputFiles({ name: 'broken.json', mimeType: 'application/json', buffer: Buffer.from('{"format":"other"}') });
  await expect(page.getByRole('alert').getByText('broken.json: At format')).toBeVisible();
  await page
    .getByRole('button', { name: `Take ${name} off the rack` })
    .first()
    .click();
  await expect(page.getByRole('link', { name })).toHaveCount(1);
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByRole('link', { name })).toHaveCount(2);
});

test('a tuning of one’s own is understood, planned for, kept, and used in a piece with a string off and a partial capo', async ({
  page,
}) => {
  await page.goto('/rack/tunings');
  await page.getByLabel('Spelled thick to thin').fill('D A D G C');
  await expect(page.getByText('names 5 strings')).toBeVisible();
  await page.getByLabel('Spelled thick to thin').fill('D G D G C E');
  await expect(
    page
      .getByText('Octaves taken nearest to this instrument’s own tuning')
      .or(page.getByText("Octaves taken nearest to this instrument's own tuning")),
  ).toBeVisible();
  const plan = page.getByRole('region', { name: 'Retuning plan' });
  await expect(plan.getByRole('listitem')).toHaveText([
    /6 E.*E2 → D2.*down 2 semitones/,
    /5 A.*A2 → G2.*down 2 semitones/,
    /2 B.*B3 → C4.*up 1 semitone/,
  ]);
  await expect(plan.getByText('keep the face away')).toBeVisible();
  await expect(page.getByText('Strings that coincide')).toBeVisible();
  const known = page.getByRole('button', { name: 'Take it off your list' });
  if (await known.isVisible()) await known.click();
  await page.getByLabel('Coming from').selectOption('drop-d');
  await expect(plan.getByRole('listitem')).toHaveCount(2);
  await page.getByLabel(/Keep D G D G C E/).fill('Attic tuning');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('heading', { name: 'Attic tuning' })).toBeVisible();
  await noBarriers(page);

  await newPiece(page, 'Trapdoor');
  await call(page, 'on 4 2 5 on 6 open');
  await saved(page);
  await goTo(page, 'Set up');
  await page.getByLabel('Tuning', { exact: true }).selectOption({ label: 'Attic tuning (D G D G C E)' });
  await page.getByRole('button', { name: 'Strings on: string 6' }).click();
  await page.getByRole('button', { name: 'Capo', exact: true }).click();
  await page.getByLabel('Capo at fret').fill('30');
  await expect(page.getByText('give a whole number from 0 (none) to 12')).toBeVisible();
  await page.getByLabel('Capo at fret').fill('2');
  for (const s of [6, 2, 1]) await page.getByRole('button', { name: `Capo on strings: string ${s}` }).click();
  await page.getByLabel('Keep the shape').check();
  await expect(page.getByText('1 note is placed anew')).toBeVisible();
  await page.getByRole('button', { name: 'Use this set-up' }).click();
  await expect(page.getByRole('cell', { name: 'E3' })).toBeVisible();
  await goTo(page, 'Place');
  await expect(page.getByText('fret 2 on strings 5 4 3', { exact: true })).toBeVisible();
  // The note of the string taken off is not lost: it is shown as not placed, or lies elsewhere.
  await expect.poll(async () => (await frets(page)).length).toBeGreaterThanOrEqual(2);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect.poll(() => frets(page)).toEqual(['2', '5', '0']);
});

test('the capo planner finds places, tells the band, and follows a singer', async ({ page }) => {
  await page.goto('/rack/capo');
  await expect(page.getByRole('heading', { name: /Capo at fret 3/ })).toBeVisible();
  await expect(page.getByText('plays in G major shapes: G D Em C')).toBeVisible();
  await expect(page.getByRole('img', { name: /^G: string 6 fret 3/ })).toBeVisible();
  await page.getByLabel('Chords as they sound').fill('Bb F Zz');
  await expect(page.getByText('"Zz" is no chord name')).toBeVisible();
  await page.getByLabel('Chords as they sound').fill('Bb F');
  await page.getByRole('button', { name: 'fret 1', exact: true }).click();
  await expect(page.getByRole('heading', { name: /Capo at fret 1/ })).toBeVisible();
  for (const [label, note] of [
    ['Melody’s lowest', 'C4'],
    ['Melody’s highest', 'E5'],
    ['Voice’s lowest', 'G3'],
    ['Voice’s highest', 'C5'],
  ] as const)
    await page.getByLabel(label).fill(note);
  await page.getByRole('group', { name: 'For a singer' }).getByRole('listitem').first().getByRole('button').click();
  await expect(page.getByLabel('Key as it sounds')).not.toHaveValue('Bb');
  await noBarriers(page);
});

test('strings are weighed side by side and the day is put in order', async ({ page }) => {
  await page.goto('/rack/strings');
  await expect(page.getByRole('img', { name: /Tension across strings/ })).toBeVisible();
  await page.getByLabel('Tuning', { exact: true }).selectOption('down-5');
  await expect(page.getByRole('region', { name: 'Tension' }).getByText('floppy').first()).toBeVisible();
  await expect(page.getByRole('region', { name: 'Suggested gauges' }).getByText('wound').first()).toBeVisible();
  await page.getByLabel('Fret, from the nut').fill('1');
  await expect(
    page
      .getByRole('region', { name: 'Bends' })
      .getByText(/very hard|hard/)
      .first(),
  ).toBeVisible();
  await noBarriers(page);
  await page.goto('/rack/day');
  await expect(page.getByRole('heading', { name: 'Bass, 4 strings' })).toBeVisible();
  const bass = page.getByRole('region', { name: 'Bass, 4 strings' });
  await bass.getByLabel('Tuned in the morning to').selectOption('bass-standard');
  await expect(bass.getByText(/\d+ pegs? to turn/)).toBeVisible();
  await page.getByLabel(/Cellar Stairs/).uncheck();
  await expect(bass.getByRole('link', { name: 'Cellar Stairs' })).toBeHidden();
  await noBarriers(page);
});

test('the simulated instrument is tuned to green with the keyboard, read into the log, and judged', async ({
  page,
}) => {
  await page.goto('/rack/tune?instrument=guitar-6-short&tuning=drop-d');
  await page.getByRole('button', { name: 'Another set-up' }).click();
  await page.getByRole('button', { name: 'Capo', exact: true }).click();
  await page.getByRole('button', { name: 'Tune this', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Capo is on: take it off' })).toBeVisible();
  await page.getByRole('button', { name: 'Simulated instrument' }).click();
  await page.getByLabel('Let it sound aloud').uncheck();
  const needle = page.getByTestId('needle');
  // With the capo on, as the default school has it: string 5 to green.
  for (let turn = 0; turn < 6; turn++) {
    const cents = await read(page, 5);
    if ((await needle.getAttribute('data-verdict')) === 'in tune') break;
    const strike = page.getByRole('button', { name: 'String 5: strike' });
    await strike.focus();
    const tens = Math.trunc(Math.abs(cents) / 10);
    const ones = Math.round(Math.abs(cents)) - tens * 10;
    for (let i = 0; i < tens; i++) await page.keyboard.press(cents < 0 ? 'ArrowRight' : 'ArrowLeft');
    for (let i = 0; i < ones; i++) await page.keyboard.press(cents < 0 ? 'ArrowUp' : 'ArrowDown');
  }
  await read(page, 5);
  await expect(needle).toHaveAttribute('data-verdict', 'in tune');
  await expect(page.getByText('✓ in tune')).toBeVisible();
  await expect(page.getByText('1 of 6 in tune')).toBeVisible();
  // The reading with the capo and the one without: how sharp the capo presses.
  const log = page.getByRole('region', { name: 'Tuner log' });
  await log.getByRole('button', { name: /Write down string 5/ }).click();
  await expect(log.getByRole('cell', { name: 'capo 2' })).toBeVisible();
  await page.getByRole('button', { name: 'Capo is on: take it off' }).click();
  await read(page, 5);
  await log.getByRole('button', { name: /Write down string 5/ }).click();
  await expect(log.getByRole('cell', { name: 'open' })).toBeVisible();
  await expect(log.getByText('With the capo at fret 2 this instrument goes')).toBeVisible();
  // The octave check.
  for (const mode of ['harmonic12', 'stopped12']) {
    await page.getByLabel('Strings sounded').selectOption(mode);
    await read(page, 5);
    await log.getByRole('button', { name: /Write down string 5/ }).click();
  }
  await expect(log.getByText(/12th fret/).first()).toBeVisible();
  await noBarriers(page);
  await page.reload();
  await expect(log.getByText('With the capo at fret 2 this instrument goes')).toBeVisible();
  const before = await log.getByRole('row').count();
  await log
    .getByRole('button', { name: /Strike out the reading/ })
    .first()
    .click();
  await expect(log.getByRole('row')).toHaveCount(before - 1);
});
