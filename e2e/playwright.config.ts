import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

/** Chromium without windows, where Debian has it. */
const SHELL = '/usr/bin/chromium-headless-shell';

/** Walks that need nothing of the running demo. */
const OWN = /starts\.spec\.ts$/;
/** The walk that installs a fresh copy: `npm run test:fresh`. */
const FRESH = /start\.spec\.ts$/;

/** Walks on an installation of their own, beside the others: `npm test` makes two. */
const TWIN = /(crawl|editor|frames|looks|menus|standing|stock)\.spec\.ts$/;

export default defineConfig({
  testDir: '.',
  // Generous: how fast things are is measured in bench/, on this machine others may be at work too.
  timeout: 150_000,
  expect: { timeout: 25_000 },
  // Walks on the one demo go one after the other; those that bring their own go beside them.
  workers: 2,
  fullyParallel: false,
  projects: [
    { name: 'demo', testIgnore: [OWN, FRESH, TWIN], workers: 1 },
    { name: 'twin', testMatch: TWIN, workers: 1 },
    { name: 'fresh', testMatch: FRESH, workers: 1 },
    { name: 'own', testMatch: OWN, workers: 1 },
  ],
  reporter: [['list']],
  // Two runs at a time: each empties its own.
  outputDir: `../.domatium/test-results-${process.env['DOMATIUM_APP_PORT'] ?? '4600'}`,
  use: {
    baseURL: `http://localhost:${process.env['DOMATIUM_APP_PORT'] ?? '4600'}`,
    viewport: { width: 1280, height: 800 },
    // A trace of every step would take a quarter of the time: `--trace on` makes one.
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: existsSync(SHELL) ? SHELL : '/usr/bin/chromium',
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
