import { newBlock, type Block } from '@domatium/core/document';
import type { PageId } from '@domatium/core/plan';
import { at } from './build.js';
import type { MenuEntry, Menu } from '@domatium/core/stock';
import { coastLegal, orchardLegal } from './legal.js';
import { coastCodes, coastRoot } from './codes.js';
import { coastMetadata } from './metadata.js';
import type { DemoPage, DemoPart, DemoPartIds } from './scenario.js';

/** Entries of menus: what stands there, and the page by its key. */
type Entries = readonly (readonly [label: string, page: string])[];

const entries = (all: Entries, ids: DemoPartIds) =>
  all.flatMap(([label, key]) => {
    const pageId = ids.page(key);
    return pageId === null
      ? []
      : [
          {
            button: { label, target: { kind: 'page' as const, pageId: pageId as PageId } },
            shownAt: 'everywhere' as const,
          },
        ];
  });

const always = { decided: at(-60, '10:20'), from: at(-59), until: null } as const;
const NOTHING = { header: null, footer: null, bands: null, isLocked: false } as const;

const siteMenu = (ids: DemoPartIds, menu: string, more: object = {}): Block =>
  newBlock('siteMenu', ids.block(), { menu, ...more } as never);

/**
 * The page tree of a site: what its main menu shows comes first, and below it what lies below it; all other pages have
 * their place too and are in no menu.
 */
function treeOf(site: string, menu: Entries, pages: readonly DemoPage[], ids: DemoPartIds): MenuEntry[] {
  const shown = menu.filter(([, key]) => key.startsWith(`${site}/`));
  const pathOf = (key: string) => pages.find((page) => page.key === key)?.path ?? '/';
  const rest = pages.filter(
    (page) =>
      page.site === site && page.role === 'ordinary' && page.path !== '/' && !shown.some(([, key]) => key === page.key),
  );
  const entryOf = (key: string, label: string, entries: MenuEntry[], isHidden: boolean): MenuEntry[] => {
    const pageId = ids.page(key);
    const entry = { kind: 'page' as const, pageId: pageId as PageId, label, entries };
    return pageId === null ? entries : [isHidden ? { ...entry, isHidden } : entry];
  };
  const isBelow = (page: DemoPage, path: string) => path !== '/' && page.path.startsWith(`${path}/`);
  const tops = shown.map(([, key]) => pathOf(key));
  return [
    ...shown.flatMap(([label, key]) =>
      entryOf(
        key,
        label,
        rest.filter((page) => isBelow(page, pathOf(key))).flatMap((page) => entryOf(page.key, '', [], false)),
        false,
      ),
    ),
    ...rest
      .filter((page) => !tops.some((path) => isBelow(page, path)))
      .flatMap((page) => entryOf(page.key, '', [], true)),
  ];
}

/** A header of a site with its menu by the page tree, and that it stands there. */
function headerOf(
  site: string,
  name: string,
  layout: string,
  menu: Entries,
  pages: readonly DemoPage[],
  isLocked = false,
): DemoPart[] {
  const blocks = (ids: DemoPartIds): Block[] => [newBlock('brand', ids.block(), {}), siteMenu(ids, 'main')];
  const menuOf = (key: string, label: string, content: (ids: DemoPartIds) => Menu): DemoPart => ({
    ...always,
    ...{ kind: 'menu', key, name: `${label}, ${name}`, site, content },
  });
  // What lies on other sites is put behind by hand.
  const outside = menu.filter(([, key]) => !key.startsWith(`${site}/`));
  const main = (ids: DemoPartIds): Menu =>
    outside.length
      ? {
          ...{ by: 'hand', levels: 1 },
          entries: menu.flatMap(([label, key]): MenuEntry[] => {
            const pageId = ids.page(key);
            return pageId === null ? [] : [{ kind: 'page', pageId: pageId as PageId, label, entries: [] }];
          }),
        }
      : { by: 'tree', levels: 1, entries: [] };
  return [
    menuOf('tree', 'Page tree', (ids) => ({ by: 'hand', levels: 3, entries: treeOf(site, menu, pages, ids) })),
    menuOf('main', 'Main menu', main),
    menuOf('legal', 'Legal menu', () => ({ by: 'legal', levels: 1, entries: [] })),
    { ...always, kind: 'header', name: `${name} header`, content: (ids) => ({ layout, blocks: blocks(ids) }) },
    {
      ...always,
      kind: 'standing',
      name,
      site,
      content: (ids) => ({ ...NOTHING, header: ids.part(`${name} header`), isLocked }),
    },
  ];
}

const linkColumns = (ids: DemoPartIds, columns: Readonly<Record<string, Entries>>) =>
  newBlock('linkColumns', ids.block(), {
    items: Object.entries(columns).flatMap(([heading, all]) =>
      entries(all, ids).map(({ button }, n) => ({ heading: n ? '' : heading, button })),
    ),
  } as never);

const profile = (label: string, icon: string, url: string) => ({
  button: { label, icon, target: { kind: 'outside', url } },
});

const FERRIES: Entries = [
  ['Timetable', 'ferries/Winter timetable'],
  ['Night crossing', 'ferries/Midwinter crossing'],
  ['Gift vouchers', 'ferries/Gift vouchers'],
  ['Storm desk', 'storm/Storm desk'],
];

/** What stands around the pages of Marrowick Coast: a header a site, one footer for all, a storm band that comes and goes. */
export const coastFrames = (pages: readonly DemoPage[]): DemoPart[] => [
  ...coastLegal,
  ...coastMetadata,
  ...coastCodes,
  ...coastRoot,
  {
    ...always,
    kind: 'footer',
    name: 'Coast footer',
    content: (ids) => ({
      layout: 'columns',
      blocks: [
        linkColumns(ids, {
          'On the coast': [
            ['Ferries', 'ferries/Marrowick ferries'],
            ['Lantern House', 'lantern/Lantern House'],
            ['Tide Hall', 'tide/Tide Hall'],
            ['Skerrow Sail', 'sail/Skerrow Sail'],
            ['Kelp & Smoke', 'smoke/Kelp & Smoke'],
            ['Island pass', 'pass/Island pass 2027'],
          ],
          'When it blows': [
            ['Storm desk', 'storm/Storm desk'],
            ['What force eight means', 'storm/What force eight means'],
            ['After a cancelled boat', 'storm/Claims after a cancelled boat'],
          ],
          'Work and press': [
            ['Crew wanted', 'crew/Crew wanted'],
            ['Press visits', 'ferries/Press visits'],
            ['School crossings', 'tide/School crossings'],
          ],
        }),
        siteMenu(ids, 'legal', { layout: 'list', heading: 'In plain words' }),
        newBlock('profiles', ids.block(), {
          ...{ layout: 'signs', heading: 'Marrowick Coast elsewhere' },
          items: [
            profile('Pictures of the coast', 'camera', 'https://pictures.example/marrowick-coast'),
            profile('Films from the boats', 'film', 'https://films.example/marrowick-coast'),
            profile('The coast in letters', 'letter', 'https://letters.example/marrowick-coast'),
          ],
        } as never),
        newBlock('legalLine', ids.block(), { words: '© {year} Marrowick Coast · Harbour desk {phone}' }),
      ],
    }),
  },
  {
    kind: 'band',
    name: 'Storm, no night boats',
    decided: at(0, '07:40'),
    from: at(2, '06:00'),
    until: at(3, '12:00'),
    content: (ids) => ({
      layout: 'urgent',
      blocks: [
        newBlock('legalLine', ids.block(), {
          layout: 'centred',
          words: 'Storm warning until noon: night boats stay in harbour.',
          items: entries([['Storm desk', 'storm/Storm desk']], ids).map(({ button }) => ({ button })),
        }),
      ],
    }),
  },
  {
    ...always,
    kind: 'standing',
    name: 'All sites',
    content: (ids) => ({
      ...NOTHING,
      footer: ids.part('Coast footer'),
      bands: [ids.part('Storm, no night boats') ?? 0],
    }),
  },
  ...headerOf('ferries', 'Ferries', 'row', FERRIES, pages),
  // The winter menu, for three weeks.
  {
    kind: 'header',
    name: 'Ferries header',
    decided: at(-1, '14:05'),
    from: at(3, '00:00'),
    until: at(24, '00:00'),
    content: (ids) => ({
      layout: 'row',
      blocks: [
        newBlock('brand', ids.block(), { name: 'Marrowick in winter' }),
        newBlock('menu', ids.block(), {
          items: entries([...FERRIES, ['New Year boat', 'ferries/New Year boat']], ids),
        }),
      ],
    }),
  },
  ...headerOf(
    'lantern',
    'Lantern House',
    'centred',
    [
      ['Rooms', 'lantern/Lantern House rooms'],
      ['Supper at seven', 'lantern/Supper at seven'],
      ['Weddings', 'lantern/Weddings'],
    ],
    pages,
  ),
  ...headerOf(
    'tide',
    'Tide Hall',
    'row',
    [
      ['Quay No. 4', 'tide/Quay No. 4 residency'],
      ['For schools', 'tide/School crossings'],
      ['Hire the hall', 'tide/Hire the hall'],
    ],
    pages,
  ),
  ...headerOf(
    'sail',
    'Skerrow Sail',
    'row',
    [
      ['First week', 'sail/First week 2027'],
      ['Juniors', 'sail/Juniors 2027'],
      ['Night sailing', 'sail/Night sailing 2027'],
    ],
    pages,
  ),
  ...headerOf(
    'smoke',
    'Kelp & Smoke',
    'row',
    [
      ['This week', 'smoke/Menu, week 49'],
      ['Next week', 'smoke/Menu, week 50'],
      ['Book a table', 'smoke/Book a table'],
    ],
    pages,
  ),
  ...headerOf(
    'pass',
    'Island pass',
    'row',
    [
      ['How it works', 'pass/How the pass works'],
      ['For schools', 'pass/Pass for schools'],
      ['As a gift', 'pass/Pass as a gift'],
    ],
    pages,
  ),
  // Where safety is concerned nobody chooses otherwise.
  ...headerOf(
    'storm',
    'Storm desk',
    'row',
    [
      ['Storm desk', 'storm/Storm desk'],
      ['What force eight means', 'storm/What force eight means'],
      ['After a cancelled boat', 'storm/Claims after a cancelled boat'],
    ],
    pages,
    true,
  ),
  // A page that is to lead to one act has no menu that leads away from it.
  {
    ...always,
    kind: 'standing',
    name: 'Landing pages',
    key: 'label:landing',
    content: () => ({ ...NOTHING, header: 'name' }),
  },
];

const orchardFooter: readonly DemoPart[] = [
  {
    ...always,
    kind: 'footer',
    name: 'Orchard footer',
    content: (ids) => ({
      layout: 'row',
      blocks: [
        newBlock('legalLine', ids.block(), { words: '© {year} {site name}' }),
        siteMenu(ids, 'legal', { layout: 'list' }),
      ],
    }),
  },
  {
    ...always,
    kind: 'standing',
    name: 'All sites',
    content: (ids) => ({ ...NOTHING, footer: ids.part('Orchard footer') }),
  },
];

/** What stands around the pages of Nine Mile Orchard. */
export const orchardFrames = (pages: readonly DemoPage[]): DemoPart[] => [
  ...orchardLegal,
  ...headerOf(
    'orchard',
    'Nine Mile Orchard',
    'row',
    [
      ['Adopt a tree', 'orchard/Adopt a tree'],
      ['Winter cider', 'orchard/Winter cider'],
      ['Find us', 'orchard/Find us'],
    ],
    pages,
  ),
  ...orchardFooter,
];
