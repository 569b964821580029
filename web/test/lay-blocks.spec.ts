import { newBlock, type Block } from '@domatium/core/document';
import { blockHtml, blocksHtml, contextOf, worldOf } from '@domatium/core/render';
import { BlockRenders, layBlocks } from '../src/app/editor/lay-blocks';

const world = worldOf({
  pageHref: () => '/there',
  pictureOf: () => ({ width: 3, height: 2, variants: [{ width: 640, src: '/p' }] }),
});
const opening = (heading: string, kicker = ''): Block =>
  newBlock('opening', 'block1', {
    heading,
    kicker,
    picture: { pictureId: 1 as never, description: 'A boat', isDecorative: false },
  });
const quote = newBlock('quote', 'block2', { text: 'Once more', who: 'Aud', role: '' });

let main: HTMLElement;
let shown: Map<string, string>;
let renders: BlockRenders;
const lay = (blocks: readonly Block[], typed: Element | null = null) => {
  const next = renders.of(blocks, world);
  layBlocks(main, blocks, next, shown, typed);
  shown = next;
};
const at = (field: string) => main.querySelector<HTMLElement>(`[data-field="${field}"]`);

beforeEach(() => {
  main = document.createElement('main');
  shown = new Map();
  renders = new BlockRenders();
  lay([opening('Lamps'), quote]);
});

it('stands as the renderer has it, whatever it was before', () => {
  const pages = [[quote, opening('Lamps')], [opening('Boats', 'New')], [], [quote]];
  for (const blocks of pages) {
    lay(blocks);
    const context = contextOf(world, true);
    const wanted = document.createElement('main');
    wanted.innerHTML = blocks.map((block) => blockHtml(block, context).markup).join('');
    expect(main.innerHTML.replace(/\s+/g, ' ')).toBe(wanted.innerHTML.replace(/\s+/g, ' '));
  }
});

it('stands in rows as the renderer has it, whatever row it was in before, and moves nothing that stays', () => {
  const say = (id: string, fields: Record<string, string> = {}) => newBlock('quote', id, { text: id, ...fields });
  const pages = [
    [say('aaaa', { beside: 'row' }), say('bbbb', { beside: 'next', share: '2' }), say('cccc')],
    [say('aaaa', { beside: 'row' }), say('bbbb', { beside: 'next' }), say('cccc', { beside: 'same' })],
    [say('cccc'), say('bbbb', { beside: 'row' }), say('aaaa', { beside: 'next' })],
    [say('aaaa'), say('bbbb'), say('cccc')],
  ];
  for (const blocks of pages) {
    lay(blocks);
    const wanted = document.createElement('main');
    wanted.innerHTML = blocksHtml(blocks, contextOf(world, true))
      .map(({ markup }) => markup)
      .join('');
    expect(main.innerHTML.replace(/\s+/g, ' ')).toBe(wanted.innerHTML.replace(/\s+/g, ' '));
  }
  lay(pages[0] ?? []);
  const [row, first] = [main.querySelector('.row'), main.querySelector('#b-aaaa')];
  lay([...(pages[0] ?? []), say('dddd')]);
  expect([main.querySelector('.row'), main.querySelector('#b-aaaa')]).toEqual([row, first]);
});

it('keeps the elements of pictures and of blocks that are the same', () => {
  const [image, who, section] = [main.querySelector('img'), at('who'), main.querySelector('#b-block2')];
  lay([quote, opening('Boats', 'New')]);
  expect([main.querySelector('img'), at('who'), main.querySelector('#b-block2')]).toEqual([image, who, section]);
  expect(main.querySelector('img')).toBe(image);
  expect(at('heading')?.textContent).toBe('Boats');
});

it('leaves the element alone in which somebody types, and draws the rest of its block anew', () => {
  const heading = at('heading') as HTMLElement;
  heading.textContent = 'Lamps on';
  lay([opening('Lamps on the', 'New'), quote], heading);
  expect(at('heading')).toBe(heading);
  expect(heading.textContent).toBe('Lamps on');
  expect(at('kicker')?.textContent).toBe('New');
});

it('keeps the element in which a text was just deleted until somebody is done with it', () => {
  lay([opening('Lamps', 'New'), quote]);
  const kicker = at('kicker') as HTMLElement;
  lay([opening('Lamps', ''), quote], kicker);
  expect(main.contains(kicker)).toBe(true);
  shown.delete('block1');
  lay([opening('Lamps', ''), quote]);
  expect(main.contains(kicker)).toBe(false);
});
