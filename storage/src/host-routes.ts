import type { Answer, Follow, Leaving, PageId, PlanRowId, PortfolioId, RevisionId } from '@domatium/core/plan';
import type { HostRoutes, PageRoute, Route, RouteAnswer, SiteRoute } from '@domatium/core/routing';
import type { Instant } from '@domatium/core/time';
import type { Query } from './query.js';

/** An edge's own copy of a host: its routes with what figures need to know of it. */
export interface StoredHost extends HostRoutes {
  readonly hostId: number;
  readonly zone: string;
  /** The portfolio's own host under the installation's name is not counted. */
  readonly isOwn: boolean;
}

/** The columns an answer is stored in. */
export interface AnswerRow {
  readonly answer: Answer['kind'];
  readonly target_page_id: number | null;
  readonly target_url: string | null;
  readonly status: number | null;
}

export function answerOfRow(row: AnswerRow): Answer {
  if (row.answer !== 'redirect') return { kind: row.answer };
  const status = row.status === 302 ? 302 : 301;
  if (row.target_page_id !== null)
    return { kind: 'redirect', status, target: { kind: 'page', pageId: row.target_page_id as PageId } };
  return { kind: 'redirect', status, target: { kind: 'outside', url: row.target_url ?? '' } };
}

export function rowOfAnswer(answer: Answer): AnswerRow {
  if (answer.kind !== 'redirect') return { answer: answer.kind, target_page_id: null, target_url: null, status: null };
  const { target, status } = answer;
  return {
    answer: 'redirect',
    status,
    target_page_id: target.kind === 'page' ? target.pageId : null,
    target_url: target.kind === 'outside' ? target.url : null,
  };
}

/** The columns of what an end leaves. */
export interface LeavingRow {
  readonly leaves: Answer['kind'] | Follow['kind'] | null;
  readonly leaves_page_id: number | null;
  readonly leaves_url: string | null;
  readonly leaves_status: number | null;
  readonly leaves_order: number | null;
  readonly leaves_until: Instant | null;
}

export function leavingOfRow(row: LeavingRow): Leaving<Answer | Follow> | null {
  const { leaves, leaves_page_id, leaves_url, leaves_status, leaves_order: order, leaves_until: until } = row;
  if (leaves === null || order === null) return null;
  if (leaves === 'follow') return { answer: { kind: 'follow' }, order, until };
  const answer = { answer: leaves, target_page_id: leaves_page_id, target_url: leaves_url, status: leaves_status };
  return { answer: answerOfRow(answer), order, until };
}

/** The same columns as they are written. */
export type LeavingColumns = Omit<LeavingRow, 'leaves_until'> & { readonly leaves_until: Date | null };

export function leavingColumns(leaving: Leaving<Answer | Follow> | null): LeavingColumns {
  const none = { leaves_page_id: null, leaves_url: null, leaves_status: null };
  if (!leaving) return { leaves: null, ...none, leaves_order: null, leaves_until: null };
  const { answer, order } = leaving;
  const leaves_until = leaving.until === null ? null : new Date(leaving.until);
  if (answer.kind === 'follow') return { leaves: 'follow', ...none, leaves_order: order, leaves_until };
  const { answer: kind, target_page_id, target_url, status } = rowOfAnswer(answer);
  const target = { leaves_page_id: target_page_id, leaves_url: target_url, leaves_status: status };
  return { leaves: kind, ...target, leaves_order: order, leaves_until };
}

/** Versions of all hosts, to compare with those an edge has. */
export function readHostVersions(
  query: Query,
): Promise<{ id: number; name: string; version: number; frame_version: number }[]> {
  return query('SELECT id, name, version, frame_version FROM host ORDER BY id');
}

interface RouteRow extends Omit<AnswerRow, 'answer'> {
  readonly host_id: number;
  readonly path: string;
  readonly layer: 'page' | 'after';
  readonly from_at: Instant;
  readonly until_at: Instant | null;
  readonly answer: 'page' | Answer['kind'];
  readonly page_id: number | null;
  readonly revision_id: number | null;
  readonly claim_id: number;
  readonly artifact: string | null;
  readonly hidden_from: Instant | null;
}

/**
 * Hosts as the edge needs them, in one consistent reading (the caller's transaction is repeatable read). Routes that
 * ended before `since` are left out.
 */
export async function readHostRoutes(query: Query, hostIds: readonly number[], since: Instant): Promise<StoredHost[]> {
  const hosts = await query<{
    id: number;
    name: string;
    version: number;
    portfolio_id: PortfolioId;
    zone: string;
    is_own: boolean;
  }>(
    'SELECT h.id, h.name, h.version, h.portfolio_id, p.zone, h.is_own FROM host h JOIN portfolio p ON p.id = h.portfolio_id WHERE h.id = ANY($1)',
    [hostIds],
  );
  const routes = await query<RouteRow>(
    `SELECT host_id, path, layer, from_at, until_at, answer, target_page_id, target_url, status, page_id, revision_id, claim_id, artifact, hidden_from
     FROM route WHERE host_id = ANY($1) AND (until_at IS NULL OR until_at > $2)`,
    [hostIds, new Date(since)],
  );
  const places = await query<{
    host_id: number;
    page_id: number;
    path: string;
    from_at: Instant;
    until_at: Instant | null;
  }>(
    'SELECT host_id, page_id, path, from_at, until_at FROM page_route WHERE host_id = ANY($1) AND (until_at IS NULL OR until_at > $2)',
    [hostIds, new Date(since)],
  );
  const sites = await query<{
    host_id: number;
    base_path: string;
    from_at: Instant;
    until_at: Instant | null;
    is_primary: boolean;
    primary_host: string | null;
    primary_path: string | null;
  }>(
    `SELECT a.host_id, a.base_path, greatest(a.from_at, b.from_at) AS from_at, least(a.until_at, b.until_at) AS until_at, a.is_primary, h.name AS primary_host, b.base_path AS primary_path
     FROM site_address a
     LEFT JOIN site_address b ON b.site_id = a.site_id AND b.is_primary AND b.during && a.during
     LEFT JOIN host h ON h.id = b.host_id
     WHERE a.host_id = ANY($1)`,
    [hostIds],
  );
  return hosts.map((host): StoredHost => {
    const own = <Row extends { host_id: number }>(rows: readonly Row[]) =>
      rows.filter(({ host_id }) => host_id === host.id);
    return {
      hostId: host.id,
      portfolioId: host.portfolio_id,
      zone: host.zone,
      isOwn: host.is_own,
      host: host.name,
      version: host.version,
      routes: own(routes).map(routeOfRow),
      pages: own(places).map((row): PageRoute => ({
        pageId: row.page_id as PageId,
        path: row.path,
        during: { from: row.from_at, until: row.until_at },
      })),
      sites: own(sites).map((row): SiteRoute => ({
        basePath: row.base_path,
        during: { from: row.from_at, until: row.until_at },
        isPrimary: row.is_primary,
        primary:
          row.primary_host !== null && row.primary_path !== null
            ? { host: row.primary_host, basePath: row.primary_path }
            : null,
      })),
    };
  });
}

function routeOfRow(row: RouteRow): Route {
  const answer: RouteAnswer =
    row.answer === 'page'
      ? {
          kind: 'page',
          pageId: row.page_id as PageId,
          revisionId: row.revision_id as RevisionId,
          claimId: row.claim_id as PlanRowId,
          artifact: row.artifact,
          ...(row.hidden_from === null ? {} : { hiddenFrom: row.hidden_from }),
        }
      : { ...answerOfRow({ ...row, answer: row.answer }), pageId: row.page_id as PageId | null };
  return { path: row.path, layer: row.layer, during: { from: row.from_at, until: row.until_at }, answer };
}
