import { expect, test } from '@playwright/test';
import { goTo, openDemo } from './support/bench';

/** What a page asks the server for by itself, but for what is built and the same for everyone. */
test('a page asks for itself and what it shows, a piece for its piece, and nothing else until a link is followed', async ({
  page,
}) => {
  const asked: string[] = [];
  page.on('request', (request) => {
    const { pathname } = new URL(request.url());
    if (!/^\/(_next\/|icon|favicon|fonts|worklets|vendor)/.test(pathname))
      asked.push(`${request.method()} ${pathname}`);
  });
  for (const [address, view] of [
    ['/', 'shelf'],
    ['/rack', 'studio'],
    ['/rack/tunings', 'studio'],
    ['/settings', 'studio'],
    ['/settings/weights', 'weights'],
  ]) {
    asked.length = 0;
    await page.goto(address as string, { waitUntil: 'networkidle' });
    expect(asked, address).toEqual([`GET ${address}`, `GET /api/views/${view}`]);
  }
  await openDemo(page, 'Moth at the Lamp');
  await page.waitForLoadState('networkidle');
  const piece = new URL(page.url()).pathname;
  asked.length = 0;
  await page.reload({ waitUntil: 'networkidle' });
  await expect(page.getByRole('application')).toBeVisible();
  expect(asked).toEqual([
    `GET ${piece}`,
    `GET ${piece.replace(/\/riffs.*/, '').replace('/pieces', '/api/pieces')}/open`,
    'GET /api/views/studio',
  ]);
  // A page of the same piece does not ask for the piece again.
  asked.length = 0;
  await goTo(page, 'Form');
  await expect(page).toHaveURL(/\/form$/);
  await expect(page.getByRole('heading', { name: 'Verse' }).first()).toBeVisible();
  expect(asked.filter((one) => one.includes('/api/'))).toEqual([]);
});

test('a piece that does not come says why, is asked for again by itself, and opens when it can', async ({ page }) => {
  await openDemo(page, 'Moth at the Lamp');
  const address = new URL(page.url()).pathname;
  let answer: 'broken' | 'stumbled' | 'gone' | 'there' = 'broken';
  let asked = 0;
  await page.route('**/api/pieces/*/open', async (route) => {
    asked++;
    if (answer === 'broken') await route.abort();
    else if (answer === 'there') await route.continue();
    else await route.fulfill({ status: answer === 'gone' ? 404 : 500, json: {} });
  });
  await page.goto(address);
  const said = page.getByRole('status');
  await expect(said).toContainText('No answer from the server');
  const before = asked;
  answer = 'stumbled';
  await expect(said).toContainText('could not open it (500)', { timeout: 20_000 });
  expect(asked).toBeGreaterThan(before);
  answer = 'gone';
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(said).toContainText('not on the shelf any more');
  answer = 'there';
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('application')).toBeVisible();
});

test('a window is named after what is open in it, wherever one goes from there', async ({ page }) => {
  await openDemo(page, 'Moth at the Lamp');
  await expect(page).toHaveTitle('Moth at the Lamp · Intonazione');
  for (const place of ['Form', 'Check', 'Hear'] as const) {
    await goTo(page, place);
    await expect(page).toHaveTitle('Moth at the Lamp · Intonazione');
  }
  await page.getByRole('link', { name: 'Intonazione', exact: true }).click();
  await expect(page.getByRole('button', { name: 'New piece' })).toBeVisible();
  await expect(page).toHaveTitle('Intonazione');
  await page.getByRole('link', { name: 'The rack' }).click();
  await expect(page).toHaveTitle('Instruments · Intonazione');
  // Another test brings the rack in once more.
  await page.getByRole('link', { name: 'Wings baritone', exact: true }).first().click();
  await expect(page).toHaveTitle('Wings baritone · Intonazione');
  await page.goBack();
  await expect(page).toHaveTitle('Instruments · Intonazione');
});
