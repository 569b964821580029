import { describe, expect, it } from '@jest/globals';
import { HtmlValidate } from 'html-validate';
import { BLOCK_TYPES } from '../../src/blocks/index.js';
import type { PageDocument } from '../../src/document/index.js';
import { BARE_FRAME, contextOf, pageHtml, worldOf } from '../../src/render/index.js';
import { startDocument, STARTS } from '../../src/starts/index.js';
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
async function faultsOf(document: PageDocument): Promise<string[]> {
  const { results } = await validator.validateString(pageHtml(document, frame, contextOf(world)));
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
