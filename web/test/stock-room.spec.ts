import { Component, input, output } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { Crop, FileView, PictureView, StockItem, StockView } from '@domatium/contracts';
import { newBlock, type Block, type PageDocument } from '@domatium/core/document';
import { NO_METADATA, type SharedValue } from '@domatium/core/stock';
import { THEMES, type Theme } from '@domatium/core/theme';
import { BlockFields } from '../src/app/editor/block-fields';
import { Canvas } from '../src/app/editor/canvas';
import { CropSheet } from '../src/app/pictures/crop-sheet';
import { FilesDesk } from '../src/app/pictures/files-desk';
import { PicturesDesk } from '../src/app/pictures/pictures-desk';
import { PicturesService, writeBytes } from '../src/app/pictures/pictures.service';
import { Uploads } from '../src/app/pictures/uploads';
import { Cancelled } from '../src/app/hub/api';
import { OwnCssField } from '../src/app/source/own-css-field';
import { CssDesk } from '../src/app/stock/css-desk';
import { PieceDesk } from '../src/app/stock/piece-desk';
import { StockBlocks } from '../src/app/stock/stock-blocks';
import { SiteDesk } from '../src/app/stock/site-desk';
import { StockDesk } from '../src/app/stock/stock-desk.service';
import { StockRelease } from '../src/app/stock/stock-release';
import { StockService } from '../src/app/hub/stock.service';
import { MetadataDesk } from '../src/app/stock/metadata-desk';
import { ThemeDesk } from '../src/app/stock/theme-desk';
import { ValuesDesk } from '../src/app/stock/values-desk';
import {
  NOW,
  buttons,
  choose,
  element,
  open,
  press,
  previewOf,
  profileWith,
  settle,
  surround,
  text,
  withPlainCode,
} from './help';

/** The canvas takes part in name only: what it draws is looked at in a browser. */
@Component({ selector: 'dm-canvas', template: '' })
class NoCanvas {
  readonly document = input<PageDocument>();
  readonly theme = input<Theme>();
  readonly brand = input('');
  readonly links = input<unknown>();
  readonly siteCss = input('');
  readonly width = input('');
  readonly seen = input('');
  readonly chosen = input<string | null>(null);
  readonly mayEdit = input(false);
  readonly choose = output<string>();
  readonly edit = output<{ blockId: string; field: string; value: never }>();
  readonly key = output<KeyboardEvent>();
}

type Content = StockItem['draft'];
const stored = (changes: Partial<StockItem>): StockItem => ({
  ...{ id: 4, kind: 'values', key: null, name: 'Marrowick Coast', siteId: null, draftVersion: 3, draftDiffers: true },
  ...{ changedAt: NOW, changedBy: 'Tomas', periods: [], uses: 1, draft: [], revisions: [], releases: [] },
  pages: [{ pageId: 7, name: 'Night boat', address: 'marrowick.example/night', isDraft: false }],
  approvals: { needed: 0, sites: [] },
  ...changes,
});

async function room(item: StockItem | null, listed: readonly Partial<StockView>[] = [], role = 'owner') {
  const world = surround({ role });
  TestBed.configureTestingModule({ providers: [StockDesk] });
  for (const desk of [ThemeDesk, PieceDesk, CssDesk, SiteDesk])
    TestBed.overrideComponent(desk, { remove: { imports: [Canvas] }, add: { imports: [NoCanvas] } });
  withPlainCode(OwnCssField, BlockFields);
  world.api.on('GET stock', () => [...listed, ...(item ? [item] : [])]);
  world.api.on('GET stock/held', () => ({
    themes: THEMES,
    values: [],
    css: [],
    pieces: [],
    profiles: [],
    parts: [],
    standings: [],
    ...{ menus: [], legal: [], metadata: [], codes: [] },
  }));
  world.api.on('GET stock/:itemId', () => item);
  world.api.on('PUT stock/:itemId/draft', ({ body }) => ({ version: Number(body?.['version']) + 1 }));
  world.api.on('POST releases/preview', () => previewOf());
  world.api.on('GET pages/:pageId/draft', () => ({
    document: { metadata: { title: '', description: '' }, blocks: [] },
  }));
  await TestBed.inject(StockService).open(1);
  const desk = TestBed.inject(StockDesk);
  if (item?.id) await desk.open(item.id);
  const kept = async () => {
    await desk.keep();
    return (world.api.sent('PUT stock/:itemId/draft').at(-1) as { content: Content } | undefined)?.content;
  };
  return { ...world, desk, kept };
}
async function write(fixture: ComponentFixture<unknown>, label: string, value: string): Promise<void> {
  const found = element(fixture).querySelector<HTMLInputElement>(`[aria-label="${label}"], #${CSS.escape(label)}`);
  if (!found) throw new Error(`No field ${label}`);
  found.value = value;
  for (const kind of ['input', 'change']) found.dispatchEvent(new Event(kind));
  await settle(fixture);
}
beforeAll(() => {
  globalThis.CSS = { escape: (name: string) => name.replace(/[^\w-]/g, '\\$&') } as typeof CSS;
});

describe('what is set for search engines and sharing', () => {
  const draft = { ...NO_METADATA, siteName: 'Ferries' };
  const rule = stored({ id: 41, kind: 'metadata', siteId: 1, name: 'Ferries', draft, draftDiffers: false });
  const above = { ...NO_METADATA, titleAfter: '| Coast', siteName: 'Coast', robots: { noindex: true as const } };
  async function desk() {
    const world = await room(rule, [{ id: 40, kind: 'metadata', siteId: null, key: null, name: 'Marrowick Coast' }]);
    world.api.on('GET stock/held', () => ({
      ...{
        themes: THEMES,
        values: [],
        css: [],
        pieces: [],
        profiles: [],
        parts: [],
        standings: [],
        menus: [],
        legal: [],
      },
      metadata: [{ id: 40, key: null, siteId: null, metadata: above }],
    }));
    await TestBed.inject(StockService).load();
    return { ...world, fixture: await open(MetadataDesk, { item: '41' }) };
  }
  it('says what comes from further up, is set over it, left out, and taken over again', async () => {
    const { fixture, kept } = await desk();
    expect(text(fixture)).toContain('From All sites: | Coast');
    await write(fixture, 'said-titleAfter', '| Ferries');
    expect(await kept()).toEqual({ ...draft, titleAfter: '| Ferries' });
    await write(fixture, 'said-titleAfter', '');
    expect(await kept()).toEqual({ ...draft, titleAfter: '' });
    expect(text(fixture)).toContain('Left out here. From All sites: | Coast');
    await press(fixture, 'Use that');
    // Where nothing is set further up, an empty text sets nothing.
    await write(fixture, 'said-titleBefore', 'Sale:');
    await write(fixture, 'said-titleBefore', '');
    expect(await kept()).toEqual({ ...draft });
    expect(text(fixture)).toContain('From All sites: Kept out of search results');
    await press(fixture, 'Set it here');
    expect(await kept()).toEqual({ ...draft, robots: { noindex: true } });
  });
  it('keeps further elements once they are right, and what is being typed until then', async () => {
    const { fixture, kept, desk: stockDesk } = await desk();
    await press(fixture, 'Add an element');
    await write(fixture, 'Name of element 1', 'viewport');
    await write(fixture, 'Content of element 1', 'x');
    expect(text(fixture)).toContain('Pages say this by a field of their own. Not kept until this is right.');
    expect(stockDesk.state()).toBe('kept');
    await write(fixture, 'Name of element 1', 'author');
    const author = { kind: 'meta', name: 'author', content: 'x' };
    expect(await kept()).toMatchObject({ elements: [author] });
    await press(fixture, 'Add an element');
    await write(fixture, 'Kind of element 2', 'link');
    expect(text(fixture)).toContain('Not kept until this is right.');
    stockDesk.undo();
    await settle(fixture);
    expect(await kept()).toMatchObject({ elements: [] });
    expect(text(fixture)).not.toContain('Not kept');
  });
});

describe('a site, to its visitors', () => {
  const profile = profileWith({ brand: 'Marrowick', language: 'en' });
  const site = stored({ id: 31, kind: 'profile', siteId: 1, name: 'Ferries', draft: profile, draftDiffers: false });
  it('is named, given a language, a theme and pictures beside a page of it, and kept', async () => {
    const theme = { id: null, kind: 'theme' as const, key: 'tide', name: 'Tide', periods: [], draftDiffers: false };
    const { kept, desk } = await room(site, [theme]);
    const fixture = await open(SiteDesk, { item: '31' });
    expect(text(fixture)).toContain('Ferriesmarrowick.example');
    await write(fixture, 'site-brand', 'Marrowick Coast');
    await write(fixture, 'site-language', 'nb');
    const named = () => element(fixture).querySelectorAll('fieldset .field-note')[1]?.textContent;
    expect(named()).toBe('Norwegian Bokmål');
    await write(fixture, 'site-theme', 'tide');
    expect(await kept()).toEqual({ ...profile, brand: 'Marrowick Coast', language: 'nb', theme: 'tide' });
    await write(fixture, 'site-language', 'norsk!');
    expect(named()).toBe('');
    desk.undo();
    expect(await kept()).toMatchObject({ language: 'nb' });
  });
  it('says at the field what is refused, and to a reader is only seen', async () => {
    const { api, desk } = await room(site);
    const fixture = await open(SiteDesk, { item: '31' });
    const words = 'Enter a language as pages say it, like “en” or “pt-BR”.';
    api.on('PUT stock/:itemId/draft', () =>
      api.refuse('invalid', words, [{ path: 'content.language', message: words }]),
    );
    await write(fixture, 'site-language', 'norsk!');
    await desk.keep();
    await settle(fixture);
    expect(element(fixture).querySelector('fieldset .field-error')?.textContent).toBe(words);
    TestBed.resetTestingModule();
    await room(site, [], 'reader');
    const seen = await open(SiteDesk, { item: '31' });
    expect(element(seen).querySelector<HTMLFieldSetElement>('fieldset')?.disabled).toBe(true);
  });
});

describe('own CSS of a site', () => {
  const css = stored({ kind: 'css', siteId: 1, name: 'CSS of Ferries', draft: { css: '' } });
  it('is made at the first press, written, checked line by line, and kept', async () => {
    const { api, kept } = await room(null);
    api.on('POST stock', () => ({ id: 4 }));
    api.on('GET stock/:itemId', () => css);
    const fixture = await open(CssDesk, { item: null });
    expect(text(fixture)).toContain('Ferriesnone of its own');
    const went: unknown[] = [];
    fixture.componentInstance.go.subscribe((id) => went.push(id));
    await press(fixture, /^Ferries/);
    expect(api.sent('POST stock')).toEqual([{ kind: 'css', name: 'CSS of Ferries', content: { css: '' }, siteId: 1 }]);
    expect(went).toEqual([4]);
    await TestBed.inject(StockDesk).open(4);
    await settle(fixture);
    await write(fixture, 'Own CSS of Ferries', '.button { background: teal }\nbody { display: none }');
    expect(text(fixture)).toMatch(/Line 2: “body” hides the whole page.*overrides \.button: background/);
    expect(await kept()).toEqual({ css: '.button { background: teal }\nbody { display: none }' });
  });
  it('of a reader is only seen', async () => {
    await room(null, [], 'reader');
    const fixture = await open(CssDesk, { item: null });
    expect(element(fixture).querySelector<HTMLButtonElement>('.entry')?.disabled).toBe(true);
  });
});

describe('revisions of the stock', () => {
  it('say who made them and when; an older one becomes the draft, which is undone like any change', async () => {
    const of = (number: number, value: string) => ({
      number,
      at: NOW - number,
      by: 'Tomas',
      content: [{ name: 'phone', value }],
    });
    const revisions = [of(2, '34'), of(1, '12')];
    const { desk } = await room(stored({ draft: [{ name: 'phone', value: '34' }], revisions }));
    const fixture = await open(StockRelease);
    expect(text(fixture)).toMatch(/Revisions ?2 ?Tomas.*is the draft.*1 ?Tomas/);
    await press(fixture, 'Use as draft');
    expect(desk.draft()).toEqual([{ name: 'phone', value: '12' }]);
    expect(text(fixture)).toMatch(/2 ?Tomas[^1]*Use as draft/);
    desk.undo();
    expect(desk.draft()).toEqual([{ name: 'phone', value: '34' }]);
  });
});

describe('a theme on its desk', () => {
  it('that ships is only changed for a portfolio once somebody wants that', async () => {
    const { api } = await room(null, [{ id: null, kind: 'theme', key: 'ferry', name: 'Deck', periods: [], uses: 4 }]);
    api.on('POST stock', () => ({ id: 8 }));
    const fixture = await open(ThemeDesk, { item: 'ferry' });
    expect(text(fixture)).toContain('as it ships');
    await press(fixture, /^Change it for Marrowick Coast/);
    expect(api.sent('POST stock')).toMatchObject([
      { kind: 'theme', key: 'ferry', content: { display: THEMES.ferry.display } },
    ]);
  });
  it('says how poor a pair of colours is, and takes the nearest good one', async () => {
    const draft = { ...THEMES.ferry, colours: { ...THEMES.ferry.colours, quiet: '#bbbbbb', ground: '#ffffff' } };
    const { desk, kept } = await room(stored({ kind: 'theme', key: 'ferry', draft }));
    const fixture = await open(ThemeDesk, { item: '4' });
    expect(text(fixture)).toMatch(/Contrast [12] too low/);
    const ratio = () => (desk.draft() as Theme).colours.quiet;
    await press(fixture, /^take/);
    expect(ratio()).not.toBe('#bbbbbb');
    expect(text(fixture)).toContain('Contrast is good wherever colours meet');
    await press(fixture, 'Make colours for dark pages');
    expect((desk.draft() as Theme).dark?.ground).toMatch(/^#[0-9a-f]{6}$/);
    await write(fixture, 'Captions, as a number', 'not a colour');
    await press(fixture, 'round');
    expect(await kept()).toMatchObject({ buttons: 'round' });
    desk.undo();
    desk.undo();
    desk.undo();
    expect(ratio()).toBe('#bbbbbb');
  });
});

describe('a piece on its desk', () => {
  const blocks: Block[] = [newBlock('quote', 'quote001', { text: 'We slept.' }), newBlock('text', 'text0001', {})];
  it('is changed block by block, keeps at least one, and undoes by keys', async () => {
    const { desk } = await room(stored({ kind: 'piece', name: 'Voices', draft: blocks }));
    const fixture = await open(PieceDesk, { item: '4' });
    const ids = () => (desk.draft() as readonly Block[]).map(({ id }) => id);
    await press(fixture, /^Quote/);
    await press(fixture, 'down');
    expect(ids()).toEqual(['text0001', 'quote001']);
    await press(fixture, 'remove');
    expect(ids()).toEqual(['text0001']);
    await press(fixture, /^Text/);
    const remove = [...element(fixture).querySelectorAll('button')].find((one) => one.textContent?.trim() === 'remove');
    expect(remove?.disabled).toBe(true);
    for (const shiftKey of [false, false, true])
      document.dispatchEvent(new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, shiftKey, cancelable: true }));
    expect(ids()).toEqual(['text0001', 'quote001']);
  });
  it('stays in the stock while pages use it, and says which', async () => {
    const { api, desk } = await room(stored({ kind: 'piece', name: 'Voices', draft: blocks }));
    api.on('DELETE stock/:itemId', () => api.refuse('in-use', 'Night boat uses it. Unlink it there first.'));
    const fixture = await open(PieceDesk, { item: '4' });
    await press(fixture, 'Remove from stock');
    expect(text(fixture)).toContain('Night boat uses it');
    expect(desk.item()?.id).toBe(4);
  });
});

describe('the blocks of a part', () => {
  it('hold pieces by their names, and are shown at one width where that is said', async () => {
    surround();
    const line = newBlock('legalLine', 'legal001', { words: 'Kept dry' });
    const fixture = await open(StockBlocks, {
      ...{ blocks: [line], types: ['legalLine', 'menu'], pieces: [{ id: 9, name: 'Ring us' }] },
    });
    const changed: (readonly Block[])[] = [];
    fixture.componentInstance.changed.subscribe((blocks) => changed.push(blocks));
    fixture.componentInstance.insertPiece(9);
    expect(changed[0]?.[1]).toMatchObject({ type: 'piece', fields: { piece: { id: 9 } } });
    fixture.componentRef.setInput('blocks', changed[0]);
    await settle(fixture);
    expect(text(fixture)).toContain('Ring us');
    fixture.componentInstance.chosen.set('legal001');
    await settle(fixture);
    await press(fixture, 'On narrow ones');
    expect(changed.at(-1)?.[0]?.fields).toMatchObject({ words: 'Kept dry', shownAt: 'narrow' });
  });
});

describe('shared values', () => {
  it('are added, written, refused at their field, and removed', async () => {
    const { api, kept, desk } = await room(stored({ draft: [{ name: 'phone', value: '12' }] }));
    const fixture = await open(ValuesDesk, { item: '4' });
    await press(fixture, 'Add a value');
    await write(fixture, 'Name 2', 'desk hours');
    await write(fixture, 'Value of desk hours', '7 to 19');
    expect(await kept()).toEqual([
      { name: 'phone', value: '12' },
      { name: 'desk hours', value: '7 to 19' },
    ]);
    api.on('PUT stock/:itemId/draft', () =>
      api.refuse('invalid', 'Something needs changing', [
        { path: 'content.values[1].name', message: '{year} is filled in by itself.' },
      ]),
    );
    await write(fixture, 'Name 2', 'year');
    await desk.keep();
    await settle(fixture);
    expect(element(fixture).querySelector('td .field-error')?.textContent).toContain('filled in by itself');
    expect(buttons(fixture)).not.toContain('Load the newest');
    await press(fixture, 'remove');
    expect((desk.draft() as readonly SharedValue[]).map(({ name }) => name)).toEqual(['year']);
  });
});

describe('the shelf of pictures', () => {
  const picture = (id: number, changes: Partial<PictureView> = {}): PictureView => ({
    ...{ id, name: `picture ${id}`, description: 'A boat', width: 1200, height: 800, state: 'ready', progress: 1 },
    ...{ failure: null, labels: [], version: 1, crop: null, ofId: null, similar: [] },
    ...{ original: null, former: null, formerWords: [] },
    variants: [{ width: 480, src: `/f/${id}.webp`, bytes: 20_000 }],
    ...changes,
  });
  const heavy = [{ width: 1200, src: '/f/h.webp', bytes: 300_000 }];
  const all = [
    picture(1, { name: 'harbour', labels: ['winter'] }),
    picture(2, { description: '', similar: [3] }),
    picture(3, { variants: heavy, similar: [2] }),
    picture(4, { ofId: 1 }),
  ];
  const start = async (item: string | null, role = 'owner') => {
    const world = surround({ role });
    world.api.on('GET pictures', () => all);
    world.api.on('GET stored-files', () => []);
    world.api.on('GET pictures/:pictureId/uses', () => ({
      pages: [{ pageId: 7, name: 'Night boat', where: ['plan'] }],
      ...{ pieces: [], sites: [], count: 1, live: 1, refusal: null },
    }));
    const pictures = TestBed.inject(PicturesService);
    await pictures.open(1);
    const fixture = await open(PicturesDesk, { item });
    return { ...world, fixture, pictures };
  };
  const names = (fixture: ComponentFixture<unknown>) =>
    [...element(fixture).querySelectorAll('.one .name')].map((one) => one.textContent);
  it('is found by words and labels; what lacks a description, looks alike or is heavy is counted', async () => {
    const { fixture } = await start(null);
    expect(names(fixture)).toEqual(['harbour', 'picture 2', 'picture 3']);
    expect(text(fixture)).toMatch(/Without description ?1.*Alike ?2.*Heavy ?1/);
    await press(fixture, /^Heavy/);
    expect(names(fixture)).toEqual(['picture 3']);
    await press(fixture, /^All/);
    await press(fixture, 'winter');
    expect(names(fixture)).toEqual(['harbour']);
    await press(fixture, 'winter');
    await write(fixture, 'Find a picture', 'boat 3');
    expect(names(fixture)).toEqual(['picture 3']);
    await write(fixture, 'Find a picture', 'whale');
    expect(text(fixture)).toContain('No pictures match.');
  });
  it('says where a picture is used, keeps what is written of it, and says why it can’t be deleted', async () => {
    const { fixture, api } = await start('1');
    expect(text(fixture)).toMatch(/Night boat.*live or planned/);
    expect(text(fixture)).toContain('1 part of it is used too.');
    await write(fixture, 'picture-labels', 'winter, boats , boats');
    expect(api.sent('PATCH pictures/:pictureId')).toMatchObject([{ version: 1, labels: ['winter', 'boats'] }]);
    api.on('DELETE pictures/:pictureId', () => api.refuse('in-use', 'Night boat uses it.'));
    await press(fixture, 'Delete it');
    expect(text(fixture)).toContain('Night boat uses it.');
    // One that is used nowhere is asked about first.
    api.on('GET pictures/:pictureId/uses', () => ({
      ...{ pages: [], pieces: [], sites: [], count: 0, live: 0, refusal: null },
    }));
    api.on('DELETE pictures/:pictureId', () => ({}));
    const gone: unknown[] = [];
    fixture.componentInstance.go.subscribe((to) => gone.push(to));
    await press(fixture, 'Delete it');
    expect(gone).toEqual([]);
    await press(fixture, 'Delete for ever');
    expect(gone).toEqual([null]);
  });
  it('becomes the icon of a site in its draft, once that was meant, with a way back; what is refused is said', async () => {
    const { fixture, api, said } = await start('1');
    const profile = profileWith({ shareId: 2 as never });
    const item = stored({ id: 31, kind: 'profile', siteId: 1, name: 'Ferries', draft: profile });
    api.on('GET stock', () => [item]);
    api.on('GET stock/held', () => ({
      themes: THEMES,
      values: [],
      css: [],
      pieces: [],
      profiles: [],
      parts: [],
      standings: [],
      ...{ menus: [], legal: [], metadata: [], codes: [] },
    }));
    api.on('GET stock/:itemId', () => item);
    await TestBed.inject(StockService).open(1);
    const went = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    await choose(fixture, 'Make it the icon of a site', '1');
    expect(api.sent('PUT stock/:itemId/draft')).toEqual([]);
    await press(fixture, 'Make it the icon of Ferries');
    const sent = { version: 3, name: 'Ferries', content: { ...profile, iconId: 1 } };
    expect(api.sent('PUT stock/:itemId/draft')).toEqual([sent]);
    expect(went.mock.lastCall).toEqual([['/portfolios', 1, 'stock', 'sites'], { queryParams: { item: 31 } }]);
    expect(said).toEqual(['The draft of Ferries has changed; visitors get it once it is put on its pages.']);
    api.on('PUT stock/:itemId/draft', () => api.refuse('stale', 'Tomas has changed this since you opened it.'));
    await choose(fixture, 'Show it where a site is shared', '1');
    await press(fixture, 'Show it for Ferries');
    expect(text(fixture)).toContain('Tomas has changed this since you opened it.');
  });
  it('puts back what a picture was before it was replaced, and that once more', async () => {
    const former = { bytes: 4_000_000, format: 'heif' };
    const { fixture, api, said, pictures } = await start('1');
    pictures.pictures.set([picture(1, { version: 6, former })]);
    await settle(fixture);
    await press(fixture, 'Put back the one before (HEIF, 3.8 MB)');
    expect(api.sent('POST pictures/:pictureId/former')).toEqual([{ version: 6 }]);
    expect(said).toEqual([expect.stringContaining('is restored')]);
  });
  it('takes files in one after the other, with progress; what is refused says why, what is cancelled is gone', async () => {
    const { pictures, api } = await start(null);
    let wait: (() => void) | undefined;
    const client = api as unknown as { send: (...all: never[]) => Promise<unknown> };
    client.send = async (
      _: never,
      { query }: { query: { name: string } },
      __: never,
      onShare: never,
      signal: never,
    ) => {
      (onShare as (share: number) => void)(0.4);
      if (query.name === 'bomb.png') api.refuse('invalid', 'This picture has 900 megapixels; at most 150.');
      await new Promise<void>((go, stop) => {
        wait = go;
        (signal as AbortSignal).addEventListener('abort', () => stop(new Cancelled()));
      });
      return { picture: null, file: null, isKnown: false };
    };
    const fixture = await open(Uploads);
    const results = ['bomb.png', 'a.jpg', 'b.jpg'].map((name) => pictures.bring(new File(['x'], name)));
    await settle(fixture);
    expect(text(fixture)).toMatch(/bomb\.png ?This picture has 900 megapixels; at most 150\./);
    expect(text(fixture)).toMatch(/a\.jpg ?40 % sent/);
    pictures.cancel(2);
    await settle(fixture);
    expect(text(fixture)).not.toContain('a.jpg');
    wait?.();
    expect(await Promise.all(results)).toEqual([null, null, { picture: null, file: null, isKnown: false }]);
    await press(fixture, 'close');
    expect(text(fixture).trim()).toBe('');
  });
  it('is cropped by figures and arrows, for one place; the original stays', async () => {
    const { api } = await start(null);
    api.on('POST pictures/:pictureId/crops', ({ body }) => picture(9, { ofId: 1, crop: body as unknown as Crop }));
    const use = { pictureId: 1 as never, description: 'A boat', isDecorative: false };
    const fixture = await open(CropSheet, { use });
    const taken: unknown[] = [];
    fixture.componentInstance.taken.subscribe((one) => taken.push(one));
    element(fixture)
      .querySelector('.focus')
      ?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowLeft', bubbles: true, cancelable: true }));
    await settle(fixture);
    await press(fixture, 'Use this crop');
    expect(taken).toMatchObject([{ description: 'A boat', focus: { y: 500 } }]);
    expect((taken[0] as { focus: { x: number } }).focus.x).toBeLessThan(500);
  });
});

describe('the shelf of files', () => {
  const file = (id: number, name: string, changes: Partial<FileView> = {}): FileView => ({
    ...{ id, name, ending: name.slice(-3), bytes: 2_000_000, src: `/f/${id}`, version: 2, former: null },
    ...changes,
  });
  const unused = { pages: [], pieces: [], themes: [], count: 0, live: 0, refusal: null };
  const used = { ...unused, pages: [{ pageId: 7, name: 'Fares', where: ['plan'] }], count: 12, live: 12 };
  const start = async (uses: object) => {
    const world = surround();
    world.api.on('GET pictures', () => []);
    world.api.on('GET stored-files', () => [
      file(1, 'fares.pdf', { former: { bytes: 900_000 } }),
      file(2, 'crossing.mp4'),
    ]);
    world.api.on('GET stored-files/:fileId/uses', () => uses);
    const pictures = TestBed.inject(PicturesService);
    await pictures.open(1);
    const fixture = await open(FilesDesk, { item: '1' });
    const gone: unknown[] = [];
    fixture.componentInstance.go.subscribe((to) => gone.push(to));
    return { ...world, fixture, pictures, gone };
  };
  it('finds them by kind, renames them, and replaces one once who meets it was said', async () => {
    const { fixture, api, pictures, said } = await start(used);
    await press(fixture, /^Film/);
    expect(text(fixture)).not.toMatch(/fares\.pdf.*Document/);
    await press(fixture, /^All/);
    await write(fixture, 'file-name', 'Fares 2027');
    expect(api.sent('PATCH stored-files/:fileId')).toEqual([{ version: 2, name: 'Fares 2027' }]);
    expect(text(fixture)).toMatch(/Fares ?live or planned.*and 11 more/);
    const received = { picture: null, file: file(1, 'fares.pdf'), isKnown: false };
    const brought = jest.spyOn(pictures, 'bring').mockResolvedValue(received);
    const field = element(fixture).querySelector('.margin input[type="file"]') as HTMLInputElement;
    Object.defineProperty(field, 'files', { value: [new File(['%PDF'], 'new.pdf')] });
    field.dispatchEvent(new Event('change'));
    await settle(fixture);
    expect(text(fixture)).toMatch(/Replace it with new\.pdf, 4 B\?.*12 pages that are live or planned/);
    expect(brought).not.toHaveBeenCalled();
    await press(fixture, 'Replace everywhere');
    expect(brought).toHaveBeenCalledWith(expect.objectContaining({ name: 'new.pdf' }), { replacesFile: 1 });
    await press(fixture, 'Put back the one before (879 KB)');
    expect(api.sent('POST stored-files/:fileId/former')).toEqual([{ version: 2 }]);
    expect(said).toEqual([expect.stringContaining('replaced'), expect.stringContaining('is restored')]);
    expect(buttons(fixture)).not.toContain('Delete for ever');
  });
  it('deletes what is used nowhere, once that was meant', async () => {
    const { fixture, api, gone } = await start(unused);
    await press(fixture, 'Delete it');
    expect(api.sent('DELETE stored-files/:fileId')).toEqual([]);
    await press(fixture, 'Delete for ever');
    expect(gone).toEqual([null]);
  });
});

it('bytes are written as people read them', () => {
  expect([12, 2048, 300_000, 5_400_000].map(writeBytes)).toEqual(['12 B', '2 KB', '293 KB', '5.1 MB']);
});
