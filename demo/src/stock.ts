import { newBlock } from '@domatium/core/document';
import { THEMES } from '@domatium/core/theme';
import { at } from './build.js';
import type { DemoStock } from './scenario.js';

/** What Marrowick Coast has in stock: a desk that is on every landing place, values for it, a winter look of the smokehouse. */
export const stock: readonly DemoStock[] = [
  {
    kind: 'values',
    name: 'Marrowick Coast',
    decided: at(-700, '09:10'),
    from: at(-699),
    until: null,
    content: () => [
      { name: 'phone', value: '75 12 00 31' },
      { name: 'desk hours', value: '07:00 to 19:00, Sundays from 09:00' },
      { name: 'night fare', value: '42' },
    ],
  },
  {
    kind: 'piece',
    name: 'Harbour desk',
    decided: at(-700, '09:20'),
    from: at(-699),
    until: null,
    content: (block) => [
      newBlock('callToAction', block(), {
        heading: 'Ask the harbour desk',
        text: 'Open {desk hours}. Whoever answers has been on the water today.',
        button: { label: 'Call {phone}', target: { kind: 'phone', number: '+4775120031' } },
      }),
    ],
  },
  {
    kind: 'theme',
    name: 'Smoke',
    theme: 'smoke',
    decided: at(-2, '15:30'),
    from: at(6, '00:00'),
    until: at(40, '00:00'),
    content: () => ({
      ...THEMES.smoke,
      label: 'Smoke',
      spacing: 'wide',
      colours: {
        ...THEMES.smoke.colours,
        ground: '#1d2328',
        ink: '#f1ece4',
        quiet: '#b9b2a8',
        tint: '#283038',
        accent: '#f0a35e',
        onAccent: '#1d1a17',
        deep: '#0f1316',
        onDeep: '#f4e9dd',
      },
    }),
  },
];
