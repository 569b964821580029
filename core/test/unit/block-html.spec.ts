import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { BLOCK_TYPES, blockTypes } from '../../src/blocks/index.js';
import {
  applyEdit,
  newBlock,
  richTextOf,
  type Block,
  type FieldDefinition,
  type FieldValues,
  type PageDocument,
} from '../../src/document/index.js';
import { blockToHtml, changesFromHtml } from '../../src/source/index.js';
import { filledBlocks } from './filled.js';
import { parse } from './parse.js';

const readBack = (block: Block, source: string) => changesFromHtml(block, parse(source), source);
/** The block after what its source says. */
const applied = (block: Block, source: string): Block => {
  const document = { metadata: { title: '', description: '' }, blocks: [block] };
  const { changes } = readBack(block, source);
  const edited = changes.reduce<PageDocument>(
    (page, { field, value }) => applyEdit(page, { kind: 'set', blockId: block.id, field, value })?.document ?? page,
    document,
  );
  return edited.blocks[0] as Block;
};
const every = BLOCK_TYPES.flatMap((type) => filledBlocks(type));

describe('a block as HTML', () => {
  it.each(BLOCK_TYPES)('%s: says all of it, and nothing changes by being read', (type) => {
    for (const block of [...filledBlocks(type), newBlock(type, 'blank1', {})]) {
      expect(readBack(block, blockToHtml(block))).toEqual({ changes: [], faults: [] });
      // What it says of one block is what another one of the type becomes.
      const other = applied(newBlock(type, block.id, {}), blockToHtml(block));
      expect(blockToHtml(other)).toBe(blockToHtml(block));
    }
  });

  it('keeps any words apart from its markup', () => {
    const words = fc.string({ unit: 'grapheme', maxLength: 30 }).map((text) => text.replace(/\0|\r/g, ''));
    fc.assert(
      fc.property(fc.constantFrom(...every), words, (block, text) => {
        const hostile = withText(block, `${text}</p><script>alert(1)</script> & "${text}'`);
        const source = blockToHtml(hostile);
        expect(readBack(hostile, source)).toEqual({ changes: [], faults: [] });
        expect(source).not.toContain('<script');
      }),
      { numRuns: 300 },
    );
  });

  it('never fails, whatever is typed: a block comes out, or it is said what is wrong', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...every),
        fc.nat(),
        fc.nat({ max: 60 }),
        fc.string({ maxLength: 12 }),
        (block, at, cut, put) => {
          const source = blockToHtml(block);
          const from = at % source.length;
          const typed = source.slice(0, from) + put + source.slice(from + cut);
          const { changes, faults } = readBack(block, typed);
          for (const { line } of faults) expect(line).toBeLessThanOrEqual(typed.split('\n').length);
          if (faults.some(({ severity }) => severity === 'blocks')) expect(changes).toEqual([]);
          else expect(readBack(applied(block, typed), blockToHtml(applied(block, typed))).changes).toEqual([]);
        },
      ),
      { numRuns: 500 },
    );
  });
});

describe('written by hand', () => {
  const offer = newBlock('offer', 'o1', { layout: 'tint', heading: 'Night boat', body: richTextOf('Two berths.') });
  const change = (from: string | RegExp, to: string, block: Block = offer) => {
    const source = blockToHtml(block);
    const typed = source.replace(from, to);
    expect(typed).not.toBe(source);
    return readBack(block, typed);
  };
  it('texts, choices, links and items are changed; each is one change of its field', () => {
    expect(change('Night boat', 'Night <em>boats</em>').changes).toEqual([{ field: 'heading', value: 'Night boats' }]);
    expect(change('data-layout="tint"', 'data-layout="deep"').changes).toEqual([{ field: 'layout', value: 'deep' }]);
    expect(
      change(/<a data-field="button".*<\/a>/, '<a data-field="button" href="page:12#block7">Book</a>').changes,
    ).toEqual([{ field: 'button', value: { label: 'Book', target: { kind: 'page', pageId: 12, blockId: 'block7' } } }]);
    const steps = newBlock('steps', 's1', {});
    const items = (steps.fields['items'] as readonly FieldValues[]).length;
    const [made] = change('</ol>', '<li><h3 data-field="title">Aboard</h3></li></ol>', steps).changes;
    expect((made?.value as readonly FieldValues[]).length).toBe(items + 1);
    expect((made?.value as readonly FieldValues[]).at(-1)).toMatchObject({ title: 'Aboard' });
  });
  it('what is taken out is emptied, and a picture with its description goes', () => {
    expect(change(/<h2.*<\/h2>/, '').changes).toEqual([{ field: 'heading', value: '' }]);
    const picture = newBlock('picture', 'p1', {
      picture: { pictureId: 3, description: 'A boat', isDecorative: false },
    } as never);
    expect(change(/<img.*>/, '', picture).changes).toEqual([{ field: 'picture', value: null }]);
    expect(change('alt="A boat"', 'alt="" data-decorative', picture).changes).toEqual([
      { field: 'picture', value: { pictureId: 3, description: '', isDecorative: true } },
    ]);
  });
  it('a script becomes no words, in any field, and it is said that it is left out', () => {
    const lead = newBlock('opening', 'o2', { heading: 'H', text: 'Sail' });
    const { changes, faults } = change('Sail', 'Sail<script>let a = 1</script> on', lead);
    expect(changes).toEqual([{ field: 'text', value: 'Sail on' }]);
    expect(faults.map(({ code }) => code)).toEqual(['source-code-left-out']);
  });
  it('a tag that is not closed is said, with its line', () => {
    const { faults } = change('</h2>', '');
    expect(faults).toContainEqual(expect.objectContaining({ code: 'source-broken', line: 2 }));
  });
  it('a tag that is not closed swallows no field behind it', () => {
    const { changes } = change('</h2>', '');
    expect(changes.map(({ field }) => field)).not.toContain('price');
    expect(changes.map(({ field }) => field)).not.toContain('body');
  });
  it.each([
    ['data-layout="tint"', 'data-layout="loud"', /one of the options/, 1],
    [
      /<a data-field="button".*<\/a>/,
      '<a data-field="button" href="javascript:alert(1)">x</a>',
      /isn’t something a page can link to/,
      null,
    ],
    ['Night boat', 'x'.repeat(201), /at most 200/, 2],
    ['data-block="offer"', 'data-block="quote"', /must stay/, 1],
    [/[^]+/, '<p>Nothing</p>', /data-block is missing/, 1],
  ] as const)('%s is refused at its line, and nothing is changed', (from, to, words, line) => {
    const { changes, faults } = change(from, to);
    expect(changes).toEqual([]);
    expect(faults[0]?.message).toMatch(words);
    if (line !== null) expect(faults[0]?.line).toBe(line);
  });
  it('what stands in no field, in one that is none, or twice, is left out and named', () => {
    const { changes, faults } = change(
      '</section>',
      '<b>Loose words</b><p data-field="colour">red</p><h2 data-field="heading">Again</h2></section>',
    );
    expect(changes).toEqual([]);
    expect(faults.map(({ severity, message }) => `${severity}: ${message.slice(0, 30)}`)).toEqual([
      'worth-fixing: “Loose words” isn’t in any fie',
      'worth-fixing: This block has no field “colou',
      'worth-fixing: “heading” appears twice: only ',
    ]);
  });
});

/** A block with one text in all of its texts, as long as each may be. */
function withText(block: Block, text: string): Block {
  const fill = (fields: readonly FieldDefinition[], values: FieldValues): FieldValues =>
    Object.fromEntries(
      fields.map((field) => {
        const value = values[field.key] ?? null;
        if (field.kind === 'line' || (field.kind === 'paragraph' && !field.isCode))
          return [field.key, text.replace(/\s+/g, ' ').trim().slice(0, field.max).trim()];
        if (field.kind === 'list')
          return [field.key, (value as readonly FieldValues[]).map((item) => fill(field.fields, item))];
        return [field.key, value];
      }),
    );
  return { ...block, fields: fill(blockTypes[block.type].fields, block.fields) };
}
