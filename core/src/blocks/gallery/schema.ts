import type { PictureUse } from '../../fields/picture-use.js';
import { choice, line, list, pictureField } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Gallery {
  readonly layout: 'even' | 'first-large' | 'strip';
  readonly items: readonly { readonly picture: PictureUse | null; readonly caption: string }[];
}

export const gallery = defineBlock<Gallery>({
  label: 'Gallery',
  group: 'Show',
  glyph: [['soft', 'M5 4h15v9H5zM22 4h15v9H22zM5 15h9v7H5zM16 15h9v7h-9zM27 15h10v7H27z']],
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { even: 'Even', 'first-large': 'First large', strip: 'Strip' }),
    list(
      'items',
      'Pictures',
      'Picture',
      [2, 24],
      [
        pictureField('picture', 'Picture'),
        line('caption', 'Caption', 200, 'Visible to everyone; put what can’t be seen in the description.'),
      ],
    ),
  ],
  summary: ({ items }) => `${items.filter(({ picture }) => picture).length} pictures`,
});
