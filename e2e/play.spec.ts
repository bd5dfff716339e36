import { expect, test, type Page } from '@playwright/test';
import { hearTone } from '../src/core/listen/test-support/tone';
import { call, newPiece, noBarriers, openDemo, saved, strip } from './support/bench';
import { loudspeaker, overhear } from './support/overhear';

const power = (samples: Float32Array | undefined): number =>
  (samples ?? new Float32Array(0)).reduce((sum, v) => sum + v * v, 0);
const player = (page: Page) => page.getByRole('group', { name: 'Player' });
/** Power below and above a frequency, by a one-pole filter twice: whether a bass or a guitar sounds. */
function shares(samples: Float32Array, hz: number, rate = 44_100): { readonly low: number; readonly high: number } {
  const a = 1 - Math.exp((-2 * Math.PI * hz) / rate);
  let [one, two, low, high] = [0, 0, 0, 0];
  for (const v of samples) {
    one += a * (v - one);
    two += a * (one - two);
    low += two * two;
    high += (v - two) ** 2;
  }
  return { low, high };
}

test('parts sound together, alone and not at all, and what is changed is heard without a new start', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await overhear(page);
  await openDemo(page, 'Lantern Crank');
  await page.getByRole('button', { name: 'Click', exact: true }).click();
  await page.getByRole('button', { name: 'Sounds' }).click();
  await page.getByLabel('Count in').selectOption('nothing');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(player(page)).toHaveAttribute('data-playing', 'true');
  const alone = await loudspeaker(page, 5.2);
  // What sounds is shown on the neck, and moves on.
  const sounding = page.locator('svg[aria-label^="Neck"] title', { hasText: 'sounds now' });
  await expect(sounding.first()).toBeAttached();
  await page.getByRole('button', { name: 'Sounds' }).click();
  await page.getByLabel('With Bass').selectOption('Verse');
  await page.getByRole('button', { name: 'chords', exact: true }).click();
  await expect(page.getByText(/Taken from what is written: Cm/)).toBeVisible();
  await noBarriers(page);
  await page.waitForTimeout(400);
  // Once round takes 5.2 seconds: the same stretch is compared.
  const together = await loudspeaker(page, 5.2);
  expect(power(together[0])).toBeGreaterThan(1.3 * power(alone[0]));
  const all = shares(together[0] as Float32Array, 300);
  await page.getByRole('button', { name: 'Only Bass' }).click();
  await page.waitForTimeout(200);
  const bass = shares((await loudspeaker(page, 5.2))[0] as Float32Array, 300);
  expect(bass.low / bass.high).toBeGreaterThan(1.2 * (all.low / all.high));
  await page.getByRole('button', { name: 'Mute Bass' }).click();
  await page.waitForTimeout(200);
  expect(power((await loudspeaker(page, 1))[0])).toBeLessThan(1e-4);
  await expect(player(page)).toHaveAttribute('data-playing', 'true');
});

test('counted in, it climbs from tempo to tempo', async ({ page }) => {
  test.setTimeout(90_000);
  await overhear(page);
  await newPiece(page, 'Up the Ladder');
  await call(page, 'tempo 200 quarters note A3 note A3 note A3 note A3');
  await saved(page);
  await strip(page).focus();
  await page.getByRole('button', { name: 'Sounds' }).click();
  await page.getByRole('button', { name: 'Climb' }).click();
  for (const [label, value] of [
    ['from, in percent', '80'],
    ['to, in percent', '120'],
    ['by, in percent', '20'],
    ['times each', '1'],
  ] as const) {
    await page.getByLabel(label).fill(value);
    await page.getByLabel(label).press('Tab');
  }
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('status', { name: 'Count-in' })).toHaveText(/^(one|two|three|four) of 4$/);
  for (const speed of ['80 %', '100 %', '120 %'])
    await expect(player(page).getByText(speed, { exact: true })).toBeVisible({ timeout: 20_000 });
  // At the top it stays.
  await page.waitForTimeout(1500);
  await expect(player(page).getByText('120 %', { exact: true })).toBeVisible();
  // How one listens is kept on the device.
  await page.reload();
  await page.getByRole('button', { name: 'Sounds' }).click();
  await expect(page.getByLabel('from, in percent')).toHaveValue('80');
  await expect(page.getByLabel('by, in percent')).toHaveValue('20');
});

test('a reading and what is written sound one after the other', async ({ page }) => {
  test.setTimeout(90_000);
  await overhear(page);
  await newPiece(page, 'Wrong and Right');
  await call(page, 'tempo 120 whole note A3');
  await saved(page);
  await strip(page).focus();
  await page.keyboard.press('Home');
  await page.getByRole('tab', { name: 'Phrase' }).click();
  await page.getByRole('button', { name: 'Keep what is chosen beside' }).click();
  await expect(page.getByRole('button', { name: 'Take it' })).toBeVisible();
  // The written goes on to another pitch, the kept reading stays.
  await strip(page).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('+');
  await saved(page);
  await page.getByRole('button', { name: 'Click', exact: true }).click();
  await page.getByRole('button', { name: 'Sounds' }).click();
  await page.getByLabel('Count in').selectOption('nothing');
  await page.getByLabel('In turn with').selectOption({ index: 1 });
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Play/ }).first().click();
  await expect(player(page).getByText('as written')).toBeVisible({ timeout: 20_000 });
  const [sound] = await loudspeaker(page, 5);
  const hearing = new Set<number>();
  for (let at = 0; at < 4.6; at += 0.2) {
    try {
      hearing.add(Math.round(hearTone(sound as Float32Array, 44_100, at, at + 0.3)) % 12);
    } catch {
      // Nothing periodic there.
    }
  }
  expect(hearing.has(9)).toBe(true);
  expect(hearing.size).toBeGreaterThan(1);
});
