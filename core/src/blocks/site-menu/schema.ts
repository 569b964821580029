import { choice, line } from '../fields.js';
import { defineBlock } from '../definition.js';

export interface SiteMenu {
  readonly layout: 'row' | 'folded' | 'list';
  readonly menu: 'main' | 'foot' | 'legal' | 'tree' | 'other';
  readonly name: string;
  readonly heading: string;
}

const NAMES = {
  main: 'Main menu',
  foot: 'Foot menu',
  legal: 'Legal menu',
  tree: 'Page tree',
  other: 'Another, by its name',
};

export const siteMenu = defineBlock<SiteMenu>({
  label: 'Menu of the site',
  group: 'Answer',
  glyph: [
    ['moss', 'M4 5h10v3H4z'],
    ['ink', 'M17 5h8v3h-8zM30 5h8v3h-8z'],
    ['soft', 'M4 11h10v11H4z'],
  ],
  firstHeadings: 0,
  fields: [
    { ...choice('menu', 'Menu', NAMES), help: 'Each site shows its own menu of this name here.' },
    line('name', 'Name of another menu', 40, 'Such as “partners”. Only asked where another menu is chosen.'),
    choice('layout', 'Layout', { row: 'In a row, folded where narrow', folded: 'Always folded', list: 'As a list' }),
    line('heading', 'Heading', 60, 'Above a list; read out of the others.'),
  ],
  summary: ({ heading, menu, name }) => heading || (menu === 'other' ? name : NAMES[menu]),
});
