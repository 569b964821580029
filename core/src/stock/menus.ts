import { typedTarget } from '../fields/link.js';
import { isRecord, type Fault, type Result } from '../fields/result.js';
import type { Nav, NavEntry } from '../frame/index.js';
import type { PageId } from '../plan/index.js';
import { wrong } from '../words/faults.js';

/** What every site can have by a name of its own; any other name is a menu too. `tree` is its page tree. */
export const MENU_NAMES = ['tree', 'main', 'foot', 'legal'] as const;
const NAME = /^[a-z0-9](?:[a-z0-9-]{0,38}[a-z0-9])?$/;
export const isMenuName = (name: string): boolean => NAME.test(name);

/** One entry of a menu, or one page of the page tree. */
export type MenuEntry = {
  /** Blank: the title of its page. */
  readonly label: string;
  /** Shown in no menu, with all that is below it. */
  readonly isHidden?: true;
  readonly shownAt?: 'wide' | 'narrow';
  readonly entries: readonly MenuEntry[];
} & (
  | { readonly kind: 'page'; readonly pageId: PageId }
  | { readonly kind: 'outside'; readonly url: string }
  | { readonly kind: 'heading' }
);

/** A menu of a site: by the page tree to a level, of the legal pages that its portfolio wants, or by hand. */
export interface Menu {
  readonly by: 'hand' | 'tree' | 'legal';
  readonly levels: 1 | 2 | 3;
  readonly entries: readonly MenuEntry[];
}

export const MENU_LEVELS = 3;
/** More than anybody reads; a page tree of a large site. */
export const MOST_MENU_ENTRIES = 2_000;
const LONGEST_LABEL = 80;
const BY = ['hand', 'tree', 'legal'];

/** A menu from JSON: to three levels, at most 2,000 entries in all. */
export function menuFromJSON(json: unknown): Result<Menu> {
  const { by, levels, entries } = isRecord(json) ? json : {};
  const faults: Fault[] = [];
  if (!BY.includes(String(by))) faults.push({ path: 'by', ...wrong('option-unknown') });
  if (levels !== 1 && levels !== 2 && levels !== MENU_LEVELS)
    faults.push({ path: 'levels', ...wrong('option-unknown') });
  const read = entriesFromJSON(entries, 'entries', 1, faults);
  if (countEntries(read) > MOST_MENU_ENTRIES)
    faults.push({ path: 'entries', ...wrong('menu-entries', { most: MOST_MENU_ENTRIES }) });
  return faults.length ? { ok: false, faults } : { ok: true, value: { by, levels, entries: read } as Menu };
}

export const countEntries = (entries: readonly MenuEntry[]): number =>
  entries.reduce((count, one) => count + 1 + countEntries(one.entries), 0);

const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');

function entriesFromJSON(json: unknown, path: string, level: number, faults: Fault[]): MenuEntry[] {
  if (!Array.isArray(json) || json.length > MOST_MENU_ENTRIES) {
    faults.push({ path, ...wrong(Array.isArray(json) ? 'menu-entries' : 'not-a-list', { most: MOST_MENU_ENTRIES }) });
    return [];
  }
  if (json.length && level > MENU_LEVELS) {
    faults.push({ path, ...wrong('menu-levels', { most: MENU_LEVELS }) });
    return [];
  }
  return json.map((one: unknown, n) => entryFromJSON(one, `${path}[${n}]`, level, faults));
}

function entryFromJSON(json: unknown, path: string, level: number, faults: Fault[]): MenuEntry {
  const { kind, label, pageId, url, isHidden, shownAt, entries } = isRecord(json) ? json : {};
  if (typeof label !== 'string' || label.length > LONGEST_LABEL)
    faults.push({ path: `${path}.label`, ...wrong('at-most-characters', { most: LONGEST_LABEL }) });
  else if (kind !== 'page' && !label.trim()) faults.push({ path: `${path}.label`, ...wrong('menu-label') });
  if (shownAt !== undefined && shownAt !== 'wide' && shownAt !== 'narrow')
    faults.push({ path: `${path}.shownAt`, ...wrong('option-unknown') });
  const all = {
    ...{
      label: textOf(label).trim(),
      entries: entriesFromJSON(entries ?? [], `${path}.entries`, level + 1, faults),
    },
    ...(isHidden === true ? { isHidden: true as const } : {}),
    ...(shownAt === undefined ? {} : { shownAt: shownAt as 'wide' | 'narrow' }),
  };
  if (kind === 'heading') return { kind, ...all };
  if (kind === 'outside') {
    const target = typedTarget('outside', textOf(url));
    if ('code' in target) faults.push({ path: `${path}.url`, ...target });
    return { kind, url: 'url' in target ? target.url : '', ...all };
  }
  if (kind !== 'page' || !Number.isSafeInteger(pageId)) faults.push({ path, ...wrong('menu-page') });
  return { kind: 'page', pageId: pageId as PageId, ...all };
}

/** What is wrong with a menu by its name: a page has one place in the tree, and the tree follows nothing. */
export function menuFaults(name: string, menu: Menu): Fault[] {
  if (name !== 'tree') return [];
  const faults: Fault[] = menu.by === 'hand' ? [] : [{ path: 'by', ...wrong('menu-loop') }];
  const seen = new Set<number>();
  const walk = (entries: readonly MenuEntry[], path: string): void =>
    entries.forEach((entry, n) => {
      const at = `${path}[${n}]`;
      if (entry.kind !== 'page') faults.push({ path: at, ...wrong('menu-tree-pages') });
      else if (seen.has(entry.pageId)) faults.push({ path: at, ...wrong('menu-page-twice') });
      else seen.add(entry.pageId);
      walk(entry.entries, `${at}.entries`);
    });
  walk(menu.entries, 'entries');
  return faults;
}

/** Pages of entries and of all below them. */
export const pagesOfEntries = (entries: readonly MenuEntry[]): PageId[] =>
  entries.flatMap((entry) => [...(entry.kind === 'page' ? [entry.pageId] : []), ...pagesOfEntries(entry.entries)]);

/** A menu that leads to other pages. */
export function mapMenu(menu: Menu, pageOf: (id: PageId) => PageId): Menu {
  const mapped = (entries: readonly MenuEntry[]): MenuEntry[] =>
    entries.map((entry) => ({
      ...(entry.kind === 'page' ? { ...entry, pageId: pageOf(entry.pageId) } : entry),
      entries: mapped(entry.entries),
    }));
  return { ...menu, entries: mapped(menu.entries) };
}

/** A kind of legal page: wanted by a portfolio on every site, or the page of a site that is it. */
export interface LegalPage {
  /** `imprint`, `privacy` or any other name of the same form. */
  readonly key: string;
  /** What menus call it; blank on a site, where the portfolio says it. */
  readonly name: string;
  /** Of a portfolio the one page for all its sites, `null` where each has its own; of a site its page. */
  readonly pageId: PageId | null;
}

const MOST_LEGAL = 20;

/** Legal pages from JSON: at most 20, each kind once. */
export function legalFromJSON(json: unknown): Result<readonly LegalPage[]> {
  if (!Array.isArray(json) || json.length > MOST_LEGAL)
    return { ok: false, faults: [{ path: 'legal', ...wrong('legal-count', { most: MOST_LEGAL }) }] };
  const faults: Fault[] = [];
  const seen = new Set<string>();
  const pages = json.map((one: unknown, n): LegalPage => {
    const { key, name, pageId = null } = isRecord(one) ? one : {};
    const path = `legal[${n}]`;
    if (typeof key !== 'string' || !isMenuName(key)) faults.push({ path: `${path}.key`, ...wrong('legal-key') });
    else if (seen.has(key)) faults.push({ path: `${path}.key`, ...wrong('legal-twice') });
    seen.add(String(key));
    if (typeof name !== 'string' || name.length > LONGEST_LABEL)
      faults.push({ path: `${path}.name`, ...wrong('at-most-characters', { most: LONGEST_LABEL }) });
    if (pageId !== null && !Number.isSafeInteger(pageId)) faults.push({ path, ...wrong('menu-page') });
    return { key: String(key), name: textOf(name).trim(), pageId: pageId as PageId | null };
  });
  return faults.length ? { ok: false, faults } : { ok: true, value: pages };
}

/** The legal pages of a site: what its portfolio wants, each with the page that is it there, `null` where none is named. */
export const legalOn = (wanted: readonly LegalPage[], own: readonly LegalPage[]): LegalPage[] =>
  wanted.map(({ key, name, pageId }) => ({
    ...{ key, name },
    pageId: pageId ?? own.find((one) => one.key === key)?.pageId ?? null,
  }));

/** What a site's ways are made of, as it holds at an instant. */
export interface HeldMenus {
  readonly menus: readonly { readonly name: string; readonly menu: Menu }[];
  readonly legal: readonly LegalPage[];
  /** The site's name and where its home page lies. */
  readonly home: Nav['home'];
}

/** A page that is live: what it is called and where it lies; `null` of one that is not. */
export type LivePage = (id: PageId) => { readonly title: string; readonly href: string } | null;

/** Pages that are asked about by `navOf`. */
export const pagesOfMenus = ({ menus, legal }: HeldMenus): PageId[] => [
  ...new Set([
    ...menus.flatMap(({ menu }) => pagesOfEntries(menu.entries)),
    ...legal.flatMap(({ pageId }) => pageId ?? []),
  ]),
];

/**
 * The ways through a site at an instant, `null` where it has none. A page that is not live is left out; what is below it
 * comes up to its place.
 */
export function navOf({ menus, legal, home }: HeldMenus, live: LivePage): Nav | null {
  if (!menus.length) return null;
  const entriesOf = (entries: readonly MenuEntry[], isTree: boolean): NavEntry[] =>
    entries.flatMap((entry): NavEntry[] => {
      if (entry.isHidden && !isTree) return [];
      const below = entriesOf(entry.entries, isTree);
      const page = entry.kind === 'page' ? live(entry.pageId) : null;
      if (entry.kind === 'page' && !page) return below;
      if (entry.kind === 'heading' && !below.length) return [];
      const href = page?.href ?? (entry.kind === 'outside' ? entry.url : null);
      return [
        {
          ...{ id: entry.kind === 'page' ? entry.pageId : null, label: entry.label || (page?.title ?? ''), href },
          ...(entry.shownAt ? { shownAt: entry.shownAt } : {}),
          ...(entry.isHidden ? { isHidden: true as const } : {}),
          ...(below.length ? { entries: below } : {}),
        },
      ];
    });
  const legalEntries = legal.flatMap(({ name, pageId }): NavEntry[] => {
    const page = pageId === null ? null : live(pageId);
    return page ? [{ id: pageId, label: name || page.title, href: page.href }] : [];
  });
  const shown = ({ by, levels, entries }: Menu) =>
    by === 'tree' ? levels : by === 'legal' ? legalEntries : entriesOf(entries, false);
  const tree = menus.find(({ name }) => name === 'tree');
  return {
    home,
    tree: tree ? entriesOf(tree.menu.entries, true) : [],
    menus: Object.fromEntries(menus.filter(({ name }) => name !== 'tree').map(({ name, menu }) => [name, shown(menu)])),
  };
}
