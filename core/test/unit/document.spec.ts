import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { BLOCK_TYPES, fieldsOf, withoutUsual } from '../../src/blocks/index.js';
import { startDocument, STARTS } from '../../src/starts/index.js';
import { asTaken, documentFindingsOf } from '../../src/checks/index.js';
import {
  applyEdit,
  blocksFromText,
  blocksToText,
  moveSeveral,
  removeSeveral,
  differencesOf,
  documentFromJSON,
  linksOf,
  newBlock,
  type Edit,
  type FieldDefinition,
  type FieldValue,
  type PageDocument,
} from '../../src/document/index.js';
import type { PageId, PictureId } from '../../src/plan/index.js';
import { BARE_FRAME, contextOf, pageHtml, worldOf } from '../../src/render/index.js';
import { contrast, stylesheetOf, THEMES } from '../../src/theme/index.js';

const HOSTILE = [
  '<script>alert(1)</script>',
  '"><img src=x onerror=alert(1)>',
  "' onmouseover='x",
  '</style><script>',
  '&lt;b&gt;',
  '\u202eevil',
  '😀',
  '${x}',
  '{{x}}',
  '\u0000<b>',
];
const text = fc.oneof(fc.constantFrom(...HOSTILE), fc.string({ unit: 'grapheme', maxLength: 40 }));
const target = fc.oneof(
  fc.constant(null),
  fc.integer({ min: 1, max: 5 }).map((id) => ({ kind: 'page' as const, pageId: id as PageId })),
  fc.constant({ kind: 'outside' as const, url: 'https://o.example/?a=1&b="' }),
  fc.constant({ kind: 'mail' as const, address: 'a@b.example' }),
  fc.constant({ kind: 'block' as const, blockId: 'block1' }),
  fc.constant({ kind: 'file' as const, fileId: 3 }),
);

function valueOf(field: FieldDefinition): fc.Arbitrary<FieldValue> {
  switch (field.kind) {
    case 'line':
    case 'paragraph':
      return text.filter((some) => some.length <= field.max);
    case 'choice':
      return fc.constantFrom(...field.options.map(({ value }) => value));
    case 'picture':
      return fc.option(
        fc.record({ pictureId: fc.constant(1 as PictureId), description: text, isDecorative: fc.boolean() }),
        { nil: null },
      );
    case 'button':
      return fc.option(fc.record({ label: text, target }), { nil: null });
    case 'reference':
      return fc.option(fc.record({ id: fc.integer({ min: 1, max: 9 }) }), { nil: null });
    case 'moment':
      return fc.option(fc.record({ at: fc.integer({ min: 0, max: 4e12 }), zone: fc.constant('Europe/Oslo') }), {
        nil: null,
      });
    case 'rich':
      return fc.tuple(text, target).map(
        ([words, to]) =>
          ({
            type: 'doc',
            content: [
              {
                type: 'paragraph',
                content: words
                  ? [
                      {
                        type: 'text',
                        text: words,
                        ...(to ? { marks: [{ type: 'link', attrs: { target: to } }] } : {}),
                      },
                    ]
                  : [],
              },
            ],
          }) as FieldValue,
      );
    case 'list':
      return fc.array(fc.record(Object.fromEntries(field.fields.map((inner) => [inner.key, valueOf(inner)]))), {
        minLength: field.min,
        maxLength: field.max,
      }) as fc.Arbitrary<FieldValue>;
  }
}
const block = fc
  .constantFrom(...BLOCK_TYPES)
  .chain((type) =>
    fc
      .record(Object.fromEntries(fieldsOf(type).map((field) => [field.key, valueOf(field)])))
      .map((fields) => ({ type, fields: withoutUsual(fields) })),
  );
const document: fc.Arbitrary<PageDocument> = fc
  .tuple(fc.array(block, { maxLength: 6 }), text)
  .map(([blocks, title]) => ({
    metadata: { title, description: title },
    blocks: blocks.map((one, index) => ({ ...one, id: `block${index}` })),
  }));
const frame = {
  ...BARE_FRAME,
  language: 'en',
  siteName: '<Site>',
  homeHref: '/',
  stylesheetHref: '/-/x.css',
  inlineStyle: null,
  fontHrefs: [],
  canonical: 'https://a.example/',
  isIndexable: true,
  shareImage: null,
};
const render = (page: PageDocument) =>
  pageHtml(
    page,
    frame,
    contextOf(
      worldOf({
        pageHref: (id) => `/p${id}`,
        titleOf: () => HOSTILE[0] as string,
        pictureOf: () => ({ width: 960, height: 640, variants: [{ width: 640, src: '/-/p.webp' }] }),
        fileOf: () => ({ src: '/-/f.mp4', name: HOSTILE[0] as string, bytes: 1, ending: 'mp4' }),
        values: new Map([['x', HOSTILE[0] as string]]),
      }),
    ),
  );

describe('documents', () => {
  it('survive to JSON and back', () => {
    fc.assert(
      fc.property(document, (page) => {
        const read = documentFromJSON(JSON.parse(JSON.stringify(page)));
        expect(read.ok ? read.value : read.faults).toEqual(
          read.ok ? expect.objectContaining({ blocks: expect.anything() as unknown }) : [],
        );
        if (read.ok) expect(documentFromJSON(read.value)).toEqual(read);
      }),
    );
  });
  it('come back from any edit and its inverse', () => {
    const edit = (page: PageDocument) =>
      fc.oneof(
        fc.nat(8).map((at): Edit => ({ kind: 'insert', at, block: newBlock('quote', 'newone1') })),
        fc.nat(6).map((n): Edit => ({ kind: 'remove', blockId: `block${n}` })),
        fc.tuple(fc.nat(6), fc.nat(8)).map(([n, to]): Edit => ({ kind: 'move', blockId: `block${n}`, to })),
        fc
          .tuple(
            fc.constantFrom(...page.blocks.map(({ id }) => id), 'none'),
            fc.constantFrom('heading', 'items[1].title', 'text', 'items[9].title', '__proto__'),
            text,
          )
          .map(([blockId, field, value]): Edit => ({ kind: 'set', blockId, field, value })),
        fc
          .tuple(
            fc.constantFrom(...page.blocks.map(({ id }) => id), 'none'),
            fc.constantFrom('ground', 'beside', 'anchor'),
            fc.constantFrom('page', 'alone', 'tint', 'next', '', null),
          )
          .map(([blockId, field, value]): Edit => ({ kind: 'set', blockId, field, value })),
        text.map((value): Edit => ({ kind: 'metadata', key: 'title', value })),
        fc.constantFrom('he', null).map((value): Edit => ({ kind: 'language', value })),
        fc
          .tuple(fc.constantFrom('shareTitle', 'shareDescription'), fc.constantFrom('', 'To share'))
          .map(([key, value]): Edit => ({ kind: 'metadata', key, value })),
        fc
          .constantFrom(null, {}, { noindex: true as const }, { maxSnippet: 0 })
          .map((value): Edit => ({ kind: 'robots', value })),
        fc.constantFrom(null, true as const).map((value): Edit => ({ kind: 'titleAlone', value })),
        fc.constantFrom(null, ['night boat', 'winter crossing']).map((value): Edit => ({ kind: 'phrases', value })),
        fc
          .constantFrom(null, [{ kind: 'event' as const, values: { place: 'Old pier' } }])
          .map((value): Edit => ({ kind: 'facts', value })),
        fc
          .constantFrom(null, { kind: 'page' as const, pageId: 3 as PageId })
          .map((value): Edit => ({ kind: 'canonical', value })),
        fc
          .constantFrom(null, [{ kind: 'meta' as const, name: 'author', content: 'Ingrid' }])
          .map((value): Edit => ({ kind: 'elements', value })),
      );
    fc.assert(
      fc.property(
        document.chain((page) => fc.tuple(fc.constant(page), fc.array(edit(page), { maxLength: 8 }))),
        ([page, edits]) => {
          let now = page;
          const inverses: Edit[] = [];
          for (const one of edits) {
            const edited = applyEdit(now, one);
            if (edited) {
              now = edited.document;
              inverses.unshift(edited.inverse);
            }
          }
          for (const one of inverses) now = applyEdit(now, one)?.document as PageDocument;
          expect(now).toEqual(page);
        },
      ),
    );
  });
  const several = fc.array(fc.constant('quote' as const), { minLength: 1, maxLength: 8 }).chain((types) =>
    fc.tuple(
      fc.constant({
        metadata: { title: '', description: '' },
        blocks: types.map((type, n) => newBlock(type, `block${n}`, { text: `Number ${n}` })),
      }),
      fc.subarray(types.map((_, n) => `block${n}`)),
      fc.constantFrom(1 as const, -1 as const),
    ),
  );
  const order = ({ blocks }: PageDocument) => blocks.map(({ id }) => id);
  it('move several blocks at once by one place, in their order, and all the way back', () => {
    fc.assert(
      fc.property(several, ([page, ids, by]) => {
        const moved = moveSeveral(page, new Set(ids), by);
        const edge = by === 1 ? order(page).at(-1) : order(page)[0];
        expect(moved === null).toBe(ids.length === 0 || ids.includes(edge ?? ''));
        if (!moved) return;
        const edited = applyEdit(page, moved);
        if (!edited) throw new Error('The move was refused');
        for (const id of ids) expect(order(edited.document).indexOf(id)).toBe(order(page).indexOf(id) + by);
        const others = (all: string[]) => all.filter((id) => !ids.includes(id));
        expect(others(order(edited.document))).toEqual(others(order(page)));
        expect(applyEdit(edited.document, edited.inverse)?.document).toEqual(page);
      }),
    );
  });
  it('are all edited or not at all', () => {
    const page = { metadata: { title: '', description: '' }, blocks: [newBlock('quote', 'block0')] };
    expect(applyEdit(page, removeSeveral(['block0', 'block9']))).toBeNull();
    expect(applyEdit(page, removeSeveral(['block0']))?.document.blocks).toEqual([]);
  });
  it('travel by the clipboard with new identities, and leave behind what another portfolio does not have', () => {
    const button = { label: 'Go', target: { kind: 'page' as const, pageId: 7 as PageId } };
    const use = { pictureId: 3 as PictureId, description: 'A boat', isDecorative: false };
    const blocks = [newBlock('opening', 'block0', { heading: 'Here', button, picture: use })];
    let n = 0;
    const paste = (text: string, portfolioId: number) => blocksFromText(text, portfolioId, () => `paste${n++}`);
    const here = paste(blocksToText(blocks, 1), 1);
    expect(here).toEqual({ isForeign: false, blocks: [{ ...blocks[0], id: 'paste0' }] });
    const there = paste(blocksToText(blocks, 1), 2);
    expect(there?.isForeign).toBe(true);
    expect(there?.blocks[0]?.fields).toMatchObject({
      heading: 'Here',
      button: { label: 'Go', target: null },
      picture: null,
    });
    for (const bad of ['', 'hello', '{}', '{"domatium":"blocks","blocks":[{"type":"nothing"}]}', 'null'])
      expect(paste(bad, 1)).toBeNull();
  });
  it('refuse what is no document, each fault at its place', () => {
    const read = documentFromJSON({
      metadata: { title: 5, description: '' },
      blocks: [
        {
          id: 'abcd',
          type: 'opening',
          fields: {
            heading: 'x'.repeat(201),
            nothing: 1,
            button: { label: 'a', target: { kind: 'outside', url: 'javascript:alert(1)' } },
          },
        },
        { id: 'abcd', type: 'opening', fields: {} },
        { id: 'efgh', type: 'none', fields: {} },
      ],
    });
    expect(read.ok ? [] : read.faults.map(({ path }) => path)).toEqual([
      'metadata.title',
      'blocks[0].fields.nothing',
      'blocks[0].fields.heading',
      'blocks[0].fields.button',
      'blocks[1]',
      'blocks[2]',
    ]);
    for (const bad of [null, [], 'x', {}, { blocks: {}, metadata: {} }]) expect(documentFromJSON(bad).ok).toBe(false);
  });
  it('begin in a form that is valid and has every link to be chosen', () => {
    for (const start of STARTS) {
      let n = 0;
      const page = startDocument(start, 'A name', () => `start${n++}`);
      expect(documentFromJSON(page)).toEqual({ ok: true, value: page });
      expect(linksOf(page)).toEqual([]);
      expect(
        asTaken(documentFindingsOf(page), { placeholder: 'worth-fixing' })
          .filter(({ severity }) => severity === 'blocks')
          .map(({ check }) => check),
      ).toEqual({ blank: ['first-heading'], signUp: ['forms'] }[start as string] ?? []);
    }
  });
});

describe('two states of a page', () => {
  const block = (id: string, heading = id) => newBlock('opening', id, { heading });
  const state = (...blocks: PageDocument['blocks'][number][]) => ({
    metadata: { title: 't', description: '' },
    blocks,
  });
  const differs = (first: PageDocument, second: PageDocument) => {
    const { blocks, isMetadataChanged, isReordered } = differencesOf(first, second);
    return [
      ...blocks.map(({ block: { id }, how }) => `${id} ${how}`),
      ...(isMetadataChanged ? ['metadata'] : []),
      ...(isReordered ? ['order'] : []),
    ];
  };
  it('differ where a block is another, missing or new, in their order, or in their metadata', () => {
    const base = state(block('a'), block('b'), block('c'));
    expect(differs(base, base)).toEqual([]);
    expect(differs(base, state(block('a'), block('b', 'x'), block('d')))).toEqual([
      'b changed',
      'c only-in-first',
      'd only-in-second',
    ]);
    expect(differs(base, state(block('b'), block('a'), block('c')))).toEqual(['order']);
    expect(differs(base, { ...base, metadata: { title: 'u', description: '' } })).toEqual(['metadata']);
  });
  it('differ the same way seen from the other side', () => {
    fc.assert(
      fc.property(document, document, (a, b) => {
        const there = differencesOf(a, b).blocks.map(({ block: { id } }) => id);
        const back = differencesOf(b, a).blocks.map(({ block: { id } }) => id);
        expect(there.sort()).toEqual(back.sort());
        expect(differencesOf(a, a)).toEqual({ blocks: [], isMetadataChanged: false, isReordered: false });
      }),
    );
  });
});

describe('rendering', () => {
  it('lets no markup through from any field of any block', () => {
    fc.assert(
      fc.property(document, (page) => {
        const html = render(page);
        expect(html).not.toMatch(/<script|<b>|<img src=x|<\/style>|\u0000/i);
        // Every tag and attribute is of our own making.
        for (const tag of html.match(/<[^>]*>/g) ?? [])
          expect(tag).toMatch(
            /^<\/?(!doctype html|html|head|meta|title|link|body|header|main|footer|section|div|p|h[1-6]|a|img|ul|ol|li|br|strong|em|figure|figcaption|blockquote|span|form|label|input|button|s|dl|dt|dd|table|caption|thead|tbody|tr|th|td|details|summary|nav|address|hr|iframe|video|source|picture|time|svg|path|sup|sub|track|g|circle|rect|text)(\s+[a-z-]+(="[^"<>]*")?)*\s*>$/i,
          );
      }),
      { numRuns: 400 },
    );
  });
  it('fetches the first picture at once and the others as they come near', () => {
    const use = { pictureId: 1 as PictureId, description: 'd', isDecorative: false };
    const html = render({
      metadata: { title: 't', description: '' },
      blocks: [newBlock('picture', 'aaaa', { picture: use }), newBlock('picture', 'bbbb', { picture: use })],
    });
    expect(html.match(/fetchpriority="high"|loading="lazy"/g)).toEqual(['fetchpriority="high"', 'loading="lazy"']);
  });
  it('renders 300 blocks', () => {
    const blocks = Array.from({ length: 300 }, (_, n) => newBlock('quote', `block${n}`, { text: `Number ${n}` }));
    expect(render({ metadata: { title: 't', description: '' }, blocks }).match(/<section/g)?.length).toBe(300);
  });
});

it.each(Object.entries(THEMES))('theme %s meets WCAG AA wherever text stands on a ground', (_, theme) => {
  const { ground, ink, quiet, tint, accent, onAccent, deep, onDeep } = theme.colours;
  for (const [text, on] of [
    [ink, ground],
    [quiet, ground],
    [ink, tint],
    [quiet, tint],
    [accent, ground],
    [accent, tint],
    [onAccent, accent],
    [onDeep, deep],
    [deep, onDeep],
  ] as const)
    expect(contrast(text, on)).toBeGreaterThanOrEqual(4.5);
  expect(stylesheetOf(theme, (file) => `/-/${file}`)).not.toContain('undefined');
});
