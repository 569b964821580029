import type { Nav } from '@domatium/core/frame';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { StockHeld } from '@domatium/contracts';
import { newBlock, type PageDocument } from '@domatium/core/document';
import { worldOf } from '@domatium/core/render';
import { THEMES } from '@domatium/core/theme';
import { unzipSync } from 'fflate';
import { CanvasPlaces } from '../src/app/editor/canvas-places';
import { sheetsOf } from '../src/app/editor/canvas-sheets';
import { DraftService } from '../src/app/editor/draft.service';
import { exportPage } from '../src/app/editor/export-page';
import { PageWorld } from '../src/app/editor/page-world';
import { PicturesService } from '../src/app/pictures/pictures.service';
import { filesPlace, fontHref, ownCssOf } from '../src/app/shared/preview-frame';
import { asHtml, treeOfHtml } from '../src/app/source/html-tree';
import { StockService } from '../src/app/hub/stock.service';
import { NOW, profileWith, rowOf, surround, pass } from './help';

const box = (left: number, top: number, width: number, height: number) =>
  ({ left, top, width, height, right: left + width, bottom: top + height }) as DOMRect;

describe('where things lie on the canvas', () => {
  // A page of three blocks, each 400 high, scrolled by 500, in a frame at half its size.
  const start = (scrolled = 500) => {
    const page = document.implementation.createHTMLDocument();
    page.body.innerHTML =
      '<main>' + ['a', 'b', 'c'].map((id) => `<section id="b-${id}"></section>`).join('') + '</main>';
    page.querySelectorAll('section').forEach((section, n) => {
      section.getBoundingClientRect = () => box(0, n * 400 - scrolled, 1160, 400);
    });
    Object.defineProperty(page.documentElement, 'clientWidth', { value: 1160 });
    const scrolls: number[] = [];
    Object.defineProperty(page, 'defaultView', { value: { scrollBy: (_: number, by: number) => scrolls.push(by) } });
    const frame = { contentDocument: page, getBoundingClientRect: () => box(220, 60, 580, 600) };
    const field = { getBoundingClientRect: () => box(200, 50, 620, 620), clientHeight: 620 };
    const places = new CanvasPlaces(
      () => frame as unknown as HTMLIFrameElement,
      () => field as unknown as HTMLElement,
      () => 0.5,
    );
    return { places, scrolls };
  };
  it('is the place of a point of the page in the field around it, at the scale it is shown in', () => {
    expect(start().places.placeOf(100, 40)).toEqual({ x: 70, y: 30 });
  });
  it('a handle stands at its block as far as that is in view, and nowhere else', () => {
    const { places } = start();
    expect(places.cornerOf('a')).toBeNull();
    expect(places.cornerOf('b')).toEqual({ x: 20, y: 10 });
    expect(places.cornerOf('c')).toEqual({ x: 20, y: 160 });
    expect(places.cornerOf('gone')).toBeNull();
    expect(places.cornerOf(null)).toBeNull();
  });
  it('marks stand at the right edge, level with their blocks', () => {
    const marks = new Map([
      ['a', 'blocks'],
      ['c', 'worth-fixing'],
    ] as const);
    expect(start().places.levelsOf(marks)).toEqual([{ id: 'c', severity: 'worth-fixing', x: 598, y: 160 }]);
  });
  it('what is dropped goes above the block whose upper half is under it, beside it near its sides, or nowhere', () => {
    const { places } = start(0);
    expect([100, 200, 370].map((y) => places.spotAt(500, y))).toEqual([
      { id: 'a', side: 'above' },
      { id: 'a', side: 'below' },
      { id: 'b', side: 'below' },
    ]);
    expect([230, 790].map((x) => places.spotAt(x, 370)?.side)).toEqual(['before', 'behind']);
    expect([places.spotAt(100, 200), places.spotAt(400, 30), places.spotAt(900, 200)]).toEqual([null, null, null]);
    expect(places.seamOf({ id: 'b', side: 'above' })).toEqual({ x: 20, y: 210, width: 580, height: 0 });
    expect(places.seamOf({ id: 'b', side: 'behind' })).toEqual({ x: 600, y: 210, width: 0, height: 200 });
  });
  it('held near an end it scrolls that way, faster the nearer it is', () => {
    const { places, scrolls } = start();
    for (const y of [360, 62, 100, 655]) places.scrollAt(y);
    expect(scrolls.map(Math.sign)).toEqual([-1, -1, 1]);
    expect(Math.abs(scrolls[0] ?? 0)).toBeGreaterThan(Math.abs(scrolls[1] ?? 0));
  });
});

describe('the sheets of the canvas', () => {
  const on = { ownCss: 'main h1{color:teal}', mayEdit: true, seen: 'plain' as const, files: '/files' };
  it('are what visitors get, with the layer of the editor on top', () => {
    const { rules, properties } = sheetsOf(THEMES.ferry, on);
    expect(rules.indexOf('main h1{color:teal}')).toBeGreaterThan(rules.indexOf('.opening'));
    expect(rules.indexOf('is-chosen')).toBeGreaterThan(rules.indexOf('main h1{color:teal}'));
    expect(rules).toContain('[data-field]{cursor:text}');
    expect(properties).toContain(`--accent:${THEMES.ferry.colours.accent}`);
    expect(sheetsOf(THEMES.ferry, { ...on, mayEdit: false }).rules).not.toContain('cursor:text}');
  });
  it('show the dark only where somebody wants to see it, whatever their own machine asks for', () => {
    const theme = { ...THEMES.ferry, dark: { ...THEMES.ferry.colours, ground: '#101010' } };
    expect(sheetsOf(theme, on).properties).not.toContain('#101010');
    expect(sheetsOf(theme, { ...on, seen: 'dark' }).properties).toContain('--ground:#101010');
    expect(sheetsOf(theme, { ...on, seen: 'large' }).rules).toContain('html{font-size:200%}');
  });
  it('find fonts that ship beside the application, and those that were brought in among the files', () => {
    const own = `${'a'.repeat(64)}.woff2`;
    expect([
      fontHref('hanken.woff2', filesPlace(3)),
      fontHref(own, filesPlace(3)),
      fontHref(own, '/api/private/x/files'),
    ]).toEqual(['/fonts/hanken.woff2', `/api/portfolios/3/files/${own}`, `/api/private/x/files/${own}`]);
  });
  it('have the site’s CSS below the page’s own, both kept to the content', () => {
    const page: PageDocument = { metadata: { title: '', description: '', css: 'body{color:red}' }, blocks: [] };
    expect(ownCssOf('h1{color:teal}', page)).toBe('main h1{color:teal}main{color:red}');
  });
});

describe('what the canvas knows of the world', () => {
  const held = (phone: string): StockHeld => ({
    themes: { ferry: { ...THEMES.ferry, label: phone } },
    values: [{ siteId: null, values: [{ name: 'phone', value: phone }] }],
    profiles: [{ siteId: 1, profile: profileWith({ brand: `Ferries ${phone}`, language: 'nb' }) }],
    css: [{ siteId: 1, css: `/* ${phone} */` }],
    ...{ parts: [], standings: [], menus: [], legal: [], metadata: [], codes: [] },
    pieces: [{ id: 4, name: 'Desk', blocks: [newBlock('quote', 'inner001', { text: phone })], draft: null }],
  });
  const page: PageDocument = {
    metadata: { title: '', description: '' },
    blocks: [
      newBlock('piece', 'piece001', { piece: { id: 4 } }),
      newBlock('pageList', 'list0001', { items: [{ page: { id: 9 } }] as never }),
      newBlock('picture', 'pict0001', {
        picture: { pictureId: 1, description: 'A boat', isDecorative: false } as never,
      }),
    ],
  };
  const start = async () => {
    const rows = [
      rowOf(2, 'This', { periods: [{ from: NOW - 1000, until: NOW + 9_000_000, revision: 1 }] as never }),
      rowOf(9, 'Listed', { binnedSince: NOW - 5 }),
    ];
    const { api, register } = surround({ rows });
    api.on('GET register/titles', ({ query }) => [[9, `as of ${String(query?.['at'])}`]]);
    const draft = { draft: signal({ siteId: 1, host: 'marrowick.example' }), pageId: signal(2) };
    const pictures = {
      byId: signal(
        new Map([[1, { id: 1, width: 8, height: 6, variants: [{ width: 8, src: '/f/1.webp', avif: '/f/1.avif' }] }]]),
      ),
      files: signal([{ id: 3, name: 'Fares', src: '/f/3.pdf', bytes: 9, ending: 'pdf' }]),
    };
    const waysOf = (label: string): Nav => ({ home: { label, href: '/' }, tree: [], menus: {} });
    const stock = {
      held: signal(held('now')),
      heldAt: () => Promise.resolve(held('then')),
      items: signal([]),
      waysOf: () => waysOf('now'),
      waysAt: () => Promise.resolve(waysOf('then')),
    };
    TestBed.configureTestingModule({
      providers: [
        PageWorld,
        { provide: DraftService, useValue: draft },
        { provide: PicturesService, useValue: pictures },
        { provide: StockService, useValue: stock },
      ],
    });
    const world = TestBed.inject(PageWorld);
    world.document.set(page);
    const settled = async () => {
      for (let n = 0; n < 4; n++) {
        TestBed.tick();
        await pass(1);
      }
    };
    await settled();
    return { world, settled, register, api };
  };
  it('is what the renderer on the server gets: theme, values, pieces, pictures, files, own CSS, titles', async () => {
    const { world } = await start();
    const known = world.world();
    expect([world.theme().label, known.values.get('phone'), world.siteCss()]).toEqual(['now', 'now', '/* now */']);
    expect(known.pieceOf(4)?.[0]?.fields['text']).toBe('now');
    expect([known.language, known.values.get('site name')]).toEqual(['nb', 'Ferries now']);
    expect(known.waysAround).toMatchObject({ nav: { home: { label: 'now' } }, pageId: 2 });
    expect(known.fileOf(3)?.src).toBe('/f/3.pdf');
    expect(known.pictureOf(1 as never)?.variants[0]).toMatchObject({ src: '/f/1.webp', avif: '/f/1.avif' });
    expect(known.pageHref(9 as never)).toBe('/p9');
    expect(known.titleOf(9 as never)).toMatch(/^as of 2026-11-25T08:00/);
    expect(known.end).toEqual({ at: NOW + 9_000_000, zone: 'Europe/Oslo' });
    expect(world.known(9 as never)).toEqual({ name: 'Listed', off: 'binned' });
  });
  it('at another time is what holds then; without pictures their places stay', async () => {
    const { world, settled } = await start();
    world.at.set((NOW + 60_000) as never);
    await settled();
    expect([world.theme().label, world.siteCss(), world.world().pieceOf(4)?.[0]?.fields['text']]).toEqual([
      'then',
      '/* then */',
      'then',
    ]);
    expect(world.profile().brand).toBe('Ferries then');
    expect(world.world().waysAround?.nav?.home?.label).toBe('then');
    expect(world.world().titleOf(9 as never)).toMatch(/^as of 2026-11-25T08:01/);
    expect([world.world().isPast(NOW + 59_999), world.world().isPast(NOW + 60_001)]).toEqual([true, false]);
    world.seen.set('no-pictures');
    const bare = world.world().pictureOf(1 as never);
    expect(bare).toMatchObject({ width: 8, height: 6 });
    expect(bare?.variants[0]?.src).not.toContain('/f/1');
  });
});

describe('a page as a folder', () => {
  it('has all it shows beside it, under names that open from disk, with the CSS that visitors get', async () => {
    const files: Record<string, string> = {
      '/fonts/x': 'font',
      '/f/1.webp': 'webp',
      '/f/1.avif': 'avif',
      '/f/3.pdf': 'pdf',
    };
    globalThis.fetch = ((src: string) => {
      const body = src.startsWith('/fonts/') ? 'font' : files[src];
      return Promise.resolve({
        ok: body !== undefined,
        arrayBuffer: () => Promise.resolve(new TextEncoder().encode(body).buffer),
      });
    }) as unknown as typeof fetch;
    const page: PageDocument = {
      metadata: { title: 'Night boat', description: '', css: 'h1{color:red}' },
      blocks: [
        newBlock('opening', 'opening1', {
          heading: 'Night boat',
          picture: { pictureId: 1, description: 'A boat', isDecorative: false } as never,
          button: { label: 'Go', target: { kind: 'page', pageId: 9 as never } },
        }),
        newBlock('buttonRow', 'row00001', {
          items: [{ button: { label: 'Fares', target: { kind: 'file', fileId: 3 } } }] as never,
        }),
      ],
    };
    const blob = await exportPage({
      document: page,
      theme: THEMES.ferry,
      brand: 'Marrowick',
      siteCss: 'h1{color:teal}',
      world: worldOf({
        pageHref: () => '/there',
        pictureOf: () => ({ width: 8, height: 6, variants: [{ width: 8, src: '/f/1.webp', avif: '/f/1.avif' }] }),
        fileOf: () => ({ src: '/f/3.pdf', name: 'Fares', bytes: 3, ending: 'pdf' }),
      }),
      portfolioId: 1,
      outside: (href) => `https://marrowick.example${href}`,
    });
    const reader = new FileReader();
    const bytes = await new Promise<ArrayBuffer>((done) => {
      reader.onload = () => done(reader.result as ArrayBuffer);
      reader.readAsArrayBuffer(blob);
    });
    const folder = unzipSync(new Uint8Array(bytes));
    const read = (name: string) => new TextDecoder().decode(folder[name]);
    expect(
      Object.keys(folder)
        .filter((name) => !name.startsWith('fonts/'))
        .sort(),
    ).toEqual(['files/3.pdf', 'index.html', 'pictures/1.avif', 'pictures/1.webp', 'style.css']);
    expect(read('index.html')).toContain('href="style.css"');
    expect(read('index.html')).toContain('src="pictures/1.webp"');
    expect(read('index.html')).toContain('href="https://marrowick.example/there"');
    expect(read('index.html')).toContain('href="files/3.pdf"');
    expect(read('index.html')).not.toContain('"/f/');
    expect(read('style.css')).toMatch(/url\("fonts\/[^"]+"\)[^]*main h1\{color:teal\}main h1\{color:red\}/);
    expect(read('pictures/1.avif')).toBe('avif');
  });
});

describe('HTML as a tree', () => {
  it('runs and loads nothing, and keeps names, attributes and words', () => {
    const ran = jest.fn();
    (globalThis as { ran?: () => void }).ran = ran;
    const tree = treeOfHtml('<p class="x">One<script>ran()</script><img src="x" onerror="ran()"></p>');
    expect(ran).not.toHaveBeenCalled();
    expect(JSON.stringify(tree)).toContain('{"tag":"p","attributes":{"class":"x"},"children":["One"');
  });
  it('is made of plain text by its paragraphs, nothing of it being markup', () => {
    expect(asHtml('One <b> & two\n\n\n  \nThree')).toBe('<p>One &#60;b&#62; &#38; two</p><p>Three</p>');
  });
});
