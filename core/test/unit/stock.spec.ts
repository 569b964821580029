import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { newBlock } from '../../src/document/index.js';
import {
  alwaysAt,
  contentFromJSON,
  paintStock,
  putBackStock,
  stockAt,
  valueMap,
  type StockPeriod,
} from '../../src/stock/index.js';
import { fillText, namesIn } from '../../src/text/index.js';
import {
  darkOf,
  nearestGood,
  pairFindings,
  readOwnCss,
  stylesheetOf,
  themeFromJSON,
  THEMES,
  unreadablePair,
} from '../../src/theme/index.js';
import type { Instant } from '../../src/time/index.js';

const at = (value: number) => value as Instant;

describe('painting a revision over a period', () => {
  const stretch = fc
    .tuple(fc.integer({ min: 0, max: 30 }), fc.option(fc.integer({ min: 1, max: 12 }), { nil: null }))
    .map(([from, length]) => ({ from: at(from), until: length === null ? null : at(from + length) }));
  it('changes what holds inside, and nothing outside', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.option(fc.integer({ min: 1, max: 4 }), { nil: null }), stretch), { maxLength: 8 }),
        (strokes) => {
          let periods: StockPeriod[] = [];
          for (const [revision, during] of strokes) {
            const next = paintStock(periods, revision, during);
            for (let moment = -1; moment < 50; moment++) {
              const isInside = moment >= during.from && moment < (during.until ?? Infinity);
              const was = stockAt(periods, at(moment))?.revisionId ?? null;
              expect(stockAt(next, at(moment))?.revisionId ?? null).toBe(isInside ? revision : was);
            }
            // In order, none empty, none over another: what the database holds to.
            next.forEach((period, index) => {
              expect(period.during.until === null || period.during.from < period.during.until).toBe(true);
              const before = next[index - 1];
              if (before) expect(before.during.until).toBeLessThanOrEqual(period.during.from);
            });
            periods = next;
          }
        },
      ),
    );
  });
  it('lets what was there come back behind the end: a winter look ends by itself', () => {
    const usual = paintStock([], 1, { from: at(0), until: null });
    const winter = paintStock(usual, 2, { from: at(10), until: at(20) });
    expect(winter.map(({ revisionId, during }) => [revisionId, during.from, during.until])).toEqual([
      [1, 0, 10],
      [2, 10, 20],
      [1, 20, null],
    ]);
    let until = Infinity;
    expect(stockAt(winter, at(15), (_, end) => (until = Math.min(until, end)))?.revisionId).toBe(2);
    expect(until).toBe(20);
  });
});

describe('a release that is undone', () => {
  const stretch = fc
    .tuple(fc.integer({ min: 0, max: 30 }), fc.option(fc.integer({ min: 1, max: 12 }), { nil: null }))
    .map(([from, length]) => ({ from, until: length === null ? null : at(from + length) }));
  it('leaves what was until then, and shows from then on what would hold without it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 4 }), stretch), { maxLength: 6 }),
        stretch,
        fc.option(fc.integer({ min: 5, max: 9 }), { nil: null }),
        fc.integer({ min: 0, max: 20 }),
        (strokes, during, revision, wait) => {
          let before: StockPeriod[] = [];
          for (const [one, { from, until }] of strokes) before = paintStock(before, one, { from: at(from), until });
          const pressed = paintStock(before, revision, { ...during, from: at(during.from) });
          const undone = putBackStock(pressed, before, at(wait));
          for (let moment = 0; moment < 50; moment++) {
            const held = moment < wait ? pressed : before;
            expect(stockAt(undone, at(moment))?.revisionId).toBe(stockAt(held, at(moment))?.revisionId);
          }
          // Nothing lies on its neighbour, and nothing is empty: the database would refuse it.
          for (const [index, { during: one }] of undone.entries()) {
            expect(one.from).toBeLessThan(one.until ?? Infinity);
            expect(undone[index - 1]?.during.until ?? -Infinity).toBeLessThanOrEqual(one.from);
          }
        },
      ),
      { numRuns: 400 },
    );
  });
});

describe('what a site is', () => {
  const profile = { brand: 'Tide Hall', language: 'en', theme: 'tide', iconId: null, shareId: 7 };
  const faultsOf = (change: object) => {
    const read = contentFromJSON('profile', { ...profile, ...change });
    return read.ok ? read.value : read.faults.map(({ path }) => path);
  };
  it('is read as it is, its name without the space around it; what can’t be is named by its field', () => {
    expect(faultsOf({ brand: ' Tide Hall ' })).toEqual(profile);
    expect(faultsOf({ iconId: undefined, shareId: undefined, more: 1 })).toEqual({ ...profile, shareId: null });
    for (const language of ['nb', 'pt-BR', 'zh-Hant', 'zh-Hant-TW', 'es-419', 'de-CH-1996', 'sl-rozaj'])
      expect(faultsOf({ language })).toMatchObject({ language });
    for (const language of ['', 'norsk!', 'EN', 'en-gb', 'en_GB', 'x', 'en-', 'en" onload="x', 7, null])
      expect([language, faultsOf({ language })]).toEqual([language, ['language']]);
    expect(faultsOf({ brand: ' ', theme: '', iconId: 'a', shareId: -1 })).toEqual([
      'brand',
      'theme',
      'iconId',
      'shareId',
    ]);
    expect(faultsOf({ brand: 'x'.repeat(81), theme: 'x'.repeat(41), iconId: 1.5 })).toEqual([
      'brand',
      'theme',
      'iconId',
    ]);
    expect(contentFromJSON('profile', null).ok).toBe(false);
  });
  it('holds before its first period too: what it begins with', () => {
    const periods = [
      { revisionId: 1, during: { from: at(10), until: at(20) } },
      { revisionId: 2, during: { from: at(20), until: null } },
    ];
    expect([0, 10, 19, 20, 99].map((moment) => alwaysAt(periods, at(moment))?.revisionId)).toEqual([1, 1, 1, 2, 2]);
    const seen: [number, number][] = [];
    alwaysAt(periods, at(5), (from, until) => seen.push([from, until]));
    expect(seen[0]).toEqual([5, 10]);
    expect(alwaysAt([], at(5))).toBeNull();
  });
});

describe('shared values', () => {
  it('are filled in by name, those of the site over those of the portfolio; unknown names stay', () => {
    const values = valueMap(
      [
        { name: 'Phone', value: '12' },
        { name: 'Year', value: '2026' },
      ],
      [{ name: 'phone', value: '34' }],
    );
    expect(fillText('Call {phone} or { PHONE }, {fax}, in {year}', values)).toBe('Call 34 or 34, {fax}, in 2026');
    expect(namesIn('{phone} and {opening  hours}')).toEqual(['phone', 'opening hours']);
  });
  it('never come in as a second name, an empty one, or one that is filled in by itself', () => {
    const read = contentFromJSON('values', [
      { name: 'a', value: '1' },
      { name: ' A ', value: '2' },
      { name: '', value: '3' },
      { name: 'year', value: '4' },
    ]);
    expect(read.ok ? [] : read.faults.map(({ path }) => path)).toEqual([
      'values[1].name',
      'values[2].name',
      'values[3].name',
    ]);
  });
  it('and pieces hold no piece: what many use is one step away', () => {
    const piece = newBlock('piece', 'piece1', { piece: { id: 4 } });
    expect(contentFromJSON('piece', [piece])).toMatchObject({ ok: false });
    expect(contentFromJSON('piece', [newBlock('text', 'text1')])).toMatchObject({ ok: true });
  });
});

describe('a theme', () => {
  it.each(Object.entries(THEMES))(
    '%s survives to JSON and back, and holds contrast wherever its colours meet, in the dark too',
    (_, theme) => {
      expect(themeFromJSON(JSON.parse(JSON.stringify(theme)))).toEqual({ ok: true, value: theme });
      expect(pairFindings(theme.colours).filter(({ better }) => better)).toEqual([]);
      expect(pairFindings(darkOf(theme.colours)).filter(({ ratio, least }) => ratio < least)).toEqual([]);
    },
  );
  it('can’t be read where its worst pair falls below two thirds of what it needs, in the dark too', () => {
    const { ferry } = THEMES;
    expect(Object.values(THEMES).map(unreadablePair).filter(Boolean)).toEqual([]);
    const same = { ...ferry.colours, ink: ferry.colours.ground };
    expect(unreadablePair({ ...ferry, colours: same })).toEqual({ place: 'text', ratio: 1, isDark: false });
    expect(unreadablePair({ ...ferry, dark: same })).toMatchObject({ place: 'text', isDark: true });
  });
  it('offers the nearest good colour for a poor one, and it is good', () => {
    const colour = fc.integer({ min: 0, max: 0xffffff }).map((value) => `#${value.toString(16).padStart(6, '0')}`);
    fc.assert(
      fc.property(colour, (accent) => {
        const colours = { ...THEMES.ferry.colours, accent };
        const better = nearestGood(colours, 'accent');
        expect(better).not.toBeNull();
        for (const { text, ratio, least } of pairFindings({ ...colours, accent: better as string }))
          if (text === 'accent') expect(ratio).toBeGreaterThanOrEqual(least);
      }),
      { numRuns: 60 },
    );
  });
  it('gives a fallback the measures of its font, so that nothing moves', () => {
    const css = stylesheetOf(THEMES.ferry, (file) => `/${file}`);
    expect(css).toMatch(
      /"Hanken Grotesk Variable meanwhile";src:local\("Arial"\)[^}]*size-adjust:101\.5\d%;ascent-override:98\.5\d%/,
    );
  });
});

describe('own CSS', () => {
  it.each(['a{b:' + '('.repeat(100_000), '@media x{'.repeat(20_000), ':is('.repeat(20_000) + 'a{b:c}'])(
    'is refused where it is nested to fell its reader (%#)',
    (text) => expect(readOwnCss(text)).toMatchObject({ css: '', faults: [{ line: 1, severity: 'blocks' }] }),
  );
  it('reaches nothing outside of the page’s content, and fetches nothing', () => {
    const { css, faults } = readOwnCss(
      '@import "x.css";\nbody, .a > .b:hover { color: red }\n@media print { h2 { color: blue } }\n@keyframes k { from { top: 0 } }',
    );
    expect(css).toBe('main,main .a>.b:hover{color:red}@media print{main h2{color:blue}}@keyframes k{from{top:0}}');
    expect(faults).toEqual([
      expect.objectContaining({ line: 1, message: expect.stringContaining('@import') as unknown }),
    ]);
  });
  it.each([
    '* { display: none }',
    'main{visibility:hidden}',
    'body, .x { opacity: 0 }',
    '@media screen { main > section { display:none } }',
  ])('that hides everything blocks: %s', (text) =>
    expect(readOwnCss(text).faults).toEqual([expect.objectContaining({ severity: 'blocks' })]),
  );
  it('says where it can’t be read, and what it overrides', () => {
    expect(readOwnCss('.a { color: red }\n.b { color }').faults).toEqual([expect.objectContaining({ line: 2 })]);
  });

  it('overrides what sets the same and weighs no more; heavier rules stay, and are not named', () => {
    const below =
      '.button{padding:1em}a:hover .button{padding:2em}.ask .button{padding:3em}.other{padding:1em}:where(.ask.deep) .button{padding:4em}.button:not(.ask *,#x){padding:5em}h2{color:red}';
    const over = (css: string) => readOwnCss(css, below).overrides.map(({ selector }) => selector);
    expect(over('.button { padding: 0; gap: 1px }')).toEqual(['.button', ':where(.ask.deep) .button']);
    expect(over('.ask .button { padding: 0 }')).toEqual([
      '.button',
      'a:hover .button',
      '.ask .button',
      ':where(.ask.deep) .button',
    ]);
    expect(over('#b-1 .ask .button { padding: 0 }')).toContain('.button:not(.ask *,#x)');
    expect(over('.button { gap: 1px }')).toEqual([]);
    expect(over('h2 { color: blue }')).toEqual(['h2']);
  });
  it('says which value no browser takes, overrides nothing by it, and leaves alone what is newer than it knows', () => {
    const read = readOwnCss(
      'h1{font-size:40 px;color:var(--x);width:calc-size(auto,size)}',
      'h1{font-size:1rem;color:red}',
    );
    expect(read.faults.map(({ code, params }) => [code, params])).toEqual([
      ['css-value', { property: 'font-size', value: '40 px' }],
    ]);
    expect(read.overrides).toEqual([{ selector: 'h1', properties: ['color'] }]);
  });
  it('of any kind is read without a fault of ours', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (text) => expect(readOwnCss(text).css).not.toMatch(/@import|<\//i)),
      { examples: [['</'], ['p::after{content:"</style>"}'], ['/* </style> */'], ['a{@import "x";}']] },
    );
  });
});
