import { randomBytes } from 'node:crypto';
import { Agent, get } from 'node:http';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { StockChange } from '@domatium/contracts';
import { newBlock } from '@domatium/core/document';
import type { PageId, ReleaseId } from '@domatium/core/plan';
import type { StockKind } from '@domatium/core/stock';
import { instant, type Instant } from '@domatium/core/time';
import { readSettings } from '@domatium/storage';
import { newStock, saveStock } from '../../../server/src/features/stock/service.js';
import { stockItem } from '../../../server/src/features/stock/views.js';
import { markOut, publishReleases } from '../../../server/src/heart/publishing/index.js';
import { release } from '../../../server/src/heart/releases/index.js';
import { World } from '../../../server/test/process/harness.js';
import { PORTS } from '../../../server/test/process/ports.js';
import { startEdge, type Edge } from '../../src/index.js';

const PORT = PORTS.visitors.edge;
let world: World;
let edge: Edge;
beforeAll(async () => {
  world = await World.open();
  now();
  edge = await startEdge({ ...readSettings({ DATABASE_URL: world.url }), dataFolder: world.folder, edgePort: PORT });
});
afterAll(async () => {
  await edge.stop();
  await world.close();
});
const now = () => (world.now = instant(Date.now()));
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));
const agent = new Agent({ keepAlive: true, maxSockets: 8 });
const visit = (path: string) =>
  new Promise<string>((done, fail) => {
    const options = { port: PORT, path, agent, headers: { Host: `one.example.localhost:${PORT}` } };
    get(options, (response) => {
      const parts: Buffer[] = [];
      response.on('data', (part: Buffer) => parts.push(part));
      response.on('end', () => done(`${response.statusCode} ${Buffer.concat(parts).toString()}`));
    }).once('error', fail);
  });
const make = async (kind: StockKind, content: object, siteId: number | null = null, key: string | null = null) =>
  (await newStock(world.context(), world.one, { kind, name: kind, content, siteId, key } as never)).id;
async function change(id: number, content: object): Promise<void> {
  const { draftVersion: version, name } = await stockItem(world.context(), world.one, id);
  await saveStock(world.context(), world.one, id, { version, name, content });
}
/** Decided, published and served; gives when it was decided, until when it was out nowhere for certain, and since when it was. */
async function press(...ids: number[]): Promise<{ at: Instant; begun: number; out: number }> {
  const at = now();
  const stock = ids.map((itemId): StockChange => ({ act: 'put', itemId, from: 'now', until: null }));
  const idempotencyKey = randomBytes(8).toString('hex');
  const { id } = await release(world.context(), world.one, { changes: [], stock, idempotencyKey });
  await pause(30);
  const begun = Date.now();
  await publishReleases(world.publisher, world.one, [id as ReleaseId]);
  for (let n = 0; n < 400; n++) {
    await markOut(world.database);
    const row = (await world.database('release').where({ id }).first('out_at')) as { out_at: Instant | null };
    if (row.out_at !== null) return { at, begun, out: Date.now() };
    await pause(20);
  }
  throw new Error('Not out within eight seconds');
}

it('visitors never meet parts of two states while header, menu and footer flip; what was answered then is what is shown as of then', async () => {
  const home = await world.page('/visited');
  await world.press([world.put(home, 'now')]);
  await world.publish();
  const line = (words: string) => newBlock('legalLine', 'line0001', { words });
  const header = (n: number) => ({
    layout: 'row',
    blocks: [line(`Head ${n}.`), newBlock('siteMenu', 'menu0001', { layout: 'list' })],
  });
  const menu = (n: number) => ({
    by: 'hand',
    levels: 1,
    entries: [{ kind: 'page', pageId: home, label: `Menu ${n}.`, entries: [] }],
  });
  const footer = (n: number) => ({ layout: 'row', blocks: [line(`Foot ${n}.`)] });
  const [top, bottom] = [await make('header', header(0)), await make('footer', footer(0))];
  const main = await make('menu', menu(0), 1, 'main');
  const said = await make('standing', { header: top, footer: bottom, bands: null, isLocked: false });
  const flips = [await press(top, bottom, main, said)];
  let isOver = false;
  const heard: { from: number; until: number; body: string }[] = [];
  const listen = async () => {
    while (!isOver) {
      const from = Date.now();
      const body = await visit('/visited');
      heard.push({ from, until: Date.now(), body });
    }
  };
  const listeners = [listen(), listen(), listen()];
  for (let n = 1; n <= 12; n++) {
    await change(top, header(n));
    await change(bottom, footer(n));
    await change(main, menu(n));
    flips.push(await press(top, bottom, main));
    // Whole milliseconds apart: instants are no finer.
    await pause(15);
  }
  isOver = true;
  await Promise.all(listeners);
  const statesOf = (body: string) =>
    [...body.matchAll(/(Head|Menu|Foot) (\d+)\./g)].map(([, what, n]) => `${what} ${n}`);
  let last = 0;
  for (const { body } of [...heard].sort((a, b) => a.from - b.from)) {
    expect(body.slice(0, 4)).toBe('200 ');
    const states = statesOf(body);
    const n = Number(states[0]?.split(' ')[1]);
    expect(states).toEqual([`Head ${n}`, `Menu ${n}`, `Foot ${n}`]);
    expect(n).toBeGreaterThanOrEqual(last - 1);
    last = Math.max(last, n);
  }
  expect(last).toBe(12);
  expect(heard.length).toBeGreaterThan(100);
  // While a release is taken up either is answered; at all other times exactly what is shown as of then: what was there
  // before, for as long as the release was on its way.
  const isBetween = (at: number, from: 'at' | 'begun', until: 'begun' | 'out') =>
    flips.some((flip) => flip[from] <= at && at <= flip[until]);
  const certain = heard.filter(
    ({ from, until }) => !isBetween(from, 'begun', 'out') && !isBetween(until, 'begun', 'out'),
  );
  const late = certain.filter(({ from, until }) => isBetween(from, 'at', 'begun') && isBetween(until, 'at', 'begun'));
  expect(late.length).toBeGreaterThan(20);
  const shown = new Map<string, string>();
  for (const one of certain) {
    const { from, body } = one;
    const key = `${statesOf(body).join()} ${late.includes(one)}`;
    const then = shown.get(key) ?? (await world.served(home as PageId, from as Instant));
    shown.set(key, then);
    expect(`200 ${then}`).toBe(body);
  }
  expect(shown.size).toBeGreaterThan(8);
}, 90_000);
