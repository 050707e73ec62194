import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: './journeys',
  globalSetup: './support/seedOnce.ts',
  outputDir: '../test-results',
  timeout: 180_000,
  expect: { timeout: 30_000 },
  fullyParallel: true,
  workers: 2,
  // Runs go on in time-lapse while the browser works: a machine that stands still for a while gets other tries, and is called flaky.
  retries: process.env.CI ? 2 : 0,
  reporter: [['list'], ['json']],
  use: {
    viewport: { width: 1280, height: 800 },
    timezoneId: 'UTC',
    locale: 'en-GB',
    launchOptions: {
      executablePath: process.env.RED_EMBER_CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
