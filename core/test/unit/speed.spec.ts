import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { newBlock } from '../../src/document/index.js';
import { BARE_FRAME, contextOf, pageHtml, worldOf } from '../../src/render/index.js';
import {
  budgetOf,
  fetchedFiles,
  namedFiles,
  PHONE,
  secondsToLoad,
  SLOW_PHONE,
  totalOf,
  weightOf,
} from '../../src/speed/index.js';

const picture = {
  width: 1600,
  height: 900,
  variants: [400, 800, 1600].map((width) => ({ width, src: `/-/p${width}.webp` })),
};
const html = pageHtml(
  {
    metadata: { title: 'T', description: 'D' },
    blocks: [1, 2].map((n) =>
      newBlock('picture', `picture${n}`, { picture: { pictureId: 1, description: 'x', isDecorative: false } as never }),
    ),
  },
  {
    ...BARE_FRAME,
    language: 'en',
    siteName: 'S',
    homeHref: '/',
    stylesheetHref: '/-/s.css',
    fontHrefs: ['/-/a.woff2', '/-/b.woff2'],
    inlineStyle: null,
    canonical: null,
    isIndexable: true,
    shareImage: null,
  },
  contextOf(worldOf({ pictureOf: () => picture })),
);

describe('the weight of a page', () => {
  it('is what a phone fetches for the page that core/render makes, each file once', () => {
    const fetched = fetchedFiles(namedFiles(html), PHONE);
    expect([...fetched]).toEqual([
      ['/-/s.css', 'style'],
      ['/-/a.woff2', 'fonts'],
      ['/-/b.woff2', 'fonts'],
      ['/-/p800.webp', 'pictures'],
    ]);
    const weight = weightOf(5, fetched, (src) => (src.endsWith('.webp') ? 1000 : 100));
    expect([weight, totalOf(weight)]).toEqual([{ page: 5, style: 100, fonts: 200, pictures: 1000 }, 1305]);
  });
  it('takes the widest picture there is where none fills the screen', () => {
    expect([...fetchedFiles(namedFiles(html), { width: 3000, density: 1 }).keys()].at(-1)).toBe('/-/p1600.webp');
  });
});

it('a budget is the most bytes that are there in time, and one byte more is late', () => {
  fc.assert(
    fc.property(fc.double({ min: 1, max: 60, noNaN: true }), fc.integer({ min: 50_000, max: 1e9 }), (seconds, rate) => {
      const line = { ...SLOW_PHONE, rate };
      const budget = budgetOf(line, seconds);
      expect(secondsToLoad(budget, line)).toBeLessThanOrEqual(seconds + 1e-9);
      expect(secondsToLoad(budget + 1, line)).toBeGreaterThan(seconds - 1e-9);
    }),
  );
  expect(budgetOf(SLOW_PHONE, 0.5)).toBe(0);
});
