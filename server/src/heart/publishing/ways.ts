import type { AddressStyle } from '@domatium/core/address';
import { EMPTY_DOCUMENT, pageReferencesOf, referencesOf, type Block } from '@domatium/core/document';
import type { Nav } from '@domatium/core/frame';
import type { PageId } from '@domatium/core/plan';
import { follow, stableOver } from '@domatium/core/routing';
import {
  legalOn,
  navOf,
  PART_KINDS,
  pagesOfEntries,
  stockAt,
  type HeldMenus,
  type LegalPage,
  type Menu,
  type Part,
} from '@domatium/core/stock';
import type { Instant, Interval } from '@domatium/core/time';
import type { ShelvedItem } from '../stock/index.js';
import type { SiteView } from './input.js';
import { hrefOf } from './render.js';
import { ofKind, profileAt, titleAt, type PortfolioOverTime, type Witness } from './surroundings.js';

export const isPart = ({ kind }: ShelvedItem) => (PART_KINDS as readonly string[]).includes(kind);

const isOfWays = ({ kind }: ShelvedItem) => kind === 'menu' || kind === 'legal';

/** Pages that frames lead to, at any time: those of parts and of legal pages of all sites, and those of each site's menus. */
export interface LedTo {
  readonly byAll: ReadonlySet<PageId>;
  readonly bySite: ReadonlyMap<number, ReadonlySet<PageId>>;
}

export function pagesLedTo(stock: readonly ShelvedItem[]): LedTo {
  const parts = stock.filter(isPart).flatMap(({ periods }) => periods.map(({ content }) => content as Part));
  const document = { ...EMPTY_DOCUMENT, blocks: parts.flatMap(({ blocks }) => blocks) };
  const pieces = stock
    .filter(({ id, kind }) => kind === 'piece' && referencesOf(document, 'piece').includes(id))
    .flatMap(({ periods }) => periods.flatMap(({ content }) => content as readonly Block[]));
  const byAll = new Set(pageReferencesOf({ ...document, blocks: [...document.blocks, ...pieces] }));
  const bySite = new Map<number, Set<PageId>>();
  for (const item of stock.filter(isOfWays))
    for (const { content } of item.periods) {
      const ids =
        item.kind === 'menu'
          ? pagesOfEntries((content as Menu).entries)
          : (content as readonly LegalPage[]).flatMap(({ pageId }) => pageId ?? []);
      const known = item.siteId === null ? byAll : (bySite.get(item.siteId) ?? new Set<PageId>());
      for (const id of ids) known.add(id);
      if (item.siteId !== null) bySite.set(item.siteId, known);
    }
  return { byAll, bySite };
}

/** Sites whose frames lead to any of these pages. */
export function sitesLeadingTo(
  { byAll, bySite }: LedTo,
  isMeant: (id: PageId) => boolean,
): ReadonlySet<number> | 'all' {
  if ([...byAll].some(isMeant)) return 'all';
  return new Set([...bySite].filter(([, pages]) => [...pages].some(isMeant)).map(([siteId]) => siteId));
}

/** The pages that frames of some sites lead to. */
export const pagesOfSites = ({ byAll, bySite }: LedTo, siteIds: Iterable<number>): PageId[] => {
  const sites = [...siteIds];
  return sites.length ? [...new Set([...byAll, ...sites.flatMap((id) => [...(bySite.get(id) ?? [])])])] : [];
};

/** The ways through a site as they are kept in its frame, blank where it has none. */
export interface WaysStretch {
  readonly during: Interval;
  readonly value: string;
}

/** The ways through a site over a stretch, split where they change. */
export function waysOver(
  overTime: PortfolioOverTime,
  site: SiteView,
  style: AddressStyle,
  during: Interval,
): WaysStretch[] {
  if (!ofKind(overTime.stock, 'menu', site.siteId).length) return [{ during, value: '' }];
  return stableOver(
    during,
    (at, witness) => {
      const nav = waysAt(overTime, site, style, at, witness);
      return nav ? JSON.stringify(nav) : '';
    },
    (a, b) => a === b,
  );
}

function waysAt(
  overTime: PortfolioOverTime,
  site: SiteView,
  style: AddressStyle,
  at: Instant,
  witness: Witness,
): Nav | null {
  const { brand } = profileAt(overTime.stock, site.siteId, at, witness);
  const home = { label: brand, href: site.basePath };
  return navOf({ ...menusAt(overTime.stock, site.siteId, at, witness), home }, (id) => {
    const end = follow(overTime.table, id, at, 301, witness);
    if (end.kind !== 'address' || !end.isDirect) return null;
    const [title, href] = [titleAt(overTime, id, at, witness), hrefOf(end, site.host, style)];
    return title === null || href === null ? null : { title, href };
  });
}

/** The menus of a site and its legal pages, as they hold at an instant. */
export function menusAt(
  stock: readonly ShelvedItem[],
  siteId: number,
  at: Instant,
  witness: Witness = () => undefined,
): Omit<HeldMenus, 'home'> {
  const legal = (of: number | null) => {
    const [item] = ofKind(stock, 'legal', of);
    return ((item && stockAt(item.periods, at, witness)?.content) ?? []) as readonly LegalPage[];
  };
  return {
    menus: ofKind(stock, 'menu', siteId).flatMap(({ key, periods }) => {
      const held = key !== null ? stockAt(periods, at, witness) : null;
      return held && key !== null ? [{ name: key, menu: held.content as Menu }] : [];
    }),
    legal: legalOn(legal(null), legal(siteId)),
  };
}
