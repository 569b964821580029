/**
 * The editor in a real browser against a real server and worker: typing on a page of 150 blocks, opening, dragging, a
 * theme that is changed, forty large pictures meanwhile; and every start published with content, weighed and watched.
 */
import { readFileSync } from 'node:fs';
import { brotliCompressSync, constants } from 'node:zlib';
import { chromium, type Page } from '@playwright/test';
import { blockTypes } from '@domatium/core/blocks';
import { mapDocument, type FieldValues, type PageDocument } from '@domatium/core/document';
import type { PageId } from '@domatium/core/plan';
import { STARTS, startDocument } from '@domatium/core/starts';
import { instant } from '@domatium/core/time';
import sharp from 'sharp';
import { saveDraft } from '../server/src/features/drafts/index.js';
import { PASSWORD } from '../server/test/process/harness.js';
import { blockId, blockOf, opening } from './blocks.js';
import { framesPerSecond } from './browser.js';
import { figure, finish, median, percentile } from './print.js';
import { PORTS, Stack } from './stack.js';

const stack = await Stack.open();
const { world } = stack;
world.now = instant(Date.now());
await stack.start('server', 'worker', 'edge');
const base = `http://localhost:${PORTS.app}`;

async function put(pageId: PageId, document: PageDocument): Promise<void> {
  const [row] = (await world.database('draft').where({ page_id: pageId }).select('version')) as { version: number }[];
  await saveDraft(world.context(), world.one, pageId, row?.version ?? 1, document);
}
const long = await world.page('/long');
await put(long, {
  metadata: { title: 'Long', description: 'D' },
  blocks: [opening(), ...Array.from({ length: 149 }, (_, n) => blockOf(n))],
});

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-dev-shm-usage',
    '--no-first-run',
    '--disable-background-networking',
  ],
});
const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
const page = await context.newPage();
// The loader keeps function names through a helper that the page does not have.
await page.addInitScript({ content: 'globalThis.__name = (named) => named' });
await page.goto(base);
await page.getByLabel('E-mail address').fill('owner@one.example');
await page.getByLabel('Password').fill(PASSWORD);
await page.getByRole('button', { name: 'Sign in' }).click();
await page.locator('.ag-row').first().waitFor();

const inFrame = (on: Page) => on.frameLocator('iframe[title="The page as visitors get it, wide"]');
/** From the press of a link into the editor to the frame after its canvas shows the page. */
async function openEditor(pageId: number): Promise<number> {
  await page.goto(`${base}/portfolios/1/pages?page=${pageId}`);
  await page
    .getByRole('button', { name: /^Edit/ })
    .or(page.getByRole('link', { name: /^Edit/ }))
    .first()
    .waitFor();
  await page.waitForTimeout(600);
  const took = untilCanvas();
  await page
    .getByRole('button', { name: /^Edit/ })
    .or(page.getByRole('link', { name: /^Edit/ }))
    .first()
    .click();
  return took;
}
/** From the next press to the frame after the canvas shows a page. */
const untilCanvas = (): Promise<number> =>
  page.evaluate(
    () =>
      new Promise<number>((done) => {
        let began = 0;
        document.addEventListener('click', () => (began ||= performance.now()), true);
        const look = () => {
          const frame = document.querySelector<HTMLIFrameElement>('dm-canvas iframe');
          if (began && frame?.contentDocument?.querySelector('main h1'))
            requestAnimationFrame(() => done(performance.now() - began));
          else requestAnimationFrame(look);
        };
        look();
      }),
  );
/** From the press that makes a page to the editor that shows it. */
async function makePage(n: number): Promise<number> {
  await page.goto(`${base}/portfolios/1/pages`);
  await page.getByRole('button', { name: 'New page' }).click();
  await page.getByLabel('Internal name').fill(`Made ${n}`);
  await page.getByRole('radio', { name: /^Notice/ }).check();
  await page.getByText('Free now and for everything planned.').waitFor();
  const took = untilCanvas();
  await page.getByRole('button', { name: 'Create and edit' }).click();
  return took;
}
const short = await world.page('/short');
await put(short, {
  metadata: { title: 'Short', description: 'D' },
  blocks: [opening(), ...Array.from({ length: 11 }, (_, n) => blockOf(n))],
});
await openEditor(short);
const opens: number[] = [];
for (let n = 0; n < 5; n++) opens.push(await openEditor(short));
figure('open the editor, warm, 12 blocks, median of five', median(opens), 'ms', { atMost: 1200 });
figure('open the editor, warm, 150 blocks', await openEditor(long), 'ms');
const mades: number[] = [];
for (let n = 0; n < 6; n++) mades.push(await makePage(n));
figure('a new page, from the press to the editor, median of five', median(mades.slice(1)), 'ms', { atMost: 1500 });

/** From a key to the frame after it is painted, for each key of a text typed on the canvas. */
async function typing(text: string): Promise<number[]> {
  await page.locator('dm-canvas iframe').evaluate((frame) => {
    const inside = (frame as HTMLIFrameElement).contentDocument as Document;
    const times: number[] = [];
    (window as unknown as { typed: number[] }).typed = times;
    inside.addEventListener(
      'keydown',
      () => {
        const began = performance.now();
        requestAnimationFrame(() => {
          const channel = new MessageChannel();
          channel.port1.onmessage = () => times.push(performance.now() - began);
          channel.port2.postMessage(0);
        });
      },
      true,
    );
  });
  await page.keyboard.type(text, { delay: 45 });
  return page.evaluate(() => (window as unknown as { typed: number[] }).typed);
}
const LINE = 'The engine hums, the stars turn, and nobody can reach you. '.repeat(3);
await inFrame(page).locator('h1').click();
await typing('warm up ');
await page.waitForTimeout(1000);
const keys = await typing(LINE);
figure('key to paint on the canvas, 150 blocks, median', median(keys), 'ms');
figure('key to paint on the canvas, 150 blocks, p95', percentile(keys, 0.95), 'ms', { atMost: 50 });
await page.keyboard.press('Escape');

/** Frames a second while a block is dragged over the page by its handle. */
const handle = await page.getByRole('button', { name: 'Move this block' }).boundingBox();
if (!handle) throw new Error('The chosen block has no handle');
const frames = framesPerSecond(page, 2500);
await page.mouse.move(handle.x + 8, handle.y + 8);
await page.mouse.down();
for (let n = 0; n < 150; n++) {
  await page.mouse.move(handle.x + 60 + n, handle.y + 20 + ((n * 4) % 560));
  await page.waitForTimeout(12);
}
await page.keyboard.press('Escape');
await page.mouse.up();
figure('frames a second while a block is dragged', await frames, 'frames/s', { atLeast: 50 });

/** Memory of a process, in megabytes. */
const memoryOf = (pid: number) =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
const worker = stack.running.get('worker')?.pid ?? 0;
const noise = (n: number) =>
  sharp({
    create: {
      width: 4000,
      height: 3000,
      channels: 3,
      background: '#444',
      noise: { type: 'gaussian', mean: 100 + n, sigma: 24 },
    },
  } as never)
    .jpeg({ quality: 82 })
    .toBuffer();
const pictures: Buffer[] = [];
const PICTURES = Number(process.env['BENCH_PICTURES'] ?? 40);
for (let n = 0; n < PICTURES; n++) pictures.push(await noise(n));
const rest = memoryOf(worker);
let most = rest;
const watching = setInterval(() => (most = Math.max(most, memoryOf(worker))), 100);
const cookies = await context.cookies();
const csrf = await page.evaluate(async () => ((await (await fetch('/api/session')).json()) as { csrf: string }).csrf);
const headers = {
  Cookie: cookies.map(({ name, value }) => `${name}=${value}`).join('; '),
  'X-Csrf-Token': csrf,
  'Content-Type': 'application/octet-stream',
  Origin: base,
};
const began = performance.now();
for (const [n, bytes] of pictures.entries()) {
  const answer = await fetch(`${base}/api/portfolios/1/pictures?name=picture-${n}.jpg`, {
    method: 'POST',
    headers,
    body: new Uint8Array(bytes),
  });
  if (!answer.ok) throw new Error(await answer.text());
}
await inFrame(page).locator('h1').click();
const busy = await typing(LINE);
const waiting = async () =>
  Number(((await world.database('picture').where({ state: 'waiting' }).count()) as { count: string }[])[0]?.count);
figure('pictures still waiting after the typing', await waiting(), 'pictures', { atLeast: 1 });
while (await waiting()) await new Promise((later) => setTimeout(later, 200));
clearInterval(watching);
const failed = (await world.database('picture').where({ state: 'failed' })) as object[];
figure('pictures of 12 megapixels that failed', failed.length, 'pictures', { atMost: 0 });
figure('pictures of 12 megapixels in all sizes, each', (performance.now() - began) / 1000 / PICTURES, 's');
figure('key to paint meanwhile, p95', percentile(busy, 0.95), 'ms', { atMost: 50 });
figure('memory of the worker at most, over what it had', most - rest, 'MB', { atMost: 500 });

// A theme that is changed, to the frame in which the canvas beside it shows that.
await page.goto(`${base}/portfolios/1/stock/themes`);
await page.locator('.list .entry').first().click();
await page.getByRole('button', { name: /^Change it for/ }).click();
await page.locator('dm-canvas iframe').waitFor();
await page.waitForTimeout(2000);
const changes: number[] = [];
for (let n = 0; n < 20; n++) {
  changes.push(
    await page.evaluate(
      (colour) => {
        const field = document.querySelector<HTMLInputElement>('.colours input[type=color]');
        const inside = document.querySelector<HTMLIFrameElement>('dm-canvas iframe')?.contentDocument as Document;
        const began = performance.now();
        if (field) field.value = colour;
        field?.dispatchEvent(new Event('input', { bubbles: true }));
        return new Promise<number>((done) => {
          const look = () => {
            if (inside.defaultView?.getComputedStyle(inside.body).getPropertyValue('--ground') === colour)
              requestAnimationFrame(() => done(performance.now() - began));
            else requestAnimationFrame(look);
          };
          look();
        });
      },
      `#f${(n + 16).toString(16)}fff`.slice(0, 7).padEnd(7, 'f'),
    ),
  );
  await page.waitForTimeout(150);
}
figure('a colour of a theme, to the canvas, p95', percentile(changes, 0.95), 'ms', { atMost: 200 });
await context.close();

// Every start, published with content, as a visitor with an empty cache gets it.
const [shown] = (await world.database('picture').where({ state: 'ready', format: 'jpeg' }).select('id').limit(1)) as {
  id: number;
}[];
let heaviest = 0;
for (const start of STARTS) {
  const pageId = await world.page(`/start-${start.toLowerCase()}`);
  const plain = startDocument(start, 'Night boats', blockId);
  // Demo content of the length its authors thought of: the first content without its marks.
  const worded = mapDocument(plain, { text: (text) => text.replace(/‹([^›]*)›/g, '$1') });
  const blocks = worded.blocks.map((block, index) => {
    const keys = blockTypes[block.type].fields.filter(({ kind }) => kind === 'picture');
    const pictured = keys.map(({ key }) => [
      key,
      { pictureId: shown?.id ?? 0, description: `Picture ${index}`, isDecorative: false },
    ]);
    const asks =
      block.fields['asks'] === 'email'
        ? { button: { label: 'Send', target: { kind: 'outside' as const, url: 'https://lists.example/join' } } }
        : {};
    return { ...block, fields: { ...block.fields, ...Object.fromEntries(pictured), ...asks } as FieldValues };
  });
  const hasOpening = blocks.some(({ type }) => type === 'opening');
  await put(pageId, {
    metadata: { title: 'Night boats', description: 'D' },
    blocks: hasOpening ? blocks : [opening(), ...blocks],
  });
  await world.press([world.put(pageId, 'now')]);
  const address = `http://one.example.localhost:${PORTS.edge}/start-${start.toLowerCase()}`;
  const visitor = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const seen = await visitor.newPage();
  const fetched: { type: string; url: string }[] = [];
  const bodies = new Map<string, string>();
  seen.on('response', (response) => {
    const type = response.request().resourceType();
    if (type === 'document' || type === 'stylesheet') void response.text().then((text) => bodies.set(type, text));
  });
  seen.on('request', (request) => fetched.push({ type: request.resourceType(), url: request.url() }));
  await seen.addInitScript({
    content:
      'globalThis.shift=0;new PerformanceObserver((list)=>{for(const e of list.getEntries())if(!e.hadRecentInput)globalThis.shift+=e.value}).observe({type:"layout-shift",buffered:true})',
  });
  for (let tries = 0; tries < 60; tries++) {
    fetched.length = 0;
    const answer = await seen.goto(address);
    if (answer?.status() === 200) break;
    await seen.waitForTimeout(250);
  }
  await seen.waitForLoadState('networkidle');
  await seen.evaluate(() => scrollTo(0, document.body.scrollHeight));
  await seen.waitForTimeout(400);
  const { shift, scripts } = await seen.evaluate(() => ({
    shift: (globalThis as unknown as { shift: number }).shift,
    scripts: Array.from(document.scripts).flatMap(({ src, type }) => (type === 'application/ld+json' ? [] : [src])),
  }));
  const [html = '', style = ''] = ['document', 'stylesheet'].map((type) => bodies.get(type));
  const weight = [html, style].map(
    (text) => brotliCompressSync(text, { params: { [constants.BROTLI_PARAM_QUALITY]: 5 } }).length,
  );
  const first = await seen.evaluate(() => {
    const images = Array.from(document.images);
    return (
      images.length === 0 ||
      (images[0]?.getAttribute('fetchpriority') === 'high' &&
        images.slice(1).every((image) => image.loading === 'lazy'))
    );
  });
  const pictures = fetched.filter(({ type }) => type === 'image');
  const total = weight.reduce((sum, bytes) => sum + bytes, 0) / 1024;
  heaviest = Math.max(heaviest, total);
  if (!html) throw new Error(`${start} was not published`);
  console.log(
    `    ${start}: HTML ${(Number(weight[0]) / 1024).toFixed(1)} + CSS ${(Number(weight[1]) / 1024).toFixed(1)} KB, ${scripts.length} scripts, ${pictures.length} pictures, first ${first ? 'at once' : 'NOT first'}, shift ${shift.toFixed(4)}`,
  );
  if (scripts.length || shift > 0 || !first) figure(`${start}: scripts, shift or order`, 1, 'fault', { atMost: 0 });
  await visitor.close();
}
figure('HTML and CSS of the heaviest start, brotli', heaviest, 'KB', { atMost: 25 });
await browser.close();

await stack.close();
finish();
