import { at, build, life } from './build.js';
import type { DemoPage, DemoPart } from './scenario.js';

/** What every site has to have: one page for all of them, or one of each. */
const FOR_ALL: readonly (readonly [key: string, name: string, path: string, lead: string, ...prose: string[]])[] = [
  [
    'imprint',
    'Imprint',
    '/imprint',
    'Who is behind these pages, and how to reach us.',
    'Marrowick Coast, Harbour Square 1, Marrowick. Entered in the register of the harbour court under number 114. The harbour desk answers every day from seven to seven.',
    'Responsible for what is written here: Ingrid Vale.',
  ],
  [
    'privacy',
    'Privacy',
    '/privacy',
    'What we keep of you when you look at a page, and when you book a boat or a bed.',
    'A page counts that it was looked at, and nothing of who looked. It sets no cookie and loads nothing from elsewhere.',
    'What you write on a form is kept until your journey is over, and then for as long as the law says.',
  ],
  [
    'accessibility',
    'Accessibility',
    '/accessibility',
    'How these pages and our boats can be used by everybody, and whom to tell where they can’t.',
    'Pages can be read with a keyboard, a screen reader and at any size. Where one can’t, tell the harbour desk; it is mended within the week.',
    'Every boat has a lower ramp. Ring the bell at the landing and wait for the crew.',
  ],
];

const HOUSES: readonly (readonly [site: string, what: string])[] = [
  ['ferries', 'a crossing'],
  ['lantern', 'a room'],
  ['tide', 'a seat or the hall'],
  ['sail', 'a week on the water'],
  ['smoke', 'a table'],
  ['pass', 'a pass'],
];

const legal = (
  site: string,
  name: string,
  path: string,
  lead: string,
  prose: readonly string[],
  until: number | null = null,
) =>
  build(site, {
    ...{ name, path, lead, prose, kicker: 'In plain words', heading: name, picture: null, layout: 'stacked' },
    ...{ visits: 3, drift: 0, owner: 'ingrid.vale@marrowick.example', lives: [life(-420, until)] },
  });

/** Legal pages of Marrowick Coast: the terms of one house end in three weeks, and nobody has noticed yet. */
export const coastLegalPages = (): DemoPage[] => [
  ...FOR_ALL.map(([, name, path, lead, ...prose]) => legal('ferries', name, path, lead, prose)),
  ...HOUSES.map(([site, what]) =>
    legal(
      site,
      `Terms, ${site}`,
      '/terms',
      `What holds where you book ${what} with us.`,
      [
        `Whoever books ${what} may cancel free of charge until the day before. Later we keep a third.`,
        'Where weather keeps us from what was promised, you get all of it back, or the same on another day.',
      ],
      site === 'tide' ? 21 : null,
    ),
  ),
];

export const orchardLegalPages = (): DemoPage[] => [
  legal('orchard', 'Imprint', '/imprint', 'Who keeps the orchard.', [
    'Nine Mile Orchard, Petra Oakes, Old Lane 9. The gate is open from Thursday to Sunday.',
  ]),
  legal('orchard', 'Privacy', '/privacy', 'What we keep of you.', [
    'A page counts that it was looked at, and nothing of who looked. Orders are kept for as long as the law says.',
  ]),
];

const always = { decided: at(-60, '10:05'), from: at(-59), until: null } as const;

/** Which legal pages are wanted, and those of each house; the storm desk sells nothing and names no terms. */
export const coastLegal: readonly DemoPart[] = [
  {
    ...always,
    kind: 'legal',
    name: 'Legal pages, All sites',
    content: (ids) => [
      ...FOR_ALL.map(([key, name]) => ({ key, name, pageId: ids.page(`ferries/${name}`) as never })),
      { key: 'terms', name: 'Terms', pageId: null },
    ],
  },
  ...HOUSES.map(([site]): DemoPart => ({
    ...always,
    kind: 'legal',
    name: `Legal pages, ${site}`,
    site,
    content: (ids) => [{ key: 'terms', name: '', pageId: ids.page(`${site}/Terms, ${site}`) as never }],
  })),
];

export const orchardLegal: readonly DemoPart[] = [
  {
    ...always,
    kind: 'legal',
    name: 'Legal pages, All sites',
    content: (ids) =>
      ['Imprint', 'Privacy'].map((name) => ({
        ...{ key: name.toLowerCase(), name },
        pageId: ids.page(`orchard/${name}`) as never,
      })),
  },
];
