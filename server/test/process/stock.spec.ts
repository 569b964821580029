import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ReleaseChange, StockChange } from '@domatium/contracts';
import type { Taken } from '@domatium/core/checks';
import { newBlock, type Block, type Metadata, type PageDocument } from '@domatium/core/document';
import type { PageId, ReleaseId } from '@domatium/core/plan';
import { rowOf, tableOf } from '@domatium/core/register';
import { NO_METADATA, type SharedValue, type StockKind } from '@domatium/core/stock';
import { THEMES } from '@domatium/core/theme';
import { DAY, instant, later, MINUTE, type Instant } from '@domatium/core/time';
import { draft, saveDraft } from '../../src/features/drafts/service.js';
import { newSite, setSiteRules } from '../../src/features/people/sites.js';
import { packPage, sha256 } from '@domatium/storage';
import { publishingWork, publishPlans, publishReleases } from '../../src/heart/publishing/index.js';
import { stockHeld } from '../../src/heart/stock/index.js';
import { readyYears } from '../../src/heart/publishing/years.js';
import * as prepared from '../../src/heart/prepared/service.js';
import { preview } from '../../src/heart/releases/preview.js';
import { release, undo } from '../../src/heart/releases/index.js';
import * as stock from '../../src/features/stock/service.js';
import * as views from '../../src/features/stock/views.js';
import { alikePages } from '../../src/features/register/alike.js';
import { register, titlesAt } from '../../src/features/register/index.js';
import { World, ZONE } from './harness.js';

let world: World;
beforeAll(async () => {
  world = await World.open();
  world.now = instant(Math.ceil(Date.now() / MINUTE) * MINUTE);
});
afterAll(() => world.close());

const key = () => randomBytes(8).toString('hex');
const out = (id: number) => publishReleases(world.publisher, world.one, [id as ReleaseId]);
const make = (kind: StockKind, name: string, content: object, rest: object = {}) =>
  stock.newStock(world.context(), world.one, { kind, name, content, ...rest } as never).then(({ id }) => id);
const pressStock = (stock: readonly StockChange[], changes: readonly ReleaseChange[] = []) =>
  release(world.context(), world.one, { changes, stock, idempotencyKey: key() });
async function put(id: number, from: number | 'now' = 'now', until?: number): Promise<number> {
  const moment = (at: number | 'now') => (at === 'now' ? ('now' as const) : world.wall(at));
  const ends = until === undefined ? null : world.wall(until);
  const change = { act: 'put', itemId: id, from: moment(from), until: ends } as const;
  const { id: released } = await pressStock([change]);
  await out(released);
  world.now = later(world.now, MINUTE);
  return released;
}
/** Undoes the last release of something that is still in force. */
async function undoLast(id: number): Promise<void> {
  const { releases } = await views.stockItem(world.context(), world.one, id);
  const last = releases.find(({ undoes, undoneBy }) => undoes === null && undoneBy === null)?.releaseId ?? 0;
  await out((await undo(world.context(), world.one, last, key())).id);
}
async function changeDraft(id: number, content: object): Promise<void> {
  const { draftVersion, name } = await views.stockItem(world.context(), world.one, id);
  await stock.saveStock(world.context(), world.one, id, { version: draftVersion, name, content });
}
async function page(path: string, blocks: readonly Block[], title = 'T'): Promise<PageId> {
  const id = await world.page(path);
  const document: PageDocument = {
    metadata: { title, description: 'D' },
    blocks: [newBlock('opening', 'opening1', { heading: 'Here' }), ...blocks],
  };
  await saveDraft(world.context(), world.one, id, 1, document);
  const { id: release } = await world.press([world.put(id, 'now')]);
  await out(release);
  world.now = later(world.now, MINUTE);
  return id;
}
const served = (pageId: PageId, at?: Instant) => world.served(pageId, at);
const styleOf = async (pageId: PageId, at?: Instant): Promise<string> => {
  const [, hash = ''] = /stylesheet" href="\/-\/([0-9a-f]{64})\.css/.exec(await served(pageId, at)) ?? [];
  return ((await world.publisher.blobs.read('files', hash)) as Buffer).toString();
};

describe('a theme that is changed', () => {
  it('changes every page of its sites at once, for a while where wanted, and back by itself; undo puts back', async () => {
    const id = await page('/themed', []);
    const draft = { ...THEMES.ferry, label: 'Winter', colours: { ...THEMES.ferry.colours, accent: '#123456' } };
    const theme = await make('theme', 'Deck', draft, { key: 'ferry' });
    const [from, until] = [world.now + DAY, world.now + 30 * DAY];
    await put(theme, from, until);
    expect(await styleOf(id)).not.toContain('#123456');
    expect(await styleOf(id, from as Instant)).toContain('#123456');
    expect(await styleOf(id, until as Instant)).not.toContain('#123456');
    const view = await views.stockItem(world.context(), world.one, theme);
    expect(view.pages.map(({ name }) => name)).toContain('Page /themed');
    await undoLast(theme);
    expect(await styleOf(id, from as Instant)).not.toContain('#123456');
    await expect(stock.removeStock(world.context(), world.one, theme)).rejects.toThrow(/Site, Page \/themed use it/);
  });
  it('is refused where its content can’t be read, and where somebody was faster', async () => {
    await expect(make('theme', 'Bad', { ...THEMES.ferry, scale: 9 })).rejects.toMatchObject({ code: 'invalid' });
    const theme = await make('theme', 'Own', { ...THEMES.sail });
    const body = { version: 1, name: 'Own', content: { ...THEMES.sail } };
    await stock.saveStock(world.context(), world.one, theme, body);
    await expect(stock.saveStock(world.context('second'), world.one, theme, body)).rejects.toMatchObject({
      code: 'stale',
    });
    expect(await stock.removeStock(world.context(), world.one, theme)).toEqual({});
  });
});

describe('a page that was published whole, before frames were apart', () => {
  it('shows what it showed, and is published once more, apart from its frame', async () => {
    const id = await page('/whole-before', []);
    const whole = `<!doctype html><title>Whole</title><header>Before</header>`;
    const artifact = sha256(whole);
    await world.publisher.blobs.write('pages', new Map([[artifact, await packPage(Buffer.from(whole))]]));
    await world.database('route').where({ page_id: id }).update({ artifact });
    await world.database('portfolio').where({ id: 1 }).update({ framed_at: null });
    expect(await served(id)).toBe(whole);
    const work = publishingWork(world.publisher).find(({ name }) => name === 'frames');
    expect(await work?.pending()).toEqual(['1']);
    await work?.run('1');
    expect(await work?.pending()).toEqual([]);
    world.now = instant(world.now + MINUTE);
    expect(await served(id)).toMatch(/stylesheet.*<header class="masthead">/s);
  });
});

describe('a piece that is used linked', () => {
  it('is changed once for all pages; pages need nothing, and links in it hold', async () => {
    const target = await page('/target', []);
    const link = (words: string) => [
      newBlock('callToAction', 'call1', {
        heading: words,
        button: { label: 'Go', target: { kind: 'page', pageId: target } },
      }),
    ];
    const piece = await make('piece', 'Crossing', link('First words'));
    await put(piece);
    const [one, two] = [
      await page('/one', [newBlock('piece', 'used1', { piece: { id: piece } })]),
      await page('/two', [newBlock('piece', 'used1', { piece: { id: piece } })]),
    ];
    for (const id of [one, two]) expect(await served(id)).toMatch(/First words.*href="\/target"/s);
    await changeDraft(piece, link('Other words'));
    expect(await served(one)).toContain('First words');
    const later = world.now + 2 * DAY;
    await put(piece, later, later + DAY);
    expect(await served(two)).toContain('First words');
    expect(await served(two, later as Instant)).toContain('Other words');
    expect(await served(two, (later + DAY) as Instant)).toContain('First words');
    await expect(stock.removeStock(world.context(), world.one, piece)).rejects.toThrow(/Page \/one, Page \/two use it/);
    // The page it leads to moves: pages that show the link through the piece follow.
    const { id: moved } = await world.press([
      { act: 'move', pageId: target, siteId: 1, path: '/target-2', at: 'now', leaves: null },
    ]);
    await out(moved);
    world.now = instant(world.now + MINUTE);
    expect(await served(one)).toContain('href="/target-2"');
    const revisions = (await world.database('revision').where({ page_id: one })) as object[];
    expect(revisions).toHaveLength(1);
  });

  it('that shows nothing yet holds its page back, and goes live with it in one press', async () => {
    const piece = await make('piece', 'Contact', [newBlock('contact', 'cont1', { legal: 'Since 1961, {hotlien}' })]);
    const id = await world.page('/holds');
    const blocks = [
      newBlock('opening', 'opening1', { heading: 'Here' }),
      newBlock('piece', 'used1', { piece: { id: piece } }),
    ];
    await saveDraft(world.context(), world.one, id, 1, { metadata: { title: 'T', description: 'D' }, blocks });
    const changes = [world.put(id, 'now')];
    const said = async (stock: readonly StockChange[], pages: readonly ReleaseChange[] = changes) =>
      (await preview(world.context(), world.one, { changes: pages, stock })).findings
        .filter(({ check }) => check === 'shared')
        .map(({ severity, code, pageId, params }) => [severity, code, pageId, params]);
    const missing = { piece: 'Contact', itemId: piece, at: null };
    expect(await said([])).toEqual([['blocks', 'piece-not-out', id, missing]]);
    await expect(pressStock([], changes)).rejects.toThrow('The piece “Contact” isn’t live when this page goes live');
    const with_ = { act: 'put', itemId: piece, from: 'now', until: null } as const;
    // What it holds is judged with it.
    expect(await said([with_])).toEqual([['blocks', 'value-unknown', id, { name: 'hotlien', at: null }]]);
    await changeDraft(piece, [newBlock('contact', 'cont1', { legal: 'Since 1961' })]);
    expect(await said([with_])).toEqual([]);
    // One that comes later, or ends before the page does.
    const soon = world.wall(later(world.now, DAY));
    expect(await said([{ ...with_, from: soon }])).toEqual([['blocks', 'piece-not-out', id, missing]]);
    expect(await said([{ ...with_, until: soon }])).toMatchObject([['worth-fixing', 'piece-not-out', id, {}]]);
    await out((await pressStock([with_], changes)).id);
    expect(await served(id)).toContain('Since 1961');
    world.now = later(world.now, MINUTE);
  });
});

describe('shared values', () => {
  it('stand in texts, come from site or portfolio, and the year changes by itself', async () => {
    const values = await make('values', 'Values', [{ name: 'Phone', value: '75 12 00 31' }]);
    await put(values);
    const id = await page('/values', [newBlock('quote', 'quote1', { text: 'Call {phone} in {year}, then' })]);
    const year = Number(new Intl.DateTimeFormat('en', { year: 'numeric', timeZone: ZONE }).format(world.now));
    expect(await served(id)).toContain(`Call 75 12 00 31 in ${year}, then`);
    const newYear = Date.UTC(year, 11, 31, 23, 0) as Instant;
    expect(await served(id, later(newYear, -1))).toContain(`in ${year},`);
    expect(await served(id, newYear)).toContain(`in ${year + 1},`);
    const own = await make('values', 'Of the site', [{ name: 'phone', value: '99' }], { siteId: 1 });
    await put(own);
    expect(await served(id)).toContain('Call 99 in');
    await expect(make('values', 'Again', [])).rejects.toMatchObject({ code: 'conflict' });
  });
  it('that pages use are not taken from under them, nor misspelt by them', async () => {
    const { id: values } = (await world
      .database('stock_item')
      .where({ kind: 'values', site_id: null })
      .first('id')) as { id: number };
    const all = [
      { name: 'phone', value: '75 12 00 31' },
      { name: 'hotline', value: '116 117' },
    ];
    await changeDraft(values, all);
    await put(values);
    const id = await page('/hotline', [newBlock('quote', 'quote1', { text: 'Call {Hotline}' })]);
    const piece = await make('piece', 'Numbers', [newBlock('quote', 'quote2', { text: '{hotline}, day and night' })]);
    await put(piece);
    const through = await page('/through', [newBlock('piece', 'used1', { piece: { id: piece } })]);
    await changeDraft(values, all.slice(0, 1));
    const change = { act: 'put', itemId: values, from: 'now', until: null } as const;
    const { findings } = await preview(world.context(), world.one, { changes: [], stock: [change] });
    expect(findings.map(({ severity, code, pageId }) => [severity, code, pageId])).toEqual([
      ['blocks', 'value-unknown', id],
      ['blocks', 'value-unknown', through],
    ]);
    await expect(put(values)).rejects.toThrow('{hotline} has no value');
    // Not where the site has one of its own.
    const { id: own } = (await world.database('stock_item').where({ kind: 'values', site_id: 1 }).first('id')) as {
      id: number;
    };
    await changeDraft(own, [...all]);
    await put(own);
    await put(values);
    expect(await served(id)).toContain('Call 116 117');
    // What a piece said before is no matter any more.
    await changeDraft(own, [...all, { name: 'bell', value: 'twice' }]);
    await put(own);
    const former = await make('piece', 'Former', [newBlock('quote', 'quote3', { text: 'Ring {bell}' })]);
    await put(former);
    await changeDraft(former, [newBlock('quote', 'quote3', { text: 'Knock' })]);
    await put(former);
    await changeDraft(own, [...all]);
    await put(own);
    expect(await served(await page('/knock', [newBlock('piece', 'used1', { piece: { id: former } })]))).toContain(
      'Knock',
    );
    // A page that is mended in the same release holds nothing back.
    const { version, document } = await draft(world.context(), world.one, id);
    await saveDraft(world.context(), world.one, id, version, {
      ...document,
      blocks: document.blocks.filter(({ type }) => type !== 'quote'),
    });
    await changeDraft(own, all.slice(0, 1));
    await expect(put(own)).rejects.toThrow('{hotline} has no value');
    const bothOff = {
      act: 'take-off',
      pageId: through,
      from: 'now',
      until: null,
      afterwards: { kind: 'gone' },
    } as const;
    await out((await pressStock([{ ...change, itemId: own }], [world.put(id, 'now'), bothOff])).id);
    world.now = later(world.now, MINUTE);
    // A misspelt one never goes out; code has braces of its own.
    const wrong = await world.page('/misspelt');
    const misspelt = (text: string): PageDocument => ({
      metadata: { title: 'T {yaer}', description: 'D' },
      blocks: [
        newBlock('opening', 'opening1', { heading: 'Here' }),
        newBlock('quote', 'quote1', { text }),
        newBlock('ownHtml', 'own1', {
          code: '<p style="x">a</p><script>function f(){ return 1 }</script>',
          title: 'F',
        }),
      ],
    });
    await saveDraft(world.context(), world.one, wrong, 1, misspelt('Call {hotlien} in {year} from {site name}'));
    const found = (await preview(world.context(), world.one, { changes: [world.put(wrong, 'now')] })).findings;
    expect(found.filter(({ check }) => check === 'shared').map(({ params, place }) => [params, place])).toEqual([
      [{ name: 'yaer', at: null }, { metadata: 'title' }],
      [
        { name: 'hotlien', at: null },
        { blockId: 'quote1', field: 'text' },
      ],
    ]);
    await expect(world.press([world.put(wrong, 'now')])).rejects.toThrow('{hotlien} has no value');
  });
  it('turn with every year, however long nobody publishes the page', async () => {
    const piece = await make('piece', 'Imprint', [newBlock('contact', 'cont1', { legal: 'Since 1961, to {year}' })]);
    await put(piece);
    const used = [newBlock('piece', 'used1', { piece: { id: piece } })];
    const [id, plain] = [
      await page('/imprint', used),
      await page('/no-year', [newBlock('quote', 'quote1', { text: 'Ever' })]),
    ];
    const year = Number(new Intl.DateTimeFormat('en', { year: 'numeric', timeZone: ZONE }).format(world.now));
    const inYear = (n: number) => Date.UTC(n, 5, 1) as Instant;
    expect(await served(id, inYear(year + 3))).toContain(`to ${year + 3}`);
    expect(await served(id, inYear(year + 5))).not.toContain(`to ${year + 5}`);
    const waits = (n: number) => readyYears({ ...world.publisher, clock: () => inYear(n) });
    expect(await waits(year)).toBe(0);
    expect(await waits(year + 2)).toBeGreaterThan(0);
    expect(await served(id, inYear(year + 5))).toContain(`to ${year + 5}`);
    expect(await waits(year + 2)).toBe(0);
    expect(await served(plain, inYear(year + 5))).toContain('Ever');
  });
});

describe('a list of pages', () => {
  it('shows titles and addresses as they are, and leaves out those that are not live at that moment', async () => {
    const target = await page('/listed', [], 'Night crossing');
    const hub = await page('/hub', [
      newBlock('pageList', 'list1', { items: [{ page: { id: target }, words: 'Until Sunday' }] }),
    ]);
    const shows = /<a href="\/listed"><span class="link-label">Night crossing<\/span>/;
    expect(await served(hub)).toMatch(shows);
    const end = world.now + 3 * DAY;
    await out(
      (
        await world.press([
          { act: 'take-off', pageId: target, from: world.wall(end), until: null, afterwards: { kind: 'gone' } },
        ])
      ).id,
    );
    expect(await served(hub)).toMatch(shows);
    expect(await served(hub, end as Instant)).not.toContain('Night crossing');
  });
});

describe('first content that asks to be replaced', () => {
  it('holds a release back, each place named, also within a piece; a site can only have it named', async () => {
    const rules = (taken: Taken) =>
      setSiteRules(world.context(), world.one, 1, {
        approvals: 0,
        severities: taken === 'blocks' ? {} : { placeholder: taken, 'piece-first-content': taken },
      });
    const contact = (name: string) => [newBlock('contact', 'cont1', { name, address: '‹Street and place›' })];
    const id = await world.page('/unwritten');
    const document = (name: string): PageDocument => ({
      metadata: { title: 'T', description: '‹What it is›' },
      blocks: [newBlock('opening', 'opening1', { heading: 'Here' }), ...contact(name)],
    });
    await saveDraft(world.context(), world.one, id, 1, document('‹Company name›'));
    const found = async () =>
      (await preview(world.context(), world.one, { changes: [world.put(id, 'now')] })).findings
        .filter(({ check }) => check === 'placeholder')
        .map(({ severity, place }) => [severity, place && 'field' in place ? place.field : 'page']);
    const places = ['page', 'name', 'address'];
    expect(await found()).toEqual(places.map((place) => ['blocks', place]));
    await expect(world.press([world.put(id, 'now')])).rejects.toThrow('Company name');
    const piece = await make('piece', 'Footer', contact('Domain of ours').slice(0, 1));
    await expect(page('/unwritten-piece', [newBlock('piece', 'used1', { piece: { id: piece } })])).rejects.toThrow();
    await rules('worth-fixing');
    expect(await found()).toEqual(places.map((place) => ['worth-fixing', place]));
    await rules('off');
    expect(await found()).toEqual([]);
    await rules('worth-fixing');
    await put(piece);
    const user = await page('/written-piece', [newBlock('piece', 'used1', { piece: { id: piece } })]);
    await rules('blocks');
    // A piece alone must not bring more of it to pages that are live.
    await changeDraft(piece, contact('‹Company name›'));
    const change = { act: 'put', itemId: piece, from: 'now', until: null } as const;
    const judged = await preview(world.context(), world.one, { changes: [], stock: [change] });
    expect(judged.findings.map(({ severity, code, pageId }) => [severity, code, pageId])).toEqual([
      ['blocks', 'piece-first-content', user],
    ]);
  });
});

describe('a list of pages, and links, with shared values', () => {
  it('hold what their values hold, follow them, and are not left leading nowhere', async () => {
    const { id: own } = (await world.database('stock_item').where({ kind: 'values', site_id: 1 }).first('id')) as {
      id: number;
    };
    const values = (bell: string) => [
      { name: 'bell', value: bell },
      { name: 'desk', value: 'two' },
    ];
    await changeDraft(own, values('75 12 00 31'));
    await put(own);
    const listed = await page('/named', [], 'Ring {bell}, {desk} times in {year}');
    const target = { kind: 'phone', number: '{bell}' } as const;
    const hub = await page('/named-hub', [
      newBlock('pageList', 'list1', { items: [{ page: { id: listed }, words: '' }] }),
      newBlock('buttonRow', 'call1', { items: [{ button: { label: 'Call', target } }] }),
    ]);
    const year = Number(new Intl.DateTimeFormat('en', { year: 'numeric', timeZone: ZONE }).format(world.now));
    expect(await served(hub)).toContain(`>Ring 75 12 00 31, two times in ${year}<`);
    expect(await served(hub)).toContain('href="tel:75120031"');
    expect(await served(hub, Date.UTC(year + 3, 5, 1) as Instant)).toContain(`in ${year + 3}<`);
    expect(await titlesAt(world.database, world.one, [listed], world.now)).toEqual([
      [listed, `Ring 75 12 00 31, two times in ${year}`],
    ]);
    const lister = await page('/named-list', [
      newBlock('pageList', 'list1', { items: [{ page: { id: listed }, words: '' }] }),
    ]);
    await changeDraft(own, values('75 12 00 99'));
    await put(own);
    expect(await served(lister)).toContain('>Ring 75 12 00 99, ');
    expect(await served(hub)).toContain('href="tel:75120099"');
    await changeDraft(own, values('twice'));
    await expect(put(own)).rejects.toThrow('The link to {bell} leads nowhere');
  });
});

describe('what is said to search engines, and where pages are shared', () => {
  const said = (more: object) => ({ ...NO_METADATA, ...more });
  const titleOf = async (id: PageId, at?: Instant) => /<title>(.*?)<\/title>/.exec(await served(id, at))?.[1];
  it('reaches pages from portfolio, site and path, each for its time, and goes with a page that moves', async () => {
    const [fair, market] = [await page('/said/fair', [], 'Fair'), await page('/saidless', [], 'Market')];
    const whole = await make('metadata', 'All', said({ titleAfter: '| {site name} {year}', siteName: 'All of it' }));
    const site = await make('metadata', 'Site', said({ siteName: 'Ours' }), { siteId: 1 });
    const path = await make(
      ...(['metadata', 'Said', said({ robots: { noindex: true }, titleBefore: 'Said:' })] as const),
      { siteId: 1, key: 'path:/said' },
    );
    await put(whole);
    await put(site);
    const [from, until] = [world.now + DAY, world.now + 30 * DAY];
    await put(path, from, until);
    const year = Number(new Intl.DateTimeFormat('en', { year: 'numeric', timeZone: ZONE }).format(world.now));
    expect(await titleOf(fair)).toBe(`Fair | Site ${year}`);
    expect(await titleOf(fair, from as Instant)).toMatch(/^Said: Fair \| Site \d+$/);
    expect(await titleOf(fair, until as Instant)).toMatch(/^Fair \| Site \d+$/);
    expect(await titleOf(fair, Date.UTC(year + 2, 5, 1) as Instant)).toBe(`Fair | Site ${year + 2}`);
    expect(await titleOf(market, from as Instant)).toMatch(/^Market \|/);
    expect(await served(market)).toContain('<meta property="og:site_name" content="Ours">');
    const isHidden = async (id: PageId, at: number) => (await served(id, at as Instant)).includes('noindex');
    expect([await isHidden(fair, world.now), await isHidden(fair, from), await isHidden(fair, until)]).toEqual([
      ...[false, true, false],
    ]);
    const hiddenFrom = async (at: number) =>
      (
        (await world
          .database('route')
          .where({ page_id: fair, layer: 'page' })
          .where('from_at', '<=', new Date(at))
          .orderBy('from_at', 'desc')
          .first('hidden_from')) as { hidden_from: number | null }
      ).hidden_from;
    expect([await hiddenFrom(world.now), await hiddenFrom(from), await hiddenFrom(until)]).toEqual([null, 0, null]);
    const { id: moved } = await world.press([
      { act: 'move', pageId: fair, siteId: 1, path: '/unsaid', at: 'now', leaves: null },
    ]);
    await out(moved);
    world.now = later(world.now, MINUTE);
    expect(await isHidden(fair, from)).toBe(false);
    const view = await views.stockItem(world.context(), world.one, whole);
    expect(view.pages.map(({ name }) => name)).toContain('Page /saidless');
    // A change of values reaches those that ask for one, and not whoever names its site or the year.
    const known = (await world.database('stock_item').where({ kind: 'values', site_id: 1 }).first('id')) as
      { id: number } | undefined;
    const values = known?.id ?? (await make('values', 'Site', [], { siteId: 1 }));
    const usersOf = async () =>
      (await views.stockItem(world.context(), world.one, values)).pages.map(({ name }) => name);
    expect(await usersOf()).not.toContain('Page /saidless');
    await changeDraft(site, said({ siteName: 'Ours', description: 'By the {tower}' }));
    const kept = (await views.stockItem(world.context(), world.one, values)).draft as readonly SharedValue[];
    const bell = { name: 'bell', value: '75 12 00 31' };
    const others = kept.filter(({ name }) => name !== 'bell');
    await changeDraft(values, [...others, bell, { name: 'tower', value: 'lighthouse' }]);
    await put(values);
    await put(site);
    expect(await usersOf()).toContain('Page /saidless');
    // The year in it turns however long nobody publishes anything.
    await readyYears({ ...world.publisher, clock: () => Date.UTC(year + 2, 5, 1) as Instant });
    expect(await titleOf(market, Date.UTC(year + 5, 5, 1) as Instant)).toBe(`Market | Site ${year + 5}`);
  });
  it('is named where another page has it too, or nearly, as long as that can be found', async () => {
    const [one, same, near] = [
      await page('/alike', [], 'Night boat to Skerrow in winter'),
      await page('/alike/same', [], 'night boat, to Skerrow – in winter'),
      await page('/alike/near', [], 'The night boat to Skerrow in winter'),
    ];
    const hidden = await page('/alike/hidden', [], 'Night boat to Skerrow in winter');
    const asked = { page: one, title: 'Night boat to Skerrow in winter', description: '', phrases: ['Winter boats'] };
    const alike = async () =>
      (await alikePages(world.database, world.one, asked, world.now)).map(({ pageId, likeness }) => [pageId, likeness]);
    expect(await alike()).toEqual([...[same, hidden].map((id) => [id, 'same']), [near, 'near']]);
    const { version, document } = await draft(world.context(), world.one, hidden);
    const metadata = { ...document.metadata, robots: { noindex: true as const } };
    await saveDraft(world.context(), world.one, hidden, version, { ...document, metadata });
    // What a page is to be found by is said to nobody outside.
    const { version: newest, document: aimed } = await draft(world.context(), world.one, near);
    const phrases = ['winter  BOATS', 'Skerrow'];
    await saveDraft(world.context(), world.one, near, newest, { ...aimed, metadata: { ...aimed.metadata, phrases } });
    await out((await world.press([world.put(near, 'now')])).id);
    expect(await served(near)).not.toContain('BOATS');
    await out((await world.press([world.put(hidden, 'now')])).id);
    world.now = later(world.now, MINUTE);
    expect(await alike()).toEqual([
      [same, 'same'],
      [near, 'near'],
      [near, 'same'],
    ]);
  });
  it('keeps thank-you pages out of search where they lie, or else it is said before they go out', async () => {
    const found = async (path: string) => {
      const id = await world.page(path);
      await world.database('page').where({ id }).update({ role: 'thank-you' });
      const { findings } = await preview(world.context(), world.one, { changes: [world.put(id, 'now')] });
      return findings.filter(({ check }) => check === 'search').map(({ code, severity }) => [code, severity]);
    };
    expect(await found('/thanks-found')).toEqual([['thanks-found', 'worth-fixing']]);
    const rule = await make('metadata', 'Thanks', said({ robots: { noindex: true } }), {
      siteId: 1,
      key: 'path:/thanks',
    });
    await put(rule);
    expect(await found('/thanks/kept-out')).toEqual([]);
  });
  it('names another page for search engines as long as that is live, and itself otherwise, also in sitemaps', async () => {
    const [summer, winter] = [
      await page('/canonical/summer', [], 'Summer'),
      await page('/canonical/winter', [], 'Winter'),
    ];
    const name = async (id: PageId, target: Metadata['canonical'] | undefined) => {
      const { version, document } = await draft(world.context(), world.one, id);
      const { canonical: _, ...metadata } = document.metadata;
      const named = { ...document, metadata: { ...metadata, ...(target ? { canonical: target } : {}) } };
      await saveDraft(world.context(), world.one, id, version, named);
    };
    const release = async (changes: ReleaseChange[]) => {
      const { findings } = await preview(world.context(), world.one, { changes });
      await out((await world.press(changes)).id);
      world.now = later(world.now, MINUTE);
      return findings.filter(({ check }) => check === 'canonical').map(({ code }) => code);
    };
    const standing = async (at: Instant = world.now) => {
      const { columns } = await register(world.context(), world.one, [summer, winter]);
      const table = tableOf(columns);
      const unfound = rowOf(table, table.rowOfId.get(winter) as number, at).unfoundLive;
      const [, href] = /<link rel="canonical" href="([^"]*)"/.exec(await served(winter, at)) ?? [];
      return [href?.replace(/^.*\/canonical/, ''), unfound === 'elsewhere'];
    };
    await name(winter, { kind: 'page', pageId: summer });
    expect(await release([world.put(winter, 'now')])).toEqual([]);
    expect(await standing()).toEqual(['/summer', true]);
    const hidden = (await world
      .database('route')
      .where({ page_id: winter, layer: 'page' })
      .orderBy('from_at', 'desc')
      .first('hidden_from')) as { hidden_from: number | null };
    expect(hidden.hidden_from).toBe(0);
    // The page that is named goes for a while: until it is back the other one stands for itself.
    const back = later(world.now, DAY);
    await release([{ act: 'take-off', pageId: summer, from: 'now', until: null, afterwards: { kind: 'not-found' } }]);
    await release([world.put(summer, back)]);
    expect([await standing(), await standing(back)]).toEqual([
      ['/winter', false],
      ['/summer', true],
    ]);
    await name(summer, { kind: 'page', pageId: winter });
    expect(await release([{ ...world.put(summer, 'now'), cutsLater: true } as ReleaseChange])).toEqual([
      'canonical-chain',
    ]);
    await name(winter, { kind: 'outside', url: 'https://elsewhere.example/canonical/all?a=1' });
    expect(await release([world.put(winter, 'now')])).toEqual([]);
    expect(await standing()).toEqual(['/all?a=1', true]);
    await name(winter, { kind: 'page', pageId: winter });
    await release([world.put(winter, 'now')]);
    expect(await standing()).toEqual(['/winter', false]);
    await name(winter, { kind: 'page', pageId: 999_999_999 as PageId }).then(
      () => expect('refused').toBe('taken'),
      (error: unknown) => expect(error).toMatchObject({ extra: { fields: [{ path: 'metadata.canonical' }] } }),
    );
  });
  it('is one a place, of places that are there alone, and never shows the braces of a value nobody has', async () => {
    await expect(make('metadata', 'Twice', said({}))).rejects.toMatchObject({ code: 'conflict' });
    for (const [key, siteId] of [
      ['label:Storm', null],
      ['path:/x', null],
      ['role:home', null],
    ] as const)
      await expect(make('metadata', 'Odd', said({}), { key, siteId })).rejects.toMatchObject({ code: 'invalid' });
    const path = await make('metadata', 'Path', said({ description: 'Call {nobody}' }), {
      siteId: 1,
      key: 'path:/saidless',
    });
    await expect(put(path)).rejects.toThrow('{nobody}');
    await changeDraft(path, said({ description: 'Call us' }));
    await put(path);
    await expect(stock.removeStock(world.context(), world.one, path)).rejects.toMatchObject({ code: 'in-use' });
  });
});

describe('a countdown', () => {
  it('names its end without script, counts with one, and says by itself what comes afterwards', async () => {
    const moment = world.now + DAY;
    const id = await page('/count', [
      newBlock('countdown', 'count1', { moment: { at: moment, zone: ZONE }, before: 'Until', after: 'It has begun' }),
    ]);
    const html = await served(id);
    expect(html).toContain(`<time datetime="${new Date(moment).toISOString()}">`);
    const [, script = ''] = /<script src="\/-\/([0-9a-f]{64})\.js" defer>/.exec(html) ?? [];
    expect(((await world.publisher.blobs.read('files', script)) as Buffer).length).toBeLessThan(1024);
    const after = await served(id, moment as Instant);
    expect(after).toContain('<p class="count-after">It has begun</p>');
    expect(await served(await page('/without', []))).not.toContain('<script src');
  });
});

describe('own HTML and own CSS', () => {
  it('lie in files of their own: the page holds no markup of theirs', async () => {
    const id = await page('/apart', [
      newBlock('ownHtml', 'own1', { code: '</section><script>alert(1)</script>', title: 'Own' }),
    ]);
    const html = await served(id);
    expect(html).not.toContain('alert');
    expect(html).toMatch(
      /<iframe title="Own" src="\/-\/[0-9a-f]{64}\.html"[^>]*sandbox="allow-scripts allow-popups allow-popups-to-escape-sandbox allow-forms"/,
    );
  });
});

describe('own CSS of a site', () => {
  const ownStyles = async (id: PageId, at?: Instant) => {
    const found = [...(await served(id, at)).matchAll(/stylesheet" href="\/-\/([0-9a-f]{64})\.css/g)].slice(1);
    const files = found.map(([, hash = '']) => world.publisher.blobs.read('files', hash));
    return (await Promise.all(files)).map(String).join('');
  };
  it('is on all of its pages over the theme and below that of a page, for a while, and on no other site', async () => {
    const plain = await page('/css-plain', []);
    const own = await page('/css-own', []);
    const { metadata, blocks } = (
      (await world.database('draft').where({ page_id: own }).select('document')) as { document: PageDocument }[]
    )[0]?.document as PageDocument;
    const document = { metadata: { ...metadata, css: 'h1 { color: teal }' }, blocks };
    await saveDraft(world.context(), world.one, own, 2, document).catch(async () =>
      saveDraft(world.context(), world.one, own, 1, document),
    );
    await out((await world.press([world.put(own, 'now')])).id);
    world.now = later(world.now, MINUTE);
    const css = await make('css', 'CSS of Site', { css: 'h1 { color: tomato }' }, { siteId: 1 });
    expect(await ownStyles(plain)).toBe('');
    const [from, until] = [world.now + DAY, world.now + 9 * DAY];
    await put(css, from, until);
    expect(await ownStyles(plain)).toBe('');
    expect(await ownStyles(plain, from as Instant)).toBe('main h1{color:tomato}');
    expect(await ownStyles(own, from as Instant)).toBe('main h1{color:tomato}main h1{color:teal}');
    expect(await ownStyles(own, until as Instant)).toBe('main h1{color:teal}');
    const elsewhere = await world.page('/css-elsewhere', { site: 2 });
    await out((await world.press([world.put(elsewhere, 'now')])).id);
    expect(await ownStyles(elsewhere, from as Instant)).toBe('');
    const { pages } = await views.stockItem(world.context(), world.one, css);
    const names = pages.map(({ name }) => name);
    expect(names).toContain('Page /css-plain');
    expect(names).not.toContain('Page /css-elsewhere');
    await undoLast(css);
  });
  it('there is one of each site, of no more; what hides every page is kept, and reaches nobody', async () => {
    await expect(make('css', 'Again', { css: '' }, { siteId: 1 })).rejects.toMatchObject({ code: 'conflict' });
    await expect(make('css', 'Of nobody', { css: '' })).rejects.toMatchObject({ code: 'invalid' });
    await expect(make('css', 'Long', { css: 'x'.repeat(60_000) }, { siteId: 2 })).rejects.toMatchObject({
      code: 'invalid',
    });
    const css = await make('css', 'CSS of Second', { css: 'a { color: red }\nbody { display: none }' }, { siteId: 2 });
    const refused = { message: expect.stringContaining('Line 2: “body” hides') };
    await expect(put(css)).rejects.toMatchObject({ code: 'invalid', ...refused });
    await expect(stock.removeStock(world.context(), world.one, css)).rejects.toThrow(/Empty it/);
    const theme = await make('theme', 'Gone', { ...THEMES.sail, css: 'main { opacity: 0 }' });
    await expect(put(theme)).rejects.toMatchObject({ code: 'invalid' });
  });
});

describe('a site that wants approvals', () => {
  it('wants what of the stock it shows prepared, and approved by somebody else as it is', async () => {
    await page('/approving', []);
    const piece = await make('piece', 'Approved', [newBlock('text', 'text1', {})]);
    await put(piece);
    await changeDraft(piece, [newBlock('text', 'text3', {})]);
    await page('/approving-too', [newBlock('piece', 'used1', { piece: { id: piece } })]);
    await setSiteRules(world.context(), world.one, 1, { approvals: 1, severities: {} });
    try {
      const wants = { message: 'Site wants an approval before a release. Prepare it, and somebody else approves it.' };
      await expect(put(piece)).rejects.toMatchObject(wants);
      const change = { act: 'put', itemId: piece, from: 'now', until: null } as const;
      const preparing = { name: 'Put it on', changes: [], stock: [change] };
      const { id } = await prepared.prepare(world.context(), world.one, preparing);
      const approve = (who: string) => prepared.approvePrepared(world.context(who), world.one, id, 1);
      const press = () => prepared.pressPrepared(world.context(), world.one, id, 1, key());
      await expect(approve('owner')).rejects.toMatchObject({ code: 'conflict' });
      await approve('second');
      const seen = async () =>
        (await prepared.preparedReleases(world.context(), world.one)).find((one) => one.id === id);
      expect(await seen()).toMatchObject({
        items: [{ id: piece, name: 'Approved' }],
        approvals: { needed: 1, given: [{ name: 'second' }] },
      });
      // Whatever is changed afterwards asks for it anew.
      await changeDraft(piece, [newBlock('text', 'text2', {})]);
      expect((await seen())?.approvals.given).toEqual([]);
      await expect(press()).rejects.toMatchObject(wants);
      await approve('second');
      await out((await press()).id);
      expect(
        await served((await views.stockItem(world.context(), world.one, piece)).pages[0]?.pageId as PageId),
      ).toContain('<section');
      world.now = later(world.now, MINUTE);
      // Taking off waits for nobody.
      const off = { act: 'take-off', itemId: piece, from: 'now', until: null } as const;
      expect((await pressStock([off])).summary).toBe('Took Approved off its pages');
    } finally {
      await setSiteRules(world.context(), world.one, 1, { approvals: 0, severities: {} });
    }
  });
});

describe('a release of pages and of the stock', () => {
  it('is one: seen before, decided together or not at all, and undone whole', async () => {
    const piece = await make('piece', 'Fares', [newBlock('quote', 'quote1', { text: 'From 95' })]);
    const fares = await world.page('/fares');
    const document: PageDocument = {
      metadata: { title: 'Fares', description: 'D' },
      blocks: [
        newBlock('opening', 'opening1', { heading: 'Fares' }),
        newBlock('piece', 'used1', { piece: { id: piece } }),
      ],
    };
    await saveDraft(world.context(), world.one, fares, 1, document);
    const put = { act: 'put', itemId: piece, from: 'now', until: null, draftVersion: 1 } as const;
    const both = { changes: [world.put(fares, 'now')], stock: [put] };
    const seen = await preview(world.context(), world.one, both);
    expect(seen.stock).toEqual([{ itemId: piece, name: 'Fares', revision: 1, draftVersion: 1, pages: 0 }]);
    const wrong = { ...put, from: world.wall(later(world.now, -DAY)) };
    await expect(pressStock([wrong], both.changes)).rejects.toMatchObject({
      extra: { fields: [{ path: 'stock[0].from', code: 'in-the-past' }] },
    });
    await expect(pressStock([{ ...put, draftVersion: 7 }], both.changes)).rejects.toMatchObject({ code: 'stale' });
    await expect(pressStock([put, put], both.changes)).rejects.toMatchObject({
      extra: { fields: [{ code: 'item-twice' }] },
    });
    expect((await views.stockItem(world.context(), world.one, piece)).periods).toEqual([]);
    const { id, summary } = await pressStock([put], both.changes);
    expect(summary).toMatch(/^Put revision 1 live from .*; Put revision 1 of Fares on its pages$/);
    await out(id);
    expect(await served(fares)).toContain('From 95');
    world.now = later(world.now, MINUTE);
    // A later release of the piece holds the undo of both back.
    await changeDraft(piece, [newBlock('quote', 'quote1', { text: 'From 105' })]);
    const { id: second } = await pressStock([{ ...put, draftVersion: 2 }]);
    await out(second);
    world.now = later(world.now, MINUTE);
    await expect(undo(world.context(), world.one, id, key())).rejects.toThrow(
      /Fares on its pages” by .* changed the same later/,
    );
    const undone = await undo(world.context(), world.one, second, key());
    await out(undone.id);
    expect(await served(fares, world.now)).toContain('From 95');
    world.now = later(world.now, MINUTE);
    await out((await undo(world.context(), world.one, id, key())).id);
    expect((await views.stockItem(world.context(), world.one, piece)).periods.at(-1)?.until).not.toBeNull();
    // An undo is a release: undone too, both come back.
    world.now = later(world.now, MINUTE);
    const [last] = (await views.stockItem(world.context(), world.one, piece)).releases;
    await out((await undo(world.context(), world.one, last?.releaseId ?? 0, key())).id);
    world.now = later(world.now, MINUTE);
    expect(await served(fares)).toContain('From 95');
  });
});

describe('two people at once', () => {
  it('release the same thing one after the other, and what a release was made of is what goes out', async () => {
    const piece = await make('piece', 'Contested', [newBlock('quote', 'quote1', { text: 'First' })]);
    await put(piece);
    const shown = await page('/contested', [newBlock('piece', 'used1', { piece: { id: piece } })]);
    const press = (who: string, more: object = {}) =>
      release(world.context(who), world.one, {
        changes: [world.put(shown, 'now')],
        stock: [{ act: 'put', itemId: piece, from: 'now', until: null, ...more }],
        idempotencyKey: key(),
      });
    const both = await Promise.all([press('owner'), press('second'), press('owner')]);
    expect(new Set(both.map(({ at }) => at)).size).toBe(3);
    for (const { id } of both) await out(id);
    expect((await views.stockItem(world.context(), world.one, piece)).periods).toHaveLength(1);
    // Somebody saves while somebody else presses what they saw: one of the two was first, and the other is told.
    world.now = later(world.now, MINUTE);
    const save = () =>
      stock.saveStock(world.context('second'), world.one, piece, {
        ...{ version: 1, name: 'Contested', content: [newBlock('quote', 'quote1', { text: 'Second' })] },
      });
    const [pressed, saved] = await Promise.allSettled([press('owner', { draftVersion: 1 }), save()]);
    expect(saved.status).toBe('fulfilled');
    if (pressed.status === 'fulfilled') await out(pressed.value.id);
    else expect(pressed.reason).toMatchObject({ code: 'stale' });
    expect(await served(shown)).toContain('First');
    // The same press twice is one release.
    const twice = key();
    const again = () =>
      release(world.context(), world.one, {
        ...{ changes: [], idempotencyKey: twice },
        stock: [{ act: 'put', itemId: piece, from: 'now', until: null }],
      });
    const [one, two] = await Promise.all([again(), again()]);
    expect(one).toEqual(two);
    await out(one.id);
    expect(await served(shown)).toContain('Second');
  });
  it('can’t undo what was done to something that has been removed since, and are told so', async () => {
    const piece = await make('piece', 'Short-lived', [newBlock('quote', 'quote1', { text: 'Gone soon' })]);
    const released = await put(piece);
    const off = { act: 'take-off', itemId: piece, from: 'now', until: null } as const;
    await out((await pressStock([off])).id);
    world.now = later(world.now, MINUTE);
    await stock.removeStock(world.context(), world.one, piece);
    await expect(undo(world.context(), world.one, released, key())).rejects.toThrow(/removed from the stock since/);
    await expect(pressStock([off])).rejects.toMatchObject({ extra: { fields: [{ code: 'item-elsewhere' }] } });
  });
  it('get a release of pages and the stock that can’t be rendered undone, both of it', async () => {
    const piece = await make('piece', 'Broken', [newBlock('quote', 'quote1', { text: 'Before' })]);
    await put(piece);
    const shown = await page('/broken', [newBlock('piece', 'used1', { piece: { id: piece } })]);
    await changeDraft(piece, [newBlock('quote', 'quote1', { text: 'After' })]);
    const stockChange = { act: 'put', itemId: piece, from: 'now', until: null } as const;
    const { id } = await pressStock([stockChange], [world.put(shown, 'now')]);
    const write = (content: object) =>
      world
        .database('stock_revision')
        .where({ item_id: piece, number: 2 })
        .update({ content: JSON.stringify(content) });
    // Something that no version of ours would write, and then as it was: others go on being published.
    await write([{ id: 'quote1', type: 'nothing-known', fields: {} }]);
    const [publishing] = publishingWork(world.publisher);
    for (let turn = 0; turn < 2; turn++) await publishing?.run(String(world.one));
    await write([newBlock('quote', 'quote1', { text: 'After' })]);
    await publishing?.run(String(world.one));
    const { releases, periods } = await views.stockItem(world.context(), world.one, piece);
    expect(releases.find(({ releaseId }) => releaseId === id)).toMatchObject({
      failure: expect.any(String),
      undoneBy: expect.any(Number),
    });
    expect(periods.at(-1)).toMatchObject({ revision: 1, until: null });
    world.now = later(world.now, MINUTE);
    expect(await served(shown)).toContain('Before');
  });
});

describe('what a site is', () => {
  it('is a function of time: name, language, theme on all of its pages, for a while and back; undo puts back', async () => {
    const id = await page('/profile', [newBlock('quote', 'quote1', { text: 'By {site name}' })]);
    expect(await served(id)).toMatch(/<html lang="en">.*By Site/s);
    const [from, until] = [later(world.now, DAY), later(world.now, 8 * DAY)];
    const winter = { brand: 'Winter Site', language: 'nb', theme: 'tide' };
    const release = await world.setProfile(1, winter, from, until);
    expect(await served(id)).toMatch(/<html lang="en">.*By Site/s);
    expect(await served(id, from)).toMatch(/<html lang="nb">.*Winter Site.*By Winter Site/s);
    expect(await styleOf(id, from)).not.toBe(await styleOf(id));
    expect(await served(id, until)).toMatch(/<html lang="en">.*By Site/s);
    const { profiles } = await stockHeld(world.context(), world.one, from);
    expect(profiles.find(({ siteId }) => siteId === 1)?.profile).toMatchObject(winter);
    // The theme it will have can't be removed, and is on its pages; a theme it names must be there.
    const pagesOf = async (key: string) =>
      (await views.stock(world.context(), world.one)).find((one) => one.kind === 'theme' && one.key === key)?.uses ?? 0;
    expect(await pagesOf('tide')).toBeGreaterThan(0);
    await expect(world.setProfile(1, { theme: 'own-nothing' })).rejects.toMatchObject({ code: 'invalid' });
    await expect(world.setProfile(1, { language: 'norsk!' })).rejects.toMatchObject({ code: 'invalid' });
    await expect(world.setProfile(1, { iconId: 999 as never })).rejects.toMatchObject({ code: 'not-found' });
    await out((await undo(world.context(), world.one, release, key())).id);
    expect(await served(id, from)).toMatch(/<html lang="en">.*By Site/s);
    const item = await world.profileItem(1);
    await expect(stock.removeStock(world.context(), world.one, item)).rejects.toThrow(/goes with the site/);
    await expect(make('profile', 'Second', winter, { siteId: 1 })).rejects.toMatchObject({ code: 'conflict' });
  });
});

describe('a block that was kept before its type had a field', () => {
  it('is published and given as if it held that blank', async () => {
    const id = await page('/older', [newBlock('quote', 'quote1', { text: 'Said' })]);
    for (const table of ['revision', 'draft'])
      await world.database.raw(
        `UPDATE ${table} SET document = document #- '{blocks,1,fields,layout}' WHERE page_id = ?`,
        [id],
      );
    const { document } = await draft(world.context(), world.one, id);
    expect(document.blocks[1]?.fields['layout']).toBe('tint');
    await put(await make('values', 'Turns it', [{ name: 'unused', value: '1' }], { siteId: 2 }));
    await publishPlans(world.publisher, world.one, [id]);
    expect(await served(id)).toContain('class="quote tint"');
  });
});

it('a new site takes a theme that was made here, and none that nobody made', async () => {
  const theme = await make('theme', 'Made here', { ...THEMES.sail });
  const { key: made } = await views.stockItem(world.context(), world.one, theme);
  const site = (name: string, of: string) =>
    newSite(world.context(), world.one, { name, host: `${name}.example`, basePath: '/', theme: of });
  expect((await site('made-here', made ?? '')).id).toBeGreaterThan(0);
  await expect(site('nowhere', 'own-nothing')).rejects.toMatchObject({ code: 'invalid' });
  await expect(stock.removeStock(world.context(), world.one, theme)).rejects.toThrow(/made-here uses it/);
});
