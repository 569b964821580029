import type { PictureUse } from '../../fields/picture-use.js';
import { choice, line, pictureField } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Brand {
  readonly layout: 'name' | 'logo' | 'both';
  readonly logo: PictureUse | null;
  readonly name: string;
}

export const brand = defineBlock<Brand>({
  label: 'Name or logo',
  group: 'Open',
  glyph: [
    ['moss', 'M5 9h8v8H5z'],
    ['ink', 'M17 12h18v3H17z'],
  ],
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { name: 'Name', logo: 'Logo', both: 'Logo and name' }),
    line('name', 'Name', 80, 'Blank: the name of the site.'),
    pictureField('logo', 'Logo'),
  ],
  summary: ({ name, logo }) => name || (logo ? 'Logo' : 'Name of the site'),
});
