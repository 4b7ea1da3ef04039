import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

const shell = '/usr/bin/chromium-headless-shell';

export default defineConfig({
  testDir: 'tests/browser',
  // States are waited for, never a time: how long that may take on a slow machine.
  timeout: 600_000,
  expect: { timeout: 60_000 },
  workers: 2,
  retries: 0,
  forbidOnly: true,
  reporter: [['list'], ['json']],
  outputDir: 'test-results/browser',
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-CA',
    timezoneId: 'America/Halifax',
    // A trace takes a sixth of the time; what a failure looked like is kept without one.
    trace: process.env.TRACE ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
    actionTimeout: 30_000,
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? (existsSync(shell) ? shell : '/usr/bin/chromium'),
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
