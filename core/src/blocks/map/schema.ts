import type { Button } from '../../fields/fields.js';
import type { PictureUse } from '../../fields/picture-use.js';
import { placeFrom } from '../../geo/index.js';
import { button, choice, line, list, paragraph, pictureField } from '../fields.js';
import { defineBlock, type BlockFinding } from '../definition.js';

export interface Map {
  readonly layout: 'beside' | 'above' | 'full';
  readonly heading: string;
  readonly address: string;
  readonly place: string;
  /** Metres from the place to the edge of its plan. */
  readonly extent: '500' | '1500' | '5000' | '25000' | '100000';
  readonly landmarks: readonly { readonly name: string; readonly place: string }[];
  readonly picture: PictureUse | null;
  readonly button: Button | null;
}

const unreadable = (field: string, text: string): BlockFinding[] =>
  text.trim() && !placeFrom(text)
    ? [{ severity: 'worth-fixing', code: 'map-place-unreadable', field, params: { text: text.trim() } }]
    : [];

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
    extent: '1500',
  },
  firstHeadings: 0,
  fields: [
    choice('layout', 'Layout', { beside: 'Beside', above: 'Above', full: 'Full width' }),
    line('heading', 'Heading', 200),
    paragraph('address', 'Address', 400),
    line(
      'place',
      'Coordinates',
      80,
      'Like 54.0743, -2.8512. A plan is drawn from them; nothing is loaded from elsewhere.',
    ),
    choice('extent', 'The plan shows', {
      500: '500 m',
      1500: '1.5 km',
      5000: '5 km',
      25000: '25 km',
      100000: '100 km',
    }),
    list(
      'landmarks',
      'Places to find the way by',
      'Place',
      [0, 8],
      [line('name', 'Name', 60, 'A station, a stop, a car park.'), line('place', 'Coordinates', 80)],
    ),
    pictureField('picture', 'Picture of the map', 'Your own picture, in place of the drawn plan.'),
    button('button', 'Link to a map', 'Links to an external map.'),
  ],
  summary: ({ heading, address }) => heading || address,
  findings: ({ place, landmarks }) => [
    ...unreadable('place', place),
    ...landmarks.flatMap((one, n) => unreadable(`landmarks[${n}].place`, one.place)),
  ],
});
