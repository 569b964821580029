import type { Button } from '../../fields/fields.js';
import { button, choice, line, list, paragraph } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface Contact {
  readonly layout: 'plain' | 'deep' | 'centred';
  readonly name: string;
  readonly address: string;
  readonly phone: string;
  readonly mail: string;
  readonly legal: string;
  readonly items: readonly { readonly button: Button | null }[];
}

export const contact = defineBlock<Contact>({
  label: 'Contact and legal',
  group: 'Close',
  glyph: [
    ['ink', 'M5 6h12v1.5H5zM5 10h9v1.5H5zM22 6h14v1.5H22z'],
    ['soft', 'M5 18h32v1.5H5z'],
  ],
  example: { name: '‹Company name›', address: '‹Street and place›', legal: '‹Who is responsible for this page.›' },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { plain: 'Plain', deep: 'On dark', centred: 'Centred' }),
    line('name', 'Name', 160),
    paragraph('address', 'Address', 400),
    line('phone', 'Phone', 40, 'With the country code; visitors can call it from the page.'),
    line('mail', 'E-mail address', 200),
    list('items', 'Links', 'Link', [0, 12], [button('button', 'Link')]),
    paragraph(
      'legal',
      'Legal',
      1200,
      'Who is responsible for the page, with the registration number. {year} and {site name} are filled in.',
    ),
  ],
  summary: ({ name }) => name,
});
