import { expect, test } from '@playwright/test';
import { writeMidi, type MidiEvent } from 'midi-file';
import { frets, noBarriers, saved } from './support/bench';

const end = { deltaTime: 0, type: 'endOfTrack', meta: true } as MidiEvent;
const named = (text: string) => ({ deltaTime: 0, type: 'trackName', meta: true, text }) as MidiEvent;
const program = (channel: number, programNumber: number) =>
  ({ deltaTime: 0, type: 'programChange', channel, programNumber }) as MidiEvent;
const notes = (channel: number, pitches: readonly number[]): MidiEvent[] =>
  pitches.flatMap((noteNumber) => [
    { deltaTime: 10, type: 'noteOn', channel, noteNumber, velocity: 90 } as MidiEvent,
    { deltaTime: 230, type: 'noteOff', channel, noteNumber, velocity: 0 } as MidiEvent,
  ]);

function song(): Buffer {
  const tracks = [
    [
      named('Ferry at dusk'),
      { deltaTime: 0, type: 'setTempo', meta: true, microsecondsPerBeat: 600_000 } as MidiEvent,
      end,
    ],
    [named('Lute'), program(0, 24), ...notes(0, [52, 55, 57, 59, 60, 59, 57, 55]), end],
    [named('Low part'), program(1, 33), ...notes(1, [28, 31, 33, 28]), end],
    [named('Kit'), ...notes(9, [36, 38]), end],
  ];
  return Buffer.from(writeMidi({ header: { format: 1, numTracks: tracks.length, ticksPerBeat: 480 }, tracks }));
}

test('a MIDI file becomes a part whose pitches are known and places proposed', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New piece' }).click();
  await page.getByLabel('Name').fill('Ferry');
  await page.getByRole('button', { name: 'Begin with a MIDI file' }).click();
  await expect(page.getByText('Drop a Standard MIDI file here')).toBeVisible();

  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'broken.mid', mimeType: 'audio/midi', buffer: song().subarray(0, 60) });
  await expect(page.getByRole('alert').filter({ hasText: 'broken.mid' })).toContainText(
    /damaged or cut short|no notes/,
  );
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'letter.mid', mimeType: 'audio/midi', buffer: Buffer.from('Dear theatre, no music here.') });
  await expect(page.getByRole('alert').filter({ hasText: 'letter.mid' })).toContainText('no Standard MIDI file');

  await page.locator('input[type=file]').setInputFiles({ name: 'ferry.mid', mimeType: 'audio/midi', buffer: song() });
  await expect(page.getByRole('heading', { name: 'Ferry at dusk' })).toBeVisible();
  const row = page.getByRole('row', { name: /Low part/ });
  await expect(row).toContainText('E1 – A1');
  await expect(row).toContainText('single line');
  await expect(page.getByRole('radio', { name: /Kit/ })).toBeDisabled();
  await page.getByRole('radio', { name: /Low part/ }).check();
  await expect(page.getByLabel('Instrument')).toHaveValue('bass-4');
  await expect(page.getByText('All 4 notes lie on the neck.')).toBeVisible();
  await page.getByLabel('Octave').selectOption('12');
  await noBarriers(page);
  await page.getByLabel('Octave').selectOption('0');
  await page.getByRole('radio', { name: 'Lute' }).check();
  await page.getByLabel('Instrument').selectOption('guitar-6');
  await page.getByLabel('Draw times to').selectOption('eighths');
  await page.getByRole('button', { name: 'Bring in and place' }).click();

  await expect(page).toHaveURL(/riffs\/r/);
  await expect.poll(async () => (await frets(page)).filter((f) => /^\d+$/.test(f)).length).toBe(8);
  await expect(page.getByText('8 notes, 0 placed by you, 8 by the program')).toBeVisible();
  await expect(page.getByLabel('Set-up').getByText('100')).toBeVisible();
  await saved(page);
  const placed = await frets(page);
  await page.reload();
  await expect.poll(() => frets(page)).toEqual(placed);
});
