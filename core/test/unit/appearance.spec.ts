import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { APPEARANCE, BLOCK_TYPES, anchorOf, blockTypes, looksFrom, looksToText } from '../../src/blocks/index.js';
import {
  aloneEdit,
  applyEdit,
  besideEdit,
  documentFromJSON,
  isRow,
  mergeDocuments,
  MOST_COLUMNS,
  newBlock,
  placeEdit,
  placePiece,
  placesInRows,
  rowsOf,
  stepEdit,
  type Block,
  type Edit,
  type PageDocument,
} from '../../src/document/index.js';
import { contextOf, pageHtml, BARE_FRAME, worldOf } from '../../src/render/index.js';
import { contrast, THEMES, veilOf } from '../../src/theme/index.js';

const quote = (id: string, fields = {}): Block => newBlock('quote', id, { text: id, ...fields });
const page = (...blocks: Block[]): PageDocument => ({ metadata: { title: 'T', description: 'D' }, blocks });
const besides = fc.constantFrom('alone', 'row', 'next', 'same');
const blocks = fc
  .array(fc.tuple(besides, fc.constantFrom('1', '2', '3')), { minLength: 1, maxLength: 12 })
  .map((all) => all.map(([beside, share], n) => quote(`block${n}`, beside === 'alone' ? {} : { beside, share })));
const shape = ({ blocks: all }: PageDocument) =>
  rowsOf(all)
    .map((row) =>
      isRow(row) ? `[${row.map((column) => column.blocks.map(({ id }) => id).join('+')).join(' ')}]` : row[0].id,
    )
    .join(' ');
const done = (document: PageDocument, edit: Edit | null): PageDocument => {
  const edited = edit && applyEdit(document, edit);
  if (!edited) throw new Error('Nothing to do');
  return edited.document;
};
const htmlOf = (document: PageDocument, world = worldOf()) => pageHtml(document, BARE_FRAME, contextOf(world));

describe('how a block stands', () => {
  it('takes no name that a type has for a field of its own', () => {
    const own = new Set(BLOCK_TYPES.flatMap((type) => blockTypes[type].fields.map(({ key }) => key)));
    expect(APPEARANCE.filter(({ key }) => own.has(key))).toEqual([]);
  });
  it('is kept only where it is unusual, so that setting it back leaves nothing', () => {
    const before = page(quote('aaaa'));
    const tinted = done(before, { kind: 'set', blockId: 'aaaa', field: 'ground', value: 'tint' });
    expect(tinted.blocks[0]?.fields['ground']).toBe('tint');
    expect(done(tinted, { kind: 'set', blockId: 'aaaa', field: 'ground', value: 'page' })).toEqual(before);
    const read = documentFromJSON(page(quote('aaaa', { ground: 'page', anchor: '', language: '' })));
    expect(read).toEqual({ ok: true, value: before });
  });
  it('is refused where it is none of what there is', () => {
    const read = (fields: object) => documentFromJSON(page(quote('aaaa', fields))).ok;
    expect([read({ ground: 'strong' }), read({ ground: 'red' }), read({ language: 'xx' })]).toEqual([
      true,
      false,
      false,
    ]);
  });
  it('set by one and set back by the other comes together, and leaves nothing behind', () => {
    const base = page(quote('aaaa', { ground: 'tint' }));
    const mine = done(base, { kind: 'set', blockId: 'aaaa', field: 'ground', value: 'page' });
    const theirs = done(base, { kind: 'set', blockId: 'aaaa', field: 'text', value: 'New' });
    const { document, conflicts } = mergeDocuments(base, mine, theirs);
    expect(conflicts).toEqual([]);
    expect(document).toEqual(page(quote('aaaa', { text: 'New' })));
  });
  it('reaches visitors: classes, a name for links, language and direction', () => {
    const fields = { ground: 'strong', roomAbove: 'none', shownAt: 'wide', anchor: 'Book a berth!', language: 'he' };
    const html = htmlOf(page(quote('aaaa', fields)));
    expect(html).toContain(
      '<section id="b-aaaa" class="on-strong above-none only-wide" lang="he" dir="rtl"><span id="book-a-berth"></span>',
    );
    expect(htmlOf(page(quote('aaaa')))).toContain('<section id="b-aaaa">');
  });
  it('has names that are safe in an address, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 60 }), (anchor) =>
        expect(anchorOf({ anchor })).toMatch(/^([\p{L}\p{N}]+(-[\p{L}\p{N}]+)*)?$/u),
      ),
    );
  });
  it('shows a picture behind it, and asks for one where there is none', () => {
    const use = { pictureId: 1, description: '', isDecorative: true };
    const picture = { width: 900, height: 600, variants: [{ width: 900, src: '/p.webp' }] };
    const html = htmlOf(
      page(quote('aaaa', { ground: 'picture', groundPicture: use })),
      worldOf({ pictureOf: () => picture }),
    );
    expect(html).toMatch(/class="on-picture"><div class="behind"><img src="\/p.webp"[^>]* alt=""/);
  });
  it.each(Object.entries(THEMES))(
    '%s: text over any picture holds 4.5 : 1 under its veil, and not under less',
    (_, theme) => {
      const { deep, onDeep } = theme.colours;
      const veil = veilOf(theme.colours);
      const worst = (share: number) =>
        Math.min(
          ...[0, 255].map((other) => {
            const parts = [1, 3, 5].map((at) => Number.parseInt(deep.slice(at, at + 2), 16));
            const mixed = parts.map((part) => Math.round((part * share + other * (100 - share)) / 100));
            return contrast(onDeep, `#${mixed.map((value) => value.toString(16).padStart(2, '0')).join('')}`);
          }),
        );
      expect(worst(veil)).toBeGreaterThanOrEqual(4.5);
      if (veil > 40) expect(worst(veil - 1)).toBeLessThan(4.5);
    },
  );
});

describe('a page in its own language', () => {
  it('says so, with its direction', () => {
    const { metadata, blocks: all } = page(quote('aaaa'));
    expect(htmlOf({ metadata: { ...metadata, language: 'ar' }, blocks: all })).toContain('<html lang="ar" dir="rtl">');
  });
});

describe('blocks side by side', () => {
  it('are each there once and in order, whatever they say, in rows of two to four columns', () => {
    fc.assert(
      fc.property(blocks, (all) => {
        const rows = rowsOf(all);
        expect(rows.flatMap((row) => (isRow(row) ? row.flatMap((column) => column.blocks) : [row[0]]))).toEqual(all);
        for (const row of rows) if (isRow(row)) expect([2, 3, 4]).toContain(row.length);
        const html = htmlOf(page(...all));
        for (const { id } of all) expect(html.split(`id="b-${id}"`)).toHaveLength(2);
      }),
    );
  });
  it('begin where one is put beside the one before it, then stand below that', () => {
    let now = page(quote('aaaa'), quote('bbbb'), quote('cccc'));
    now = done(now, besideEdit(now, 'bbbb'));
    expect(shape(now)).toBe('[aaaa bbbb] cccc');
    expect(besideEdit(now, 'bbbb')).toBeNull();
    now = done(now, besideEdit(now, 'cccc'));
    expect(shape(now)).toBe('[aaaa bbbb cccc]');
    now = done(now, besideEdit(now, 'cccc'));
    expect(shape(now)).toBe('[aaaa bbbb+cccc]');
    expect([besideEdit(now, 'cccc'), besideEdit(now, 'aaaa')]).toEqual([null, null]);
    expect(placesInRows(now.blocks).get('cccc')).toEqual({ column: 2, of: 2 });
    expect(now.blocks.length).toBeLessThan(MOST_COLUMNS);
  });
  it('are put at any spot, new or moved: there once, where it was said, and nothing else is lost', () => {
    const sides = fc.constantFrom('above', 'below', 'before', 'behind', 'ahead', 'past');
    fc.assert(
      fc.property(blocks, fc.nat(12), fc.nat(11), sides, (all, n, m, side) => {
        const before = page(...all);
        const block = all[n] ?? quote('newone');
        const id = all[m % all.length]?.id ?? '';
        const edit = placeEdit(before, block, { id, side });
        if (id === block.id) return expect(edit).toBeNull();
        const after = edit ? done(before, edit) : before;
        expect(after.blocks.map((one) => one.id).sort()).toEqual(
          [...new Set([...all, block].map((one) => one.id))].sort(),
        );
        const places = placesInRows(after.blocks);
        const [own, other] = [places.get(block.id), places.get(id)];
        const [at, to] = [block.id, id].map((one) => after.blocks.findIndex((each) => each.id === one)) as [
          number,
          number,
        ];
        expect(Math.sign(at - to)).toBe(['below', 'behind', 'past'].includes(side) ? 1 : -1);
        if (own && other && (side === 'above' || side === 'below')) expect(own.column).toBe(other.column);
        if (!own && !other) expect(['before', 'behind']).not.toContain(side);
        if (side === 'ahead' || side === 'past') expect(own).toBeUndefined();
      }),
      { numRuns: 400 },
    );
  });
  it('go up and down by their keys, and back: the page is as it was, or the block has left its row', () => {
    fc.assert(
      fc.property(blocks, fc.nat(11), fc.constantFrom(1 as const, -1 as const), (all, n, by) => {
        const before = page(...all);
        const id = all[n % all.length]?.id ?? '';
        const edit = stepEdit(before, id, by);
        if (!edit) return expect(placesInRows(all).has(id)).toBe(false);
        const after = done(before, edit);
        const hasLeft = placesInRows(all).has(id) && !placesInRows(after.blocks).has(id);
        if (!hasLeft) expect(shape(done(after, stepEdit(after, id, by === 1 ? -1 : 1)))).toBe(shape(before));
      }),
      { numRuns: 300 },
    );
  });
  it('leave their row alone, and the others stand as they stood', () => {
    fc.assert(
      fc.property(blocks, fc.nat(11), (all, n) => {
        const before = page(...all);
        const id = all[n % all.length]?.id ?? '';
        const edit = aloneEdit(before, id);
        expect(edit !== null).toBe(placesInRows(all).has(id));
        if (!edit) return;
        const after = done(before, edit);
        expect(placesInRows(after.blocks).has(id)).toBe(false);
        const without = (document: PageDocument) =>
          rowsOf(document.blocks).flatMap((row) => {
            const columns = (isRow(row) ? row.map((column) => column.blocks) : [row])
              .map((column) => column.map((block) => block.id).filter((one) => one !== id))
              .filter(({ length }) => length);
            // One column is no row: what stood in it stands from edge to edge.
            return columns.length < 2 ? columns.flat() : columns.map((column) => column.join('+'));
          });
        expect(without(after)).toEqual(without(before));
      }),
    );
  });
});

describe('a piece on many pages', () => {
  const wheres = fc.constantFrom('first', 'last', 'before', 'after', 'instead');
  it('stands where it was said, on each once; nothing of the page is lost, and taking it off gives the page back', () => {
    fc.assert(
      fc.property(blocks, wheres, fc.boolean(), (all, where, hasOther) => {
        const other = newBlock('piece', 'other1', { piece: { id: 8 } });
        const before = page(...all, ...(hasOther ? [other] : []));
        const by = hasOther ? { pieceId: 8 } : { type: 'quote' as const };
        const result = placePiece(before, { act: 'insert', pieceId: 7, where, by }, 'newone');
        if (typeof result === 'string') throw new Error(result);
        const ids = result.document.blocks.map(({ id }) => id);
        const kept = [...ids, ...(result.document.tray ?? []).map(({ id }) => id)];
        for (const { id } of all) expect(kept.filter((one) => one === id)).toHaveLength(1);
        const [at, to] = [ids.indexOf('newone'), ids.indexOf(hasOther ? 'other1' : (all[0]?.id ?? ''))];
        if (where === 'before') expect(at).toBe(to - 1);
        if (where === 'after') expect(at).toBe(to + 1);
        if (where === 'instead') expect(to).toBe(-1);
        expect(documentFromJSON(result.document).ok).toBe(true);
        expect(placePiece(result.document, { act: 'insert', pieceId: 7, where, by }, 'again')).toBe('has-it');
        const off = placePiece(result.document, { act: 'remove', pieceId: 7, where: 'last', by: null }, 'none');
        if (typeof off === 'string') throw new Error(off);
        if (where !== 'instead')
          expect(off.document.blocks.map(({ id }) => id)).toEqual(before.blocks.map(({ id }) => id));
      }),
    );
  });
  it('takes no part where there is no such place, or none of it', () => {
    const by = { type: 'contact' as const };
    expect(placePiece(page(quote('aaaa')), { act: 'insert', pieceId: 7, where: 'before', by }, 'n')).toBe('no-place');
    expect(placePiece(page(quote('aaaa')), { act: 'remove', pieceId: 7, where: 'last', by: null }, 'n')).toBe(
      'has-none',
    );
  });
});

describe('a piece that looks otherwise on one page', () => {
  const inner = newBlock('quote', 'inner1', { text: 'Once more', layout: 'tint' });
  const shown = (looks: string) =>
    htmlOf(page(newBlock('piece', 'piece1', { piece: { id: 4 }, looks })), worldOf({ pieceOf: () => [inner] }));
  it('has another layout there and its own words; what is no layout of its block changes nothing', () => {
    expect(shown('')).toContain('class="quote tint"');
    expect(shown('inner1:large')).toContain('class="quote large"');
    expect(shown('inner1:large')).toContain('Once more');
    expect([shown('inner1:upside'), shown('other1:large'), shown('<b>')]).toEqual([shown(''), shown(''), shown('')]);
  });
  it('keeps looks in a text and back', () => {
    const looks = fc.dictionary(fc.stringMatching(/^[a-z0-9]{4,12}$/), fc.constantFrom('tint', 'large'));
    fc.assert(
      fc.property(looks, (some) => {
        const map = new Map(Object.entries(some));
        expect(looksFrom(looksToText(map))).toEqual(map);
      }),
    );
  });
});
