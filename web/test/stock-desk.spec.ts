import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { StockItem } from '@domatium/contracts';
import { newBlock, type PageDocument } from '@domatium/core/document';
import { THEMES } from '@domatium/core/theme';
import { StockDesk } from '../src/app/stock/stock-desk.service';
import { StockRelease } from '../src/app/stock/stock-release';
import { themeOf, valuesOf } from '../src/app/hub/stock.service';
import { ChosenBlocks } from '../src/app/editor/chosen-blocks';
import { DraftService } from '../src/app/editor/draft.service';
import { element, NOW, open, pass, press, previewOf, profileWith, settle, surround, text } from './help';

const button = (fixture: ComponentFixture<unknown>, words: RegExp) =>
  [...element(fixture).querySelectorAll('button')].find((one) => words.test(one.textContent?.trim() ?? ''));
const item = (changes: Partial<StockItem> = {}): StockItem => ({
  id: 4,
  kind: 'values',
  key: null,
  name: 'Marrowick Coast',
  siteId: null,
  draftVersion: 3,
  draftDiffers: true,
  changedAt: NOW,
  changedBy: 'Ingrid',
  periods: [{ from: NOW - 1000, until: null, revision: 2, by: 'Tomas' }],
  uses: 1,
  draft: [{ name: 'phone', value: '12' }],
  revisions: [],
  pages: [{ pageId: 7, name: 'Night boat', address: 'marrowick.example/night', isDraft: false }],
  releases: [
    {
      ...{ releaseId: 9, at: NOW - 1000, by: 'Ingrid', act: 'stock', summary: 'Put revision 2 of it on its pages' },
      ...{ outAt: NOW, failure: null, undoes: null, undoneBy: null, undoRefusal: null },
    },
  ],
  approvals: { needed: 0, sites: [] },
  ...changes,
});

describe('something of the stock while it is changed', () => {
  const start = async (answer: StockItem = item()) => {
    const world = surround();
    TestBed.overrideProvider(StockDesk, { useFactory: () => new StockDesk(), deps: [] });
    world.api.on('GET stock/:itemId', () => answer);
    world.api.on('PUT stock/:itemId/draft', ({ body }) => ({ version: Number(body?.['version']) + 1 }));
    const desk = TestBed.inject(StockDesk);
    await desk.open(4);
    return { ...world, desk };
  };
  it('is kept by itself, each change a step to undo, made from the version that was kept last', async () => {
    const { desk, api } = await start();
    desk.change([{ name: 'phone', value: '34' }]);
    await desk.keep();
    desk.change([{ name: 'phone', value: '56' }]);
    desk.undo();
    await desk.keep();
    expect(api.sent('PUT stock/:itemId/draft')).toEqual([
      { version: 3, name: 'Marrowick Coast', content: [{ name: 'phone', value: '34' }] },
      { version: 4, name: 'Marrowick Coast', content: [{ name: 'phone', value: '34' }] },
    ]);
    desk.redo();
    expect(desk.draft()).toEqual([{ name: 'phone', value: '56' }]);
    expect([desk.canUndo(), desk.canRedo()]).toEqual([true, false]);
  });
  it('says at the field what is refused, offers no release then, and keeps what was typed beside what somebody else kept', async () => {
    const { desk, api } = await start();
    const mine = [{ name: '', value: '34' }];
    api.on('PUT stock/:itemId/draft', () =>
      api.refuse('invalid', 'Something needs changing', [
        { path: 'content.values[0].name', message: 'A name has letters.' },
      ]),
    );
    api.on('POST releases/preview', () => previewOf());
    const fixture = await open(StockRelease);
    await pass(250);
    await settle(fixture);
    expect(button(fixture, /^Put on/)?.disabled).toBe(false);
    desk.change(mine);
    await desk.keep();
    await settle(fixture);
    expect(desk.errors()['values[0].name']).toBe('A name has letters.');
    expect(text(fixture)).toContain('The draft is not saved, so it can’t be released yet.');
    expect([/^Put on/, /^Prepare/].map((words) => button(fixture, words)?.disabled)).toEqual([true, true]);
    await desk.takeNewest();
    expect(desk.draft()).toEqual(item().draft);
    desk.undo();
    expect(desk.draft()).toEqual(mine);
  });
  it('goes on all of its pages at a press that says how many, for a while where wanted, and comes back with undo', async () => {
    const { api, said } = await start();
    const effect = { itemId: 4, name: 'Marrowick Coast', revision: 3, draftVersion: 3, pages: 1 };
    api.on('POST releases/preview', () => previewOf({ stock: [effect] }));
    api.on('POST releases', () => ({ id: 10, at: NOW, summary: 'Put revision 3 of it on its pages' }));
    const fixture = await open(StockRelease);
    expect(text(fixture)).toContain('Revision 2 now');
    expect(text(fixture)).toMatch(/Night boat ?marrowick.example\/night/);
    await press(fixture, 'For a while');
    await pass(250);
    await settle(fixture);
    expect(text(fixture)).toMatch(/Marrowick Coast → revision 3, on 1 page/);
    await press(fixture, 'Put on 1 page now');
    const until = { local: '2026-12-09T00:00', zone: 'Europe/Oslo' };
    expect(api.sent('POST releases')).toMatchObject([
      { changes: [], stock: [{ act: 'put', itemId: 4, from: 'now', until, draftVersion: 3 }] },
    ]);
    expect(said[0]).toContain('on its way to visitors');
    await press(fixture, 'Undo');
    expect(api.sent('POST releases/:releaseId/undo')).toHaveLength(1);
  });
  it('that sites want approved is prepared, and so is a piece that comes off for a while', async () => {
    const piece = { kind: 'piece' as const, name: 'Fares', draft: [newBlock('quote', 'quot1', { text: 'Q' })] };
    const { api, said } = await start(item(piece));
    const words = 'Hall wants an approval before a release. Prepare it, and somebody else approves it.';
    const faults = [{ path: 'approvals', code: 'approvals-missing' as const, params: {}, message: words }];
    api.on('POST releases/preview', () => previewOf({ faults }));
    api.on('POST prepared', () => ({ id: 3 }));
    const fixture = await open(StockRelease);
    await pass(250);
    await settle(fixture);
    expect(text(fixture)).toContain(words);
    expect(button(fixture, /^Put on/)).toBeUndefined();
    await press(fixture, 'Prepare it for approval');
    await press(fixture, 'Nothing');
    api.on('POST releases/preview', () => previewOf());
    await press(fixture, 'Later');
    await pass(250);
    await settle(fixture);
    await press(fixture, 'Prepare instead');
    expect(api.sent('POST prepared')).toMatchObject([
      { name: 'Put Fares on its pages', changes: [], stock: [{ act: 'put', itemId: 4, from: 'now' }] },
      { stock: [{ act: 'take-off', itemId: 4, from: { local: '2026-11-26T09:00', zone: 'Europe/Oslo' } }] },
    ]);
    expect(said[0]).toContain('is prepared. Nothing is released yet.');
  });
});

it('values of a site go before those of the portfolio, and a theme nobody changed is as it ships', () => {
  const held = {
    themes: { ferry: { ...THEMES.ferry, label: 'Winter' } },
    values: [
      {
        siteId: null,
        values: [
          { name: 'Phone', value: '1' },
          { name: 'desk', value: '2' },
        ],
      },
      { siteId: 5, values: [{ name: 'phone', value: '3' }] },
    ],
    profiles: [{ siteId: 5, profile: profileWith({ brand: 'Hall' }) }],
    css: [],
    pieces: [],
    ...{ parts: [], standings: [], menus: [], legal: [], metadata: [], codes: [] },
  };
  const values = valuesOf(held, 5, NOW, 'Europe/Oslo');
  expect([...values]).toEqual([
    ['year', '2026'],
    ['site name', 'Hall'],
    ['phone', '3'],
    ['desk', '2'],
  ]);
  expect([themeOf(held, 'ferry').label, themeOf(held, undefined).label, themeOf(null, 'tide').label]).toEqual([
    'Winter',
    THEMES.ferry.label,
    THEMES.ferry.label,
  ]);
});

describe('pieces in the editor', () => {
  const document: PageDocument = {
    metadata: { title: 'T', description: '' },
    blocks: [newBlock('opening', 'open1', { heading: 'H' }), newBlock('quote', 'quot1', { text: 'Q' })],
    tray: [newBlock('quote', 'tray1', { text: 'Kept' })],
  };
  const start = async () => {
    const world = surround();
    world.api.on('GET pages/:pageId/draft', () => ({ version: 1, document, changedAt: 0, changedBy: null, name: 'P' }));
    world.api.on('POST stock', () => ({ id: 12 }));
    TestBed.configureTestingModule({ providers: [DraftService, ChosenBlocks] });
    const draft = TestBed.inject(DraftService);
    sessionStorage.clear();
    localStorage.clear();
    await draft.open(1, 7);
    return { ...world, draft, chosen: TestBed.inject(ChosenBlocks) };
  };
  it('are kept from chosen blocks, linked in their place, parted again, and one step each to undo', async () => {
    const { draft, chosen, api } = await start();
    chosen.choose('quot1');
    expect(await chosen.keepPiece('Voice', 1)).toBe(true);
    expect(api.sent('POST stock')).toMatchObject([
      { kind: 'piece', name: 'Voice', content: [{ type: 'quote', fields: { text: 'Q' } }] },
    ]);
    expect(draft.document()?.blocks[1]).toMatchObject({ type: 'piece', fields: { piece: { id: 12 } } });
    expect(chosen.pieceId()).toBe(12);
    // Not live yet: as it would be released.
    chosen.part([{ id: 12, name: 'Voice', blocks: null, draft: [newBlock('quote', 'held1', { text: 'Held' })] }]);
    expect(draft.document()?.blocks[1]).toMatchObject({ type: 'quote', fields: { text: 'Held' } });
    expect(draft.document()?.blocks[1]?.id).not.toBe('held1');
    draft.undo();
    draft.undo();
    expect(draft.document()).toEqual(document);
  });
  it('leave the tray one by one, and the tray goes when it is empty', async () => {
    const { draft, chosen } = await start();
    chosen.choose('open1');
    const [kept] = document.tray ?? [];
    if (kept) chosen.untray(kept);
    expect(draft.document()?.blocks.map(({ id }) => id)).toEqual(['open1', 'tray1', 'quot1']);
    expect(draft.document()?.tray).toBeUndefined();
    draft.undo();
    expect(draft.document()).toEqual(document);
  });
});
