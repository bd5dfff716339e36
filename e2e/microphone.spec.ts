import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { writeWav } from '../src/core/formats/wav';
import { frequency } from '../src/core/pitch';
import { renderPluck } from '../src/core/tuner';
import { call, goTo, newPiece, saved, strip } from './support/bench';

// A recording stands in for the microphone: a D string nine cents flat, struck again and again.
const file = path.resolve('test-results/microphone.wav');
mkdirSync(path.dirname(file), { recursive: true });
writeFileSync(file, writeWav({ rate: 48_000, channels: [renderPluck(frequency(50, -9), 2, 48_000)] }));

test.use({
  permissions: ['microphone'],
  launchOptions: {
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--autoplay-policy=no-user-gesture-required',
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-audio-capture=${file}`,
    ],
  },
});

test('the tuner hears the microphone with the same ear', async ({ page }) => {
  await page.goto('/rack/tune');
  await page.getByRole('button', { name: 'Listen to my instrument' }).click();
  const needle = page.getByTestId('needle');
  await expect(needle).toHaveAttribute('data-string', '4');
  await expect(needle).toHaveAttribute('data-verdict', 'flat');
  await expect.poll(async () => Math.abs(Number(await needle.getAttribute('data-cents')) + 9)).toBeLessThan(1.5);
  await page.getByRole('button', { name: 'Stop listening' }).click();
  await expect(needle).toHaveAttribute('data-verdict', 'none');
});

test('a rhythm is tapped through the microphone: strokes are found in the sound, and each error is told', async ({
  page,
}) => {
  await newPiece(page, 'Knuckles on Wood');
  await call(page, 'halves on 5 3 3 3');
  await strip(page).focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Shift+T');
  const dialog = page.getByRole('dialog', { name: 'Tap the rhythm' });
  await dialog.getByRole('button', { name: 'Microphone' }).click();
  await expect(dialog.getByText('Listening…')).toBeVisible();
  // A bar of clicks at 96, then a stroke every two seconds, until all three notes have theirs.
  await page.waitForTimeout(2500 + 7000);
  await dialog.getByRole('button', { name: 'Done' }).click();
  await expect(dialog.getByText(/^3 taps, \d+ ms off the written rhythm/)).toBeVisible();
  await expect(dialog.getByRole('listitem').first()).toContainText('ms');
  await dialog.getByRole('button', { name: 'Lay the notes on it' }).click();
  await expect(dialog).toBeHidden();
  await saved(page);
});

test('a recording is made from the microphone, kept with the piece, and heard: its pitch and how it is tuned', async ({
  page,
}) => {
  await newPiece(page, 'Into the Microphone');
  await goTo(page, 'Hear');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop recording' })).toBeVisible();
  await page.waitForTimeout(6500);
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await expect(page.getByRole('button', { name: 'Recording 1', exact: true })).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Listen to all of it' }).click();
  await expect(page.getByText(/^Tuned to/)).toBeVisible({ timeout: 20_000 });
  const tuned = /\(([+−]?)([\d.]+) cents/.exec(await page.getByText(/^Tuned to/).innerText());
  expect(Math.abs(Number(`${tuned?.[1] === '−' ? '-' : ''}${tuned?.[2]}`) + 9)).toBeLessThan(3);
  await expect(page.getByRole('img', { name: /seen from/ })).toHaveAttribute('aria-label', /heard: D3 at/);
  await page.reload();
  await expect(page.getByRole('button', { name: 'Recording 1', exact: true })).toBeVisible();
});
