import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { newBlock } from '@domatium/core/document';
import type { PageId, ReleaseId } from '@domatium/core/plan';
import type { PageFrame, Standing, StockKind } from '@domatium/core/stock';
import { instant, later, MINUTE } from '@domatium/core/time';
import { saveDraft } from '../../src/features/drafts/service.js';
import { newStock, removeStock } from '../../src/features/stock/service.js';
import { stockItem } from '../../src/features/stock/views.js';
import { framesDerived, publishReleases } from '../../src/heart/publishing/index.js';
import { dueFramesWork } from '../../src/heart/publishing/reframe.js';
import { release, undo } from '../../src/heart/releases/index.js';
import { doAll } from '../../src/platform/work/index.js';
import { documentOf, World } from './harness.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
  world.now = instant(Date.now());
});
afterAll(() => world.close());

const idempotencyKey = () => randomBytes(8).toString('hex');
const nothing: Standing = { header: null, footer: null, bands: null, isLocked: false };
const make = async (kind: StockKind, content: object, of: { key?: string; siteId?: number } = {}) =>
  (await newStock(world.context(), world.one, { kind, name: kind, content, ...of } as never)).id;
async function press(...items: number[]): Promise<ReleaseId> {
  const stock = items.map((itemId) => ({ act: 'put' as const, itemId, from: 'now' as const, until: null }));
  const { id } = await release(world.context(), world.one, { changes: [], stock, idempotencyKey: idempotencyKey() });
  await publishReleases(world.publisher, world.one, [id as ReleaseId]);
  world.now = later(world.now, MINUTE);
  return id as ReleaseId;
}
async function live(id: PageId): Promise<PageId> {
  await world.press([world.put(id, 'now')]);
  await world.publish();
  world.now = later(world.now, MINUTE);
  return id;
}
const footer = (words: string) =>
  make('footer', { layout: 'row', blocks: [newBlock('legalLine', 'legal1', { words })] });
/** A rule with a footer of its own, on its pages. */
async function rule(key: string, words: string, siteId?: number, more: Partial<Standing> = {}): Promise<number> {
  const foot = await footer(words);
  const id = await make('standing', { ...nothing, footer: foot, ...more }, { key, ...(siteId ? { siteId } : {}) });
  await press(foot, id);
  return id;
}
async function chooses(pageId: PageId, frame: PageFrame | null): Promise<void> {
  const row = (await world.database('draft').where({ page_id: pageId }).first('version')) as { version: number };
  const { metadata, ...document } = documentOf(`Page ${pageId}`);
  const chosen = { ...document, metadata: { ...metadata, ...(frame ? { frame } : {}) } };
  await saveDraft(world.context(), world.one, pageId, row.version, chosen);
}
const counts = async () => {
  const of = async (table: string) => ((await world.database(table).select('*')) as object[]).length;
  const host = (await world.database('host').where({ name: 'one.example' }).first('version')) as { version: number };
  return [await of('render'), await of('route'), host.version];
};
const foots = async (...pages: PageId[]) => {
  const htmls = await Promise.all(pages.map((id) => world.served(id)));
  return htmls.map((html) => /<footer[^]*<span>([^<]*)<\/span>[^]*<\/footer>/.exec(html)?.[1] ?? '');
};

it('holds by the most specific rule, and only frames are made for it', async () => {
  const [plain, event, summer, thanks] = [
    await live(await world.page('/plain')),
    await live(await world.page('/events')),
    await live(await world.page('/events/summer')),
    await live(await world.page('/thanks')),
  ];
  await world.database('page').where({ id: thanks }).update({ role: 'thank-you' });
  const before = await counts();
  const moment = world.now;
  const all = await footer('For all');
  const everywhere = await make('standing', { ...nothing, footer: all });
  await press(all, everywhere);
  const events = await rule('path:/events/', 'Events', 1);
  await rule('role:thank-you', 'Thanks');
  await rule(`page:${summer}`, 'Summer');
  expect(await foots(plain, event, summer, thanks)).toEqual(['For all', 'Events', 'Summer', 'Thanks']);
  expect(await counts()).toEqual(before);
  // Rows of pages say which rules cover them; another footer, and its undo, touch none.
  const rows = async () => (await world.database('framed_page').orderBy('id').select('id', 'page_id')) as object[];
  const framed = await rows();
  expect(framed).toHaveLength(4);
  const { draft } = await stockItem(world.context(), world.one, events);
  const undone = await press((draft as Standing).footer as number);
  await publishReleases(world.publisher, world.one, [
    (await undo(world.context(), world.one, undone, idempotencyKey())).id as ReleaseId,
  ]);
  expect(await rows()).toEqual(framed);
  // What was is as it was.
  expect(await world.served(event, moment)).not.toContain('Events</span>');
  // It holds for what lies below, and not beside; a page that moves there has it from then on.
  await world.press([{ act: 'move', pageId: plain, siteId: 1, path: '/events/plain', at: 'now', leaves: null }]);
  await world.publish();
  world.now = later(world.now, MINUTE);
  expect(await foots(plain)).toEqual(['Events']);
  expect(await foots(await live(await world.page('/eventsx')))).toEqual(['For all']);
  await expect(make('standing', nothing, { key: 'path:/Events', siteId: 1 })).rejects.toThrow(/rule for these pages/);
});

it('follows labels as they are put on and taken off, with no release', async () => {
  const page = await live(await world.page('/labelled'));
  await world.database('label').insert({ portfolio_id: 1, name: 'Storm' });
  const label = (await world.database('label').first('id')) as { id: number };
  await rule('label:Storm', 'Storm');
  expect(await foots(page)).toEqual(['For all']);
  await world.database('page_label').insert({ portfolio_id: 1, page_id: page, label_id: label.id });
  const work = { ...dueFramesWork(world.publisher) };
  await doAll([work]);
  expect(await foots(page)).toEqual(['Storm']);
  await world.database('page_label').where({ page_id: page }).delete();
  world.now = later(world.now, MINUTE);
  await doAll([work]);
  expect(await foots(page)).toEqual(['For all']);
  expect(await work.pending()).toEqual([]);
});

it('lets a page choose itself, as part of its release, unless a rule is locked', async () => {
  const page = await live(await world.page('/landing'));
  const own = await footer('Of its own');
  await press(own);
  await chooses(page, { header: 'none', footer: own, bands: null });
  expect(await foots(page)).toEqual(['For all']);
  await live(page);
  expect(await foots(page)).toEqual(['Of its own']);
  expect(await world.served(page)).not.toContain('<header');
  await expect(removeStock(world.context(), world.one, own)).rejects.toMatchObject({ code: 'in-use' });
  const locked = await rule('path:/landing', 'Locked', 1, { isLocked: true });
  expect(await foots(page)).toEqual(['Locked']);
  await expect(removeStock(world.context(), world.one, locked)).rejects.toThrow(/Take it off/);
  const [off] = [{ act: 'take-off' as const, itemId: locked, from: 'now' as const, until: null }];
  const { id } = await release(world.context(), world.one, {
    ...{ changes: [], stock: [off], idempotencyKey: idempotencyKey() },
  });
  await publishReleases(world.publisher, world.one, [id as ReleaseId]);
  world.now = later(world.now, MINUTE);
  expect(await foots(page)).toEqual(['Of its own']);
  await removeStock(world.context(), world.one, locked);
  await chooses(page, null);
  await live(page);
  expect(await foots(page)).toEqual(['For all']);
});

it('has notices that stand by themselves on chosen sites, beside what is said there, and off again', async () => {
  const [one, without] = [await live(await world.page('/noticed')), await live(await world.page('/quiet'))];
  const two = await live(await world.page('/elsewhere', { site: 2 }));
  const notice = (words: string, sites: 'all' | number[]) =>
    make('band', { layout: 'urgent', sites, blocks: [newBlock('legalLine', 'legal1', { words })] });
  const storm = await notice('Boats stay in', [1]);
  const stock = [
    { act: 'put' as const, itemId: storm, from: 'now' as const, until: world.wall(world.now + 30 * MINUTE) },
  ];
  const changes = { changes: [], stock, idempotencyKey: idempotencyKey() };
  const before = await counts();
  await publishReleases(world.publisher, world.one, [
    (await release(world.context(), world.one, changes)).id as ReleaseId,
  ]);
  const at = later(world.now, MINUTE);
  expect(await counts()).toEqual(before);
  expect(await world.served(one, at)).toContain('Boats stay in');
  expect(await world.served(two, at)).not.toContain('Boats stay in');
  expect(await world.served(one, later(world.now, 40 * MINUTE))).not.toContain('Boats stay in');
  world.now = at;
  await chooses(without, { header: null, footer: null, bands: [] });
  await live(without);
  expect(await world.served(without)).not.toContain('Boats stay in');
  // Its sites are asked: those that want approvals hold it back before it was ever out.
  await world.database('site').where({ id: 2 }).update({ approvals: 1 });
  const all = await notice('Everywhere', 'all');
  await expect(press(all)).rejects.toThrow(/Below wants an approval/);
  await world.database('site').where({ id: 2 }).update({ approvals: 0 });
  await expect(notice('Nowhere', [99])).rejects.toMatchObject({ code: 'invalid' });
});

it('refuses parts that visitors should never read', async () => {
  const blank = await footer('‹What the law asks for›');
  await expect(press(blank)).rejects.toThrow(/still says “What the law asks for”/);
});

it('refuses rules for what is not there, and parts of others', async () => {
  for (const [key, siteId] of [
    ['page:999', undefined],
    ['label:Nowhere', undefined],
    ['domain:other.example', undefined],
    ['role:king', undefined],
    ['path:/x', undefined],
    ['path:/x', 99],
    ['moon:full', undefined],
  ] as const)
    await expect(make('standing', nothing, { key, ...(siteId ? { siteId } : {}) })).rejects.toMatchObject({
      code: 'invalid',
    });
  const page = await world.page('/foreign');
  await expect(chooses(page, { header: 9999, footer: null, bands: null })).rejects.toMatchObject({ code: 'invalid' });
  // A footer is no header.
  const foot = await footer('Foot');
  await expect(chooses(page, { header: foot, footer: null, bands: null })).rejects.toMatchObject({ code: 'invalid' });
  await expect(chooses(page, { header: 'left' as never, footer: null, bands: null })).rejects.toMatchObject({
    code: 'invalid',
  });
});

it('is what is derived of it anew, after all of that', async () => {
  await world.publish();
  const found = await framesDerived({ ...world.publisher, clock: () => world.now }, world.one);
  expect(found?.count).toBeGreaterThan(1);
  expect(found?.amiss).toEqual([]);
});
