import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { StockItem, StockView } from '@domatium/contracts';
import type { Menu, MenuEntry } from '@domatium/core/stock';
import { THEMES } from '@domatium/core/theme';
import { StockService } from '../src/app/hub/stock.service';
import { FourPages } from '../src/app/stock/four-pages';
import { MenusDesk } from '../src/app/stock/menus-desk';
import { StockDesk } from '../src/app/stock/stock-desk.service';
import { buttons, element, NOW, open, press, previewOf, profileWith, rowOf, settle, surround, text } from './help';

const live = [{ from: NOW - 1000, until: null, revision: 1 }];
const rows = [
  rowOf(1, 'Home', { path: '/', role: 'home', periods: live }),
  rowOf(2, 'Boats', { path: '/boats', periods: live, visits: 90 }),
  rowOf(3, 'Night boat', { path: '/boats/night', periods: live, visits: 400 }),
  rowOf(4, 'Summer fares', { path: '/fares', periods: [{ from: NOW - 9000, until: NOW - 500, revision: 1 }] }),
  rowOf(5, 'Imprint', { path: '/imprint', periods: [{ from: NOW - 9000, until: NOW + 86_400_000, revision: 1 }] }),
];
const page = (pageId: number, entries: MenuEntry[] = [], more: object = {}): MenuEntry =>
  ({ kind: 'page', pageId, label: '', entries, ...more }) as never;
const menu = (entries: MenuEntry[], changes: Partial<Menu> = {}): Menu => ({
  by: 'hand',
  levels: 3,
  entries,
  ...changes,
});
const stored = (changes: Partial<StockItem>): StockItem => ({
  ...{ id: 4, kind: 'menu', key: 'tree', name: 'Page tree, Ferries', siteId: 1, draftVersion: 3, draftDiffers: true },
  ...{
    changedAt: NOW,
    changedBy: 'Tomas',
    periods: [],
    uses: 1,
    draft: menu([]),
    revisions: [],
    releases: [],
    pages: [],
  },
  approvals: { needed: 0, sites: [] },
  ...changes,
});

async function desk(item: StockItem | null, held: object = {}, listed: readonly Partial<StockView>[] = []) {
  const world = surround({ rows });
  TestBed.configureTestingModule({ providers: [StockDesk] });
  world.api.on('GET stock', () => [...listed, ...(item ? [item] : [])]);
  world.api.on('GET stock/held', () => ({
    ...{
      themes: THEMES,
      values: [],
      css: [],
      pieces: [],
      parts: [],
      standings: [],
      menus: [],
      legal: [],
      metadata: [],
      codes: [],
    },
    profiles: [{ siteId: 1, profile: profileWith() }],
    ...held,
  }));
  world.api.on('GET stock/:itemId', () => item);
  world.api.on('PUT stock/:itemId/draft', ({ body }) => ({ version: Number(body?.['version']) + 1 }));
  world.api.on('POST releases/preview', () => previewOf());
  world.api.on('POST stock', () => ({ id: 77 }));
  await TestBed.inject(StockService).open(1);
  const shelf = TestBed.inject(StockDesk);
  if (item?.id) await shelf.open(item.id);
  const fixture = await open(MenusDesk, { item: item ? String(item.id) : null });
  const kept = async () => {
    await shelf.keep();
    return (world.api.sent('PUT stock/:itemId/draft').at(-1) as { content: unknown } | undefined)?.content;
  };
  return { ...world, fixture, kept, shelf };
}
const entriesIn = (fixture: ComponentFixture<unknown>) => [
  ...element(fixture).querySelectorAll<HTMLElement>('dm-menu-outline .entry'),
];
const drawn = (fixture: ComponentFixture<unknown>) =>
  entriesIn(fixture).map(
    (entry) =>
      '·'.repeat(Number(entry.getAttribute('aria-level')) - 1) + (entry.querySelector('strong')?.textContent ?? ''),
  );
async function key(fixture: ComponentFixture<unknown>, at: number, name: string, altKey = false): Promise<void> {
  entriesIn(fixture)[at]?.dispatchEvent(new KeyboardEvent('keydown', { key: name, altKey, bubbles: true }));
  await settle(fixture);
}

function one<Kind extends HTMLElement = HTMLElement>(fixture: ComponentFixture<unknown>, selector: string): Kind {
  const found = element(fixture).querySelector<Kind>(selector);
  if (!found) throw new Error(`No ${selector}`);
  return found;
}

describe('the page tree of a site', () => {
  it('is arranged by keys, each step to be undone; nothing is lost with an entry but itself', async () => {
    const { fixture, kept, shelf } = await desk(stored({ draft: menu([page(2, [page(3)]), page(4)]) }));
    expect(drawn(fixture)).toEqual(['Boats', '·Night boat', 'Summer fares']);
    expect(text(fixture)).toContain('Not shown now: was live');
    await key(fixture, 2, 'ArrowUp', true);
    expect(drawn(fixture)).toEqual(['Summer fares', 'Boats', '·Night boat']);
    await key(fixture, 1, 'ArrowRight', true);
    expect(drawn(fixture)).toEqual(['Summer fares', '·Boats', '··Night boat']);
    // Deeper than three levels nothing goes.
    await key(fixture, 2, 'ArrowRight', true);
    expect(drawn(fixture)).toEqual(['Summer fares', '·Boats', '··Night boat']);
    await key(fixture, 1, 'Delete');
    expect(drawn(fixture)).toEqual(['Summer fares', '·Night boat']);
    shelf.undo();
    await settle(fixture);
    expect(await kept()).toEqual(menu([page(4, [page(2, [page(3)])])]));
  });
  it('says which live pages have no place yet, and puts them there by their paths', async () => {
    const { fixture, kept } = await desk(stored({}));
    expect(text(fixture)).toContain('3 live pages have no place in the tree.');
    await press(fixture, 'Add 3 live pages by their paths');
    expect(drawn(fixture)).toEqual(['Boats', '·Night boat', 'Imprint']);
    expect(text(fixture)).toContain('Every live page of the site has a place in the tree.');
    expect(await kept()).toEqual(menu([page(2, [page(3)]), page(5)]));
  });
  it('has labels of its own, hides, and shows at one width only; what is refused is said at the entry', async () => {
    const { fixture, kept, api, shelf } = await desk(stored({ draft: menu([page(2)]) }));
    entriesIn(fixture)[0]?.click();
    await settle(fixture);
    const select = one<HTMLSelectElement>(fixture, '#entry-shown');
    select.value = 'narrow';
    select.dispatchEvent(new Event('change'));
    one<HTMLInputElement>(fixture, '.check input').click();
    await settle(fixture);
    expect(await kept()).toEqual(menu([page(2, [], { isHidden: true, shownAt: 'narrow' })]));
    expect(text(fixture)).toContain('hidden');
    const words = 'This page has a place in the tree already.';
    api.on('PUT stock/:itemId/draft', () =>
      api.refuse('invalid', words, [{ path: 'content.entries[0]', message: words }]),
    );
    one<HTMLInputElement>(fixture, '.check input').click();
    await shelf.keep();
    await settle(fixture);
    expect(element(fixture).querySelector('.margin .card .field-error')?.textContent).toBe(words);
  });
});

describe('menus of a site', () => {
  const tree = menu([page(2, [page(3)]), page(4, [], { isHidden: true })]);
  it('are made by their names, once each', async () => {
    const { fixture, api } = await desk(null);
    expect(buttons(fixture).filter((one) => /not made yet/.test(one))).toHaveLength(4);
    await press(fixture, /^Main menu/);
    expect(api.sent('POST stock')).toEqual([
      {
        kind: 'menu',
        name: 'Main menu, Ferries',
        key: 'main',
        siteId: 1,
        content: menu([], { by: 'tree', levels: 1 }),
      },
    ]);
    await press(fixture, 'New menu');
    const name = one<HTMLInputElement>(fixture, '#menu-name');
    for (const [typed, isRight] of [
      ['Our partners', false],
      ['main', false],
      ['partners', true],
    ] as const) {
      name.value = typed;
      name.dispatchEvent(new Event('input'));
      await settle(fixture);
      const make = [...element(fixture).querySelectorAll('button')].find(
        (one) => one.textContent?.trim() === 'Make it',
      );
      expect(make?.disabled).toBe(!isRight);
    }
  });
  it('by the tree show it to a level, without what is hidden there, and can’t be arranged', async () => {
    const { fixture, kept } = await desk(stored({ key: 'main', draft: menu([page(5)], { by: 'tree', levels: 1 }) }), {
      menus: [{ siteId: 1, name: 'tree', menu: tree }],
    });
    expect(drawn(fixture)).toEqual(['Boats']);
    const levels = one<HTMLSelectElement>(fixture, '#menu-levels');
    levels.value = '2';
    levels.dispatchEvent(new Event('change'));
    await settle(fixture);
    expect(drawn(fixture)).toEqual(['Boats', '·Night boat']);
    await key(fixture, 0, 'Delete');
    // What was arranged by hand before is kept.
    expect(await kept()).toEqual(menu([page(5)], { by: 'tree', levels: 2 }));
  });
});

describe('legal pages', () => {
  const wanted = [
    { key: 'imprint', name: 'Imprint', pageId: 5 },
    { key: 'privacy', name: 'Privacy', pageId: null },
    { key: 'terms', name: 'Terms', pageId: 4 },
  ];
  it('say what is missing, not live, or leaves, and where', async () => {
    const item = stored({ kind: 'legal', key: null, siteId: null, draft: wanted as never });
    const { fixture } = await desk(item, { legal: [{ siteId: null, pages: wanted }] });
    expect(text(fixture)).toMatch(/Imprint: the page “Imprint” is live only until/);
    expect(text(fixture)).toContain('Privacy: no page is named.');
    expect(text(fixture)).toContain('Terms: the page “Summer fares” is not live.');
    expect(text(fixture)).toContain('3 missing');
    await press(fixture, 'Accessibility');
    expect(text(fixture)).toContain('Accessibility: no page is named.');
  });
  it('of a site are named for what its portfolio wants', async () => {
    const item = stored({
      kind: 'legal',
      key: null,
      siteId: 1,
      draft: [{ key: 'privacy', name: '', pageId: 2 }] as never,
    });
    const { fixture, kept } = await desk(item, { legal: [{ siteId: null, pages: wanted }] });
    expect(text(fixture)).toContain('Imprint The one page for all sites');
    one<HTMLElement>(fixture, '[aria-label="Remove: Privacy"]').click();
    await settle(fixture);
    expect(await kept()).toEqual([]);
    expect(text(fixture)).toContain('Privacy: no page is named.');
  });
});

describe('the pages on which a change matters most', () => {
  it('are the most visited, the one with the longest name, one that opens over a picture, and one on a phone', async () => {
    const { api } = surround({ rows });
    const over = { id: 'open1', type: 'opening', fields: { layout: 'over' } };
    api.on('GET pages/:pageId/draft', ({ params }) => ({
      siteId: 1,
      document: { metadata: { title: '', description: '' }, blocks: params?.['pageId'] === 2 ? [over] : [] },
    }));
    api.on('GET stock/ways', () => ({ nav: null }));
    const drafted = { parts: [], standings: [], own: {} };
    const fixture = await open(FourPages, { pageIds: [2, 3, 4, 5], drafted });
    await settle(fixture);
    const heads = [...element(fixture).querySelectorAll('h2')].map((head) =>
      head.textContent?.replace(/\s+/g, ' ').trim(),
    );
    expect(heads).toEqual([
      'Most visited Night boat',
      'Longest name Night boat',
      'Opening over a picture Boats',
      'On a phone Boats',
    ]);
  });
});
