import {
  canonical,
  type HostId,
  type IdSource,
  type PageId,
  type PagePlan,
  type PlanRowId,
  type PortfolioId,
  type SiteAddress,
  type SiteId,
  type AddressKey,
  type Answer,
  type Follow,
  type Leaving,
  type LivePeriod,
  type Placement,
  type Statement,
  groupBy,
} from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { pathBelow, isBelow } from '@domatium/core/address';
import {
  answerOfRow,
  leavingColumns,
  leavingOfRow,
  rowOfAnswer,
  type AnswerRow,
  type LeavingRow,
} from '@domatium/storage';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';

export interface During {
  readonly from_at: Instant;
  readonly until_at: Instant | null;
}
export const duringOf = ({ from_at, until_at }: During) => ({ from: from_at, until: until_at });

/** All site addresses of a portfolio. */
export async function siteAddressesOf(db: Db, portfolioId: PortfolioId): Promise<SiteAddress[]> {
  const rows = await rowsOf<
    During & { id: PlanRowId; site_id: SiteId; host_id: HostId; base_path: string; is_primary: boolean }
  >(
    db,
    'SELECT id, site_id, host_id, base_path, is_primary, from_at, until_at FROM site_address WHERE portfolio_id = ? ORDER BY id',
    [portfolioId],
  );
  return rows.map((row) => ({
    id: row.id,
    siteId: row.site_id,
    hostId: row.host_id,
    basePath: row.base_path,
    isPrimary: row.is_primary,
    during: duringOf(row),
  }));
}

/** Names of hosts by identity. */
export async function hostNamesOf(db: Db, portfolioId: PortfolioId): Promise<Map<HostId, string>> {
  const rows = await rowsOf<{ id: HostId; name: string }>(db, 'SELECT id, name FROM host WHERE portfolio_id = ?', [
    portfolioId,
  ]);
  return new Map(rows.map(({ id, name }) => [id, name]));
}

/** The plans of pages of one portfolio; pages that are not its own are left out. */
export async function plansOf(
  db: Db,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
): Promise<Map<PageId, PagePlan>> {
  if (!pageIds.length) return new Map();
  const of = [portfolioId, pageIds];
  const pages = await rowsOf<{ id: PageId }>(db, 'SELECT id FROM page WHERE portfolio_id = ? AND id = ANY(?)', of);
  const placements = (
    await rowsOf<During & LeavingRow & { id: PlanRowId; page_id: PageId; site_id: SiteId; path: string }>(
      db,
      `SELECT id, page_id, site_id, path, from_at, until_at, ${LEAVES} FROM placement WHERE portfolio_id = ? AND page_id = ANY(?) ORDER BY from_at`,
      of,
    )
  ).map((row): Placement => ({
    id: row.id,
    pageId: row.page_id,
    siteId: row.site_id,
    path: row.path,
    during: duringOf(row),
    leaves: leavingOfRow(row),
  }));
  const periods = (
    await rowsOf<During & LeavingRow & { id: PlanRowId; page_id: PageId; revision_id: LivePeriod['revisionId'] }>(
      db,
      `SELECT id, page_id, revision_id, from_at, until_at, ${LEAVES} FROM period WHERE portfolio_id = ? AND page_id = ANY(?) ORDER BY from_at`,
      of,
    )
  ).map((row): LivePeriod => ({
    id: row.id,
    pageId: row.page_id,
    revisionId: row.revision_id,
    during: duringOf(row),
    leaves: leavingOfRow(row) as Leaving | null,
  }));
  const statements = (
    await rowsOf<StatementRow>(
      db,
      'SELECT * FROM statement WHERE portfolio_id = ? AND page_id = ANY(?) ORDER BY from_at',
      of,
    )
  ).map(statementOf);
  const [byPlacement, byPeriod, byStatement] = [
    groupBy(placements, pageOf),
    groupBy(periods, pageOf),
    groupBy(statements, pageOf),
  ];
  return new Map(
    pages.map(({ id }) => [
      id,
      {
        pageId: id,
        placements: byPlacement.get(id) ?? [],
        periods: byPeriod.get(id) ?? [],
        statements: byStatement.get(id) ?? [],
      },
    ]),
  );
}

const LEAVES = 'leaves, leaves_page_id, leaves_url, leaves_status, leaves_order, leaves_until';

interface StatementRow extends During, AnswerRow {
  readonly id: PlanRowId;
  readonly kind: Statement['kind'];
  readonly page_id: PageId | null;
  readonly host_id: HostId | null;
  readonly path: string | null;
  readonly rank: Instant;
  readonly ordinal: number;
}
const statementOf = (row: StatementRow): Statement => ({
  id: row.id,
  kind: row.kind,
  pageId: row.page_id,
  place: row.host_id === null || row.path === null ? null : { hostId: row.host_id, path: row.path },
  rank: row.rank,
  order: row.ordinal,
  during: duringOf(row),
  answer: answerOfRow(row),
});

const EXACT = 'SELECT s.* FROM statement s';

/** What is said of these addresses without a page: exact redirects. */
export async function exactAt(
  db: Db,
  portfolioId: PortfolioId,
  addresses: readonly AddressKey[],
): Promise<Statement[]> {
  if (!addresses.length) return [];
  const rows = await rowsOf<StatementRow>(
    db,
    `${EXACT} JOIN unnest(?::bigint[], ?::text[]) AS wanted (host, place) ON wanted.host = s.host_id AND wanted.place = s.path
    WHERE s.portfolio_id = ? AND s.page_id IS NULL ORDER BY s.id`,
    [addresses.map(({ hostId }) => hostId), addresses.map(({ path }) => path), portfolioId],
  );
  return rows.map(statementOf);
}

/** All of a portfolio. */
export async function exactOf(db: Db, portfolioId: PortfolioId): Promise<Statement[]> {
  const rows = await rowsOf<StatementRow>(db, `${EXACT} WHERE s.portfolio_id = ? AND s.page_id IS NULL ORDER BY s.id`, [
    portfolioId,
  ]);
  return rows.map(statementOf);
}

const pageOf = ({ pageId }: { pageId: PageId | null }) => pageId as PageId;

/** Identities of new plan rows out of the sequence, fetched as one batch; throws when more are asked for. */
export async function takeIds(db: Db, count: number): Promise<IdSource> {
  const rows = await rowsOf<{ id: PlanRowId }>(
    db,
    "SELECT nextval('plan_row_id')::bigint AS id FROM generate_series(1, ?::int)",
    [count],
  );
  return () => {
    const row = rows.shift();
    if (!row) throw new Error('More plan rows than expected');
    return row.id;
  };
}

/** Writes what differs between plans of pages before and after. The guards refuse whatever would change the past. */
export async function savePlans(
  trx: Db,
  portfolioId: PortfolioId,
  releaseId: number | null,
  pairs: readonly { readonly before: PagePlan; readonly after: PagePlan }[],
): Promise<void> {
  const rowsOfAll = <Row>(read: (plan: PagePlan) => readonly Row[]) =>
    [pairs.flatMap(({ before }) => read(before)), pairs.flatMap(({ after }) => read(after))] as const;
  await saveRows(
    trx,
    'placement',
    rowsOfAll(({ placements }) => placements),
    ({ id, pageId, siteId, path, during, leaves }) => ({
      id,
      portfolio_id: portfolioId,
      page_id: pageId,
      site_id: siteId,
      path,
      ...columnsOf(during),
      ...leavingColumns(leaves),
    }),
  );
  await saveRows(
    trx,
    'period',
    rowsOfAll(({ periods }) => periods),
    ({ id, pageId, revisionId, during, leaves }) => ({
      id,
      portfolio_id: portfolioId,
      page_id: pageId,
      revision_id: revisionId,
      release_id: releaseId,
      ...columnsOf(during),
      ...leavingColumns(leaves),
    }),
  );
  await saveRows(
    trx,
    'statement',
    rowsOfAll(({ statements }) => statements),
    ({ id, kind, pageId, place, rank, order, during, answer }) => ({
      id,
      portfolio_id: portfolioId,
      kind,
      page_id: pageId,
      host_id: place?.hostId ?? null,
      path: place?.path ?? null,
      rank: dateOf(rank),
      ordinal: order,
      ...columnsOf(during),
      ...rowOfAnswer(answer),
    }),
  );
}

export const columnsOf = (during: { from: Instant; until: Instant | null }) => ({
  from_at: dateOf(during.from),
  until_at: dateOf(during.until),
});

interface PlanRow {
  readonly id: PlanRowId;
  readonly during: { from: Instant; until: Instant | null };
  readonly leaves?: Leaving<Answer | Follow> | null;
}

/** What of a row never changes while it stays the same row. */
const contentOf = ({ during, leaves: _, ...rest }: PlanRow) => canonical({ ...rest, from: during.from });
const endOfRow = ({ during, leaves }: PlanRow) => canonical([during.until, leaves ?? null]);

async function saveRows<Row extends PlanRow>(
  trx: Db,
  table: 'placement' | 'period' | 'statement',
  [old, next]: readonly [readonly Row[], readonly Row[]],
  columns: (row: Row) => object,
): Promise<void> {
  const known = new Map(old.map((row) => [row.id, row]));
  const kept = new Set(next.map(({ id }) => id));
  const replaced = next.filter((row) => {
    const was = known.get(row.id);
    return was && contentOf(row) !== contentOf(was);
  });
  const renewed = new Set(replaced.map(({ id }) => id));
  const removed = [...old.filter(({ id }) => !kept.has(id)).map(({ id }) => id), ...renewed];
  if (removed.length) await trx.raw('DELETE FROM ?? WHERE id = ANY(?)', [table, removed]);
  const ended = next.filter((row) => {
    const was = known.get(row.id);
    return was && !renewed.has(row.id) && endOfRow(was) !== endOfRow(row);
  });
  await (table === 'statement' ? saveEnds(trx, table, ended) : saveLeavings(trx, table, ended));
  await insertRows(trx, table, [...next.filter(({ id }) => !known.has(id)), ...replaced].map(columns));
}

/** Ends of rows with what they leave. */
async function saveLeavings(trx: Db, table: 'placement' | 'period', rows: readonly PlanRow[]): Promise<void> {
  if (!rows.length) return;
  const changed = rows.map(({ id, during, leaves }) => ({
    id,
    until_at: dateOf(during.until),
    ...leavingColumns(leaves ?? null),
  }));
  await trx.raw(
    `UPDATE ?? t SET until_at = e.until_at, leaves = e.leaves, leaves_page_id = e.leaves_page_id, leaves_url = e.leaves_url,
      leaves_status = e.leaves_status, leaves_order = e.leaves_order, leaves_until = e.leaves_until FROM json_populate_recordset(NULL::??, ?) AS e WHERE t.id = e.id`,
    [table, table, JSON.stringify(changed)],
  );
}

/** Changes the ends of rows, and nothing else of them. */
export async function saveEnds(
  trx: Db,
  table: string,
  rows: readonly { readonly id: number; readonly during: { readonly until: Instant | null } }[],
): Promise<void> {
  if (!rows.length) return;
  await trx.raw(
    'UPDATE ?? t SET until_at = e.until_at FROM unnest(?::bigint[], ?::timestamptz[]) AS e (id, until_at) WHERE t.id = e.id',
    [table, rows.map(({ id }) => id), rows.map(({ during }) => dateOf(during.until))] as never,
  );
}

/**
 * The pages that may have a claim at these addresses: those that lie or lay there by any placement, and those of which
 * something is said there.
 */
export async function pagesAt(
  db: Db,
  siteAddresses: readonly SiteAddress[],
  addresses: readonly AddressKey[],
): Promise<PageId[]> {
  if (!addresses.length) return [];
  const byHost = groupBy(siteAddresses, ({ hostId }) => hostId);
  const spots = addresses.flatMap(({ hostId, path }) =>
    (byHost.get(hostId) ?? [])
      .filter(({ basePath }) => isBelow(basePath, path))
      .map(({ siteId, basePath }) => ({ siteId, path: pathBelow(basePath, path) })),
  );
  const rows = await rowsOf<{ page_id: PageId }>(
    db,
    `SELECT page_id FROM placement JOIN unnest(?::bigint[], ?::text[]) AS spot (site, place) ON spot.site = site_id AND spot.place = path
    UNION SELECT page_id FROM statement JOIN unnest(?::bigint[], ?::text[]) AS wanted (host, place) ON wanted.host = host_id AND wanted.place = path WHERE page_id IS NOT NULL`,
    [
      spots.map(({ siteId }) => siteId),
      spots.map(({ path }) => path),
      addresses.map(({ hostId }) => hostId),
      addresses.map(({ path }) => path),
    ],
  );
  return rows.map(({ page_id }) => page_id);
}

/** The pages that leave or are said to give a redirect to one of these pages by reference, in force now or later. */
export async function redirectingPages(db: Db, pageIds: readonly PageId[], from: Instant): Promise<PageId[]> {
  const rows = await rowsOf<{ page_id: PageId }>(
    db,
    `SELECT page_id FROM period WHERE leaves_page_id = ANY(?) UNION SELECT page_id FROM placement WHERE leaves_page_id = ANY(?)
    UNION SELECT page_id FROM statement WHERE target_page_id = ANY(?) AND page_id IS NOT NULL AND (until_at IS NULL OR until_at > ?)`,
    [pageIds, pageIds, pageIds, dateOf(from)],
  );
  return rows.map(({ page_id }) => page_id);
}

/** Redirects of a portfolio to outside addresses at one of these hosts as they stand in an address, in force now or later. */
export function redirectsOutside(
  db: Db,
  portfolioId: PortfolioId,
  hosts: readonly string[],
  from: Instant,
): Promise<{ page_id: PageId; target_url: string }[]> {
  return rowsOf(
    db,
    `SELECT DISTINCT page_id, target_url FROM claim WHERE portfolio_id = ? AND target_url IS NOT NULL AND page_id IS NOT NULL
    AND split_part(target_url, '/', 3) = ANY(?) AND (until_at IS NULL OR until_at > ?)`,
    [portfolioId, hosts, dateOf(from)],
  );
}
