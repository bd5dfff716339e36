import { readFileSync } from 'node:fs';
import { expect, test, type Locator, type Page } from '@playwright/test';
import { writeMidi, type MidiEvent } from 'midi-file';
import { writeWav } from '../src/core/formats/wav';
import { frets, goTo, noBarriers, openDemo, saved } from './support/bench';

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

/** The bytes of what pressing a button saves, and the name it is saved under. */
async function savedBy(page: Page, button: Locator): Promise<{ name: string; bytes: Buffer }> {
  const [download] = await Promise.all([page.waitForEvent('download', { timeout: 60_000 }), button.click()]);
  return { name: download.suggestedFilename(), bytes: readFileSync(await download.path()) };
}

const bringIn = (page: Page): Locator => page.getByRole('button', { name: /^Bring in \d/ });

async function emptyPiece(page: Page, name: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New piece' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Begin with a file' }).click();
  await expect(page.getByText('Drop files here, or choose them')).toBeVisible();
}

test('a MIDI file becomes a part whose pitches are known and places proposed', async ({ page }) => {
  await emptyPiece(page, 'Ferry');
  const choose = (name: string, buffer: Buffer) =>
    page.locator('input[type=file]').setInputFiles({ name, mimeType: 'application/octet-stream', buffer });
  await choose('broken.mid', song().subarray(0, 60));
  await expect(page.getByRole('region', { name: 'broken.mid' }).getByRole('alert')).toContainText(
    /damaged or cut short|no notes/,
  );
  await choose('letter.mid', Buffer.from('Dear theatre, no music here.'));
  await expect(page.getByRole('region', { name: 'letter.mid' }).getByRole('alert')).toContainText(
    'no music the program reads',
  );
  await page.getByRole('button', { name: 'Remove broken.mid' }).click();
  await page.getByRole('button', { name: 'Remove letter.mid' }).click();

  await choose('ferry.mid', song());
  const card = page.getByRole('region', { name: 'ferry.mid' });
  await expect(card.getByRole('heading', { name: 'Ferry at dusk' })).toBeVisible();
  await expect(card.getByRole('button', { name: /Low part/ })).toContainText('E1 – A1');
  await expect(card.getByLabel('Bring in Kit')).toBeDisabled();
  await expect(card.getByText('Not kept: 1 thing')).toBeVisible();
  // Both stringed parts are offered; the low one on a bass.
  await expect(card.getByLabel('Bring in Lute')).toBeChecked();
  await card.getByRole('button', { name: /Low part/ }).click();
  await expect(page.getByLabel('Instrument')).toHaveValue('bass-4');
  await expect(page.getByText('All 4 notes lie on the neck.')).toBeVisible();
  await page.getByLabel('Octave').selectOption('12');
  await noBarriers(page);
  await card.getByLabel('Bring in Low part').uncheck();
  await card.getByRole('button', { name: /Lute/ }).click();
  await expect(page.getByLabel('Instrument')).toHaveValue('guitar-6');
  await card.getByLabel('Draw times to').selectOption('eighths');
  await expect(bringIn(page)).toHaveText('Bring in 1 part');
  await bringIn(page).click();

  await expect(page).toHaveURL(/riffs\/r/);
  await expect.poll(async () => (await frets(page)).filter((f) => /^\d+$/.test(f)).length).toBe(8);
  await expect(page.getByText('8 notes, 0 placed by you, 8 by the program')).toBeVisible();
  await expect(page.getByLabel('Set-up').getByText('100')).toBeVisible();
  await saved(page);
  const placed = await frets(page);
  await page.reload();
  await expect.poll(() => frets(page)).toEqual(placed);
  // The file itself is kept with the piece, as it came.
  await page.getByRole('link', { name: 'Files', exact: true }).click();
  const kept = await savedBy(page, page.getByRole('link', { name: 'Download ferry.mid' }));
  expect(Buffer.compare(kept.bytes, song())).toBe(0);
});

const TAB = `Lamp song
Tuning: D A D G B E
e|-----------|-----------|
B|-----------|-----------|
G|-----------|-----------|
D|-----0h2---|---------?-|
A|-0-2-----3-|-0-2-3-----|
D|-----------|-----------|
`;

test('text tab shows what is in doubt, is mended by hand, and comes in with its places', async ({ page }) => {
  await emptyPiece(page, 'Pasted');
  await page.getByRole('button', { name: 'Paste text tab' }).click();
  await page.getByLabel('Text tab to be read').fill(TAB);
  await page.getByRole('button', { name: 'Read this text' }).click();
  const text = page.getByLabel('Text of the tab');
  await expect(text).toHaveValue(TAB);
  const doubt = page.getByRole('button', { name: 'Line 6: “?” means nothing here and was left out.' });
  await doubt.click();
  expect(await text.evaluate((box: HTMLTextAreaElement) => box.value.slice(box.selectionStart, box.selectionEnd))).toBe(
    '?',
  );
  await noBarriers(page);
  await page.keyboard.type('5');
  await page.getByRole('button', { name: 'Read the text again' }).click();
  await expect(doubt).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'pasted.txt' })).toContainText('9 notes');
  await bringIn(page).click();
  await expect.poll(() => frets(page)).toEqual(['0', '2', '0', '2', '3', '0', '2', '3', '5']);
  await expect(page.getByLabel('Set-up')).toContainText('DE−2');
  await saved(page);
});

test('what a file says in two ways is asked, and several files come in at once', async ({ page }) => {
  await emptyPiece(page, 'Two ways');
  const measure = (notes: string, first: string): string =>
    `<measure number="1"><attributes><divisions>1</divisions><time><beats>4</beats><beat-type>4</beat-type></time>${first}</attributes>${notes}</measure>`;
  const note = (step: string, octave: number, place: string): string =>
    `<note><pitch><step>${step}</step><octave>${octave}</octave></pitch><duration>1</duration>${place}</note>`;
  const at = (string: number, fret: number): string =>
    `<notations><technical><fret>${fret}</fret><string>${string}</string></technical></notations>`;
  const strings = [
    ['E', 2],
    ['A', 2],
    ['D', 3],
    ['G', 3],
    ['B', 3],
    ['E', 4],
  ]
    .map(
      ([step, octave], i) =>
        `<staff-tuning line="${i + 1}"><tuning-step>${step}</tuning-step><tuning-octave>${octave}</tuning-octave></staff-tuning>`,
    )
    .join('');
  const score = `<score-partwise><part-list><score-part id="P1"><part-name>Guitar</part-name></score-part></part-list><part id="P1">${measure(
    note('E', 3, at(6, 0)) +
      note('G', 3, at(6, 3)) +
      note('A', 3, at(5, 0)) +
      note('B', 3, at(5, 2)) +
      note('E', 4, at(4, 2)),
    `<clef><sign>TAB</sign></clef><staff-details>${strings}</staff-details>`,
  )}</part></score-partwise>`;
  await page.locator('input[type=file]').setInputFiles([
    { name: 'octave.musicxml', mimeType: 'text/xml', buffer: Buffer.from(score) },
    { name: 'ferry.mid', mimeType: 'audio/midi', buffer: song() },
  ]);
  const overfull = page.getByRole('group', { name: 'Measure 1 holds 5 quarters in a meter of 4/4.' });
  await expect(overfull.getByLabel('Make the bar longer: 5/4')).toBeChecked();
  await overfull.getByLabel('Keep the meter, leave out what goes beyond').check();
  const octave = page.getByRole('group', { name: /places sound an octave below the pitches/ });
  await expect(octave.getByLabel(/String and fret are right/)).toBeChecked();
  await expect(bringIn(page)).toHaveText('Bring in 3 parts');
  await bringIn(page).click();
  await expect.poll(() => frets(page)).toEqual(['0', '3', '0', '2']);
  await saved(page);
  await page.keyboard.press('Control+z');
  await page.getByRole('link', { name: 'Files', exact: true }).click();
  await expect(page.getByRole('link', { name: /^Download / })).toHaveCount(2);
});

test('a piece goes out in every format, and comes back from them', async ({ page }) => {
  test.setTimeout(180_000);
  await openDemo(page, 'Moth at the Lamp');
  await page.getByRole('link', { name: 'Files', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Save as' })).toBeVisible();
  await expect(page.getByLabel('The text as it will be')).toContainText('Tuning: E A D G B E');
  await noBarriers(page);
  const button = (name: string): Locator => page.getByRole('button', { name: `Save as ${name}`, exact: true });
  const xml = await savedBy(page, button('MusicXML'));
  expect(xml.name).toBe('Moth at the Lamp.musicxml');
  expect(xml.bytes.toString()).toContain('<score-partwise version="3.0">');
  const mxl = await savedBy(page, button('compressed MusicXML'));
  expect(mxl.bytes.subarray(0, 2).toString()).toBe('PK');
  const midi = await savedBy(page, button('MIDI'));
  expect(midi.bytes.subarray(0, 4).toString()).toBe('MThd');
  const text = await savedBy(page, button('text tab'));
  expect(text.bytes.toString()).toContain('[Intro]');
  const json = await savedBy(page, button('JSON'));
  const piece = JSON.parse(json.bytes.toString()) as { parts: unknown[]; sections: unknown[] };
  await page.getByLabel('Guitar 2').uncheck();
  const wav = await savedBy(page, button('WAV'));
  expect(wav.bytes.subarray(0, 4).toString()).toBe('RIFF');
  expect(wav.bytes.length).toBeGreaterThan(1_000_000);
  const csv = await savedBy(page, page.getByRole('link', { name: 'Save as CSV' }));
  expect(csv.bytes.toString()).toContain('revision,made_at,kind,what');

  // Back on the shelf: a whole piece as it was, a score with its form.
  await page.goto('/');
  const dropped = async (name: string, bytes: Buffer, came: () => Promise<void>): Promise<void> => {
    const data = await page.evaluateHandle(
      ([file, base]) => {
        const transfer = new DataTransfer();
        transfer.items.add(new File([Uint8Array.from(atob(base ?? ''), (letter) => letter.charCodeAt(0))], file ?? ''));
        return transfer;
      },
      [name, bytes.toString('base64')],
    );
    // A drop before the page has come to life is nobody's.
    await expect(async () => {
      await page.locator('header').first().dispatchEvent('drop', { dataTransfer: data });
      await came();
    }).toPass();
  };
  const atDesk = () => expect(page).toHaveURL(/bring-in/, { timeout: 4000 });
  await dropped('moth.mxl', mxl.bytes, atDesk);
  await expect(bringIn(page)).toHaveText('Bring in 3 parts');
  await bringIn(page).click();
  await expect(page).toHaveURL(/\/form$/);
  await expect(page.getByRole('heading', { name: 'Verse' }).first()).toBeVisible();
  await saved(page);
  await page.goto('/rack/tunings');
  const rack = (await (await page.request.get('/api/rack')).json()) as { instruments: { instrument: object }[] };
  const one = rack.instruments.slice(0, 1).map((has) => ({ ...has, instrument: { ...has.instrument, name: 'Spare' } }));
  await dropped('rack.txt', Buffer.from(JSON.stringify({ ...rack, instruments: one, tunings: [] })), () =>
    expect(page.getByText('Brought in 1 instrument and 0 tunings').first()).toBeVisible({ timeout: 4000 }),
  );
  await page.goto('/desk');
  // Under another name: other tests look for the piece by its own.
  const renamed = JSON.stringify({ ...piece, title: 'Moth come back' });
  await dropped('moth.json', Buffer.from(renamed), atDesk);
  await expect(page.getByText('A whole piece: it is put on the shelf')).toBeVisible();
  await page.getByRole('button', { name: /^Bring in 1/ }).click();
  await expect(page).toHaveURL(/riffs\//);
  await page.getByRole('link', { name: 'Files', exact: true }).click();
  const again = JSON.parse((await savedBy(page, button('JSON'))).bytes.toString()) as typeof piece;
  expect(again.parts).toEqual(piece.parts);
  expect(again.sections).toEqual(piece.sections);
});

test('the sheet is saved as PDF, SVG and PNG as it stands', async ({ page }) => {
  test.setTimeout(120_000);
  await openDemo(page, 'Moth at the Lamp');
  await page.goto(`${new URL(page.url()).pathname.split('/riffs')[0]}/sheet`);
  await page.getByLabel('Standard notation').check();
  await expect(page.locator('[data-staff] svg').first()).toBeVisible();
  const button = (name: string): Locator => page.getByRole('button', { name: `Save as ${name}`, exact: true });
  const pdf = (await savedBy(page, button('PDF'))).bytes.toString('latin1');
  expect(pdf.startsWith('%PDF-1.7')).toBe(true);
  expect(pdf).toContain('Bravura');
  const svg = (await savedBy(page, button('SVG'))).bytes.toString();
  expect(svg).toContain('<title id="title">Moth at the Lamp</title>');
  expect(svg).toContain('@font-face');
  expect(svg).toMatch(/<text [^>]*>Intro<\/text>/);
  const png = await savedBy(page, button('PNG'));
  expect(png.bytes.subarray(1, 4).toString()).toBe('PNG');
  // Twice as many pixels as the sheet has, whole.
  expect(png.bytes.readUInt32BE(16)).toBeGreaterThan(1300);
  expect(png.bytes.readUInt32BE(20)).toBeGreaterThan(1500);
});

/** Keeps twelve megabytes of noise with a piece: nothing packs it smaller. */
async function keepNoise(page: Page): Promise<void> {
  await emptyPiece(page, 'Noise in the wings');
  await goTo(page, 'Hear');
  let chance = 7;
  const samples = new Float32Array(6_500_000).map(() => {
    chance = (chance * 48_271) % 2_147_483_647;
    return (chance / 2_147_483_647 - 0.5) / 4;
  });
  const buffer = Buffer.from(writeWav({ rate: 44_100, channels: [samples] }));
  await page.locator('input[type=file]').setInputFiles({ name: 'noise.wav', mimeType: 'audio/wav', buffer });
  const size = async (): Promise<number> => (await (await page.request.get('/api/archive')).body()).length;
  await expect.poll(size, { timeout: 60_000, intervals: [2000] }).toBeGreaterThan(11 * 1_048_576);
}

test('the studio goes into one archive and comes back, however large it is', async ({ page }) => {
  test.setTimeout(180_000);
  await keepNoise(page);
  await page.goto('/settings/archive');
  await noBarriers(page);
  const archive = await savedBy(page, page.getByRole('link', { name: 'Download the archive' }));
  expect(archive.bytes.length).toBeGreaterThan(11 * 1_048_576);
  expect(archive.name).toMatch(/^studio-\d{4}-\d\d-\d\d\.zip$/);
  const choose = (buffer: Buffer) =>
    page
      .getByLabel('Archive', { exact: true })
      .setInputFiles({ name: 'studio.zip', mimeType: 'application/zip', buffer });
  await choose(archive.bytes.subarray(0, archive.bytes.length >> 1));
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByRole('main').getByRole('alert')).toBeVisible({ timeout: 30_000 });
  await choose(archive.bytes);
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Put back' })).toContainText('were here already', {
    timeout: 60_000,
  });
});
