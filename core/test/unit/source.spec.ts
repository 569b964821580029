import { readFileSync } from 'node:fs';
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
import { blocksFromHtml, pastedText, richFromHtml, richToHtml, type HtmlElement } from '../../src/source/index.js';
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

describe('what office programs put on the clipboard', () => {
  const folder = new URL('../corpus/pasted/', import.meta.url);
  const pasted = (name: string) => parse(readFileSync(new URL(`${name}.html`, folder), 'utf8'));
  const blocksOf = (name: string) => blocksFromHtml(pasted(name), ids(), false);
  const bodies = (name: string) => blocksOf(name).blocks.map(({ fields }) => richToHtml(fields['body'] as RichText));
  const cells = (block: { fields: object } | undefined) =>
    (block?.fields as { items: Record<string, string>[] }).items.map((row) => Object.values(row).join('|'));

  it('keeps lists, within lists and numbered, headings and links; what is hidden stays behind, and is named', () => {
    expect(bodies('document-lists').join('\n')).toBe(
      [
        '<h2>Lantern walk</h2>',
        '<h2>What to bring</h2>',
        '<ul>\n  <li>\n    <p>Bring a <strong>lantern</strong></p>\n    <ul>\n      <li>with a candle</li>\n    </ul>\n  </li>\n  <li>Warm shoes</li>\n</ul>',
        '<p>Then go:</p>',
        '<ol>\n  <li>To the quay</li>\n  <li>Round the <a href="https://harbour.example/light">light</a></li>\n</ol>',
      ].join('\n'),
    );
    expect(blocksOf('document-lists').left).toEqual(['1 hidden part']);
    expect(bodies('document-bullets-typed')[0]).toBe(
      '<p>Bring:</p>\n<ul>\n  <li>A lantern</li>\n  <li>Warm shoes</li>\n</ul>\n<p>See you · there</p>',
    );
    expect(bodies('slides')[0]).toContain('<li>Storm season begins</li>\n  <li>Boats turn');
    expect(bodies('open-document')[0]).toBe(
      '<h2>Harbour house</h2>\n<p>Open <em>every</em> day.</p>\n<ol>\n  <li>Ring the bell</li>\n  <li>Wait</li>\n</ol>',
    );
  });
  it('keeps tables as tables, up to twelve columns, without what is hidden in them', () => {
    const { blocks, left } = blocksOf('sheet');
    expect(cells(blocks[0])).toEqual([
      'Boat|Mon|Tue|Wed|Thu|Fri||||||',
      'Night boat|21:00||21:00||22:30||||||',
      'Day boat|every hour||||9:00||||||',
    ]);
    expect(left).toEqual(['1 hidden part']);
    expect(blocksOf('web-document').blocks.map(({ type }) => type)).toEqual(['text', 'table', 'text']);
  });
  it('reads tables that lay out a mail part by part: the one within is a table, and no row comes twice', () => {
    const { blocks, left } = blocksOf('mail');
    expect(blocks.map(({ type }) => type)).toEqual(['text', 'table', 'text']);
    expect(cells(blocks[1])).toEqual(['Who|Price||||||||||', 'Adults|10 EUR||||||||||']);
    expect(richToHtml(blocks[2]?.fields['body'] as RichText)).toBe(
      '<p><a href="https://boats.example/book">Book now</a></p>',
    );
    expect(left).toEqual(['1 hidden part', '1 button']);
  });
  it('is a text where a text can hold it, and asks for blocks where it can’t', () => {
    expect(pastedText(pasted('sheet')).holdsMore).toBe(true);
    const { text, holdsMore, left } = pastedText(pasted('document-lists'));
    expect(holdsMore).toBe(false);
    expect(richToHtml(text)).toBe(bodies('document-lists').join('\n'));
    expect(left).toEqual(['1 hidden part']);
  });
});

describe('HTML from anywhere', () => {
  interface Made {
    readonly html: string;
    readonly seen: readonly string[];
    readonly hidden: readonly string[];
  }
  let count = 0;
  const word = (): string => `w${count++}x`;
  const leaf = fc.constantFrom('plain', 'long', 'hidden').map((kind): Made => {
    const one = word();
    if (kind === 'hidden') return { html: `<span style="display:none">${one}</span>`, seen: [], hidden: [one] };
    return { html: kind === 'long' ? `${one} ${'much '.repeat(60)}` : one, seen: [one], hidden: [] };
  });
  const wraps = [
    ...['p', 'div', 'h1', 'h3', 'b', 'blockquote', 'article', 'center'].map((tag) => [`<${tag}>`, `</${tag}>`]),
    ['<ul><li>', '</li></ul>'],
    ['<ol><li>One</li><li>', '</li></ol>'],
    ['<table><caption>Prices</caption><tr><td>', '</td></tr></table>'],
    ['<table><tr><th>Who</th><th>What</th></tr><tr><td>', '</td><td>two</td></tr></table>'],
    ['<details><summary>Ask</summary>', '</details>'],
    ['<details><summary>', '</summary>Answer</details>'],
    ['<blockquote>Said<cite>', '</cite></blockquote>'],
    ['<a href="https://a.example">', '</a>'],
    ['<p style="mso-list:l0 level1 lfo1">· ', '</p>'],
    ['<dl><dt>', '</dt><dd>Meaning</dd></dl>'],
    ['<pre>', '</pre>'],
  ] as const;
  const tree = fc.letrec<{ node: Made; many: Made }>((tie) => ({
    node: fc.oneof(
      { maxDepth: 5, withCrossShrink: true },
      leaf,
      fc.tuple(fc.constantFrom(...wraps), tie('many')).map(([[open = '', close = ''], inside]) => ({
        ...inside,
        html: open + inside.html + close,
      })),
    ),
    many: fc.array(tie('node'), { minLength: 1, maxLength: 4 }).map((all) => ({
      html: all.map(({ html }) => html).join(' '),
      seen: all.flatMap(({ seen }) => seen),
      hidden: all.flatMap(({ hidden }) => hidden),
    })),
  }));
  it('loses no word that is seen, whatever stands within what, and shows none that is hidden', () => {
    fc.assert(
      fc.property(tree.many, fc.boolean(), ({ html, seen, hidden }, asPage) => {
        const { blocks, left } = read(html, asPage);
        expect(documentFromJSON({ metadata: { title: '', description: '' }, blocks })).toMatchObject({ ok: true });
        const words = JSON.stringify(blocks);
        for (const one of seen) expect(words.includes(one)).toBe(true);
        for (const one of hidden) expect(words.includes(one)).toBe(false);
        if (hidden.length) expect(left.join()).toContain('hidden');
        const text = pastedText(parse(html)).text;
        for (const one of seen) expect(plainTextOf(text)).toContain(one);
      }),
      { numRuns: 300 },
    );
  });
});
