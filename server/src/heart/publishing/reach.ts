import { EMPTY_DOCUMENT, pageReferencesOf, type Block } from '@domatium/core/document';
import type { PageId, ReleaseId } from '@domatium/core/plan';
import { PART_KINDS, type SiteProfile, type StockKind } from '@domatium/core/stock';
import type { Instant } from '@domatium/core/time';
import { placesOf, withInbound, type Neighbourhood } from '../plans/index.js';
import { referrersOf } from '../releases/index.js';
import { contentsAround, pagesUsing, stockOf, type itemsOfReleases } from '../stock/index.js';
import type { FramedSites } from './frames.js';
import type { Publication } from './publication.js';
import * as store from './store.js';
import { pagesLedTo, sitesLeadingTo } from './ways.js';

/** What is changed in the stock. */
type Changed = Awaited<ReturnType<typeof itemsOfReleases>>;

/** Sites that have another frame where these things of the stock are changed. */
export function framedBy(items: Changed): FramedSites {
  // Values and pieces may stand in parts; what is said of the portfolio reaches all that say nothing else, and legal pages may be one for all.
  const reachesAll: readonly StockKind[] = ['theme', 'values', 'piece', 'code', ...PART_KINDS];
  if (
    items.some(
      ({ kind, site_id }) =>
        reachesAll.includes(kind) || ((kind === 'standing' || kind === 'legal') && site_id === null),
    )
  )
    return 'all';
  return new Set(items.flatMap(({ kind, site_id }) => (kind === 'metadata' ? [] : (site_id ?? []))));
}

/** Pages of which something else is said of what stands around them, where rules about pages are changed. */
export async function ruledBy(
  { reader, portfolioId }: Publication,
  items: Changed,
  horizon: Instant,
): Promise<PageId[]> {
  const pages = new Set<PageId>();
  for (const item of items)
    if (item.kind === 'standing' && item.key !== null)
      for (const { page_id } of await pagesUsing(reader, portfolioId, item, horizon)) pages.add(page_id);
  return [...pages];
}

/** Pages that show, in what they are themselves, what is changed in the stock. */
export async function usersOf(
  one: Publication,
  items: Changed,
  releaseIds: readonly ReleaseId[],
  horizon: Instant,
): Promise<PageId[]> {
  const { reader, portfolioId } = one;
  const isFramed = await store.isFramed(reader, portfolioId);
  const users = new Set<PageId>();
  for (const item of items) {
    if (isFramed && !(await isShownByPages(one, item, releaseIds))) continue;
    for (const { page_id } of await pagesUsing(reader, portfolioId, item, horizon)) users.add(page_id);
  }
  return [...users];
}

/** Looks are a matter of frames; of what a site is, pages show its language, its name and its picture for sharing. */
async function isShownByPages(
  { reader }: Publication,
  { id, kind }: Changed[number],
  releaseIds: readonly ReleaseId[],
): Promise<boolean> {
  if (kind === 'piece' || kind === 'values' || kind === 'metadata') return true;
  if (kind !== 'profile') return false;
  const profiles = (await contentsAround(reader, releaseIds, id)) as SiteProfile[];
  const shown = profiles.map(({ language, brand, shareId }) => JSON.stringify([language, brand, shareId]));
  return new Set(shown).size > 1;
}

/** Pages whose links may lead elsewhere now: those that refer to what changed, themselves or through a piece, or to what redirects to it or lies beside it. */
export async function dependents(
  { reader, portfolioId, publisher }: Publication,
  pageIds: readonly PageId[],
  around: Neighbourhood,
  horizon: Instant,
): Promise<{ referrers: PageId[]; sites: FramedSites }> {
  const changed = new Set(pageIds);
  const places = new Set(
    placesOf(around)
      .filter(({ pageId }) => changed.has(pageId))
      .map(({ hostId, path }) => `${hostId} ${path}`),
  );
  const beside = placesOf(around)
    .filter(({ hostId, path }) => places.has(`${hostId} ${path}`))
    .map(({ pageId }) => pageId);
  const source = { db: reader, portfolioId, style: publisher.style };
  const dirty = new Set(await withInbound(source, around, [...new Set([...pageIds, ...beside])], horizon));
  const referrers = new Set((await referrersOf(reader, [...dirty], horizon)).map(({ referrer }) => referrer));
  const stock = await stockOf(reader, portfolioId);
  for (const item of stock.filter(({ kind }) => kind === 'piece')) {
    const blocks = item.periods.flatMap(({ content }) => content as readonly Block[]);
    const leadsThere = pageReferencesOf({ ...EMPTY_DOCUMENT, blocks }).some((id) => dirty.has(id));
    if (!leadsThere) continue;
    const { id, kind, key, siteId } = item;
    for (const { page_id } of await pagesUsing(reader, portfolioId, { id, kind, key, site_id: siteId }, horizon))
      referrers.add(page_id);
  }
  const sites = sitesLeadingTo(pagesLedTo(stock), (id) => dirty.has(id) && !changed.has(id));
  return { referrers: [...referrers].filter((id) => !changed.has(id)), sites };
}
