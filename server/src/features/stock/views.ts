import type { StockItem, StockView } from '@domatium/contracts';
import { completeBlock, type Block } from '@domatium/core/document';
import { canonical, type PortfolioId } from '@domatium/core/plan';
import { stockAt, type StockPeriod } from '@domatium/core/stock';
import { THEMES, isThemeKey } from '@domatium/core/theme';
import type { Instant } from '@domatium/core/time';
import { rowsOf, type Context, type Db } from '../../platform/database/context.js';
import { historyOf } from '../../heart/releases/index.js';
import * as store from '../../heart/stock/index.js';
import { found } from './items.js';

/** The whole stock; themes that ship stand in it too, where a site has one or not. */
export async function stock({ database, now }: Context, portfolioId: PortfolioId): Promise<StockView[]> {
  const rows = await store.itemsOf(database, portfolioId);
  const over = await shelvesOf(
    database,
    rows.map(({ id }) => id),
  );
  const views: StockView[] = [];
  for (const row of rows) views.push(await viewOf(database, portfolioId, row, over, now));
  const own = new Set(rows.flatMap(({ kind, key }) => (kind === 'theme' && key ? [key] : [])));
  for (const [key, theme] of Object.entries(THEMES)) {
    if (own.has(key)) continue;
    const uses = await store.pagesShowing(database, portfolioId, { id: 0, kind: 'theme', key, site_id: null }, now);
    views.push({
      ...{ id: null, kind: 'theme', key, name: theme.label, siteId: null, draftVersion: 0, draftDiffers: false },
      ...{ changedAt: null, changedBy: null, periods: [], uses: uses.length },
    });
  }
  return views;
}

interface RevisionRow {
  readonly id: number;
  readonly number: number;
  readonly content: unknown;
  readonly by: string | null;
}

interface Shelves {
  readonly periods: ReadonlyMap<number, readonly StockPeriod[]>;
  readonly revisions: ReadonlyMap<number, Omit<RevisionRow, 'id'>>;
}

async function shelvesOf(db: Db, ids: readonly number[]): Promise<Shelves> {
  const rows = await rowsOf<RevisionRow>(
    db,
    'SELECT r.id, r.number, r.content, a.name AS by FROM stock_revision r LEFT JOIN account a ON a.id = r.created_by WHERE r.item_id = ANY(?)',
    [[...ids]],
  );
  return { periods: await store.periodsOf(db, ids), revisions: new Map(rows.map(({ id, ...rest }) => [id, rest])) };
}

async function viewOf(
  db: Db,
  portfolioId: PortfolioId,
  row: store.ItemRow,
  over: Shelves,
  now: Instant,
): Promise<StockView> {
  const periods = over.periods.get(row.id) ?? [];
  const held = stockAt(periods, now);
  const content = held && over.revisions.get(held.revisionId)?.content;
  const shipped = row.kind === 'theme' && isThemeKey(row.key) ? THEMES[row.key] : null;
  return {
    ...{
      id: row.id,
      kind: row.kind,
      key: row.key,
      name: row.name,
      siteId: row.site_id,
      draftVersion: row.draft_version,
    },
    ...{ changedAt: row.changed_at, changedBy: row.changed_by },
    draftDiffers: canonical(content ?? shipped ?? null) !== canonical(row.draft),
    periods: periods.map(({ revisionId, during }) => ({
      ...during,
      revision: over.revisions.get(revisionId)?.number ?? 0,
      by: over.revisions.get(revisionId)?.by ?? null,
    })),
    uses: (await store.pagesShowing(db, portfolioId, row, now)).length,
  };
}

export async function stockItem({ database, now }: Context, portfolioId: PortfolioId, id: number): Promise<StockItem> {
  const row = await found(database, portfolioId, id);
  const view = await viewOf(database, portfolioId, row, await shelvesOf(database, [id]), now);
  const live = await store.pagesShowing(database, portfolioId, row, now);
  const drafts = row.kind === 'piece' ? await store.draftsUsing(database, portfolioId, id) : [];
  const isLive = new Set(live.map(({ page_id }) => page_id));
  return {
    ...view,
    draft: row.kind === 'piece' ? (row.draft as readonly Block[]).map(completeBlock) : row.draft,
    revisions: (await store.revisionsOf(database, id)).map(({ number, created_at, created_by, content }) => ({
      number,
      at: created_at,
      by: created_by,
      content,
    })),
    pages: [
      ...live.map(({ page_id, name, host, path }) => ({
        pageId: page_id,
        name,
        address: `${host}${path}`,
        isDraft: false,
      })),
      ...drafts
        .filter(({ page_id }) => !isLive.has(page_id))
        .map(({ page_id, name }) => ({ pageId: page_id, name, address: '', isDraft: true })),
    ],
    releases: await historyOf(database, portfolioId, { kind: 'item', id }, now),
    approvals: await approvalsOf(database, portfolioId, row, now),
  };
}

/** Sites that want approvals before what they show changes. */
async function approvalsOf(
  db: Db,
  portfolioId: PortfolioId,
  row: store.ItemRow,
  now: Instant,
): Promise<StockItem['approvals']> {
  const wanted = await store.approvalsWanted(db, portfolioId, row, now);
  return {
    needed: Math.max(0, ...wanted.map(({ approvals }) => approvals)),
    sites: wanted.map(({ name }) => name),
  };
}
