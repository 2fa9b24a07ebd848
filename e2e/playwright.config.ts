import { defineConfig } from '@playwright/test';

const address = process.env['JIKO_URL'];
if (!address) throw new Error('JIKO_URL is not set: run npm test from the root');

export default defineConfig({
  testDir: '.',
  timeout: 120_000,
  // A busy machine is three times as slow: what is waited for is what is tested, not how long.
  expect: { timeout: 15_000 },
  // A page mostly waits: two of them keep a small machine busy.
  workers: 2,
  // What passes the second time only is named by test.mjs.
  retries: 1,
  reporter: [['list'], ['json']],
  outputDir: '../test-results',
  use: {
    baseURL: address,
    // A click on what is not there fails soon, not with the whole test.
    actionTimeout: 20_000,
    viewport: { width: 1280, height: 800 },
    // Answers made up by a test are the page's: a worker between would ask by itself.
    serviceWorkers: 'block',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        // Pages live for a test: room to do so without clearing up all the time.
        '--js-flags=--min-semi-space-size=64,--max-semi-space-size=64',
      ],
    },
  },
  projects: [
    { name: 'journeys', testMatch: '**/*.spec.ts' },
    { name: 'screenshots', testMatch: '**/screenshots.ts' },
  ],
});
