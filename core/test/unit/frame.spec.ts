import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  compose,
  cutPage,
  frameAt,
  frameOf,
  inOrder,
  partsOf,
  SLOTS,
  slotMark,
  type FrameRoute,
} from '../../src/frame/index.js';
import { BARE_FRAME, contentHtml, contextOf, pageHtml, siteFrameHtml, worldOf } from '../../src/render/index.js';
import {
  partFromJSON,
  partsAt,
  standingFromJSON,
  standingOf,
  type PartChoice,
  type Standing,
} from '../../src/stock/index.js';
import type { Instant } from '../../src/time/index.js';
import { newBlock } from '../../src/document/index.js';

const texts = fc.string().map((text) => text.replace(/[<>]/g, ''));

describe('a page and its frame', () => {
  it('put together are the page between the parts, whatever they hold', () => {
    fc.assert(
      fc.property(
        fc.array(texts, { minLength: 5, maxLength: 5 }),
        fc.array(texts, { minLength: 4, maxLength: 4 }),
        (own, around) => {
          const page = SLOTS.reduce((all, slot, at) => all + slotMark(slot) + own[at + 1], own[0] ?? '');
          const frame = frameOf(
            { icons: ['0'], head: ['1'], above: ['2', 'unknown'], below: ['3'] },
            (hash) => around[Number(hash)],
          );
          expect(compose(cutPage(page), frame)).toBe(
            own.reduce((all, text, at) => all + (around[at - 1] ?? '') + text),
          );
        },
      ),
    );
  });
  it('can’t be told a slot by what people write', () => {
    const words = SLOTS.map(slotMark).join(' ');
    const document = {
      metadata: { title: words, description: words },
      blocks: [newBlock('opening', 'open1', { heading: words }), newBlock('quote', 'quote1', { quote: words })],
    };
    const page = contentHtml(document, BARE_FRAME, contextOf(worldOf()));
    for (const slot of SLOTS) expect(page.split(slotMark(slot))).toHaveLength(2);
    expect(pageHtml(document, { ...BARE_FRAME, siteName: words }, contextOf(worldOf()))).not.toContain('<!--');
  });
  it('holds for a time, and where it is narrowest', () => {
    const parts = (name: string) => ({ icons: [], head: [], above: [name], below: [] });
    const route = (basePath: string, name: string, from: number, until: number | null): FrameRoute => ({
      ...{ basePath, parts: parts(name) },
      during: { from: from as Instant, until: until as Instant | null },
    });
    const routes = inOrder([route('/', 'a', 0, 5), route('/', 'b', 5, null), route('/shop', 'c', 2, 8)]);
    const at = (path: string, instant: number) => {
      const found = frameAt(routes, path, instant as Instant);
      return found ? partsOf(found.parts).join() : null;
    };
    expect([at('/', 4), at('/', 5), at('/shop', 1), at('/shop', 2), at('/shop/x', 7), at('/shop', 8)]).toEqual([
      'a',
      'b',
      'a',
      'c',
      'c',
      'b',
    ]);
    expect([at('/shopping', 3), at('/', -1)]).toEqual(['a', null]);
  });
});

describe('where parts stand', () => {
  const said = (change: Partial<Standing>): Standing => ({
    ...{ header: null, footer: null, bands: null, isLocked: false },
    ...change,
  });
  it('is said by the most single that says anything, and by nothing below a lock', () => {
    const choice = fc.constantFrom<PartChoice>(null, 'none', 1, 2);
    const standing = fc.record({
      header: choice,
      footer: choice,
      bands: fc.constantFrom(null, [], [3], [3, 4]),
      isLocked: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.option(standing, { nil: null }), fc.option(standing, { nil: null }), (all, one) => {
        const held = standingOf([
          ...(all ? [['portfolio', all] as const] : []),
          ...(one ? [['site', one] as const] : []),
        ]);
        const heard = all?.isLocked ? [all] : [one, all];
        const header = heard.find((by) => by?.header != null)?.header ?? null;
        expect(held.header.value).toBe(header === 'none' ? null : header);
        expect(held.header.by === null).toBe(header === null);
        expect(held.bands.value).toEqual(heard.find((by) => by?.bands != null)?.bands ?? null);
      }),
    );
  });
  it('gives the parts that hold; one that holds nothing gives way to the name of the site', () => {
    const part = { layout: 'row', blocks: [newBlock('brand', 'brand1', {})] };
    const parts = [
      { id: 1, part },
      { id: 2, part: null },
    ];
    const standings = [
      { siteId: null, standing: said({ header: 1, footer: 'none', bands: [1, 2] }) },
      { siteId: 7, standing: said({ header: 2 }) },
    ];
    expect(partsAt({ parts, standings }, 6)).toEqual({ header: part, footer: 'none', bands: [part] });
    expect(partsAt({ parts, standings }, 7)).toEqual({ header: null, footer: 'none', bands: [part] });
    expect(partsAt({ parts, standings }, null).header).toEqual(part);
  });
  it('is read from JSON, or says what is wrong', () => {
    const blocks = [newBlock('brand', 'brand1', {})];
    expect(partFromJSON('header', { layout: 'row', blocks }).ok).toBe(true);
    expect(partFromJSON('footer', { layout: 'over', blocks })).toMatchObject({ faults: [{ path: 'layout' }] });
    expect(partFromJSON('band', { layout: 'urgent', blocks: [] })).toMatchObject({ faults: [{ path: 'blocks' }] });
    expect(standingFromJSON({ header: 'both', bands: [1, 2, 3, 4, 5, 6] })).toMatchObject({
      faults: [{ path: 'header' }, { path: 'bands' }],
    });
  });
  it('marks the page one is on in its menu, and leaves out what is not live', () => {
    const entry = (label: string, pageId: number) => ({
      button: { label, target: { kind: 'page', pageId } },
      shownAt: 'everywhere',
    });
    const blocks = [newBlock('menu', 'menu1', { items: [entry('One', 1), entry('Two', 2), entry('Off', 3)] } as never)];
    const world = worldOf({
      pageHref: (id) => `/${id}`,
      isLive: (id) => Number(id) < 3,
      parts: { header: { layout: 'row', blocks }, footer: 'none', bands: [] },
    });
    const around = (pageId: number | null) => siteFrameHtml(BARE_FRAME, world, pageId);
    expect(around(2).above).toContain('<a href="/2" aria-current="page">');
    expect(around(2).above.match(/aria-current/g)).toHaveLength(2);
    expect(around(null).above).not.toMatch(/aria-current|<!--|Off/);
    expect(around(null).below).toBe('');
  });
});
