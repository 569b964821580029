import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { StockChange } from '@domatium/contracts';
import { NO_ROOT, type RootContent } from '@domatium/core/root';
import type { HostId, PageId, ReleaseId } from '@domatium/core/plan';
import { instant, later, MINUTE, type Instant } from '@domatium/core/time';
import { queryOfKnex, readParts } from '@domatium/storage';
import { crawlerLines } from '../../src/features/register/robots.js';
import { newStock, removeStock } from '../../src/features/stock/service.js';
import { partsAt, publishReleases } from '../../src/heart/publishing/index.js';
import { release, undo } from '../../src/heart/releases/index.js';
import { World } from './harness.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
  world.now = instant(Date.now());
});
afterAll(() => world.close());

const key = () => randomBytes(8).toString('hex');
const make = async (siteId: number | null, more: Partial<RootContent>) =>
  (
    await newStock(world.context(), world.one, {
      kind: 'root',
      name: 'x',
      siteId,
      content: { ...NO_ROOT, ...more },
    } as never)
  ).id;
async function out(id: number): Promise<number> {
  await publishReleases(world.publisher, world.one, [id as ReleaseId]);
  world.now = later(world.now, MINUTE);
  return id;
}
const press = async (stock: readonly StockChange[]) =>
  out((await release(world.context(), world.one, { changes: [], stock, idempotencyKey: key() })).id);
/** What lies at the root of the host of a page, as edges hold it. */
async function rootOf(pageId: PageId, at: Instant = world.now): Promise<object | null> {
  await world.served(pageId, at);
  const row = (await world.database('route').where({ page_id: pageId, layer: 'page' }).first()) as {
    host_id: HostId;
    path: string;
  };
  const [hash] = (await partsAt(world.database, { hostId: row.host_id, path: row.path, pageId }, at))?.root ?? [];
  const text = hash && (await readParts(queryOfKnex(world.database), [hash])).get(hash);
  return text ? (JSON.parse(text) as object) : null;
}

it('files of the root lie at the host of their site, for their time, and go with an undo', async () => {
  const page = await world.page('/one');
  await out(
    (await release(world.context(), world.one, { changes: [world.put(page, 'now')], stock: [], idempotencyKey: key() }))
      .id,
  );
  const robots = 'User-agent: *\nDisallow: /one';
  const security = { contacts: ['mailto:safe@one.example'], expires: '2027-01-01', policy: '', languages: '' };
  const own = await make(1, { robots, security, files: [{ name: 'ads.txt', text: 'a' }] });
  const until = Math.floor(world.now / MINUTE) * MINUTE + 10 * MINUTE;
  const id = await press([{ act: 'put', itemId: own, from: 'now', until: world.wall(until) }]);
  expect(await rootOf(page)).toEqual({
    robots,
    files: {
      '/ads.txt': 'a',
      '/.well-known/security.txt': expect.stringMatching(
        /^Contact: mailto:safe@one\.example\nExpires: 2027-01-01T23:59:59Z\nCanonical: http\S*one\.example\S*\/\.well-known\/security\.txt\n$/,
      ),
    },
  });
  expect(await crawlerLines(world.database, world.one)).toEqual([
    { siteId: 1, stretches: [{ from: expect.any(Number), until, text: robots }] },
  ]);
  expect(await rootOf(page, later(world.now, 20 * MINUTE))).toBeNull();
  // One for each site, and none for the portfolio.
  await expect(make(1, {})).rejects.toMatchObject({ code: 'conflict' });
  await expect(make(null, {})).rejects.toMatchObject({ code: 'invalid' });
  await expect(removeStock(world.context(), world.one, own)).rejects.toMatchObject({ code: 'in-use' });
  await out((await undo(world.context(), world.one, id as ReleaseId, key())).id);
  expect(await rootOf(page)).toBeNull();
  expect(await removeStock(world.context(), world.one, own)).toEqual({});
  // A site below another has no root: what it says stands nowhere.
  const second = await world.page('/two', { site: 2 });
  await out(
    (
      await release(world.context(), world.one, {
        changes: [world.put(second, 'now')],
        stock: [],
        idempotencyKey: key(),
      })
    ).id,
  );
  await press([{ act: 'put', itemId: await make(2, { robots }), from: 'now', until: null }]);
  expect(await rootOf(second)).toBeNull();
});
