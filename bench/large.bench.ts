import { NOTHING_SAID } from '@domatium/core/metadata';
import { randomBytes } from 'node:crypto';
import type { Register } from '@domatium/contracts';
import { differencesBetween, statesAt, tableOf, viewOf, questionOf } from '@domatium/core/register';
import type { PageDocument } from '@domatium/core/document';
import { DAY, instant } from '@domatium/core/time';
import { chromium, type Page } from '@playwright/test';
import { get } from 'node:http';
import { PASSWORD } from '../server/test/process/harness.js';
import { publishReleases } from '@domatium/server';
import { renderEach, renderInput, renderKeyOf } from '../server/src/heart/publishing/render.js';
import { framesPerSecond, signInToRows } from './browser.js';
import { fillLarge, LARGE } from '@domatium/replay';
import { figure, finish, median, percentile, scaleByBrowser } from './print.js';
import { PORTS, Stack } from './stack.js';

/** (f) The register of 10,000 pages on 300 domains, 60,000 periods, 40 campaigns, two years of visits. */
const size = { ...LARGE, pages: Number(process.env['BENCH_PAGES'] ?? LARGE.pages) };
const stack = await Stack.open();
const { world } = stack;
world.now = instant(Date.now());
console.log(`(f) a portfolio of ${size.pages.toLocaleString('en')} pages`);
await fillLarge(world.database, world.one, size);
await stack.start('server');
const base = `http://localhost:${PORTS.app}`;

const session = await stack.signIn();
async function call<T>(path: string, body?: object): Promise<T> {
  const response = await fetch(`${base}/api/portfolios/1${path}`, {
    headers: session,
    ...(body ? { method: 'POST', body: JSON.stringify(body) } : {}),
  });
  if (!response.ok) throw new Error(`${path}: ${await response.text()}`);
  return (await response.json()) as T;
}
async function timed<T>(work: () => Promise<T> | T): Promise<{ ms: number; value: T }> {
  const began = performance.now();
  const value = await work();
  return { ms: performance.now() - began, value };
}
/** Bytes on the wire, compressed as a browser asks for them. */
const transferred = () =>
  new Promise<number>((done, fail) => {
    get(
      `${base}/api/portfolios/1/register`,
      { headers: { Cookie: session.Cookie, 'Accept-Encoding': 'br, gzip' } },
      (response) => {
        let bytes = 0;
        response.on('data', (chunk: Buffer) => (bytes += chunk.length)).on('end', () => done(bytes));
      },
    ).on('error', fail);
  });

await call<Register>('/register');
figure('first transfer, compressed', (await transferred()) / 1024, 'KB', { atMost: 600 });
const { ms: serverMs, value: register } = await timed(() => call<Register>('/register'));
figure('register answered', serverMs, 'ms');
const { ms: tableMs, value: table } = await timed(() => tableOf(register.columns));
figure('table made', tableMs, 'ms');
const repeated = async (work: (n: number) => unknown) => {
  const all: number[] = [];
  for (let n = 0; n < 30; n++) all.push((await timed(() => work(n))).ms);
  return all;
};
const now = world.now;
figure(
  'state of all pages at an instant, p95',
  percentile(await repeated((n) => statesAt(table, now + n * DAY)), 0.95),
  'ms',
  {
    atMost: 20,
  },
);
const different = await repeated((n) => differencesBetween(table, null, [now, now + (n + 1) * 10 * DAY]));
figure('what is different, p95', percentile(different, 0.95), 'ms', { atMost: 100 });
const words = ['winter', 'wintre', 'harbour 12', 'crew', 'nightt', 'place-17', 'voucher 9'];
const found = await repeated((n) =>
  viewOf(table, questionOf({ find: words[n % words.length] ?? '' }, table.columns, { at: now, now })),
);
figure('find in core, p95', percentile(found, 0.95), 'ms');
const texts = ['boats', 'pier mended', 'lamps', 'page 77'];
const inText: number[] = [];
for (let n = 0; n < 20; n++)
  inText.push((await timed(() => call(`/register/found?text=${encodeURIComponent(texts[n % 4] ?? '')}`))).ms);
figure('text search of the server, p95', percentile(inText, 0.95), 'ms', { atMost: 300 });
const counting = 'SELECT count(DISTINCT page_id) FROM period WHERE portfolio_id = 1 AND during @> now()';
const sql = await repeated(() => world.database.raw(counting));
figure(
  'count of live pages: PostgreSQL against the worker',
  median(sql) / median(await repeated((n) => statesAt(table, now + n))),
  'times as long',
  { atLeast: 1 },
);
const plain = await repeated((n) => {
  const states = new Uint8Array(table.size);
  const at = now + n * DAY;
  for (let row = 0; row < table.size; row++)
    for (let k = table.first[row] as number; k < (table.first[row + 1] as number); k++)
      if ((table.from[k] as number) <= at && at < (table.until[k] as number)) states[row] = 1;
  return states;
});
const live = await repeated((n) => statesAt(table, now + n * DAY));
figure('statesAt against the same loop over plain typed arrays', median(plain) / median(live), 'ratio', {
  atLeast: 0.5,
});

const ids = register.columns.ids.slice(-1000);
const wall = { local: new Date(now + 400 * DAY).toISOString().slice(0, 16), zone: 'UTC' };
const changes = ids.map((pageId) => ({
  act: 'release',
  pageId,
  from: wall,
  until: null,
  afterwards: null,
  cutsLater: true,
}));
const looked = await timed(() => call('/releases/preview', { changes }));
figure('preview of 1,000 pages', looked.ms, 'ms');
const pressed = await timed(() =>
  call<{ id: number }>('/releases', { changes, idempotencyKey: randomBytes(8).toString('hex') }),
);
figure('release of 1,000 pages', pressed.ms / 1000, 's', { atMost: 20 });
const undone = await timed(() =>
  call(`/releases/${pressed.value.id}/undo`, { idempotencyKey: randomBytes(8).toString('hex') }),
);
figure('undo of 1,000 pages', undone.ms / 1000, 's');
const copied = await timed(() =>
  call('/copies', {
    pages: ids.slice(0, 500),
    target: { portfolioId: 1, siteId: null },
    names: '{name}, copy',
    paths: '{path}-copy',
    withPeriods: true,
  }),
);
figure('copy of 500 pages with their periods', copied.ms / 1000, 's', { atMost: 5 });

const published = Math.min(size.pages, Number(process.env['BENCH_PUBLISHED'] ?? size.pages));
const AT_ONCE = 2_000;
const toPublish = register.columns.ids.slice(-published);
const site = { siteId: 1, host: 'place-1.example', basePath: '/', isOwnHost: false };
const BARE = {
  ...{ ends: [], titles: [], pieces: [], values: [], end: null, past: [], said: NOTHING_SAID },
  site: { language: 'en', shareId: null, title: '' },
};
const SHELVES = { pictures: new Map(), shares: new Map(), icons: new Map(), files: new Map() };
// What was decided above and not published, since no worker runs, is no part of this.
await world.database('release').whereNull('published_at').update({ published_at: new Date() });
const spent = { bare: 0, first: 0 };
// In turns, some at a time: a machine that is slow for a while is slow for both.
for (let from = 0; from < published; from += AT_ONCE) {
  const some = toPublish.slice(from, from + AT_ONCE);
  const { id } = await call<{ id: number }>('/releases', {
    changes: some.map((pageId) => ({ ...changes[0], pageId })),
    idempotencyKey: randomBytes(8).toString('hex'),
  });
  const documents = (await world.database('draft').whereIn('page_id', some).select('document')) as {
    document: PageDocument;
  }[];
  const bare = await timed(async () => {
    const { style } = world.publisher;
    for (const { document } of documents) {
      const input = renderInput(document, site, '/page', BARE, SHELVES, {}, style);
      renderKeyOf(input);
      await renderEach([input], () => undefined);
    }
  });
  spent.bare += bare.ms;
  spent.first += (await timed(() => publishReleases(world.publisher, world.one, [id as never]))).ms;
}
figure(`${published.toLocaleString('en')} pages published for the first time`, spent.first / 1000, 's');
figure('the same rendered, compressed and hashed with no database and no disk', spent.bare / 1000, 's');
figure('first publication against that', spent.first / spent.bare, 'times as long', { atMost: 2 });

const args = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-dev-shm-usage',
  '--no-first-run',
  '--disable-background-networking',
];
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args });
async function open(): Promise<{ page: Page; ms: number }> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  return { page, ms: await signInToRows(page, base, 'owner@one.example', PASSWORD) };
}
const warm = await open();
await scaleByBrowser(warm.page);
await warm.page.context().close();
const signIns: number[] = [];
for (let n = 0; n < 4; n++) {
  const { page: other, ms } = await open();
  signIns.push(ms);
  await other.context().close();
}
const { page, ms } = await open();
figure('sign-in to first rows, new profile, median of five', median([...signIns, ms]), 'ms', { atMost: 1500 });
await page.waitForTimeout(2_000);

/** From a changed question to the frame after rows of its answer stand. */
const painted = (text: string) =>
  page.evaluate(
    (typed) =>
      new Promise<number>((done) => {
        const field = document.querySelector<HTMLInputElement>('#find');
        const head = () => document.querySelector('.ag-row[row-index="0"] [col-id="name"]')?.textContent ?? '';
        const count = () => document.querySelector('.states')?.textContent ?? '';
        const [was, counted, began] = [head(), count(), performance.now()];
        const look = () => {
          if (head() !== was || count() !== counted) requestAnimationFrame(() => done(performance.now() - began));
          else requestAnimationFrame(look);
        };
        if (field) field.value = typed;
        field?.dispatchEvent(new Event('input', { bubbles: true }));
        requestAnimationFrame(look);
      }),
    text,
  );
const finds: number[] = [];
for (let n = 0; n < 70; n++) {
  finds.push(await painted(`${words[n % words.length]}${n % 2 ? '' : ' 1'}`));
  await page.waitForTimeout(120);
}
figure('find to painted rows, median', median(finds), 'ms');
figure('find to painted rows, p95', percentile(finds, 0.95), 'ms', { atMost: 50 });
await painted('');

/** A change by another, from its answer to the row that shows it. */
const others: number[] = [];
const [shownId] = (
  await page.evaluate(() => Array.from(document.querySelectorAll('.ag-row')).map((row) => row.getAttribute('row-id')))
)
  .map((key) => Number(/\d+/.exec(key ?? '')?.[0]))
  .filter(Boolean);
for (let n = 0; n < 10; n++) {
  const [row] = (await world.database('page').where({ id: shownId }).select('version')) as { version: number }[];
  const began = performance.now();
  const response = await fetch(`${base}/api/portfolios/1/pages/${shownId}`, {
    method: 'PATCH',
    headers: session,
    body: JSON.stringify({ name: `Renamed ${n}`, version: row?.version }),
  });
  if (!response.ok) throw new Error(await response.text());
  await page.locator('.ag-row').getByText(`Renamed ${n}`, { exact: true }).waitFor();
  others.push(performance.now() - began);
}
figure('a change by another, from the press to the row, p95', percentile(others, 0.95), 'ms', { atMost: 1000 });

const handle = page.getByRole('slider').first();
const box = await handle.boundingBox();
if (!box) throw new Error('The rail has no handle');
const frames = framesPerSecond(page, 2000);
await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
await page.mouse.down();
for (let n = 0; n < 120; n++) {
  await page.mouse.move(box.x + 4 + n * 3, box.y + box.height / 2);
  await page.waitForTimeout(12);
}
await page.mouse.up();
figure('frames a second while the moment is dragged', await frames, 'frames/s', { atLeast: 30 });
const metrics = await (
  await page.context().newCDPSession(page)
)
  .send('Performance.enable')
  .then(async () => (await page.context().newCDPSession(page)).send('Runtime.getHeapUsage'));
figure('heap of the page', metrics.usedSize / 2 ** 20, 'MB', { atMost: 250 });
figure('memory of the server', stack.memory('server'), 'MB');
await browser.close();
await stack.close();
finish();
process.exit();
