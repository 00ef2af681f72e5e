import { defineConfig } from '@playwright/test';

/** Where the instances answer, apart by blanks: each worker has one of its own. */
const instances = (process.env.HPOST_URL ?? '').split(' ');

export default defineConfig({
  testDir: 'tests/browser',
  workers: instances.length,
  timeout: 120000,
  // What fails once on a busy machine and then holds is counted, and named as flaky.
  retries: 1,
  // A busy machine is no fault of a page.
  expect: { timeout: 10000 },
  reporter: [['list'], ['json']],
  outputDir: 'var/playwright',
  use: {
    baseURL: instances[0],
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
