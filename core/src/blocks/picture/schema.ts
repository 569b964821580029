import type { PictureUse } from '../../fields/picture-use.js';
import { choice, line, pictureField } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Picture {
  readonly picture: PictureUse | null;
  readonly caption: string;
  readonly width: 'page' | 'narrow' | 'full';
}

export const picture = defineBlock<Picture>({
  label: 'Picture',
  group: 'Show',
  glyph: [
    ['soft', 'M5 4h32v18H5z'],
    ['ink', 'm9 20 8-9 6 6 4-4 6 7z'],
  ],
  firstHeadings: 0,
  fields: [
    pictureField('picture', 'Picture'),
    line('caption', 'Caption', 300, 'Visible to everyone; put what can’t be seen in the description.'),
    choice('width', 'Width', { page: 'Page', narrow: 'As wide as text', full: 'Full' }),
  ],
  summary: ({ caption, picture: use }) => caption || use?.description || '',
});
