import { describe, expect, it } from '@jest/globals';
import { HtmlValidate } from 'html-validate';
import { BLOCK_TYPES } from '../../src/blocks/index.js';
import type { PageDocument } from '../../src/document/index.js';
import { compose, cutPage, frameAround, frameOf, type Nav } from '../../src/frame/index.js';
import { BARE_FRAME, contentHtml, contextOf, pageHtml, siteFrameParts, worldOf } from '../../src/render/index.js';
import { startDocument, STARTS } from '../../src/starts/index.js';
import { PART_TYPES } from '../../src/blocks/index.js';
import {
  PART_CHOICES,
  PART_KINDS,
  PART_LAYOUTS,
  PART_STARTS,
  type Part,
  type PartKind,
} from '../../src/stock/index.js';
import type { PageId } from '../../src/plan/index.js';
import { filledBlocks } from './filled.js';

/** The rules of the HTML standard, without those of taste: quotes, ends of empty elements, white space. */
const validator = new HtmlValidate({
  root: true,
  extends: ['html-validate:standard'],
  rules: { 'doctype-style': 'off', 'void-style': 'off', 'no-trailing-whitespace': 'off', 'attr-quotes': 'off' },
});
const frame = {
  ...BARE_FRAME,
  language: 'en',
  siteName: 'Site',
  homeHref: '/',
  stylesheetHref: '/-/x.css',
  inlineStyle: null,
  fontHrefs: ['/-/x.woff2'],
  canonical: 'https://a.example/',
  isIndexable: true,
  shareImage: null,
};
const world = worldOf({
  pageHref: () => '/there',
  pictureOf: () => ({ width: 960, height: 640, variants: [{ width: 640, src: '/-/p.webp' }] }),
});
/** What html-validate finds, a line each. */
const faultsOf = (document: PageDocument) => faultsIn(pageHtml(document, frame, contextOf(world)));
async function faultsIn(whole: string): Promise<string[]> {
  const { results } = await validator.validateString(whole);
  return results.flatMap(({ messages }) =>
    messages.map(({ ruleId, message, line }) => `${line} ${ruleId}: ${message}`),
  );
}
const page = (blocks: PageDocument['blocks']): PageDocument => ({
  metadata: { title: 'Title', description: 'Words' },
  blocks,
});

describe('published pages are valid HTML', () => {
  it.each(STARTS)('begun as %s', async (start) => {
    let n = 0;
    expect(await faultsOf(startDocument(start, 'A name', () => `block${n++}`))).toEqual([]);
  });
  it.each(BLOCK_TYPES)('with %s in every layout, all of its fields filled', async (type) => {
    for (const block of filledBlocks(type)) expect(await faultsOf(page([block]))).toEqual([]);
  });
});

const entry = (id: number, entries: Nav['tree'] = []) => ({ id, label: `Page ${id}`, href: `/p${id}`, entries });
const nav: Nav = {
  home: { label: 'Site', href: '/' },
  tree: [entry(1, [entry(2, [entry(3)]), entry(4)]), { id: null, label: 'Heading', href: null, entries: [entry(5)] }],
  menus: { main: 3, foot: 2, legal: [entry(6)], tree: 3 },
};
/** A page with parts around it, put together as an edge does. */
function composed(kind: PartKind, part: Part): string {
  const none = { header: null, footer: null, bands: [] };
  const parts = kind === 'band' ? { ...none, bands: [part] } : { ...none, [kind]: part };
  const texts = siteFrameParts({ ...frame, frameScript: '/-/frame.js' }, { ...world, parts });
  const whole = frameOf({ ...texts, nav: [JSON.stringify(nav)] }, (text) => text);
  const content = contentHtml(
    startDocument(
      STARTS[1] ?? 'blank',
      'A name',
      (() => {
        let n = 0;
        return () => `page${n++}`;
      })(),
    ),
    frame,
    contextOf(world),
  );
  return compose(cutPage(content), frameAround(whole, 2));
}
describe('pages put together with what stands around them are valid HTML', () => {
  let n = 0;
  const seeds = {
    newId: () => `part${n++}`,
    pages: [1, 2].map((id) => ({ name: `Page ${id}`, pageId: id as PageId })),
  };
  it.each(PART_KINDS)('begun as any %s', async (kind) => {
    for (const { part } of PART_STARTS[kind]) expect(await faultsIn(composed(kind, part(seeds)))).toEqual([]);
  });
  it.each(PART_KINDS)('with a %s in every layout and every way to stand there', async (kind) => {
    const [start] = PART_STARTS[kind];
    const choices = Object.entries(PART_CHOICES[kind]).flatMap(([key, options]) =>
      Object.keys(options).map((value) => (value ? { [key]: value } : {})),
    );
    for (const layout of Object.keys(PART_LAYOUTS[kind]))
      for (const choice of [...choices, ...(kind === 'band' ? [{ isClosable: true as const }] : [])])
        expect(await faultsIn(composed(kind, { ...(start?.part(seeds) as Part), layout, ...choice } as Part))).toEqual(
          [],
        );
  });
  it.each(PART_TYPES)('with %s in a header, a footer and a band', async (type) => {
    for (const block of filledBlocks(type))
      for (const kind of PART_KINDS)
        expect(
          await faultsIn(composed(kind, { layout: Object.keys(PART_LAYOUTS[kind])[0] ?? '', blocks: [block] })),
        ).toEqual([]);
  });
});
