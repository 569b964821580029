import { describe, expect, it } from '@jest/globals';
import { BLOCK_TYPES, blockTypes } from '../../src/blocks/index.js';
import { documentFindingsOf } from '../../src/checks/index.js';
import {
  documentFromJSON,
  exampleBlock,
  fieldAt,
  picturesOf,
  textFieldAt,
  type Block,
  type PageDocument,
} from '../../src/document/index.js';
import { blockHtml, contextOf, worldOf } from '../../src/render/index.js';
import { filledBlocks } from './filled.js';

const world = worldOf({
  pageHref: () => '/there',
  pictureOf: () => ({ width: 960, height: 640, variants: [{ width: 640, src: '/-/p.webp' }] }),
});
const pageOf = (...blocks: Block[]): PageDocument => ({ metadata: { title: 'Title', description: 'Words' }, blocks });

describe.each(BLOCK_TYPES)('%s', (type) => {
  it('begins with a content that pages may have, and asks to replace all of it', () => {
    const page = pageOf(exampleBlock(type, 'block1'));
    expect(documentFromJSON(JSON.parse(JSON.stringify(page)))).toEqual({ ok: true, value: page });
    const asks = documentFindingsOf(page).filter(({ check }) => check === 'placeholder');
    expect(asks).toHaveLength([...JSON.stringify(page).matchAll(/"[^"]*‹[^"]*"/g)].length);
  });

  it('shows on the canvas what visitors get, with the fields named and nothing else', () => {
    for (const block of filledBlocks(type)) {
      const visitors = blockHtml(block, contextOf(world)).markup;
      const canvas = blockHtml(block, contextOf(world, true)).markup;
      expect(visitors).not.toContain('data-field');
      // Where visitors get nothing the canvas may say why.
      expect(canvas.replace(/ data-field="[^"]*"|<p class="ways-empty">[^<]*<\/p>/g, '')).toBe(visitors);
      const named = [...canvas.matchAll(/ data-field="([^"]*)"[^>]*>(?:<p>)?([^<]*)/g)].map(
        ([, path = '', shown = '']) => [path, shown.trim()] as const,
      );
      expect(new Set(named.map(([path]) => path)).size).toBe(named.length);
      for (const [path, shown] of named) {
        const field = textFieldAt(blockTypes[type].fields, path);
        if (!field) expect(picturesOf(pageOf(block)).map(({ field: at }) => at)).toContain(path);
        else if (field.kind !== 'rich') expect(shown).toBe(fieldAt(block, path));
      }
    }
  });

  it('is whole without script, and its pictures have their sizes', () => {
    for (const block of filledBlocks(type)) {
      const { markup } = blockHtml(block, contextOf(world));
      expect(markup).not.toMatch(/<script| on[a-z]+=| style=/);
      for (const [image] of markup.matchAll(/<img [^>]*>/g))
        for (const name of ['width', 'height', 'alt', 'srcset', 'sizes']) expect(image).toContain(` ${name}="`);
      const ids = [...markup.matchAll(/ id="([^"]*)"/g)].map(([, id]) => id);
      expect(new Set(ids).size).toBe(ids.length);
    }
  });
});

describe('texts at a path', () => {
  const { fields } = blockTypes.voices;
  it.each([
    ['heading', 'line'],
    ['items[2].text', 'paragraph'],
    ['items[0].who', 'line'],
    ['items[0]', null],
    ['items[0].picture', null],
    ['layout', null],
    ['nothing', null],
    ['heading.more', null],
  ])('%s is %s', (path, kind) => expect(textFieldAt(fields, path)?.kind ?? null).toBe(kind));
  it('is the label of a button', () =>
    expect(textFieldAt(blockTypes.linkList.fields, 'items[1].button.label')).toMatchObject({ kind: 'line', max: 80 }));
});
