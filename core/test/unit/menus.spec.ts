import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { newBlock, type Block } from '../../src/document/index.js';
import { compose, cutPage, fillNav, frameAround, frameOf, markedPages, type Nav } from '../../src/frame/index.js';
import type { PageId } from '../../src/plan/index.js';
import type { Instant } from '../../src/time/index.js';
import { BARE_FRAME, contentHtml, contextOf, siteFrameHtml, siteFrameParts, worldOf } from '../../src/render/index.js';
import {
  legalFindings,
  legalOn,
  menuFaults,
  menuFromJSON,
  navOf,
  pagesOfMenus,
  type HeldMenus,
  type Menu,
  type MenuEntry,
} from '../../src/stock/index.js';

const page = (pageId: number, entries: MenuEntry[] = [], more: Partial<MenuEntry> = {}): MenuEntry =>
  ({ kind: 'page', pageId: pageId as PageId, label: '', entries, ...more }) as MenuEntry;
const heading = (label: string, entries: MenuEntry[] = []): MenuEntry => ({ kind: 'heading', label, entries });
const byHand = (entries: readonly MenuEntry[]): Menu => ({ by: 'hand', levels: 3, entries });
const held = (menus: Record<string, Menu>, legal: HeldMenus['legal'] = []): HeldMenus => ({
  menus: Object.entries(menus).map(([name, menu]) => ({ name, menu })),
  legal,
  home: { label: 'Ferries', href: '/' },
});
const live = (id: number) => (id > 0 && id < 90 ? { title: `Page <${id}>`, href: `/p${id}` } : null);
const menu = (name: string, layout = 'list') => newBlock('siteMenu', 'menu1', { menu: name, layout } as never);
const wayUp = (ends = 'page') => newBlock('wayUp', 'way1', { ends } as never);
const beside = newBlock('neighbours', 'beside1', { previous: 'Previous', next: 'Next' });
/** A page of blocks as visitors get it: rendered apart from its frame, and put together with it. */
function sent(blocks: Block[], nav: Nav | null, pageId: number): string {
  const document = { metadata: { title: 'T', description: '' }, blocks };
  const content = contentHtml(document, BARE_FRAME, contextOf(worldOf()));
  const part = { layout: 'row', blocks: [menu('main', 'row'), wayUp('above')] };
  const parts = siteFrameParts(BARE_FRAME, worldOf({ parts: { header: part, footer: 'none', bands: [] } }));
  const frame = { ...parts, ...(nav ? { nav: [JSON.stringify(nav)] } : {}) };
  return compose(
    cutPage(content),
    frameAround(
      frameOf(frame, (text) => text),
      pageId,
    ),
  );
}
/** The same rendered at once, as on the canvas. */
function whole(blocks: Block[], nav: Nav | null, pageId: number): string {
  const document = { metadata: { title: 'T', description: '' }, blocks };
  const part = { layout: 'row', blocks: [menu('main', 'row'), wayUp('above')] };
  const world = worldOf({ parts: { header: part, footer: 'none', bands: [] }, waysAround: { nav, pageId } });
  return compose(
    cutPage(contentHtml(document, BARE_FRAME, contextOf(world))),
    siteFrameHtml(BARE_FRAME, world, pageId),
  );
}
const linksOf = (markup: string) => [...markup.matchAll(/href="([^"]*)"/g)].map(([, href]) => href);

const ids = fc.integer({ min: 1, max: 99 });
const entries: fc.Arbitrary<MenuEntry[]> = fc.array(
  fc.oneof(
    fc
      .record({ id: ids, below: fc.array(ids, { maxLength: 3 }), isHidden: fc.boolean() })
      .map(({ id, below, isHidden }) =>
        page(
          id,
          below.map((one) => page(one)),
          isHidden ? { isHidden } : {},
        ),
      ),
    fc.record({ label: fc.string({ minLength: 1 }), below: fc.array(ids, { maxLength: 2 }) }).map(({ label, below }) =>
      heading(
        label,
        below.map((one) => page(one)),
      ),
    ),
  ),
  { maxLength: 6 },
);

describe('menus and ways', () => {
  it('put together are what the page rendered whole shows, on every page', () => {
    const by = fc.constantFrom<Menu['by'][]>('hand', 'tree', 'legal');
    fc.assert(
      fc.property(entries, entries, by, fc.constantFrom(1, 2, 3), ids, (tree, main, from, levels, pageId) => {
        const menus = {
          tree: byHand(tree.filter(({ kind }) => kind === 'page')),
          main: { by: from, levels, entries: main },
        };
        const nav = navOf(held(menus as never, [{ key: 'privacy', name: 'Privacy', pageId: 5 as PageId }]), live);
        const blocks = [menu('main'), menu('tree', 'folded'), menu('legal'), wayUp(), beside];
        expect(sent(blocks, nav, pageId)).toBe(whole(blocks, nav, pageId));
        // Around all pages that are in none of them, the frame is one and the same.
        const frame = { ...siteFrameHtml(BARE_FRAME, worldOf()), nav: JSON.stringify(nav) };
        if (!markedPages(frame).has(pageId)) expect(sent(blocks, nav, pageId)).toBe(sent(blocks, nav, 1000));
      }),
    );
  });
  it('show the tree to a level, hide what is hidden, and bring up what is below a page that isn’t live', () => {
    const tree = byHand([page(1, [page(2, [page(3)]), page(4)]), page(99, [page(5)]), page(6, [], { isHidden: true })]);
    const nav = navOf(held({ tree, main: { by: 'tree', levels: 2, entries: [] } }), live);
    expect(linksOf(sent([menu('main')], nav, 1).split('<main>')[1] ?? '')).toEqual(['/p1', '/p2', '/p4', '/p5']);
    expect(linksOf(whole([wayUp()], nav, 3).split('<main>')[1] ?? '')).toEqual(['/', '/p1', '/p2', '/p3']);
    // A hidden page has its place in the tree, and so its way and its neighbours.
    expect(linksOf(whole([wayUp(), beside], nav, 6).split('<main>')[1] ?? '')).toEqual(['/', '/p6', '/p5']);
    expect(whole([beside], nav, 2)).toMatch(
      /<a rel="next" class="is-next" href="\/p4"><small>Next<\/small><span>Page &lt;4&gt;/,
    );
    expect(whole([menu('main'), wayUp()], nav, 4)).toContain('<a href="/p4" aria-current="page">');
    // Nothing to show: nothing of it is there.
    expect(sent([menu('foot'), wayUp(), beside], nav, 77)).toMatch(/<main>(<section id="b-\w+"><\/section>)+<\/main>/);
    expect(fillNav(sent([menu('main')], null, 1), null, 1)).not.toContain('<!--~');
  });
  it('are filled from the legal pages of the portfolio and of the site', () => {
    const wanted = [
      { key: 'imprint', name: 'Imprint', pageId: 1 as PageId },
      { key: 'privacy', name: 'Privacy', pageId: null },
      { key: 'terms', name: 'Terms', pageId: null },
    ];
    const own = [
      { key: 'privacy', name: '', pageId: 2 as PageId },
      { key: 'imprint', name: '', pageId: 3 as PageId },
    ];
    const legal = legalOn(wanted, own);
    expect(legal.map(({ pageId }) => pageId)).toEqual([1, 2, null]);
    const all = held({ legal: { by: 'legal', levels: 1, entries: [] } }, legal);
    expect(pagesOfMenus(all)).toEqual([1, 2]);
    expect(sent([menu('legal')], navOf(all, live), 2)).toMatch(
      /Imprint<\/span><\/a><\/li><li><a href="\/p2" aria-current="page"><span>Privacy/,
    );
  });
  it('are refused in words where they can’t be', () => {
    const faultsOf = (json: unknown) => {
      const read = menuFromJSON(json);
      return read.ok ? [] : read.faults.map(({ path, code }) => `${path} ${code}`);
    };
    const menuOf = (all: unknown, by = 'hand') => ({ by, levels: 3, entries: all });
    expect(faultsOf(menuOf([page(1, [page(2, [page(3, [page(4)])])])]))).toEqual([
      'entries[0].entries[0].entries[0].entries menu-levels',
    ]);
    expect(faultsOf(menuOf(Array.from({ length: 2_000 }, (_, n) => page(n + 1))))).toEqual([]);
    expect(
      faultsOf(
        menuOf([
          heading(
            'All',
            Array.from({ length: 2_000 }, (_, n) => page(n + 1)),
          ),
        ]),
      ),
    ).toEqual(['entries menu-entries']);
    expect(
      faultsOf(menuOf([{ kind: 'outside', label: 'X', url: 'javascript:alert(1)', entries: [] }, heading(' ')])),
    ).toEqual([expect.stringContaining('entries[0].url'), 'entries[1].label menu-label']);
    const tree = (all: MenuEntry[], by: Menu['by'] = 'hand') =>
      menuFaults('tree', { by, levels: 3, entries: all }).map(({ path, code }) => `${path} ${code}`);
    expect(tree([page(1, [page(2)]), page(2), heading('x')], 'tree')).toEqual([
      'by menu-loop',
      'entries[1] menu-page-twice',
      'entries[2] menu-tree-pages',
    ]);
    // A label can’t open anything that is filled in.
    const nav = navOf(held({ main: byHand([page(1, [], { label: '<!--~nav way page--><script>' })]) }), live);
    expect(sent([menu('main')], nav, 1)).not.toContain('<script>');
  });
});

describe('legal pages over time', () => {
  const HOUR = 3_600_000;
  it('are found missing at exactly the hours at which no page is live, now or as the first of them ahead', () => {
    const edge = fc.integer({ min: 0, max: 30 });
    const periods = fc
      .array(fc.tuple(edge, edge), { maxLength: 4 })
      .map((all) => all.filter(([a, b]) => a < b).sort(([a], [b]) => a - b));
    fc.assert(
      fc.property(periods, edge, fc.boolean(), (all, now, isOpen) => {
        const last = all.length - 1;
        const during = all.map(([from, until], n) => ({
          from: (from * HOUR) as Instant,
          until: isOpen && n === last ? null : ((until * HOUR) as Instant),
        }));
        const isLive = (hour: number) =>
          during.some(({ from, until }) => from <= hour * HOUR && (until === null || hour * HOUR < until));
        const [found] = legalFindings(
          [{ key: 'imprint', name: 'Imprint', pageId: 7 as PageId }],
          () => during,
          now * HOUR,
        );
        if (!isLive(now)) return expect(found).toMatchObject({ what: 'not-live', from: null });
        const first = Array.from({ length: 40 }, (_, n) => now + n).find((hour) => !isLive(hour));
        if (first === undefined) expect(found).toBeUndefined();
        else expect(found).toMatchObject({ what: 'leaving', from: first * HOUR });
      }),
    );
    expect(legalFindings([{ key: 'x', name: '', pageId: null }], () => null, 0)).toMatchObject([{ what: 'missing' }]);
    // Of a page of which nothing is known yet nothing is said.
    expect(legalFindings([{ key: 'x', name: '', pageId: 7 as PageId }], () => null, 0)).toEqual([]);
  });
});
