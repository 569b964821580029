import { escapeText } from '../html/index.js';

/** An entry of a menu, or a page of the page tree, as visitors get it at an instant. */
export interface NavEntry {
  /** The page it leads to, `null` of what leads to no page of ours. */
  readonly id: number | null;
  readonly label: string;
  /** `null` of a heading, which leads nowhere. */
  readonly href: string | null;
  readonly shownAt?: 'wide' | 'narrow';
  /** It is in the tree and in no menu. */
  readonly isHidden?: true;
  readonly entries?: readonly NavEntry[];
}

/**
 * The ways through a site: its menus by name, and its page tree. It is a part of the frame, apart from what is shown of it:
 * pages and parts say where a menu, the way up and the neighbours stand, and are filled in where they are put together.
 */
export interface Nav {
  /** The name of the site and where its home page lies, which is above all others. */
  readonly home: { readonly label: string; readonly href: string } | null;
  readonly tree: readonly NavEntry[];
  /** Entries of each menu; of one by the tree how many levels of it. */
  readonly menus: Readonly<Record<string, readonly NavEntry[] | 1 | 2 | 3>>;
}

/** What asks for ways: a menu by its name, the way up to the page or to what is above it, the pages beside it. */
export type NavAsked = `menu ${string}` | 'way page' | 'way above' | 'beside';

const OPEN = '<!--~nav ';
const MARKED = /<!--~nav (menu|way|beside)(?: ([a-z0-9-]+))?-->([\s\S]*?)<!--~\/nav-->/g;
const ENTRIES = /<!--~entries( folded)?-->/g;
const SIDE = /<!--~(previous|next)-->([\s\S]*?)<!--~\/\1-->/g;

/** HTML that stands there only where there is something to show; `entriesMark` or `sideMarks` within say where. */
export const navMarks = (asked: NavAsked, inside: string): string => `${OPEN}${asked}-->${inside}<!--~/nav-->`;
/** Where entries come in a list; with `isFolded` those below an entry open by themselves. */
export const entriesMark = (isFolded = false): string => `<!--~entries${isFolded ? ' folded' : ''}-->`;
/** Where a neighbour comes, with what stands beside its name. */
export const sideMarks = (side: 'previous' | 'next', inside: string): string =>
  `<!--~${side}-->${inside}<!--~/${side}-->`;

export const asksForNav = (text: string): boolean => text.includes(OPEN);

/**
 * A text with its ways filled in as they are on a page. What has nothing to show goes with all that stands around it.
 */
export function fillNav(text: string, nav: Nav | null, pageId: number | null): string {
  if (!asksForNav(text)) return text;
  return text.replace(MARKED, (_, what: string, name: string | undefined, inside: string) => {
    if (!nav) return '';
    if (what === 'beside') return besideHtml(inside, nav, pageId);
    const entries = what === 'menu' ? menuEntries(nav, name ?? '') : wayUp(nav, pageId, name === 'above');
    if (!entries.length) return '';
    return inside.replace(ENTRIES, (__, folded: string | undefined) =>
      what === 'way' ? wayHtml(entries, pageId) : listHtml(entries, pageId, folded !== undefined),
    );
  });
}

/** What is in a menu, hidden pages of the tree left out. */
export function menuEntries({ menus, tree }: Nav, name: string): readonly NavEntry[] {
  const held = Object.hasOwn(menus, name) ? menus[name] : undefined;
  return typeof held === 'number' ? levelsOf(tree, held) : (held ?? []);
}

function levelsOf(entries: readonly NavEntry[], levels: number): NavEntry[] {
  return entries.flatMap(({ entries: below, ...entry }) => {
    if (entry.isHidden) return [];
    const shown = levels > 1 && below ? levelsOf(below, levels - 1) : [];
    return [shown.length ? { ...entry, entries: shown } : entry];
  });
}

/** Where a page lies in the tree: what is above it, itself last. */
function pathTo(entries: readonly NavEntry[], pageId: number): NavEntry[] | null {
  for (const entry of entries) {
    if (entry.id === pageId) return [entry];
    const below = entry.entries && pathTo(entry.entries, pageId);
    if (below) return [entry, ...below];
  }
  return null;
}

function wayUp({ tree, home }: Nav, pageId: number | null, isAbove: boolean): NavEntry[] {
  const path = pageId === null ? null : pathTo(tree, pageId);
  if (!path) return [];
  const whole = home && path[0]?.href !== home.href ? [{ id: null, ...home }, ...path] : path;
  // The home page is above everything: nothing leads up from it.
  if (whole.length < 2) return [];
  return (isAbove ? whole.slice(0, -1) : whole).map(({ id, label, href }) => ({ id, label, href }));
}

function besideHtml(inside: string, { tree }: Nav, pageId: number | null): string {
  const path = pageId === null ? null : pathTo(tree, pageId);
  const siblings = path ? (path.at(-2)?.entries ?? tree) : [];
  const at = siblings.findIndex(({ id }) => id === pageId);
  const sides = { previous: siblings[at - 1], next: at < 0 ? undefined : siblings[at + 1] };
  if (!sides.previous && !sides.next) return '';
  return inside.replace(SIDE, (_, side: 'previous' | 'next', words: string) => {
    const entry = sides[side];
    if (!entry?.href) return '';
    const rel = side === 'previous' ? 'prev' : 'next';
    return `<a rel="${rel}" class="is-${side}" href="${escapeText(entry.href)}">${words}<span>${escapeText(entry.label)}</span></a>`;
  });
}

function listHtml(entries: readonly NavEntry[], pageId: number | null, isFolded: boolean): string {
  return entries.map((entry) => entryHtml(entry, pageId, isFolded)).join('');
}

/** The way up, which search engines read as such: microdata of schema.org's `BreadcrumbList`. */
function wayHtml(entries: readonly NavEntry[], pageId: number | null): string {
  return entries
    .map(({ id, label, href }, index) => {
      const name = `<span itemprop="name">${escapeText(label)}</span>`;
      const link =
        href === null ? name : `<a itemprop="item" href="${escapeText(href)}"${currentMark(id, pageId)}>${name}</a>`;
      return `<li itemprop="itemListElement" itemscope itemtype="https://schema.org/ListItem">${link}<meta itemprop="position" content="${index + 1}"></li>`;
    })
    .join('');
}

const currentMark = (id: number | null, pageId: number | null) =>
  id !== null && id === pageId ? ' aria-current="page"' : '';

function entryHtml(entry: NavEntry, pageId: number | null, isFolded: boolean): string {
  const { id, label, href, shownAt, entries = [] } = entry;
  const words = escapeText(label);
  const link = href === null ? '' : `<a href="${escapeText(href)}"${currentMark(id, pageId)}><span>${words}</span></a>`;
  const below = entries.length ? `<ul>${listHtml(entries, pageId, isFolded)}</ul>` : '';
  const opened = `<details class="menu-below"><summary${link ? ` aria-label="Below ${words}"` : ''}>${link ? '' : words}</summary>${below}</details>`;
  const plain = `${link ? '' : `<span class="menu-head">${words}</span>`}${below}`;
  return `<li${shownAt ? ` class="only-${shownAt}"` : ''}>${link}${below && isFolded ? opened : plain}</li>`;
}

const idsOf = (entries: readonly NavEntry[]): number[] =>
  entries.flatMap(({ id, entries: below = [] }) => [...(id === null ? [] : [id]), ...idsOf(below)]);

/** Pages that any of the menus shows. */
export const pagesInMenus = (nav: Nav): number[] =>
  Object.keys(nav.menus).flatMap((name) => idsOf(menuEntries(nav, name)));

/** Every page that has a place in them: around all others they are the same. */
export function pagesIn({ tree, menus }: Nav): number[] {
  const lists = Object.values(menus).filter((held) => typeof held !== 'number');
  return [...idsOf(tree), ...lists.flatMap(idsOf)];
}

/** Those that were read last: the same stands around every page of a site. */
const read = new Map<string, Nav>();
const MOST_READ = 64;

/** As it is kept in a frame. */
export function navFromText(text: string): Nav | null {
  if (!text) return null;
  const known = read.get(text);
  if (known) return known;
  const nav = JSON.parse(text) as Nav;
  if (read.size >= MOST_READ) read.clear();
  read.set(text, nav);
  return nav;
}
