import { instant } from '@domatium/core/time';
import { chromium } from '@playwright/test';
import { fillLarge, LARGE } from '@domatium/replay';
import { PASSWORD } from '../server/test/process/harness.js';
import { signInToRows } from './browser.js';
import { figure, finish, median, percentile, scaleByBrowser } from './print.js';
import { PORTS, Stack } from './stack.js';

/** The settings of 1,000 of 10,000 pages side by side, in a real browser: opened, typed in, filled down, replaced, written. */
const MANY = 1_000;
const stack = await Stack.open();
const { world } = stack;
world.now = instant(Date.now());
await fillLarge(world.database, world.one, LARGE);
await stack.start('server');
const rows = (await world
  .database('page')
  .where({ portfolio_id: world.one, deleted_at: null })
  .orderBy('id')
  .limit(MANY)
  .select('id')) as { id: number }[];
const ids = rows.map(({ id }) => id);
const flags = 'no-sandbox disable-gpu disable-quic disable-dev-shm-usage no-first-run disable-background-networking';
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: flags.split(' ').map((flag) => `--${flag}`),
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.addInitScript({ content: 'globalThis.__name = (named) => named' });
const base = `http://localhost:${PORTS.app}`;
await signInToRows(page, base, 'owner@one.example', PASSWORD);
await scaleByBrowser(page);
await page.evaluate(
  (chosen) => sessionStorage.setItem('domatium.chosen.1', JSON.stringify({ ids: chosen, isBin: false })),
  ids,
);

/** From the press that opens the grid to the frame after its first rows stand. */
async function openGrid(): Promise<number> {
  await page.goto(`${base}/portfolios/1/pages`);
  await page.getByText(`${MANY.toLocaleString('en-GB')} chosen`).waitFor();
  await page.waitForTimeout(1_500);
  await page.getByRole('button', { name: 'More', exact: true }).click();
  const took = page.evaluate(
    () =>
      new Promise<number>((done) => {
        let began = 0;
        document.addEventListener('click', () => (began ||= performance.now()), true);
        const look = () => {
          if (began && document.querySelectorAll('.text-cell').length > 40)
            requestAnimationFrame(() => done(performance.now() - began));
          else requestAnimationFrame(look);
        };
        look();
      }),
  );
  await page.getByRole('button', { name: 'Settings in a grid…' }).click();
  return took;
}
await openGrid();
const opened: number[] = [];
for (let n = 0; n < 5; n++) opened.push(await openGrid());
figure('from the press to the first rows of 1,000, median of five', median(opened), 'ms', { atMost: 1_000 });

/** From each key that is pressed to the frame after it is painted. */
async function keys(press: () => Promise<void>): Promise<number[]> {
  await page.evaluate(() => {
    const times: number[] = [];
    const held = globalThis as unknown as { typed: number[]; stop: AbortController };
    held.typed = times;
    held.stop = new AbortController();
    document.addEventListener(
      'keydown',
      () => {
        const began = performance.now();
        requestAnimationFrame(() => {
          const channel = new MessageChannel();
          channel.port1.onmessage = () => times.push(performance.now() - began);
          channel.port2.postMessage(0);
        });
      },
      { capture: true, signal: held.stop.signal },
    );
  });
  await press();
  await page.waitForTimeout(300);
  return page.evaluate(() => {
    const held = globalThis as unknown as { typed: number[]; stop: AbortController };
    held.stop.abort();
    return held.typed;
  });
}
const cell = (row: number, key: string) => page.locator(`.ag-row[row-index="${row}"] [col-id="${key}"]`);
async function write(row: number): Promise<void> {
  await cell(row, 'title').click();
  await page.keyboard.type('Night boats in winter', { delay: 40 });
  await page.keyboard.press('Enter');
  await page.waitForTimeout(80);
}
await write(0);
const typed = await keys(async () => {
  for (let row = 1; row < 9; row++) await write(row);
});
figure('key to paint while cells are written, median', median(typed), 'ms');
figure('key to paint while cells are written, p95', percentile(typed, 0.95), 'ms', { atMost: 50 });
const moved = await keys(async () => {
  await cell(2, 'description').click();
  for (let n = 0; n < 60; n++) {
    await page.keyboard.press(n % 2 ? 'ArrowDown' : 'Shift+ArrowDown');
    await page.waitForTimeout(40);
  }
});
figure('key to paint while one moves and chooses, p95', percentile(moved, 0.95), 'ms', { atMost: 50 });
await page.getByLabel('Find', { exact: true }).fill('e');
const replaced = await page.evaluate(
  () =>
    new Promise<number>((done) => {
      const began = performance.now();
      document.querySelector<HTMLButtonElement>('.finding button')?.click();
      requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - began)));
    }),
);
figure('a letter replaced in 1,000 pages, to the frame', replaced, 'ms');
await page.getByLabel('Find', { exact: true }).fill('');
const began = performance.now();
await page.getByRole('button', { name: /^Change 1,000 drafts|^Change 1000 drafts/ }).click();
await page.getByRole('dialog').waitFor();
figure('1,000 drafts written, to the sheet of their release', (performance.now() - began) / 1000, 's');
await browser.close();
await stack.close();
finish();
process.exit();
