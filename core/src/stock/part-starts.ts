import { newBlock } from '../document/page-document.js';
import type { BlockType } from '../fields/names.js';
import type { Button, FieldValues } from '../fields/fields.js';
import { richTextOf } from '../fields/rich-text.js';
import type { PageId } from '../plan/index.js';
import type { Part } from '../fields/types.js';
import { PART_START_WORDS } from '../words/part-starts.js';
import type { PartKind } from './parts.js';

/** What a new part begins with. */
export interface PartStart {
  readonly key: string;
  readonly label: string;
  readonly words: string;
  readonly part: (site: PartSeeds) => Part;
}

/** What is known of the site it is made for. */
export interface PartSeeds {
  readonly newId: () => string;
  /** Pages that menus begin with. */
  readonly pages: readonly { readonly name: string; readonly pageId: PageId }[];
}

const MOST_ENTRIES = 5;

function builder({ newId, pages }: PartSeeds) {
  const block = (type: BlockType, fields: FieldValues = {}) => newBlock(type, newId(), fields);
  const leadsTo = ({ name, pageId }: PartSeeds['pages'][number]): Button => ({
    label: name,
    target: { kind: 'page', pageId },
  });
  const blank = (label: string): Button => ({ label, target: null });
  const entries = pages.length
    ? pages.slice(0, MOST_ENTRIES).map(leadsTo)
    : [1, 2, 3].map(() => blank('‹Where it leads›'));
  return {
    block,
    brand: (layout = 'name') => block('brand', { layout }),
    menu: (layout: 'row' | 'folded' | 'list', heading = '') =>
      block('menu', {
        ...{ layout, heading },
        items: entries.map((button) => ({ button, shownAt: 'everywhere' })),
      } as unknown as FieldValues),
    button: () => block('buttonRow', { items: [{ button: entries[0] ?? blank('‹Act›') }] } as unknown as FieldValues),
    legal: (layout = 'start') => block('legalLine', { layout, words: '© {year} {site name}' }),
    contact: () => block('contact', { name: '‹Who answers›', phone: '‹Phone›', mail: '‹E-mail address›' }),
    text: (words: string) => block('text', { body: richTextOf(words) as never }),
    elsewhere: () =>
      block('profiles', {
        ...{ layout: 'list', heading: 'Elsewhere' },
        items: ['‹A profile›', '‹Another›'].map((label) => ({ button: blank(label) })),
      } as unknown as FieldValues),
    columns: () =>
      block('linkColumns', {
        items: ['Pages', 'More'].flatMap((heading) =>
          entries.map((button, n) => ({ heading: n ? '' : heading, button })),
        ),
      } as unknown as FieldValues),
    countdown: () => block('countdown', { layout: 'band', heading: '‹What ends›', to: 'moment' }),
  };
}

type Build = ReturnType<typeof builder>;
const start = <Kind extends PartKind>(
  kind: Kind,
  key: keyof (typeof PART_START_WORDS)[Kind] & string,
  layout: string,
  blocks: (build: Build) => Part['blocks'],
  more: Omit<Part, 'layout' | 'blocks'> = {},
): PartStart => ({
  ...{
    key,
    ...((PART_START_WORDS[kind] as Record<string, { label: string; words: string }>)[key] as {
      label: string;
      words: string;
    }),
  },
  part: (seeds) => ({ layout, blocks: blocks(builder(seeds)), ...more }),
});

/** The starts there are, the plainest of each kind first. */
export const PART_STARTS: Readonly<Record<PartKind, readonly PartStart[]>> = {
  header: [
    start('header', 'row', 'row', (b) => [b.brand(), b.menu('row')]),
    start('header', 'act', 'row', (b) => [b.brand(), b.menu('row'), b.button()]),
    start('header', 'rows', 'rows', (b) => [b.brand(), b.menu('row')]),
    start('header', 'centred', 'centred', (b) => [b.brand(), b.menu('row')]),
    start('header', 'over', 'over', (b) => [b.brand(), b.menu('row')]),
    start('header', 'folded', 'row', (b) => [b.brand(), b.menu('folded')]),
    start('header', 'name', 'row', (b) => [b.brand()]),
  ],
  footer: [
    start('footer', 'legal', 'row', (b) => [b.legal()]),
    start('footer', 'columns', 'row', (b) => [b.columns(), b.legal()]),
    start('footer', 'contact', 'columns', (b) => [b.contact(), b.menu('list', 'Pages'), b.legal()]),
    start('footer', 'elsewhere', 'columns', (b) => [b.menu('list', 'Pages'), b.elsewhere(), b.legal()]),
    start('footer', 'centred', 'centred', (b) => [b.brand(), b.menu('row'), b.legal('centred')]),
    start('footer', 'about', 'columns', (b) => [
      b.text('‹One sentence on what this is.›'),
      b.menu('list', 'Pages'),
      b.legal(),
    ]),
    start('footer', 'row', 'row', (b) => [b.brand(), b.menu('row')]),
  ],
  band: [
    start('band', 'information', 'information', (b) => [b.text('‹What is new.›')]),
    start('band', 'warning', 'warning', (b) => [b.text('‹What to reckon with.›')], {
      isClosable: true,
    }),
    start('band', 'urgent', 'urgent', (b) => [b.text('‹What happens now.›')], { stays: 'stays' }),
    start('band', 'countdown', 'information', (b) => [b.countdown()]),
    start('band', 'foot', 'information', (b) => [b.text('‹What is new.›')], {
      ...{ place: 'foot', stays: 'stays', isClosable: true },
    }),
  ],
};
