import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { newBlock, type Block, type PageDocument } from '@domatium/core/document';
import type { PageId, ReleaseId } from '@domatium/core/plan';
import type { StockKind } from '@domatium/core/stock';
import { THEMES } from '@domatium/core/theme';
import { DAY, instant, later, MINUTE, type Instant } from '@domatium/core/time';
import { unpackArtifact } from '@domatium/storage';
import { draft, saveDraft } from '../../src/features/drafts/service.js';
import { newSite, setApprovals } from '../../src/features/people/service.js';
import { publishPlans, publishReleases } from '../../src/heart/publishing/index.js';
import { readyYears } from '../../src/heart/publishing/years.js';
import * as releases from '../../src/heart/stock/releases.js';
import * as stock from '../../src/heart/stock/service.js';
import * as views from '../../src/heart/stock/views.js';
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
async function put(id: number, from: number | 'now' = 'now', until?: number): Promise<number> {
  const moment = (at: number | 'now') => (at === 'now' ? ('now' as const) : world.wall(at));
  const body = { from: moment(from), ...(until === undefined ? {} : { until: moment(until) }), idempotencyKey: key() };
  const { id: release } = await releases.releaseStock(world.context(), world.one, id, body);
  await out(release);
  world.now = later(world.now, MINUTE);
  return release;
}
async function change(id: number, content: object): Promise<void> {
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
/** What visitors get of a page at an instant, from its routes as they are now. */
async function served(pageId: PageId, at: Instant = world.now): Promise<string> {
  const { rows } = (await world.database.raw(
    "SELECT artifact FROM route WHERE page_id = ? AND layer = 'page' AND from_at <= ? AND coalesce(until_at, 'infinity') > ?",
    [pageId, new Date(at), new Date(at)],
  )) as { rows: { artifact: string }[] };
  expect(rows).toHaveLength(1);
  return unpackArtifact(
    (await world.publisher.blobs.read('pages', rows[0]?.artifact ?? '')) as Buffer,
  ).identity.toString();
}
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
    const { id: undone } = await releases.undoStock(world.context(), world.one, theme, key());
    await out(undone);
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
    const [one, two] = [
      await page('/one', [newBlock('piece', 'used1', { piece: { id: piece } })]),
      await page('/two', [newBlock('piece', 'used1', { piece: { id: piece } })]),
    ];
    // In the stock, but not released: pages show nothing of it.
    expect(await served(one)).not.toContain('First words');
    await put(piece);
    for (const id of [one, two]) expect(await served(id)).toMatch(/First words.*href="\/target"/s);
    await change(piece, link('Other words'));
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
});

describe('shared values', () => {
  it('stand in texts, come from site or portfolio, and the year changes by itself', async () => {
    const id = await page('/values', [newBlock('quote', 'quote1', { text: 'Call {phone} in {year}, {nothing}' })]);
    expect(await served(id)).toContain('Call {phone} in');
    const values = await make('values', 'Values', [{ name: 'Phone', value: '75 12 00 31' }]);
    await put(values);
    const year = Number(new Intl.DateTimeFormat('en', { year: 'numeric', timeZone: ZONE }).format(world.now));
    expect(await served(id)).toContain(`Call 75 12 00 31 in ${year}, {nothing}`);
    const newYear = Date.UTC(year, 11, 31, 23, 0) as Instant;
    expect(await served(id, later(newYear, -1))).toContain(`in ${year},`);
    expect(await served(id, newYear)).toContain(`in ${year + 1},`);
    const own = await make('values', 'Of the site', [{ name: 'phone', value: '99' }], { siteId: 1 });
    await put(own);
    expect(await served(id)).toContain('Call 99 in');
    await expect(make('values', 'Again', [])).rejects.toMatchObject({ code: 'conflict' });
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
    expect(await served(await page('/without', []))).not.toContain('<script');
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
      /<iframe title="Own" src="\/-\/[0-9a-f]{64}\.html"[^>]*sandbox="allow-scripts allow-popups allow-forms"/,
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
    const { id: undone } = await releases.undoStock(world.context(), world.one, css, key());
    await out(undone);
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
  it('holds back what of the stock it shows until somebody else approved the draft as it is', async () => {
    await page('/approving', []);
    const css = await make('piece', 'Approved', [newBlock('text', 'text1', {})]);
    await page('/approving-too', [newBlock('piece', 'used1', { piece: { id: css } })]);
    await setApprovals(world.context(), world.one, 1, 1);
    try {
      await expect(put(css)).rejects.toMatchObject({
        message: 'Site wants an approval before this goes on its pages.',
      });
      const approve = (who: string, version: number) => stock.approveStock(world.context(who), world.one, css, version);
      await expect(approve('owner', 1)).rejects.toMatchObject({ code: 'conflict' });
      await approve('second', 1);
      const view = (await views.stockItem(world.context(), world.one, css)).approvals;
      expect(view).toMatchObject({ needed: 1, sites: ['Site'], given: [{ name: 'second' }] });
      // Whatever is changed afterwards asks for it anew; what was seen before is not what is approved.
      await change(css, [newBlock('text', 'text2', {})]);
      await expect(put(css)).rejects.toMatchObject({ code: 'invalid' });
      await expect(approve('second', 1)).rejects.toMatchObject({ code: 'stale' });
      await approve('second', 2);
      expect(await put(css)).toBeGreaterThan(0);
      // Taking off waits for nobody.
      await change(css, [newBlock('text', 'text3', {})]);
      const body = { from: 'now' as const, isTakenOff: true, idempotencyKey: key() };
      expect((await releases.releaseStock(world.context(), world.one, css, body)).summary).toContain(
        'Took Approved off',
      );
    } finally {
      await setApprovals(world.context(), world.one, 1, 0);
    }
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
