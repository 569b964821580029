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
import { BARE_FRAME, contentHtml, contextOf, pageHtml, worldOf } from '../../src/render/index.js';
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
