import type { Button } from '../../fields/fields.js';
import type { PictureUse } from '../../fields/picture-use.js';
import { button, choice, line, paragraph, pictureField } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Map {
  readonly layout: 'beside' | 'above' | 'full';
  readonly heading: string;
  readonly address: string;
  readonly picture: PictureUse | null;
  readonly button: Button | null;
}

export const map = defineBlock<Map>({
  label: 'Map',
  group: 'Answer',
  glyph: [
    ['soft', 'M5 4h22v18H5z'],
    ['moss', 'M14 9h4v6h-4z'],
    ['ink', 'M30 8h7v1.5h-7zM30 12h5v1.5h-5z'],
  ],
  example: {
    heading: '‹How to find us›',
    address: '‹Street and place›',
    button: { label: '‹Open the map›', target: null },
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { beside: 'Beside', above: 'Above', full: 'Full width' }),
    line('heading', 'Heading', 200),
    paragraph('address', 'Address', 400),
    pictureField('picture', 'Picture of the map', 'Your own picture: no external map is loaded.'),
    button('button', 'Link to a map', 'Links to an external map.'),
  ],
  summary: ({ heading, address }) => heading || address,
});
