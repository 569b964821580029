import { describe, expect, it } from '@jest/globals';
import { newBlock } from '../../src/document/index.js';
import { BARE_FRAME, frameScript, siteFrameHtml, worldOf } from '../../src/render/index.js';
import { PART_KINDS, PART_STARTS, partFromJSON, partsAt, placeOnSite, type Part } from '../../src/stock/index.js';
import { richTextOf } from '../../src/document/index.js';

const text = (words: string) => newBlock('text', 'text1', { body: richTextOf(words) as never });
const part = (words: string, more: Partial<Part> = {}): Part => ({
  layout: 'information',
  blocks: [text(words)],
  ...more,
});
const around = (parts: { header?: Part | 'none' | null; footer?: Part | 'none' | null; bands?: Part[] }) =>
  siteFrameHtml(
    { ...BARE_FRAME, siteName: 'Site', frameScript: '/-/around.js' },
    { ...worldOf(), parts: { header: null, footer: null, bands: [], ...parts } },
  );
const order = (html: string, ...words: string[]) => words.map((one) => html.indexOf(one));
const isInOrder = (places: number[]) => places.every((at, n) => at >= 0 && (n === 0 || at > (places[n - 1] ?? 0)));

describe('parts around a page', () => {
  it('stand where they say, and those between the first and the last in view stay with them', () => {
    const [one, two, three] = [
      part('First', { stays: 'stays' }),
      part('Second', { place: 'below', stays: 'lower' }),
      part('Third', { place: 'foot' }),
    ];
    const frame = around({ header: part('Head', { layout: 'row' }), bands: [two, part('Plain'), one, three] });
    expect(isInOrder(order(frame.above, 'Plain', 'class="stays lower"', 'First', 'Head', 'Second'))).toBe(true);
    expect(frame.below).toContain('Third');
    expect(frame.above).not.toContain('Third');
    // The script is asked for where something needs it, and nowhere else.
    expect(frame.head).toContain('<script src="/-/around.js"></script>');
    expect(around({ bands: [part('Plain')] }).head).not.toContain('around.js');
    expect(Buffer.byteLength(frameScript)).toBeLessThanOrEqual(1536);
  });
  it('are closed for as long as they are the same', () => {
    const markOf = (band: Part) => /data-band="([0-9a-f]{8})"/.exec(around({ bands: [band] }).above)?.[1];
    const closable = (words: string) => part(words, { isClosable: true });
    expect(markOf(closable('Boats stay in'))).toBe(markOf(closable('Boats stay in')));
    expect(markOf(closable('Boats stay in'))).not.toBe(markOf(closable('Boats sail')));
    expect(markOf(part('Boats stay in'))).toBeUndefined();
    // What people write is words.
    expect(around({ bands: [closable('<script>alert(1)</script>')] }).above).not.toContain('<script>');
  });
  it('can be a notice that stands by itself: first, the most urgent before all, not where no bands are wanted', () => {
    const parts = [
      { id: 1, part: part('Said') },
      { id: 2, part: part('News', { sites: 'all' }) },
      { id: 3, part: part('Storm', { layout: 'urgent', sites: [7] }) },
      { id: 4, part: null },
    ];
    const standing = { header: null, footer: null, bands: [1], isLocked: true };
    const held = { parts, standings: [{ id: 9, key: null, siteId: null, standing }] };
    const words = (siteId: number, own: { bands: number[] } | null = null) =>
      partsAt(held, placeOnSite(siteId), own && { header: null, footer: null, ...own }).bands.map(
        ({ blocks }) => JSON.stringify(blocks).match(/Said|News|Storm/)?.[0],
      );
    expect([words(7), words(8)]).toEqual([
      ['Storm', 'News', 'Said'],
      ['News', 'Said'],
    ]);
    const open = { ...held, standings: [] };
    expect(partsAt(open, placeOnSite(7), { header: null, footer: null, bands: [] }).bands).toEqual([]);
    expect(partsAt(open, placeOnSite(7)).bands).toHaveLength(2);
  });
  it('begin with something that can be read back, and is whole', () => {
    let made = 0;
    const seeds = { newId: () => `b${++made}xxxxx`, pages: [{ name: 'A page', pageId: 3 as never }] };
    for (const kind of PART_KINDS) {
      expect(PART_STARTS[kind].length).toBeGreaterThanOrEqual({ header: 5, footer: 6, band: 4 }[kind]);
      for (const start of PART_STARTS[kind]) {
        const begun = start.part(seeds);
        const read = partFromJSON(kind, JSON.parse(JSON.stringify(begun)));
        expect([start.key, read.ok ? read.value : read.faults]).toEqual([start.key, begun]);
      }
    }
  });
  it('refuse what they can’t be', () => {
    const blocks = [text('Words')];
    for (const [kind, more, path] of [
      ['header', { stays: 'flies' }, 'stays'],
      ['footer', { stays: 'returns' }, 'stays'],
      ['band', { place: 'left' }, 'place'],
      ['band', { shownAt: 'never' }, 'shownAt'],
      ['band', { sites: ['x'] }, 'sites'],
      ['band', { sites: 'some' }, 'sites'],
    ] as const) {
      const layout = kind === 'band' ? 'warning' : 'row';
      expect(partFromJSON(kind, { layout, blocks, ...more })).toMatchObject({ faults: [{ path }] });
    }
    // As many entries as anybody can want, and no more.
    const menuOf = (count: number) => ({
      layout: 'row',
      blocks: [
        newBlock('menu', 'menu0001', {
          items: Array.from({ length: count }, () => ({ button: null, shownAt: 'everywhere' })),
        } as never),
      ],
    });
    expect(partFromJSON('header', menuOf(200)).ok).toBe(true);
    expect(partFromJSON('header', menuOf(201))).toMatchObject({ faults: [{ path: 'blocks[0].fields.items' }] });
  });
});
