import { instant } from '@domatium/core/time';
import { chromium } from '@playwright/test';
import { fillLarge, LARGE } from '@domatium/replay';
import { PASSWORD } from '../server/test/process/harness.js';
import { framesPerSecond, signInToRows } from './browser.js';
import { figure, finish, median, scaleByBrowser } from './print.js';
import { PORTS, Stack } from './stack.js';

/** The moment is dragged over the rail of 10,000 pages: frames a second, and how often the list changed meanwhile. */
const ROUNDS = 3;
const stack = await Stack.open();
const { world } = stack;
world.now = instant(Date.now());
await fillLarge(world.database, world.one, LARGE);
await stack.start('server');
const flags = 'no-sandbox disable-gpu disable-quic disable-dev-shm-usage no-first-run disable-background-networking';
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: flags.split(' ').map((flag) => `--${flag}`),
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await signInToRows(page, `http://localhost:${PORTS.app}`, 'owner@one.example', PASSWORD);
await page.waitForTimeout(2_500);
await scaleByBrowser(page);
// As it is when nobody drags: what this machine and browser can draw at most.
figure('frames a second while nothing happens', await framesPerSecond(page, 1_500), 'frames/s');
const handle = page.getByRole('slider').first();
const rates: number[] = [];
for (let round = 0; round < ROUNDS; round++) {
  const box = await handle.boundingBox();
  if (!box) throw new Error('The rail has no handle');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const frames = framesPerSecond(page, 2_000);
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let n = 0; n < 120; n++) {
    await page.mouse.move(x + (round % 2 ? -3 : 3) * n, y);
    await page.waitForTimeout(12);
  }
  await page.mouse.up();
  rates.push(await frames);
  await page.waitForTimeout(500);
}
figure('frames a second while the moment is dragged, median', median(rates), 'frames/s', { atLeast: 30 });
figure('slowest', Math.min(...rates), 'frames/s');
await browser.close();
await stack.close();
finish();
process.exit();
