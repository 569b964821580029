import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  // Generous: how fast things are is measured in bench/, on this machine others may be at work too.
  timeout: 150_000,
  expect: { timeout: 25_000 },
  workers: 1,
  fullyParallel: false,
  reporter: [['list']],
  outputDir: '../.domatium/test-results',
  use: {
    baseURL: `http://localhost:${process.env['DOMATIUM_APP_PORT'] ?? '4600'}`,
    viewport: { width: 1280, height: 800 },
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--disable-dev-shm-usage',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--disable-default-apps',
      ],
    },
  },
});
