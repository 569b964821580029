import { randomBytes } from 'node:crypto';
import { Readable } from 'node:stream';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ReleaseChange, StockChange } from '@domatium/contracts';
import { newBlock, richTextOf, type Block } from '@domatium/core/document';
import type { HostId, PageId, PictureId, ReleaseId } from '@domatium/core/plan';
import type { StockKind } from '@domatium/core/stock';
import { instant, later, MINUTE, type Instant } from '@domatium/core/time';
import { newStock, removeStock, saveStock } from '../../src/features/stock/service.js';
import { seen } from '../../src/features/pages/seen.js';
import { stockItem } from '../../src/features/stock/views.js';
import sharp from 'sharp';
import { PictureMaker } from '../../src/features/pictures/index.js';
import * as pictures from '../../src/features/pictures/service.js';
import { framesDerived, publishPlans, publishReleases, wholePage } from '../../src/heart/publishing/index.js';
import { readyYears } from '../../src/heart/publishing/years.js';
import { Reader } from '../../src/platform/readers/index.js';
import { setInstant } from '../../src/platform/database/context.js';
import { doAll } from '../../src/platform/work/index.js';
import { release, undo } from '../../src/heart/releases/index.js';
import { preview } from '../../src/heart/releases/preview.js';
import { World } from './harness.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
  world.now = instant(Date.now());
});
afterAll(() => world.close());

const key = () => randomBytes(8).toString('hex');
const out = (id: number) => publishReleases(world.publisher, world.one, [id as ReleaseId]);
const make = async (kind: StockKind, content: object, siteId: number | null = null) =>
  (await newStock(world.context(), world.one, { kind, name: kind, content, siteId } as never)).id;
async function press(stock: readonly StockChange[], changes: readonly ReleaseChange[] = []): Promise<number> {
  const { id } = await release(world.context(), world.one, { changes, stock, idempotencyKey: key() });
  await out(id);
  world.now = later(world.now, MINUTE);
  return id;
}
const put = (itemId: number, from: number | 'now' = 'now', until: number | null = null): StockChange => ({
  ...{ act: 'put', itemId },
  from: from === 'now' ? 'now' : world.wall(from),
  until: until === null ? null : world.wall(until),
});
async function change(itemId: number, content: object): Promise<void> {
  const { draftVersion: version, name } = await stockItem(world.context(), world.one, itemId);
  await saveStock(world.context(), world.one, itemId, { version, name, content });
}
async function livePage(path: string, from: number | 'now' = 'now'): Promise<PageId> {
  const id = await world.page(path);
  await press([], [world.put(id, from)]);
  return id;
}
const entry = (label: string, pageId: number) => ({
  button: { label, target: { kind: 'page', pageId } },
  shownAt: 'everywhere',
});
const menuOf = (...items: object[]): Block => newBlock('menu', 'menu1', { items } as never);
const header = (...blocks: Block[]) => ({ layout: 'row', blocks: [newBlock('brand', 'brand1', {}), ...blocks] });
const footer = (words: string) => ({ layout: 'row', blocks: [newBlock('legalLine', 'legal1', { words })] });
const nothing = { header: null, footer: null, bands: null, isLocked: false };

describe('what stands around pages', () => {
  it('is said once for all sites, changes on all pages at once, and no page is published for it', async () => {
    const [about, coming] = [await livePage('/about'), await livePage('/coming', world.now + 30 * MINUTE)];
    const [top, bottom] = [
      await make('header', header(menuOf(entry('About us', about), entry('Coming', coming)))),
      await make('footer', footer('© {year} {site name}')),
    ];
    const said = await make('standing', { ...nothing, header: top, footer: bottom });
    const renders = async () => ((await world.database('render').select('key')) as object[]).length;
    const before = await renders();
    await press([put(top), put(bottom), put(said)]);
    const html = await world.served(about);
    expect(html).toMatch(/<header class="site-header as-row">.*<a class="brand" href="\/"><span>Site<\/span>/s);
    expect(html).toMatch(/<footer class="site-footer as-row">.*© 20\d\d Site/s);
    const [, sheet = ''] = /stylesheet" href="\/-\/([0-9a-f]{64})\.css"/.exec(html) ?? [];
    expect((await world.publisher.blobs.readPacked(sheet))?.br?.length).toBeGreaterThan(100);
    // The way to the page one is on is marked there, and nowhere else.
    const other = await livePage('/other');
    expect(html).toContain('<a href="/about" aria-current="page"');
    expect(await world.served(other)).toMatch(/<a href="\/about"><span>About us/);
    expect(await world.served(other)).not.toContain('aria-current');
    // What is not live is not in the menu, and comes by itself.
    expect(html).not.toContain('Coming');
    expect(await world.served(about, later(world.now, 40 * MINUTE))).toContain('<a href="/coming"');
    // A page that moves is followed, at once and at no cost to pages that don't show it themselves.
    const moved = await press(
      [],
      [{ act: 'move', pageId: about, siteId: 1, path: '/about-us', at: 'now', leaves: null } as ReleaseChange],
    );
    expect(await world.served(other)).toContain('<a href="/about-us">');
    await out((await undo(world.context(), world.one, moved as ReleaseId, key())).id);
    world.now = later(world.now, MINUTE);
    expect(await world.served(other)).toContain('<a href="/about">');
    const rendered = await renders();
    await change(bottom, footer('Other words'));
    const changed = await press([put(bottom)]);
    expect(await world.served(other)).toContain('Other words');
    await out((await undo(world.context(), world.one, changed as ReleaseId, key())).id);
    world.now = later(world.now, MINUTE);
    expect(await world.served(other)).toContain('© 20');
    expect(await renders()).toBe(rendered);
    expect(rendered).toBeGreaterThan(before);
    // In use it stays.
    await expect(removeStock(world.context(), world.one, top)).rejects.toMatchObject({ code: 'in-use' });
  });
  it('is otherwise on one site where that says so, and not where it is locked', async () => {
    const [all, own] = [await make('footer', footer('For all')), await make('footer', footer('For one'))];
    const page = await livePage('/two-footers');
    const portfolio = ((await world.database('stock_item').where({ kind: 'standing' }).first('id')) as { id: number })
      .id;
    const site = await make('standing', { ...nothing, header: 'none', footer: own }, 1);
    await change(portfolio, { ...nothing, footer: all });
    await press([put(all), put(own), put(site), put(portfolio)]);
    expect(await world.served(page)).toContain('For one');
    expect(await world.served(page)).not.toContain('<header');
    await change(portfolio, { ...nothing, footer: all, isLocked: true });
    const from = world.now + 10 * MINUTE;
    await press([put(portfolio, from, from + 10 * MINUTE)]);
    expect(await world.served(page, later(world.now, 15 * MINUTE))).toMatch(/<header class="masthead">.*For all/s);
    expect(await world.served(page, (from + 12 * MINUTE) as Instant)).toContain('For one');
  });
  it('has notice bands for a while, on and off by themselves', async () => {
    const band = await make('band', {
      layout: 'urgent',
      blocks: [newBlock('legalLine', 'words1', { words: 'Storm: <no> boats' })],
    });
    const page = await livePage('/storm');
    const { id: site } = (await world.database('stock_item').where({ kind: 'standing', site_id: 1 }).first('id')) as {
      id: number;
    };
    await change(site, { ...nothing, bands: [band] });
    const from = world.now + 60 * MINUTE;
    await press([put(site), put(band, from, from + 20 * MINUTE)]);
    expect(await world.served(page)).not.toContain('Storm');
    expect(await world.served(page, (from + MINUTE) as Instant)).toMatch(
      /<aside class="band as-urgent" aria-label="Notice">.*Storm: &lt;no&gt; boats.*<header/s,
    );
    expect(await world.served(page, (from + 25 * MINUTE) as Instant)).not.toContain('Storm');
  });
  it('is, as of a moment, what edges still served until each change of it was out', async () => {
    world.now = later(world.now, 60 * MINUTE);
    const page = await livePage('/late-frame');
    const [bottom, storm] = [
      await make('footer', footer('First words')),
      await make('band', {
        layout: 'urgent',
        sites: [1],
        blocks: [newBlock('text', 'text1', { body: richTextOf('Storm') as never })],
      }),
    ];
    const start = world.now;
    const minute = (n: number) => later(start, n * MINUTE);
    const { id: own } = (await world.database('stock_item').where({ kind: 'standing', site_id: 1 }).first('id')) as {
      id: number;
    };
    await change(own, { ...nothing, footer: bottom });
    await press([put(bottom), put(own), put(storm, minute(12), minute(60))]);
    await world.served(page);
    const lateBy = async (stock: readonly StockChange[], at: number, outAt: number | null) => {
      world.now = minute(at);
      const id = await press(stock);
      await world
        .database('release')
        .where({ id })
        .update({ out_at: outAt === null ? null : new Date(minute(outAt)) });
      return id;
    };
    // Two changes on their way at once; the band, which was to come while they were, is withdrawn by the second.
    await change(bottom, footer('Second words'));
    await lateBy([put(bottom)], 10, 20);
    const last = await lateBy([{ act: 'take-off', itemId: storm, from: 'now', until: null }], 11, null);
    world.now = minute(30);
    const shows = async (at: number) => {
      const { isLate, outAt, stored } = await seen(world.context(), world.one, page, minute(at));
      const html = (stored && (await wholePage(world.database, world.publisher.blobs, stored))) ?? '';
      const words = ['First', 'Second', 'Storm'].filter((one) => html.includes(one)).join(' ');
      return `${words}${isLate ? ` late ${outAt === null ? '' : (outAt - start) / MINUTE}` : ''}`;
    };
    expect(await Promise.all([9, 10, 11, 13, 21].map(shows))).toEqual([
      'First',
      'First late 20',
      'First late ',
      'First Storm late ',
      'Second Storm late ',
    ]);
    await world
      .database('release')
      .where({ id: last })
      .update({ out_at: new Date(minute(25)) });
    expect(await Promise.all([13, 21, 25].map(shows))).toEqual([
      'First Storm late 25',
      'Second Storm late 25',
      'Second',
    ]);
  });
  it('shows pieces and values, which come and change with it on all pages, and are not lost under it', async () => {
    world.now = later(world.now, 60 * MINUTE);
    const page = await livePage('/piece-around');
    const words = (text: string) => [newBlock('text', 'piece001', { body: richTextOf(text) as never })];
    const piece = await make('piece', words('Ring {desk} at noon'));
    const foot = await make('footer', {
      layout: 'row',
      blocks: [newBlock('piece', 'held0001', { piece: { id: piece }, shownAt: 'narrow' })],
    });
    const { id: own } = (await world.database('stock_item').where({ kind: 'standing', site_id: 1 }).first('id')) as {
      id: number;
    };
    await change(own, { ...nothing, footer: foot });
    const refused = async (stock: readonly StockChange[]) =>
      (await preview(world.context(), world.one, { changes: [], stock })).faults.map(({ message }) => message);
    // With nothing in it, or with braces, it goes nowhere.
    expect(await refused([put(foot), put(own)])).toEqual([
      expect.stringMatching(/isn’t live.*would see nothing of it/),
    ]);
    expect(await refused([put(foot), put(own), put(piece)])).toEqual([expect.stringMatching(/\{desk\} has no value/)]);
    const values =
      (
        (await world.database('stock_item').where({ kind: 'values', site_id: null }).first('id')) as
          { id: number } | undefined
      )?.id ?? (await make('values', []));
    await change(values, [{ name: 'desk', value: '75 12 00 31' }]);
    const renders = async () => ((await world.database('render').select('key')) as object[]).length;
    const before = await renders();
    await press([put(values), put(foot), put(own), put(piece)]);
    expect(await world.served(page)).toMatch(/<div class="in-part of-piece only-narrow">.*Ring 75 12 00 31 at noon/s);
    // What changes in it is on all pages at once, and no page is rendered for it.
    await change(piece, words('Write to {desk}'));
    expect(
      (await preview(world.context(), world.one, { changes: [], stock: [put(piece)] })).stock[0]?.pages,
    ).toBeGreaterThan(0);
    await press([put(piece)]);
    expect(await world.served(page)).toContain('Write to 75 12 00 31');
    expect(await renders()).toBe(before);
    // Neither goes from under it.
    await change(values, []);
    expect(await refused([put(values)])).toEqual([expect.stringMatching(/^“footer”: \{desk\} has no value/)]);
    await change(values, [{ name: 'desk', value: '75 12 00 31' }]);
    await expect(removeStock(world.context(), world.one, piece)).rejects.toMatchObject({ code: 'in-use' });
    await change(own, nothing);
    await press([put(own)]);
  });
  it('turns with every year, however long nobody publishes anything', async () => {
    const page = await livePage('/years');
    const { id } = (await world.database('stock_item').where({ kind: 'standing', site_id: null }).first('id')) as {
      id: number;
    };
    const foot = await make('footer', footer('© {year} for ever'));
    await change(id, { ...nothing, footer: foot });
    const site = await make('standing', nothing, 2);
    await press([put(foot), put(id), put(site)]);
    const own = (await world.database('stock_item').where({ kind: 'standing', site_id: 1 }).first('id')) as {
      id: number;
    };
    await change(own.id, nothing);
    await press([put(own.id)]);
    const year = new Date(world.now).getUTCFullYear();
    const inYear = (n: number) => Date.UTC(n, 5, 1) as Instant;
    expect(await world.served(page, inYear(year + 2))).toContain(`© ${year + 2} for ever`);
    expect(await world.served(page, inYear(year + 5))).not.toContain(`© ${year + 5}`);
    await readyYears({ ...world.publisher, clock: () => inYear(year + 2) });
    expect(await world.served(page, inYear(year + 5))).toContain(`© ${year + 5} for ever`);
  });
  it('shows a logo once its sizes are made, which is not deleted while it stands there', async () => {
    const reader = new Reader();
    const maker = new PictureMaker(world.database, world.publisher.blobs, reader, (portfolioId, pageIds) =>
      publishPlans(world.publisher, portfolioId, pageIds),
    );
    const bytes = await sharp({ create: { width: 400, height: 200, channels: 3, background: '#336699' } })
      .png()
      .toBuffer();
    const { picture } = await pictures.receive(world.context(), { reader, blobs: world.publisher.blobs }, world.one, {
      ...{ name: 'logo.png', replaces: null, replacesFile: null, description: undefined, role: 'publisher' },
      stream: Readable.from([bytes]),
    });
    const id = picture?.id ?? 0;
    const logo = { pictureId: id as PictureId, description: 'A boat', isDecorative: false };
    const top = await make('header', { layout: 'row', blocks: [newBlock('brand', 'logo1', { layout: 'logo', logo })] });
    const own = (await world.database('stock_item').where({ kind: 'standing', site_id: 1 }).first('id')) as {
      id: number;
    };
    await change(own.id, { ...nothing, header: top });
    const page = await livePage('/logo');
    await press([put(top), put(own.id)]);
    expect(await world.served(page)).not.toContain('<img');
    await doAll(maker.works());
    world.now = instant(Math.max(world.now, Date.now()) + MINUTE);
    expect(await world.served(page)).toMatch(/<a class="brand" href="\/"><img [^>]*alt="A boat"/);
    const uses = await pictures.pictureUses(world.context(), world.one, id, 'publisher');
    expect(uses.pieces).toEqual([{ id: top, name: 'header', kind: 'header' }]);
    expect(uses.live).toBeGreaterThan(0);
    await expect(pictures.deletePicture(world.context(), world.one, id)).rejects.toThrow(/header shows it/);
    reader.close();
  });
  it('stands also where a site only redirects from', async () => {
    const [address] = (await world.database('site_address').where({ site_id: 1 })) as { host_id: HostId }[];
    const host = address?.host_id as HostId;
    await world.database.transaction(async (trx) => {
      await setInstant(trx, world.now);
      await trx('site_address').insert({
        ...{ portfolio_id: 1, site_id: 1, host_id: host, base_path: '/second', is_primary: false },
        from_at: new Date(world.now),
      });
    });
    await livePage('/after-second');
    const rows = (await world.database('frame_place').where({ host_id: host, base_path: '/second' })) as object[];
    expect(rows.length).toBeGreaterThan(0);
  });
  it('is refused where it can’t be read, or names what is not there', async () => {
    await expect(make('header', { layout: 'sideways', blocks: [] })).rejects.toMatchObject({ code: 'invalid' });
    const foot = await make('footer', footer('Foot'));
    await expect(make('standing', { ...nothing, header: foot })).rejects.toMatchObject({ code: 'invalid' });
    await expect(make('standing', nothing)).rejects.toMatchObject({ code: 'conflict' });
  });
  it('stays as it was where a part can’t be drawn, which is said, and goes on everywhere else', async () => {
    const one = await livePage('/drawn');
    const two = await world.page('/undrawn', { site: 2 });
    await press([], [world.put(two, 'now')]);
    const { id: portfolio } = (await world
      .database('stock_item')
      .where({ kind: 'standing', site_id: null })
      .first('id')) as { id: number };
    const [bottom, top] = [await make('footer', footer('Before')), await make('header', header())];
    const { id: site } = (await world.database('stock_item').where({ kind: 'standing', site_id: 2 }).first('id')) as {
      id: number;
    };
    await change(site, { ...nothing, header: top });
    await change(portfolio, { ...nothing, footer: bottom });
    await press([put(bottom), put(top), put(portfolio), put(site)]);
    const turn = async (name: unknown) =>
      world.database.transaction(async (trx) => {
        await trx.raw('SET LOCAL session_replication_role TO replica');
        await trx.raw(
          "UPDATE stock_revision SET content = jsonb_set(content, '{blocks,0,fields,name}', ?) WHERE item_id = ?",
          [JSON.stringify(name), top],
        );
      });
    const said = () => world.database('trouble').whereLike('place', 'frame %').pluck('words');
    await turn({ no: 'text' });
    await change(bottom, footer('After'));
    await press([put(bottom)]);
    expect(await world.served(one)).toContain('After');
    expect(await world.served(two)).toMatch(/<header class="site-header.*Before/s);
    expect(await said()).toEqual([
      expect.stringContaining('What stands around the pages of x.one.example can’t be drawn'),
    ]);
    await turn('');
    await change(bottom, footer('Later'));
    await press([put(bottom)]);
    expect(await world.served(two)).toMatch(/<header class="site-header.*Later/s);
    expect(await said()).toEqual([]);
  });
});

it('is what is derived of it anew, after all of that', async () => {
  await world.publish();
  const found = await framesDerived({ ...world.publisher, clock: () => world.now }, world.one);
  expect(found?.count).toBeGreaterThan(1);
  expect(found?.amiss).toEqual([]);
});
