import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ReleaseChange, StockChange } from '@domatium/contracts';
import { newBlock, type Block } from '@domatium/core/document';
import { menuEntries } from '@domatium/core/frame';
import type { PageId, ReleaseId } from '@domatium/core/plan';
import { WaysOfMoments } from '@domatium/core/register';
import type { StockKind } from '@domatium/core/stock';
import { instant, later, MINUTE } from '@domatium/core/time';
import { newStock, removeStock, saveStock } from '../../src/features/stock/service.js';
import { stockItem } from '../../src/features/stock/views.js';
import { register } from '../../src/features/register/service.js';
import { framesDerived, publishReleases, waysOfSite } from '../../src/heart/publishing/index.js';
import { release, undo } from '../../src/heart/releases/index.js';
import { preview } from '../../src/heart/releases/preview.js';
import type { InvalidError } from '../../src/platform/errors.js';
import { sheet } from '../../src/features/pages/service.js';
import { World } from './harness.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
  world.now = instant(Date.now());
});
afterAll(() => world.close());

const key = () => randomBytes(8).toString('hex');
const out = (id: number) => publishReleases(world.publisher, world.one, [id as ReleaseId]);
const make = async (kind: StockKind, content: object, siteId: number | null = null, name: string | null = null) =>
  (await newStock(world.context(), world.one, { kind, name: kind, content, siteId, key: name } as never)).id;
async function press(stock: readonly StockChange[], changes: readonly ReleaseChange[] = []): Promise<number> {
  const { id } = await release(world.context(), world.one, { changes, stock, idempotencyKey: key() });
  await out(id);
  world.now = later(world.now, MINUTE);
  return id;
}
const put = (itemId: number): StockChange => ({ act: 'put', itemId, from: 'now', until: null });
async function change(itemId: number, content: object): Promise<void> {
  const { draftVersion: version, name } = await stockItem(world.context(), world.one, itemId);
  await saveStock(world.context(), world.one, itemId, { version, name, content });
}
async function livePage(path: string, from: number | 'now' = 'now'): Promise<PageId> {
  const id = await world.page(path);
  await press([], [world.put(id, from)]);
  return id;
}
const page = (pageId: PageId, entries: object[] = [], label = '') => ({ kind: 'page', pageId, label, entries });
const byHand = (...entries: object[]) => ({ by: 'hand', levels: 3, entries });
const byTree = { by: 'tree', levels: 2, entries: [] };
const header = (...blocks: Block[]) => ({ layout: 'row', blocks });
const siteMenu = (menu: string) => newBlock('siteMenu', 'menu1', { menu, layout: 'list' } as never);
const nothing = { header: null, footer: null, bands: null, isLocked: false };
const menuIn = (html: string) =>
  [...(/<header.*<\/header>/s.exec(html)?.[0] ?? '').matchAll(/<a [^>]*href="([^"]*)"[^>]*><span[^>]*>([^<]*)/g)].map(
    ([, href, words]) => `${words} ${href}`,
  );

describe('menus of a site', () => {
  it('follow its page tree: what is live, what it is called and where it lies, and no page is published for it', async () => {
    const soon = world.now + 30 * MINUTE;
    const [a, b, c] = [await livePage('/a'), await livePage('/b'), await livePage('/c', soon)];
    await world.rewrite(a, 'All ferries');
    await press([], [world.put(a, 'now')]);
    const top = await make('header', header(siteMenu('main'), newBlock('wayUp', 'way1', {})));
    const said = await make('standing', { ...nothing, header: top });
    const tree = await make('menu', byHand(page(a, [page(b, [], 'Second'), page(c)])), 1, 'tree');
    const main = await make('menu', byTree, 1, 'main');
    const renders = async () => ((await world.database('render').select('key')) as object[]).length;
    const before = await renders();
    await press([put(top), put(said), put(tree), put(main)]);
    expect(menuIn(await world.served(b))).toEqual([
      'All ferries /a',
      'Second /b',
      'Site /',
      'All ferries /a',
      'Second /b',
    ]);
    // What comes later is in it from then on, by itself.
    expect(menuIn(await world.served(a, later(world.now, 40 * MINUTE)))).toContain('Page /c /c');
    expect(await renders()).toBe(before);
    // It follows a page that moves or is called otherwise; a page that goes off is left out, and what is below comes up.
    await world.rewrite(a, 'Every ferry');
    await press([], [world.put(a, 'now')]);
    await press([], [{ act: 'move', pageId: b, siteId: 1, path: '/moved', at: 'now', leaves: null } as ReleaseChange]);
    expect(menuIn(await world.served(b)).slice(0, 2)).toEqual(['Every ferry /a', 'Second /moved']);
    // Whoever takes it off is told which menus and parts that changes; its sheet names them.
    const changes = [
      { act: 'take-off', pageId: a, from: 'now', until: null, afterwards: { kind: 'not-found' } } as ReleaseChange,
    ];
    const { lines } = await preview(world.context(), world.one, { changes });
    expect(lines.filter(({ code }) => code === 'left-out')).toMatchObject([
      { address: 'menu', words: 'leads here: left out until the page is live', isWarning: true },
    ]);
    expect((await sheet(world.context(), world.one, a)).ledFrom).toEqual([
      { itemId: tree, kind: 'menu', name: 'menu' },
    ]);
    expect((await sheet(world.context(), world.one, c)).ledFrom).toHaveLength(1);
    const off = await press(
      [],
      [{ act: 'take-off', pageId: a, from: 'now', until: null, afterwards: { kind: 'not-found' } } as never],
    );
    expect(menuIn(await world.served(b))[0]).toBe('Second /moved');
    await out((await undo(world.context(), world.one, off as ReleaseId, key())).id);
    world.now = later(world.now, MINUTE);
    // Arranged anew, on its pages at once, and undone.
    const rendered = await renders();
    await change(tree, byHand(page(b), page(a)));
    const arranged = await press([put(tree)]);
    expect(menuIn(await world.served(b)).slice(0, 2)).toEqual(['Page /b /moved', 'Every ferry /a']);
    await out((await undo(world.context(), world.one, arranged as ReleaseId, key())).id);
    world.now = later(world.now, MINUTE);
    expect(menuIn(await world.served(b)).slice(0, 2)).toEqual(['Every ferry /a', 'Second /moved']);
    expect(await renders()).toBe(rendered);
    await expect(removeStock(world.context(), world.one, main)).rejects.toMatchObject({ code: 'in-use' });
  });
  it('say in the register which live pages are in none, and which nothing leads to', async () => {
    const [listed, linked, alone] = [await livePage('/listed'), await livePage('/linked'), await livePage('/alone')];
    const linking = await world.page('/linking', { links: [linked] });
    const ends = later(world.now, 30 * MINUTE);
    await press(
      [],
      [{ ...world.put(linking, 'now'), until: world.wall(ends), afterwards: { kind: 'gone' } } as ReleaseChange],
    );
    await press([put(await make('menu', byHand(page(listed)), 1, 'foot'))]);
    const ways = new WaysOfMoments((await register(world.context(), world.one)).columns.ways);
    const said = (at: number) => {
      const { inMenu, linked: reached } = ways.at(at);
      return [listed, linked, alone].map((id) => `${inMenu.has(id)} ${reached.has(id)}`);
    };
    expect(said(world.now)).toEqual(['true true', 'false true', 'false false']);
    // What leads to it goes off, or was not there yet: said of the moment that is shown.
    expect(said(ends)).toEqual(['true true', 'false false', 'false false']);
    expect(said(world.now - 30 * MINUTE)).toEqual(['false false', 'false false', 'false false']);
  });
  it('are filled from legal pages: one for all sites, or the page of the site', async () => {
    const [imprint, privacy] = [await livePage('/imprint'), await livePage('/privacy')];
    const wanted = await make('legal', [
      { key: 'imprint', name: 'Imprint', pageId: imprint },
      { key: 'privacy', name: 'Privacy', pageId: null },
    ]);
    const own = await make('legal', [{ key: 'privacy', name: '', pageId: privacy }], 1);
    const legal = await make('menu', { by: 'legal', levels: 1, entries: [] }, 1, 'legal');
    await press([put(wanted), put(own), put(legal)]);
    const nav = await waysOfSite(world.database, world.one, 1, world.now);
    expect(nav && menuEntries(nav, 'legal')).toMatchObject([
      { label: 'Imprint', href: '/imprint' },
      { label: 'Privacy', href: '/privacy' },
    ]);
    // Whoever takes one of them off, now or from a day on, is told for which sites.
    const lostBy = async (change: ReleaseChange) =>
      (await preview(world.context(), world.one, { changes: [change] })).findings.map(({ message }) => message);
    const off = { act: 'take-off' as const, until: null, afterwards: { kind: 'gone' as const } };
    expect(await lostBy({ ...off, pageId: privacy, from: 'now' })).toEqual([
      'This page is the legal page “Privacy” of Site: with this they have none.',
    ]);
    expect(await lostBy({ ...off, pageId: imprint, from: world.wall(later(world.now, 60 * MINUTE)) })).toEqual([
      expect.stringMatching(/^This page is the legal page “Imprint” of all sites: from .* they have none\.$/),
    ]);
    expect(await lostBy({ ...off, pageId: await livePage('/none-of-them'), from: 'now' })).toEqual([]);
    // Another page is the imprint of all sites: in every legal menu at once.
    const { draftVersion: version } = await stockItem(world.context(), world.one, wanted);
    const other = await livePage('/imprint-2');
    const content = [{ key: 'imprint', name: 'Imprint', pageId: other }];
    await saveStock(world.context(), world.one, wanted, { version, name: 'legal', content });
    await press([put(wanted)]);
    const after = await waysOfSite(world.database, world.one, 1, world.now);
    expect(after && menuEntries(after, 'legal')).toMatchObject([{ href: '/imprint-2' }]);
  });
  it('are refused with their reason where they can’t be', async () => {
    const one = await livePage('/one-of-them');
    const far = await world.page('/far', { portfolio: world.two, site: 3 });
    const refused = async (work: Promise<unknown>) => {
      const error = await work.catch((thrown: unknown) => thrown);
      const { fields = [] } = (error as InvalidError).extra;
      return fields.map(({ path, message }) => `${path} ${message}`);
    };
    expect(await refused(make('menu', byHand(page(far)), 1, 'far'))).toEqual([
      'content Choose a page of this portfolio.',
    ]);
    expect(await refused(make('menu', byHand(page(one), page(one)), 1, 'tree'))).toEqual([
      'content.entries[1] This page has a place in the tree already.',
    ]);
    expect(await refused(make('menu', byTree, 1, 'My menu'))).toEqual([
      'key Name a menu with small letters, digits and hyphens, such as main.',
    ]);
    expect(await refused(make('menu', byTree, null, 'main'))).toEqual(['siteId Unknown site.']);
    expect(
      await refused(make('menu', byHand({ kind: 'outside', label: 'x', url: 'javascript:1', entries: [] }), 1, 'x')),
    ).toEqual([expect.stringContaining('content.entries[0].url')]);
    await expect(make('menu', byTree, 1, 'main')).rejects.toMatchObject({
      message: 'This site has a menu of this name already.',
    });
  });
});

it('is what is derived of it anew, after all of that', async () => {
  await world.publish();
  const found = await framesDerived({ ...world.publisher, clock: () => world.now }, world.one);
  expect(found?.count).toBeGreaterThan(1);
  expect(found?.amiss).toEqual([]);
});
