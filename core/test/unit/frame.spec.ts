import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  compose,
  cutPage,
  frameAt,
  frameAround,
  frameOf,
  inOrder,
  SLOTS,
  slotMark,
  type FrameRoute,
} from '../../src/frame/index.js';
import { BARE_FRAME, contentHtml, contextOf, pageHtml, siteFrameHtml, worldOf } from '../../src/render/index.js';
import {
  partFromJSON,
  partsAt,
  placeOnSite,
  ruleFor,
  ruleKeyOf,
  saidOf,
  standingFromJSON,
  standingOf,
  type PagePlace,
  type PartChoice,
  type RuleFor,
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
          expect(compose(cutPage(page), frameAround(frame, null))).toBe(
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
    const names = ['a', 'b', 'c', 'v'];
    const lines = (name: string) => ({
      icons: -1,
      head: -1,
      above: names.indexOf(name),
      below: -1,
      nav: -1,
      codes: -1,
      root: -1,
    });
    const route = (basePath: string, name: string, from: number, until: number | null, variant = ''): FrameRoute => ({
      ...{ basePath, variant, lines: lines(name) },
      during: { from: from as Instant, until: until as Instant | null },
    });
    const routes = inOrder([
      route('/', 'a', 0, 5),
      route('/', 'b', 5, null),
      route('/shop', 'c', 2, 8),
      route('/', 'v', 1, 3, 'own'),
    ]);
    const at = (path: string, instant: number, variant = '') => {
      const found = frameAt(routes, path, instant as Instant, variant);
      return found ? names[found.lines.above] : null;
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
    // One that is not there gives way to the frame of the site.
    expect([at('/', 0, 'own'), at('/', 1, 'own'), at('/shop', 2, 'own'), at('/', 3, 'own')]).toEqual([
      'a',
      'v',
      'v',
      'a',
    ]);
  });
});

describe('where parts stand', () => {
  const said = (change: Partial<Standing>): Standing => ({
    ...{ header: null, footer: null, bands: null, isLocked: false },
    ...change,
  });
  it('is said by the most single that says anything, and by nothing below a lock', () => {
    const choice = fc.constantFrom<PartChoice>(null, 'none', 'name', 1, 2);
    const standing = fc.record({
      header: choice,
      footer: choice,
      bands: fc.constantFrom(null, [], [3], [3, 4]),
      isLocked: fc.boolean(),
    });
    const about = fc.constantFrom(
      ruleFor(null, null),
      ruleFor(null, 7),
      ruleFor('domain:one.example', null),
      ruleFor('path:/events', 7),
      ruleFor('path:/events/summer', 7),
      ruleFor('path:/event', 7),
      ruleFor('label:Storm', null),
      ruleFor('label:Sun', null),
      ruleFor('role:thank-you', null),
      ruleFor('page:12', null),
    );
    const place: PagePlace = {
      ...{
        pageId: 12,
        siteId: 7,
        path: '/events/summer',
        host: 'www.one.example',
        labels: ['Storm'],
        role: 'ordinary',
      },
    };
    const rules = fc.uniqueArray(fc.record({ for: about, standing }), { selector: (one) => JSON.stringify(one.for) });
    const own = fc.option(standing, { nil: null });
    fc.assert(
      fc.property(rules, own, (some, chosen) => {
        const numbered = some.map((rule, n) => ({ ...rule, for: rule.for as RuleFor, id: n + 1 }));
        // From the whole to the single, written down by hand.
        const order = ['', 'domain:one.example', 'site', '/events', '/events/summer', 'Storm', '12'];
        const nameOf = ({ scope, of }: RuleFor) =>
          scope === 'site' ? 'site' : scope === 'domain' ? `domain:${of}` : of;
        const heard: Standing[] = [];
        for (const name of order) {
          const rule = numbered.find((one) => nameOf(one.for) === name);
          if (rule) heard.push(rule.standing);
          if (rule?.standing.isLocked) break;
        }
        const isLocked = heard.some((one) => one.isLocked);
        // No page locks anything.
        if (chosen && !isLocked) heard.push(chosen);
        const held = standingOf(saidOf(numbered, place, chosen));
        for (const which of ['header', 'footer'] as const) {
          const last = heard.findLast((one) => one[which] !== null);
          expect(held[which].value).toBe(last?.[which] ?? 'name');
          expect(held[which].by === null).toBe(last === undefined);
        }
        expect(held.bands.value).toEqual(heard.findLast(({ bands }) => bands !== null)?.bands ?? []);
        expect(held.lockedBy === null).toBe(!isLocked);
      }),
    );
  });
  it('is about pages that can be told', () => {
    expect(ruleFor('path:/x', null)).toBeNull();
    expect(ruleFor('label:x', 3)).toBeNull();
    for (const key of ['', ':', 'label:', 'moon:x', 'path:x']) expect(ruleFor(key, 3)).toBeNull();
    const about = ruleFor('path:/x', 3);
    expect(about && ruleKeyOf(about)).toBe('path:/x');
  });
  it('gives the parts that hold; one that holds nothing gives way to the name of the site', () => {
    const part = { layout: 'row', blocks: [newBlock('brand', 'brand1', {})] };
    const parts = [
      { id: 1, part },
      { id: 2, part: null },
    ];
    const standings = [
      { id: 11, key: null, siteId: null, standing: said({ header: 1, footer: 'none', bands: [1, 2] }) },
      { id: 12, key: null, siteId: 7, standing: said({ header: 2 }) },
    ];
    expect(partsAt({ parts, standings }, placeOnSite(6))).toEqual({ header: part, footer: 'none', bands: [part] });
    expect(partsAt({ parts, standings }, placeOnSite(7))).toEqual({ header: null, footer: 'none', bands: [part] });
    expect(partsAt({ parts, standings }, placeOnSite(null)).header).toEqual(part);
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
