import type { CopyPreview, StockChange } from '@domatium/contracts';
import type { PageId, PortfolioId } from '@domatium/core/plan';
import { partsNamed, ruleFor, type Standing } from '@domatium/core/stock';
import { wallOf, type Instant } from '@domatium/core/time';
import type { Db } from '../../platform/database/context.js';
import { insertItem, itemsOf, periodsOf, type ItemRow } from '../../heart/stock/index.js';
import type { Read } from './read.js';
import * as store from './store.js';

interface Along {
  readonly bands: readonly { readonly item: ItemRow; readonly from: Instant; readonly until: Instant }[];
  /** Rules about single pages, each with the page it is about and how long it holds once it is shifted. */
  readonly rules: readonly {
    readonly item: ItemRow;
    readonly pageId: PageId;
    readonly from: Instant;
    readonly until: Instant | null;
  }[];
}

/**
 * What stands around pages by their own choice, by rules about them or about their labels, and only for a while: it goes
 * along with copies whose periods are shifted, by the same number of days. What stands there without an end is there
 * already; what would be over is left out.
 */
async function along(
  db: Db,
  portfolioId: PortfolioId,
  { sources, shift, isElsewhere }: Read,
  now: Instant,
): Promise<Along> {
  if (isElsewhere) return { bands: [], rules: [] };
  const items = await itemsOf(db, portfolioId);
  const pageIds = new Set(sources.map(({ page }) => page.id));
  const labels = new Set(await store.labelsOf(db, [...pageIds]));
  const rules = items.flatMap((item) => {
    const about = item.kind === 'standing' ? ruleFor(item.key, item.site_id) : null;
    const isMeant =
      about?.scope === 'page'
        ? pageIds.has(Number(about.of) as PageId)
        : about?.scope === 'label' && labels.has(about.of);
    return about && isMeant ? [{ item, about }] : [];
  });
  const standings = [
    ...sources.flatMap(({ page }) => page.document.metadata.frame ?? []),
    ...rules.map(({ item }) => item.draft as Standing),
  ];
  const named = new Set(standings.flatMap(partsNamed));
  const bands = items.filter(({ id, kind }) => kind === 'band' && named.has(id));
  const periods = await periodsOf(
    db,
    [...bands, ...rules.map(({ item }) => item)].map(({ id }) => id),
  );
  const lastOf = ({ id }: ItemRow) => {
    const last = periods.get(id)?.at(-1)?.during;
    if (!last) return null;
    const from = shift(last.from);
    const until = last.until === null ? null : shift(last.until);
    return until !== null && until <= now ? null : { from: (from < now ? now : from) as Instant, until };
  };
  return {
    bands: bands.flatMap((item) => {
      const { from, until } = lastOf(item) ?? { from: now, until: null };
      return until === null || shift(now) === now ? [] : [{ item, from, until }];
    }),
    rules: rules.flatMap(({ item, about }) => {
      const last = about.scope === 'page' ? lastOf(item) : null;
      return last ? [{ item, pageId: Number(about.of) as PageId, ...last }] : [];
    }),
  };
}

/** The bands that go along, for the preview. */
export async function bandsAlong(
  db: Db,
  portfolioId: PortfolioId,
  wanted: Read,
  now: Instant,
): Promise<CopyPreview['bands']> {
  const { bands } = await along(db, portfolioId, wanted, now);
  return bands.map(({ item, from, until }) => ({ name: item.name, from, until }));
}

/** What is put on once more for the copies; what is said of a single page is said of its copy too. */
export async function stockAlong(
  trx: Db,
  portfolioId: PortfolioId,
  wanted: Read,
  copies: ReadonlyMap<PageId, PageId>,
  made: { readonly at: Instant; readonly by: number | null },
): Promise<StockChange[]> {
  const { bands, rules } = await along(trx, portfolioId, wanted, made.at);
  const put = (itemId: number, from: Instant, until: Instant | null): StockChange => {
    const wall = (at: Instant) => ({ local: wallOf(at, wanted.zone), zone: wanted.zone });
    return {
      ...{ act: 'put', itemId, from: from <= made.at ? 'now' : wall(from) },
      until: until === null ? null : wall(until),
    };
  };
  const changes = bands.map(({ item, from, until }) => put(item.id, from, until));
  for (const { item, pageId, from, until } of rules) {
    const copy = copies.get(pageId);
    if (copy === undefined) continue;
    const { name, draft } = item;
    const rule = { kind: 'standing' as const, key: `page:${copy}`, name, siteId: null, draft };
    changes.push(put(await insertItem(trx, portfolioId, rule, made), from, until));
  }
  return changes;
}
