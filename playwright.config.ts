import { defineConfig } from '@playwright/test';

/** Browser tests against the production build that npm test serves. */
export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results/browser',
  timeout: 120_000,
  expect: { timeout: 20_000 },
  fullyParallel: false,
  workers: 2,
  // A busy machine may be late once; a test that fails twice is broken.
  retries: 1,
  // What changes the studio's settings runs by itself, after everything else.
  projects: [
    { name: 'together', testIgnore: /schools\.spec/ },
    { name: 'alone', testMatch: /schools\.spec/, dependencies: ['together'] },
  ],
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    baseURL: process.env.BASE_URL ?? 'http://127.0.0.1:3000',
    viewport: { width: 1280, height: 800 },
    permissions: ['clipboard-read', 'clipboard-write'],
    actionTimeout: 30_000,
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--autoplay-policy=no-user-gesture-required',
      ],
    },
  },
});
