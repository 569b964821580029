import { readFileSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { signInToRows } from './browser.js';
import { figure, finish, median, scaleByBrowser } from './print.js';

/** (e) The register of the demo, from the press of *Sign in* to its painted rows, in a new browser profile each time. */
const ROUNDS = 5;
const base = `http://localhost:${process.env['DOMATIUM_APP_PORT'] ?? '4600'}`;
const args = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--disable-dev-shm-usage',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-default-apps',
];

async function once(isFirst = false): Promise<number> {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const ms = await signInToRows(page, base, 'ingrid.vale@marrowick.example', 'midwinter-crossing');
  if (isFirst) await scaleByBrowser(page);
  await browser.close();
  return ms;
}

await once(true);
console.log('(e) register of the demo, sign-in to painted rows, new profile, warm server');
const times: number[] = [];
for (let round = 0; round < ROUNDS; round++) times.push(await once());
figure('median', median(times), 'ms', { atMost: 1500 });
figure('slowest', Math.max(...times), 'ms');
const pids = (process.env['BENCH_PIDS'] ?? '').split(',').filter(Boolean);
['server', 'worker', 'edge'].forEach((name, index) => {
  if (pids[index])
    figure(
      `memory of ${name}`,
      Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pids[index]}/status`, 'utf8'))?.[1] ?? 0) / 1024,
      'MB',
    );
});
finish();
