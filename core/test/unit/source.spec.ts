import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { documentFindingsOf, mendsOf } from '../../src/checks/index.js';
import {
  applyEdit,
  documentFromJSON,
  newBlock,
  plainTextOf,
  richTextFromJSON,
  type RichInline,
  type RichText,
} from '../../src/document/index.js';
import type { PageId } from '../../src/plan/index.js';
import { blocksFromHtml, richFromHtml, richToHtml, type HtmlElement } from '../../src/source/index.js';
import { parse } from './parse.js';

const inner = (html: string) => (parse(`<body>${html}</body>`).children.at(-1) as HtmlElement).children;
const ids = () => {
  let n = 0;
  return () => `block${n++}`;
};
const read = (html: string, asPage = false) => blocksFromHtml(parse(html), ids(), asPage);

describe('formatted text as source', () => {
  const words = fc.stringMatching(/^[A-Za-z&<>"'] ?[a-z]{1,6}$/);
  const inline: fc.Arbitrary<RichInline> = fc.oneof(
    words.map((text) => ({ type: 'text' as const, text })),
    words.map((text) => ({ type: 'text' as const, text, marks: [{ type: 'bold' as const }] })),
    words.map((text) => ({
      type: 'text' as const,
      text,
      marks: [{ type: 'link' as const, attrs: { target: { kind: 'page' as const, pageId: 7 as PageId } } }],
    })),
  );
  // Neighbours of the same format are one text to a parser.
  const line = inline.map((one) => [one]);
  const text: fc.Arbitrary<RichText> = fc
    .array(
      fc.oneof(
        line.map((content) => ({ type: 'paragraph' as const, content })),
        line.map((content) => ({ type: 'heading' as const, attrs: { level: 3 as const }, content })),
        fc.array(line, { minLength: 1, maxLength: 3 }).map((items) => ({
          type: 'bulletList' as const,
          content: items.map((content) => ({
            type: 'listItem' as const,
            content: [{ type: 'paragraph' as const, content }],
          })),
        })),
      ),
      { minLength: 1, maxLength: 5 },
    )
    .map((content) => ({ type: 'doc' as const, content }));
  it('comes back as it was, references too', () => {
    fc.assert(
      fc.property(text, (rich) => expect(richFromHtml(inner(richToHtml(rich)))).toEqual(rich)),
      { numRuns: 60 },
    );
  });
  it('of any HTML holds its words, and nothing that pages can’t have', () => {
    const rich = richFromHtml(
      inner(
        '<p style="color:red" onclick="x()">One <span style="font-weight:700">two</span> <a href="javascript:alert(1)">three</a></p>four<script>five</script><h1>six</h1><ul><li>seven<ul><li>eight</li></ul></li></ul>',
      ),
    );
    expect(plainTextOf(rich)).toBe('One two three four six seven eight');
    const faults: never[] = [];
    expect(richTextFromJSON(JSON.parse(JSON.stringify(rich)), 'x', faults)).toEqual(rich);
    expect(faults).toEqual([]);
  });
});

describe('HTML as blocks', () => {
  it('gives texts, pictures, tables, quotes and questions in their order; the first heading opens the page', () => {
    const { title, description, blocks, pictures, left } = read(
      `<head><title>Autumn fares</title><meta name="description" content="What it costs"><script>1</script></head>
      <body><header><h1>Fares</h1></header><p>From <b>1 October</b>.</p><img src="img/boat.jpg" alt="A boat"><h2>Prices</h2>
      <table><caption>Day tickets</caption><tr><th>Who</th><th>Price</th></tr><tr><td>Adults</td><td>120</td></tr></table>
      <blockquote>Once more<cite>Aud</cite></blockquote><details><summary>Dogs?</summary><p>Yes.</p></details><details><summary>Bikes?</summary>No.</details><hr><iframe src="https://x.example"></iframe></body>`,
      true,
    );
    expect({ title, description }).toEqual({ title: 'Autumn fares', description: 'What it costs' });
    expect(blocks.map(({ type }) => type)).toEqual([
      'opening',
      'text',
      'picture',
      'text',
      'table',
      'quote',
      'questions',
      'divider',
    ]);
    expect(blocks[6]?.fields['items']).toHaveLength(2);
    expect(pictures).toEqual([{ blockId: blocks[2]?.id, src: 'img/boat.jpg', description: 'A boat' }]);
    expect(left).toEqual(['1 iframe', '1 script']);
  });
  it('that never closes, nests or lies is still read, and what comes out is a page', () => {
    const part = fc.constantFrom(
      '<p>',
      '<b>',
      '<ul><li>',
      '<table><tr><td>',
      '<blockquote>',
      '<details>',
      '<h1>',
      '<div>',
      '<img src=x onerror=alert(1)>',
      '</p>',
      '</div>',
      'words ',
      '<script>',
      '</script>',
      '<!--',
      '-->',
      '<svg><a>',
      '&#0;',
      '"\'>',
    );
    fc.assert(
      fc.property(fc.array(part, { maxLength: 40 }), (parts) => {
        const { blocks } = read(parts.join(''), true);
        const json = {
          metadata: { title: '', description: '' },
          blocks: JSON.parse(JSON.stringify(blocks)) as unknown,
        };
        expect(documentFromJSON(json)).toEqual({ ok: true, value: { ...json, blocks } });
      }),
      { numRuns: 120 },
    );
  });
  it('of two megabytes becomes several blocks, none longer than a block may be', () => {
    const { blocks } = read('<p>Words and more words of a long document.</p>'.repeat(45_000));
    expect(blocks.length).toBeGreaterThan(20);
    expect(documentFromJSON({ metadata: { title: '', description: '' }, blocks })).toMatchObject({ ok: true });
  });

  it('of more parts than find a place keeps all words: texts that follow each other are joined', () => {
    const part = (n: number) => `<h2>Part ${n}</h2><p>Words of ${n}.</p>${n % 50 === 7 ? '<hr>' : ''}`;
    const html = Array.from({ length: 900 }, (_, n) => part(n)).join('');
    const { blocks, left } = blocksFromHtml(parse(html), ids(), false, 100);
    expect([blocks.length <= 100, left]).toEqual([true, []]);
    const words = blocks
      .map(({ fields }) => (fields['body'] ? plainTextOf(fields['body'] as RichText) : '—'))
      .join(' ');
    for (const n of [0, 7, 8, 449, 899]) expect(words).toContain(`Words of ${n}.`);
    expect(words.match(/—/g)).toHaveLength(18);
    // What is no text is not joined: what finds no place is named.
    const rules = blocksFromHtml(parse('<p>a</p><hr>'.repeat(30)), ids(), false, 10);
    expect([rules.blocks.length, rules.left]).toEqual([10, ['50 blocks beyond the most that find a place']]);
  });

  it('keeps all rows of a long table, and the words of a long quote', () => {
    const rows = (count: number) =>
      Array.from({ length: count }, (_, n) => `<tr><td>r${n}</td><td>x</td></tr>`).join('');
    for (const [count, sizes] of [
      [60, [60]],
      [61, [59, 2]],
      [130, [60, 60, 10]],
    ] as const) {
      const { blocks } = read(`<table><caption>Fares</caption>${rows(count)}</table>`);
      expect(blocks.map(({ fields }) => (fields['items'] as readonly unknown[]).length)).toEqual(sizes);
      expect(blocks.map(({ fields }) => fields['heading'])).toEqual(['Fares', ...sizes.slice(1).map(() => '')]);
    }
    const [said] = read(`<blockquote><p>${'Long words. '.repeat(120)}</p></blockquote>`).blocks;
    expect([said?.type, plainTextOf(said?.fields['body'] as RichText).length > 1300]).toEqual(['text', true]);
  });
});

describe('a mend', () => {
  it('takes its finding away, whatever is wrong', () => {
    const document = {
      metadata: { title: '', description: '' },
      blocks: [
        newBlock('opening', 'open1', {
          heading: 'Night crossing',
          text: '‹One sentence.›',
          picture: { pictureId: 3, description: '', isDecorative: false } as never,
        }),
        newBlock('opening', 'open2', { heading: 'Again and again, on every evening of the winter' }),
        newBlock('countdown', 'coun1', { after: 'x' }),
        newBlock('frame', 'fram1', {
          heading: 'A map of the harbour with all its quays and the night boat',
          address: 'https://maps.example/',
        }),
      ],
    };
    let now = document as Parameters<typeof documentFindingsOf>[0];
    const mended = new Set<string>();
    for (let step = 0; step < 20; step++) {
      const finding = documentFindingsOf(now).find((one) => mendsOf(now, one).length);
      if (!finding) break;
      const [mend] = mendsOf(now, finding);
      const next = mend && applyEdit(now, mend.edit);
      expect(next).not.toBeNull();
      now = next?.document ?? now;
      expect(documentFindingsOf(now)).not.toContainEqual(finding);
      mended.add(finding.check);
    }
    expect([...mended].sort()).toEqual([
      'countdown',
      'description',
      'first-heading',
      'frame',
      'picture-description',
      'placeholder',
      'title',
    ]);
    expect(documentFindingsOf(now)).toEqual([]);
  });
});
