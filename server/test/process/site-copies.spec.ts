import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { CopySiteBody, StockChange } from '@domatium/contracts';
import { newBlock } from '@domatium/core/document';
import type { PageId, ReleaseId } from '@domatium/core/plan';
import type { Part, StockKind } from '@domatium/core/stock';
import { instant, later, MINUTE } from '@domatium/core/time';
import { copySite } from '../../src/features/copies/site.js';
import { newStock, saveStock } from '../../src/features/stock/service.js';
import { stockItem } from '../../src/features/stock/views.js';
import { publishReleases } from '../../src/heart/publishing/index.js';
import { pressPrepared } from '../../src/heart/prepared/service.js';
import { release } from '../../src/heart/releases/index.js';
import { problemOf } from '../../src/platform/http/problem.js';
import { World } from './harness.js';

let world: World;
let [a, b]: PageId[] = [];
let [header, footer, band]: number[] = [];
const ends = () => world.now + 600 * MINUTE;

const key = () => randomBytes(8).toString('hex');
const make = async (kind: StockKind, content: object, siteId: number | null = null, name: string | null = null) =>
  (await newStock(world.context(), world.one, { kind, name: kind, content, siteId, key: name } as never)).id;
async function press(...stock: StockChange[]): Promise<void> {
  const { id } = await release(world.context(), world.one, { changes: [], stock, idempotencyKey: key() });
  await publishReleases(world.publisher, world.one, [id as ReleaseId]);
  world.now = later(world.now, MINUTE);
}
const put = (itemId: number, until: number | null = null): StockChange => ({
  ...{ act: 'put', itemId, from: 'now', until: until === null ? null : world.wall(until) },
});
const words = (text: string, link?: PageId) => [
  newBlock('legalLine', 'legal1', { words: text }),
  ...(link
    ? [newBlock('buttonRow', 'way1', { items: [{ button: { label: 'Way', target: { kind: 'page', pageId: link } } }] })]
    : []),
];
async function change(itemId: number, content: object): Promise<void> {
  const { draftVersion: version, name } = await stockItem(world.context(), world.one, itemId);
  await saveStock(world.context(), world.one, itemId, { version, name, content });
}

beforeAll(async () => {
  world = await World.open();
  world.now = instant(Math.ceil(Date.now() / MINUTE) * MINUTE);
  [a, b] = [await world.page('/'), await world.page('/b')];
  await world.press([world.put(a, 'now'), world.put(b, 'now')]);
  await world.publish();
  world.now = later(world.now, MINUTE);
  header = await make('header', {
    layout: 'row',
    blocks: [newBlock('siteMenu', 'menu1', { menu: 'main', layout: 'list' } as never)],
  });
  footer = await make('footer', { layout: 'row', blocks: words('Foot of all', b) });
  band = await make('band', { layout: 'information', blocks: words('Notice'), sites: [1] });
  const says = { header, footer: null, bands: null, isLocked: false };
  const everywhere = await make('standing', says);
  const onSite = await make('standing', { ...says, header: null, footer }, 1);
  const main = await make(
    'menu',
    { by: 'hand', levels: 1, entries: [{ kind: 'page', pageId: b, label: '', entries: [] }] },
    1,
    'main',
  );
  const css = await make('css', { css: '.prose{letter-spacing:1px}' }, 1);
  await press(...[header, footer, everywhere, onSite, main, css].map((id) => put(id)), put(band, ends()));
});
afterAll(() => world.close());

/** A copy of the first site, with everything of it out. */
async function copied(parts: CopySiteBody['parts'], host: string) {
  const body = { name: `Like it, ${parts}`, host, basePath: '/', consent: null, parts, withPages: true };
  const made = await copySite(world.context(), world.one, 1, body);
  const pages = (await world.database('placement').where({ site_id: made.id }).orderBy('path').select('page_id')) as {
    page_id: PageId;
  }[];
  const { id } = await pressPrepared(world.context(), world.one, made.preparedId as number, 1, key());
  await publishReleases(world.publisher, world.one, [id as ReleaseId]);
  world.now = later(world.now, MINUTE);
  await world.press(pages.map(({ page_id }) => world.put(page_id, 'now')));
  await world.publish();
  world.now = later(world.now, MINUTE);
  const [home, second] = pages.map(({ page_id }) => page_id);
  return { ...made, home: home as PageId, second: second as PageId };
}

it('shares its parts: one change is for both, and a band ends on both when it did on one', async () => {
  const copy = await copied('share', 'share.one.example');
  expect(copy.pages).toBe(2);
  const html = await world.served(copy.home);
  // Its own menu and footer lead to its own pages; what is shared leads where it led.
  expect(html).toMatch(/<header.*<a href="\/b"/s);
  expect(html).toContain('http://one.example.localhost:4781/b');
  expect(html).toContain('Notice');
  expect(html).toContain('<title>Page /');
  await change(footer as number, { layout: 'row', blocks: words('Changed once') });
  await press(put(footer as number));
  for (const id of [a, copy.home]) expect(await world.served(id as PageId)).toContain('Changed once');
  expect(await world.served(copy.home, later(instant(ends()), MINUTE))).not.toContain('Notice');
  expect(await world.served(a as PageId, later(instant(ends()), MINUTE))).not.toContain('Notice');
});

it('copies its parts, also those that stand there because all sites say so: each is changed on its own', async () => {
  await change(footer as number, { layout: 'row', blocks: words('Foot of all', b) });
  await press(put(footer as number));
  const copy = await copied('copy', 'own.one.example');
  const html = await world.served(copy.home);
  expect(html).toMatch(/<footer.*Foot of all.*<a class="button" href="\/b"/s);
  expect(html).toContain('Notice');
  const items = (await world
    .database('stock_item')
    .whereLike('name', '%Like it, copy')
    .select('id', 'kind', 'draft')) as { id: number; kind: string; draft: Part }[];
  expect(
    items
      .filter(({ kind }) => kind !== 'profile')
      .map(({ kind }) => kind)
      .sort(),
  ).toEqual(['band', 'footer', 'header']);
  expect(items.find(({ kind }) => kind === 'band')?.draft.sites).toEqual([copy.id]);
  const [own] = items.filter(({ kind }) => kind === 'footer');
  await change(own?.id ?? 0, { layout: 'row', blocks: words('Of its own') });
  await press(put(own?.id ?? 0));
  expect(await world.served(copy.home)).toContain('Of its own');
  expect(await world.served(a as PageId)).toContain('Foot of all');
  expect(await world.served(copy.home, later(instant(ends()), MINUTE))).not.toContain('Notice');
});

it('makes all or nothing, and nothing of a site of somebody else', async () => {
  const count = async () => ((await world.database('site').select('id')) as object[]).length;
  const before = await count();
  const body = {
    name: 'No',
    host: 'one.example',
    basePath: '/',
    consent: null,
    parts: 'copy' as const,
    withPages: true,
  };
  const refused = (await copySite(world.context(), world.one, 1, body).catch((error: unknown) => error)) as Error;
  expect(problemOf(refused)).toMatchObject({ status: 422, fields: [{ path: 'basePath' }] });
  await expect(copySite(world.context(), world.one, 3, { ...body, host: 'no.one.example' })).rejects.toThrow();
  expect(await count()).toBe(before);
});
