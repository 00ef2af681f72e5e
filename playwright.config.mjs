import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'tests/browser',
  workers: 1,
  timeout: 120000,
  // What fails once on a busy machine and then holds is counted, and named as flaky.
  retries: 1,
  // A busy machine is no fault of a page.
  expect: { timeout: 20000 },
  reporter: [['list'], ['json']],
  outputDir: 'var/playwright',
  use: {
    baseURL: process.env.HPOST_URL,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
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
