import type { PictureUse } from '../../fields/picture-use.js';
import { choice, line, list, pictureField } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Logos {
  readonly layout: 'plain' | 'centred' | 'banded';
  readonly heading: string;
  readonly items: readonly { readonly picture: PictureUse | null; readonly name: string }[];
}

export const logos = defineBlock<Logos>({
  label: 'Logos',
  group: 'Prove',
  glyph: [['soft', 'M5 10h6v6H5zM14 10h6v6h-6zM23 10h6v6h-6zM32 10h5v6h-5z']],
  example: { heading: '‹Together with›', items: [1, 2, 3].map(() => ({ picture: null, name: '‹Name›' })) },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { plain: 'Plain', centred: 'Centred', banded: 'On tint' }),
    line('heading', 'Heading', 200),
    list(
      'items',
      'Logos',
      'Logo',
      [2, 16],
      [pictureField('picture', 'Logo'), line('name', 'Name, if there is no logo', 80, 'Set in the page’s typeface.')],
    ),
  ],
  summary: ({ heading, items }) => heading || items.map(({ name }) => name).join(' · '),
});
