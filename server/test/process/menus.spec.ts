import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ReleaseChange, StockChange } from '@domatium/contracts';
import { newBlock, type Block } from '@domatium/core/document';
import type { PageId, ReleaseId } from '@domatium/core/plan';
import type { StockKind } from '@domatium/core/stock';
import { instant, later, MINUTE } from '@domatium/core/time';
import { newStock, removeStock, saveStock } from '../../src/features/stock/service.js';
import { stockItem } from '../../src/features/stock/views.js';
import { publishReleases } from '../../src/heart/publishing/index.js';
import { release, undo } from '../../src/heart/releases/index.js';
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
  [...(/<header.*<\/header>/s.exec(html)?.[0] ?? '').matchAll(/<a href="([^"]*)"[^>]*><span>([^<]*)/g)].map(
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
    expect(menuIn(await world.served(b)).slice(0, 2)).toEqual(
      ['Page /b /moved', 'Every ferry /a'],
    );
    await out((await undo(world.context(), world.one, arranged as ReleaseId, key())).id);
    world.now = later(world.now, MINUTE);
    expect(menuIn(await world.served(b)).slice(0, 2)).toEqual(['Every ferry /a', 'Second /moved']);
    expect(await renders()).toBe(rendered);
    await expect(removeStock(world.context(), world.one, main)).rejects.toMatchObject({ code: 'in-use' });
  });
});
