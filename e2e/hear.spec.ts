import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { must } from '../src/core/base';
import { readWav, writeWav } from '../src/core/formats/wav';
import { hearTone } from '../src/core/listen/test-support/tone';
import { renderTake } from '../src/core/synth';
import { call, goTo, newPiece, noBarriers, openDemo, saved, strip } from './support/bench';
import { laid, loudspeaker, overhear, started } from './support/overhear';

const picture = (page: Page) => page.getByRole('img', { name: /seen from/ });
async function hear(page: Page, piece: string): Promise<void> {
  await openDemo(page, piece);
  await goTo(page, 'Hear');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeEnabled();
}
/** Drags a loop from one share of the picture to another. */
async function loop(page: Page, from: number, to: number): Promise<void> {
  const box = await picture(page).boundingBox();
  if (!box) throw new Error('no picture');
  const x = (share: number): number => box.x + 44 + share * (box.width - 44);
  await page.mouse.move(x(from), box.y + 200);
  await page.mouse.down();
  await page.mouse.move(x(to), box.y + 205, { steps: 6 });
  await page.mouse.up();
}

test('a demo recording plays, loops and is slowed: twice as long and at the same pitch, as the sound itself says', async ({
  page,
}) => {
  await overhear(page);
  // The recording as it was kept: what is played is measured against it.
  const coming = page.waitForRequest((one) => /\/api\/clips\/\w+$/.test(one.url()) && one.method() === 'GET');
  await hear(page, 'Strings for a Wooden Fox');
  // Asked for once more: the page reads its answer as it comes, and nothing of it is left to read.
  const kept = must(readWav(new Uint8Array(await (await page.request.get((await coming).url())).body())));
  const whole = { samples: kept.channels[0] as Float32Array, rate: kept.rate };
  await picture(page).click({ position: { x: 60, y: 300 } });
  await page.getByRole('button', { name: 'Play', exact: true }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Player' })).toHaveAttribute('data-playing', 'true');
  await page.getByRole('button', { name: 'Stop' }).click();
  await loop(page, 0.1, 0.3);
  const speed = page.getByRole('slider', { name: 'Speed in percent' });
  await speed.focus();
  await page.keyboard.press('Home');
  for (let i = 0; i < 25; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByText('50 %', { exact: true })).toBeVisible();
  const before = await started(page);
  const label = await page.getByRole('button', { name: /^Listen from/ }).innerText();
  const [from = 0, to = 0] = [...label.matchAll(/(\d+):(\d+\.\d)/g)].map(
    (match) => Number(match[1]) * 60 + Number(match[2]),
  );
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  // Once round and into the second time.
  const slow = await laid(page, before, 4 * (to - from) + 0.5);
  const length = Math.round(2 * (to - from) * slow.rate);
  // The same moments, as they were and drawn out, sound the same pitch; where a note gives way to the next none is
  // heard.
  const first = Math.round(from * whole.rate);
  const stretch = whole.samples.subarray(first, first + Math.round((to - from) * whole.rate));
  const off: number[] = [];
  for (let at = 0.05; at < to - from - 0.15; at += 0.06) {
    try {
      off.push(
        Math.abs(
          hearTone(stretch, whole.rate, at, at + 0.09) - hearTone(slow.samples, slow.rate, 2 * at, 2 * at + 0.18),
        ),
      );
    } catch {
      // Nothing periodic there.
    }
  }
  // The second time round is the first again, after as long as was said, to a tenth of a second as it is shown.
  const [least, middle] = [length - 17_640, Math.round(0.6 * slow.rate)];
  let [around, smallest] = [0, Infinity];
  for (let lag = least; lag < length + 17_640; lag++) {
    let apart = 0;
    for (let i = middle; i < middle + 1500 && apart < smallest; i += 3)
      apart += Math.abs((slow.samples[i] ?? 0) - (slow.samples[i + lag] ?? 0));
    if (apart < smallest) [smallest, around] = [apart, lag];
  }
  expect(smallest).toBeLessThan(1e-3);
  expect(Math.abs(around - length)).toBeLessThan(0.25 * slow.rate);
  expect(off.length).toBeGreaterThan(8);
  expect(off.sort((x, y) => x - y)[Math.floor(off.length / 2)]).toBeLessThan(0.2);
});

test('what is heard in it is laid on bars and taken into the part, with where it was heard', async ({ page }) => {
  test.setTimeout(90_000);
  await hear(page, 'Strings for a Wooden Fox');
  await page.getByRole('button', { name: 'Listen to all of it' }).click();
  const tuned = page.getByText(/^Tuned to/);
  await expect(tuned).toBeVisible({ timeout: 40_000 });
  // The clip was made six cents sharp.
  const cents = Number(/\(([+-]?[\d.]+) cents/.exec(await tuned.innerText())?.[1]);
  expect(Math.abs(cents - 6)).toBeLessThan(5);
  await page
    .getByRole('group', { name: 'Heard as' })
    .getByRole('button', { name: /a line/ })
    .click();
  await picture(page).click({ position: { x: 62, y: 300 } });
  await page.getByRole('button', { name: /Lay bars/ }).click();
  await expect(page.getByText(/bar lines from/).first()).toBeVisible();
  await noBarriers(page);
  const take = page.getByRole('button', { name: /^Write \d+ notes? into Fox runs/ });
  const wanted = Number(/\d+/.exec(await take.innerText())?.[0]);
  expect(wanted).toBeGreaterThan(12);
  await take.click();
  await expect(page.getByText(/notes are in Fox runs/).first()).toBeVisible();
  await saved(page);
  await page.getByRole('link', { name: 'Go to Fox runs' }).click();
  await strip(page).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await expect(page.getByLabel('In words')).toHaveValue(/heard at 0:0\d\.\d/);
  // Bars laid on a recording are there again after a reload.
  await page.goBack();
  await page.reload();
  await expect(page.getByText(/Bars at/)).toBeVisible();
});

test('a recording goes in by chunks through a broken connection; what is no sound is refused with the reason', async ({
  page,
}) => {
  const dir = path.resolve('test-results/clips');
  mkdirSync(dir, { recursive: true });
  const rate = 44_100;
  const samples = Float32Array.from(
    { length: 30 * rate },
    (_, i) => 0.4 * Math.sin((2 * Math.PI * 196 * i) / rate) * (1 - (i % 22_050) / 22_050),
  );
  writeFileSync(path.join(dir, 'Long G.wav'), writeWav({ rate, channels: [samples] }));
  writeFileSync(path.join(dir, 'letter.wav'), 'Dear Theatre, this is a letter and no recording at all.');
  writeFileSync(path.join(dir, 'cut.wav'), writeWav({ rate, channels: [samples] }).subarray(0, 20));
  await newPiece(page, 'Chunks and Letters');
  await goTo(page, 'Hear');
  await expect(page.getByText('Drop a recording here')).toBeVisible();
  const file = page.locator('input[type=file]');
  for (const name of ['letter.wav', 'cut.wav']) {
    await file.setInputFiles(path.join(dir, name));
    await expect(page.getByRole('alert').filter({ hasText: name })).toContainText(/Save (it|the recording) as/);
  }
  // The second chunk does not get through twice.
  let refused = 0;
  await page.route('**/api/clips/*/chunks/1', (route) =>
    refused++ < 2 ? route.abort('connectionreset') : route.continue(),
  );
  await file.setInputFiles(path.join(dir, 'Long G.wav'));
  await expect(page.getByRole('button', { name: 'Long G' })).toBeVisible({ timeout: 30_000 });
  expect(refused).toBeGreaterThan(2);
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeEnabled();
  // By one's own ear: a pitch, a note there, and it is on its way into the part.
  await picture(page)
    .focus()
    .catch(() => undefined);
  await picture(page).click({ position: { x: 300, y: 300 } });
  await page.getByRole('button', { name: 'Play', exact: true }).focus();
  await page.keyboard.press('t');
  await expect(page.getByRole('button', { name: /^Write 1 note into/ })).toBeVisible();
  await page.keyboard.press('b');
  await page.reload();
  await expect(page.getByRole('button', { name: 'Long G' })).toBeVisible();
});

test('what is written is saved as a sound file that sounds it', async ({ page }) => {
  await newPiece(page, 'Saved Sound');
  await call(page, 'halves note A3 note A3');
  await saved(page);
  await strip(page).focus();
  await page.getByRole('button', { name: 'Click', exact: true }).click();
  await strip(page).focus();
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/./).last().fill('Save the sound');
  const coming = page.waitForEvent('download');
  await page.keyboard.press('Enter');
  const file = await (await coming).path();
  const wav = must(readWav(new Uint8Array(readFileSync(file))));
  const [samples] = wav.channels;
  if (!samples) throw new Error('no sound in the file');
  expect(samples.length / wav.rate).toBeGreaterThan(1);
  expect(Math.abs(hearTone(samples, wav.rate, 0.2, 0.6) - 57)).toBeLessThan(0.05);
});

test('what is written is heard against the recording: left and right, and in turn; bars loop, and only a part of it is used', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await overhear(page);
  await hear(page, 'Cellar Stairs');
  await expect(page.getByLabel('Hear', { exact: true })).toBeDisabled();
  await page.getByRole('button', { name: 'Listen to all of it' }).click();
  await expect(page.getByText(/^Tuned to/)).toBeVisible({ timeout: 60_000 });
  await picture(page).click({ position: { x: 90, y: 300 } });
  await page.getByRole('button', { name: /Lay bars/ }).click();
  await expect(page.getByText(/Bars at/)).toBeVisible();
  await page.getByRole('button', { name: 'Loop this bar' }).click();
  await expect(page.getByRole('button', { name: /^Listen from/ })).toBeVisible();
  const bar = await page.getByRole('button', { name: /^Listen from/ }).innerText();
  await page.getByRole('button', { name: 'A bar more' }).click();
  await expect(page.getByRole('button', { name: /^Listen from/ })).not.toHaveText(bar);

  await page.getByLabel('Hear', { exact: true }).selectOption('recording left, written right');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Player' })).toHaveAttribute('data-playing', 'true');
  const [left, right] = await loudspeaker(page, 4);
  const power = (samples: Float32Array | undefined): number =>
    (samples ?? new Float32Array(0)).reduce((sum, v) => sum + v * v, 0);
  expect(power(left)).toBeGreaterThan(1);
  expect(power(right)).toBeGreaterThan(1);
  // Two different sounds, not one on both sides.
  const both = (left ?? new Float32Array(0)).reduce((sum, v, i) => sum + v * (right?.[i] ?? 0), 0);
  expect(Math.abs(both) / Math.sqrt(power(left) * power(right))).toBeLessThan(0.9);
  await page.getByLabel('Hear', { exact: true }).selectOption('the recording');
  const [one, other] = await loudspeaker(page, 1.5);
  expect(Math.abs(power(one) / power(other) - 1)).toBeLessThan(0.01);
  await page.getByRole('button', { name: 'Stop' }).click();

  await page.getByRole('button', { name: 'About it' }).click();
  await page.getByLabel('Whose it is, and what you may do with it').fill('Ours: the cellar take of the pit band.');
  await page.getByRole('button', { name: 'Use only the loop' }).click();
  await expect(page.getByText(/^Used from/)).toBeVisible();
  await noBarriers(page);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'All of it', exact: true }).click();
  await page.reload();
  await page.getByRole('button', { name: 'About it' }).click();
  await expect(page.getByLabel('Whose it is, and what you may do with it')).toHaveValue(
    'Ours: the cellar take of the pit band.',
  );
  await page.getByRole('button', { name: 'Use all of it' }).click();
  await expect(page.getByText('All of it is used.')).toBeVisible();
});

test('what is laid on a recording while the server is away waits on the device and is kept when it is back', async ({
  page,
}) => {
  await hear(page, 'Lantern Crank');
  await page.route('**/pieces/**', (route) =>
    route.request().method() === 'POST' ? route.abort('connectionrefused') : route.continue(),
  );
  await picture(page).click({ position: { x: 300, y: 300 } });
  await page.getByRole('button', { name: 'Play', exact: true }).focus();
  await page.keyboard.press('m');
  await expect(page.getByText('Not saved: kept on this device')).toBeVisible();
  await page.unroute('**/pieces/**');
  await expect(page.getByText('Not saved: kept on this device')).toBeHidden({ timeout: 15_000 });
  await page.reload();
  await expect(picture(page)).toBeVisible();
  await expect(page.locator('svg path.fill-yours')).toHaveCount(1);
});

test('two windows on one recording never write over each other unseen', async ({ page, context }) => {
  await newPiece(page, 'Two Windows');
  await goTo(page, 'Hear');
  // Both at once: one is taken after the other, and what is no sound keeps none of them out.
  const tone = Buffer.from(
    writeWav({
      rate: 44_100,
      channels: [Float32Array.from({ length: 88_200 }, (_, i) => 0.3 * Math.sin((2 * Math.PI * 220 * i) / 44_100))],
    }),
  );
  await page.locator('input[type=file]').setInputFiles([
    { name: 'first.wav', mimeType: 'audio/wav', buffer: tone },
    { name: 'letter.wav', mimeType: 'audio/wav', buffer: Buffer.from('Dear Theatre') },
    { name: 'second.wav', mimeType: 'audio/wav', buffer: tone },
  ]);
  const recordings = page.getByRole('list', { name: 'Choose a recording' }).getByRole('button');
  await expect(recordings).toHaveText(['first', 'second'], { timeout: 20_000 });
  await expect(page.getByRole('alert').filter({ hasText: 'letter.wav' })).toBeVisible();
  const marks = (one: Page) => one.locator('svg path.fill-yours');
  const mark = async (one: Page, x: number): Promise<void> => {
    await picture(one).click({ position: { x, y: 300 } });
    await one.getByRole('button', { name: 'Play', exact: true }).focus();
    await one.keyboard.press('m');
  };
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeEnabled();
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByRole('button', { name: 'second' }).click();
  await expect(other.getByRole('button', { name: 'Play', exact: true })).toBeEnabled();
  const kept = page.waitForResponse((made) => made.request().method() === 'POST' && made.ok());
  await mark(page, 300);
  await mark(page, 500);
  await expect(marks(page)).toHaveCount(2);
  await kept;
  await mark(other, 400);
  await expect(other.getByText('Another window laid something else', { exact: false }).first()).toBeVisible();
  await expect(marks(other)).toHaveCount(2);
  // What gave way is held, and through a reload, until somebody decides; the other version takes its place.
  await other.reload();
  await other.getByRole('button', { name: 'second' }).click();
  await expect(marks(other)).toHaveCount(2);
  await other.getByRole('button', { name: 'Use mine' }).click();
  await expect(marks(other)).toHaveCount(1);
  await other.getByRole('button', { name: 'Let it go' }).click();
  await expect(other.getByText('Another window laid something else', { exact: false })).toBeHidden();
  // One recording and back to the other: what was kept meanwhile is no other window's.
  await other.getByRole('button', { name: 'first', exact: true }).click();
  await other.getByRole('button', { name: 'second' }).click();
  await expect(other.getByRole('button', { name: 'Play', exact: true })).toBeEnabled();
  await mark(other, 200);
  await expect(marks(other)).toHaveCount(2);
  await other.waitForTimeout(500);
  await expect(other.getByText('Another window laid something else', { exact: false })).toBeHidden();
  await page.waitForTimeout(800);
  await page.reload();
  await page.getByRole('button', { name: 'second' }).click();
  await expect(marks(page)).toHaveCount(2);
});

test('the picture and the ear follow the channel that is heard', async ({ page }) => {
  await newPiece(page, 'Left and Right');
  await goTo(page, 'Hear');
  const tone = (hz: number): Float32Array =>
    Float32Array.from({ length: 132_300 }, (_, i) =>
      i < 13_230
        ? 0
        : [1, 2, 3, 4].reduce((sum, n) => sum + (0.2 / n) * Math.sin((2 * Math.PI * hz * n * i) / 44_100), 0),
    );
  await page.locator('input[type=file]').setInputFiles({
    name: 'apart.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from(writeWav({ rate: 44_100, channels: [tone(110), tone(330 * 2 ** (-4 / 1200))] })),
  });
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeEnabled({ timeout: 20_000 });
  const ink = (): Promise<string> =>
    page
      .locator('main canvas')
      .first()
      .evaluate((one: HTMLCanvasElement) => one.toDataURL());
  const hearing = async (channel: string): Promise<string> => {
    await page.getByLabel('Channels').selectOption(channel);
    await page.getByRole('button', { name: 'Listen to all of it' }).click();
    await expect(page.getByText(/a line, 1 note/)).toBeVisible({ timeout: 20_000 });
    await expect(picture(page)).toHaveAttribute('aria-label', channel === 'left' ? /heard: A2/ : /heard: E4/);
    await page.waitForTimeout(600);
    return ink();
  };
  const left = await hearing('left');
  expect(await hearing('right')).not.toBe(left);
  expect(await hearing('left')).toBe(left);

  // What the notes do is drawn over them, and said.
  const note = (at: number, end: number, midi: number, extra: object = {}) => ({
    event: String(at),
    string: 1,
    at,
    end,
    midi,
    from: 0,
    moves: [],
    strength: 0.8,
    struck: true,
    sustain: 1,
    ...extra,
  });
  const take = renderTake(
    [
      note(0.4, 0.8, 52),
      note(0.8, 1.2, 55, { struck: false }),
      note(1.3, 2.2, 60, { moves: [{ at: 0.2, by: 2, over: 0.2 }] }),
    ],
    { seconds: 2.6 },
  );
  await page.locator('input[type=file]').setInputFiles({
    name: 'joined.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from(writeWav({ rate: 44_100, channels: [take] })),
  });
  await page.getByRole('button', { name: 'joined' }).click();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeEnabled({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Listen to all of it' }).click();
  await expect(picture(page)).toHaveAttribute(
    'aria-label',
    /E3 at 0:00\.4, G3 at 0:00\.8, joined, C4 at 0:01\.3, bend/,
    { timeout: 20_000 },
  );
  await expect(picture(page).locator('path[data-joined]')).toHaveCount(1);
  await expect(picture(page).getByText('↑1')).toBeVisible();
});

test('FLAC, MP3, Ogg and M4A come in as WAV does, of any rate and number of channels', async ({ page }) => {
  test.setTimeout(120_000);
  const dir = path.resolve('test-results/clips');
  mkdirSync(dir, { recursive: true });
  const tone = (rate: number): Float32Array =>
    Float32Array.from({ length: 2 * rate }, (_, i) => 0.3 * Math.sin((2 * Math.PI * 220 * i) / rate));
  for (const [name, rate, channels] of [
    ['eight thousand', 8000, 1],
    ['high rate', 192_000, 2],
    ['six channels', 44_100, 6],
  ] as const)
    writeFileSync(
      path.join(dir, `${name}.wav`),
      writeWav({ rate, channels: Array.from({ length: channels }, () => tone(rate)) }),
    );
  writeFileSync(path.join(dir, 'silence.wav'), writeWav({ rate: 44_100, channels: [new Float32Array(88_200)] }));
  await newPiece(page, 'All Kinds');
  await goTo(page, 'Hear');
  await expect(page.getByText('Drop a recording here')).toBeVisible();
  const file = page.locator('input[type=file]');
  const kinds = ['flac', 'mp3', 'ogg', 'm4a'];
  for (const [i, kind] of kinds.entries()) {
    // Under names of their own: each is a recording of its own.
    const named = path.join(dir, `Three notes ${kind}.${kind}`);
    writeFileSync(named, readFileSync(`e2e/fixtures/three-notes.${kind}`));
    await file.setInputFiles(named);
    await expect(page.getByRole('list', { name: 'Choose a recording' }).getByRole('button')).toHaveCount(i + 1, {
      timeout: 20_000,
    });
    await page.getByRole('button', { name: 'Listen to all of it' }).click();
    await expect(page.getByRole('button', { name: 'a line, 3 notes' })).toBeVisible({ timeout: 20_000 });
    await expect(picture(page)).toHaveAttribute('aria-label', /A2 at 0:00\.\d, E3 at 0:0[01]\.\d, A3 at 0:0[12]\.\d/);
  }
  for (const [i, name] of ['eight thousand', 'high rate', 'six channels'].entries()) {
    await file.setInputFiles(path.join(dir, `${name}.wav`));
    await expect(page.getByRole('list', { name: 'Choose a recording' }).getByRole('button')).toHaveCount(
      kinds.length + i + 1,
      { timeout: 20_000 },
    );
    await page.getByRole('button', { name: 'Listen to all of it' }).click();
    await expect(picture(page)).toHaveAttribute('aria-label', /heard: A3 at 0:00\.\d/, { timeout: 20_000 });
  }
  // Nothing sounds: nothing is heard, and that is said.
  await file.setInputFiles(path.join(dir, 'silence.wav'));
  await expect(page.getByRole('button', { name: 'silence' })).toBeVisible();
  await page.getByRole('button', { name: 'Listen to all of it' }).click();
  await expect(page.getByText('Too little sounds to say what it is tuned to.')).toBeVisible({ timeout: 20_000 });
  await expect(page.getByText('No beat was heard.', { exact: false })).toBeVisible();
});
