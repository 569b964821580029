import {
  groupBy,
  canonical,
  type AddressKey,
  type Claim,
  type HostId,
  type PageAddress,
  type PageId,
  type PictureId,
  type PlanRowId,
  type PortfolioId,
  type ReleaseId,
  type RevisionId,
} from '@domatium/core/plan';
import { type Instant, type Interval } from '@domatium/core/time';
import type { PageIcons } from '@domatium/core/render';
import { rowOfAnswer } from '@domatium/storage';
import { dateOf, insertRows, rowsOf, type Db } from '../../platform/database/context.js';
import { saveEnds } from '../plans/index.js';
import { cutAt } from './cut.js';
import { fileHref } from './files.js';
import type { Shelves } from './input.js';

export const ROUTES_CHANNEL = 'domatium_routes';

export interface NewRoute {
  readonly claim: Claim;
  readonly during: Interval;
  readonly artifact: string | null;
  /** From when on its page asks search engines to leave it out. */
  readonly hiddenFrom: Instant | null;
}

export interface OpenRelease {
  readonly id: ReleaseId;
  readonly at: Instant;
}

/** Releases of a portfolio that are decided and not ready for visitors yet; what finally failed is not among them. */
export function openReleases(db: Db, portfolioId: PortfolioId): Promise<OpenRelease[]> {
  return rowsOf(
    db,
    'SELECT id, at FROM release WHERE portfolio_id = ? AND published_at IS NULL AND failure IS NULL ORDER BY id',
    [portfolioId],
  );
}

export function portfoliosWithOpenReleases(db: Db): Promise<{ portfolio_id: PortfolioId }[]> {
  return rowsOf(
    db,
    'SELECT DISTINCT portfolio_id FROM release WHERE published_at IS NULL AND failure IS NULL ORDER BY portfolio_id',
  );
}

/** How often a portfolio was published. */
export async function publicationNumber(db: Db, portfolioId: PortfolioId): Promise<number> {
  const [row] = await rowsOf<{ publication: number }>(db, 'SELECT publication FROM portfolio WHERE id = ?', [
    portfolioId,
  ]);
  return row?.publication ?? 0;
}

/** Counts a publication and keeps others waiting until it is written; false where one was written since the number was read. */
export async function takePublication(trx: Db, portfolioId: PortfolioId, number: number): Promise<boolean> {
  const rows = await rowsOf(
    trx,
    'UPDATE portfolio SET publication = publication + 1 WHERE id = ? AND publication = ? RETURNING id',
    [portfolioId, number],
  );
  return rows.length > 0;
}

/** Whether all that visitors get of a portfolio lies apart from its frames. */
export async function isFramed(db: Db, portfolioId: PortfolioId): Promise<boolean> {
  const rows = await rowsOf(db, 'SELECT FROM portfolio WHERE id = ? AND framed_at IS NOT NULL', [portfolioId]);
  return rows.length > 0;
}

/** Of these plan rows, those that have routes already. */
export async function publishedClaims(db: Db, sources: readonly PlanRowId[]): Promise<Set<PlanRowId>> {
  const rows = await rowsOf<{ claim_id: PlanRowId }>(
    db,
    'SELECT DISTINCT claim_id FROM route WHERE claim_id = ANY(?)',
    [sources],
  );
  return new Set(rows.map(({ claim_id }) => claim_id));
}

/** Endings of files that are films. */
const FILMS: ReadonlySet<string> = new Set(['mp4', 'webm']);

/** Pictures and files of a portfolio, with the addresses visitors get them at. */
export async function shelvesOf(db: Db, portfolioId: PortfolioId): Promise<Shelves> {
  const rows = await rowsOf<{
    id: PictureId;
    width: number;
    height: number;
    variants: Variant[];
    purpose: string;
    of_id: PictureId | null;
    crop: object | null;
    description: string;
    former_words: string[];
  }>(
    db,
    "SELECT id, width, height, variants, purpose, of_id, crop, description, former_words FROM picture WHERE portfolio_id = ? AND variants <> '[]'",
    [portfolioId],
  );
  const files = await rowsOf<{
    id: number;
    name: string;
    hash: string;
    ending: string;
    bytes: number;
    uploaded: string;
  }>(
    db,
    `SELECT id, name, hash, ending, bytes::float8 AS bytes, to_char(created_at AT TIME ZONE 'UTC', 'YYYY-MM-DD') AS uploaded
     FROM stored_file WHERE portfolio_id = ?`,
    [portfolioId],
  );
  const shares = rows.filter(({ purpose }) => purpose === 'share');
  const icons = rows.filter(({ purpose }) => purpose === 'icon');
  return {
    pictures: new Map(
      rows
        .filter(({ purpose }) => purpose === 'page')
        .map(({ id, width, height, variants, crop, description, former_words: formerWords }) => [
          id,
          {
            ...{ width, height, variants: variants.map(shownVariant) },
            ...(crop ? { crop } : {}),
            ...(formerWords.length ? { description, formerWords } : {}),
          },
        ]),
    ),
    shares: new Map(
      shares.flatMap(({ of_id, width, height, description, variants: [variant] }) =>
        of_id && variant ? [[of_id, { src: fileHref(variant.hash, 'jpg'), width, height, description }]] : [],
      ),
    ),
    icons: new Map(icons.flatMap(({ of_id, variants }) => (of_id ? [[of_id, iconsOf(variants)]] : []))),
    files: new Map(
      files.map(({ id, name, hash, ending, bytes, uploaded }) => [
        id,
        { name, ending, bytes, src: fileHref(hash, ending), ...(FILMS.has(ending) ? { uploaded } : {}) },
      ]),
    ),
  };
}

/** The two sizes of an icon, by their addresses; `null` where they are not made yet. */
function iconsOf(variants: readonly { readonly hash: string }[] | null): PageIcons | null {
  const [small, large] = variants ?? [];
  return small && large ? { small: fileHref(small.hash, 'png'), large: fileHref(large.hash, 'png') } : null;
}

interface Variant {
  readonly width: number;
  readonly hash: string;
  readonly ending?: string;
  readonly avif?: string;
}

const shownVariant = ({ width, hash, ending, avif }: Variant) => ({
  width,
  src: fileHref(hash, ending ?? 'webp'),
  ...(avif ? { avif: fileHref(avif, 'avif') } : {}),
});

/** Titles of revisions, for those who list their pages. */
export async function titlesOf(db: Db, ids: readonly RevisionId[]): Promise<Map<RevisionId, string>> {
  if (!ids.length) return new Map();
  const rows = await rowsOf<{ id: RevisionId; title: string }>(
    db,
    "SELECT id, document #>> '{metadata,title}' AS title FROM revision WHERE id = ANY(?)",
    [[...ids]],
  );
  return new Map(rows.map(({ id, title }) => [id, title]));
}

interface RouteColumns {
  readonly host_id: HostId;
  readonly path: string;
  readonly layer: string;
  readonly from_at: Instant;
  readonly until_at: Instant | null;
  readonly answer: string;
  readonly page_id: number | null;
  readonly revision_id: number | null;
  readonly claim_id: number;
  readonly artifact: string | null;
  readonly hidden_from: Instant | null;
  readonly target_page_id: number | null;
  readonly target_url: string | null;
  readonly status: number | null;
}

function columnsOf({ claim, during, artifact, hiddenFrom }: NewRoute): RouteColumns {
  const place = {
    host_id: claim.hostId,
    path: claim.path,
    layer: claim.layer,
    from_at: during.from,
    until_at: during.until,
    page_id: claim.pageId,
    claim_id: claim.sourceId,
    artifact,
    hidden_from: hiddenFrom,
  };
  return claim.layer === 'page'
    ? { ...place, answer: 'page', revision_id: claim.revisionId, target_page_id: null, target_url: null, status: null }
    : { ...place, revision_id: null, ...rowOfAnswer(claim.answer) };
}

const contentOf = (row: RouteColumns) =>
  canonical([
    row.layer,
    row.answer,
    row.page_id,
    row.revision_id,
    row.artifact,
    row.hidden_from,
    row.target_page_id,
    row.target_url,
    row.status,
  ]);

/**
 * Writes the routes at addresses, from `horizon` on; what was before stays as it was. An address that has none yet gets
 * its whole history. Gives the hosts where anything changed.
 */
export async function writeRoutes(
  trx: Db,
  portfolioId: PortfolioId,
  addresses: readonly AddressKey[],
  routes: readonly NewRoute[],
  horizon: Instant,
): Promise<HostId[]> {
  const existing = await rowsOf<RouteColumns & { id: number }>(
    trx,
    'SELECT r.* FROM route r JOIN unnest(?::bigint[], ?::text[]) AS w (h, p) ON w.h = r.host_id AND w.p = r.path',
    [addresses.map(({ hostId }) => hostId), addresses.map(({ path }) => path)],
  );
  const changed = new Set<HostId>();
  const removed: number[] = [];
  const ends: { readonly id: number; readonly during: { readonly until: Instant | null } }[] = [];
  const inserted: RouteColumns[] = [];
  const placeOf = (row: RouteColumns) => `${row.host_id} ${row.path}`;
  const known = groupBy(existing, placeOf);
  const coming = groupBy(routes.map(columnsOf), placeOf);
  for (const { hostId, path } of addresses) {
    const place = `${hostId} ${path}`;
    const cut = cutAt<RouteColumns, RouteColumns & { id: number }>(
      known.get(place) ?? [],
      coming.get(place) ?? [],
      horizon,
      contentOf,
    );
    removed.push(...cut.removed);
    ends.push(...cut.ends);
    inserted.push(...cut.inserted);
    if (cut.removed.length + cut.ends.length + cut.inserted.length) changed.add(hostId);
  }
  if (removed.length) await trx.raw('DELETE FROM route WHERE id = ANY(?)', [removed]);
  await saveEnds(trx, 'route', ends);
  await insertRows(
    trx,
    'route',
    inserted.map((row) => ({
      ...row,
      portfolio_id: portfolioId,
      from_at: dateOf(row.from_at),
      until_at: dateOf(row.until_at),
      hidden_from: dateOf(row.hidden_from),
    })),
  );
  return [...changed];
}

/** Writes where pages lie over time; gives the hosts where that changed. */
export async function writePlaces(
  trx: Db,
  pageIds: readonly PageId[],
  places: readonly PageAddress[],
): Promise<HostId[]> {
  const stored = await rowsOf<{
    page_id: PageId;
    host_id: HostId;
    path: string;
    from_at: Instant;
    until_at: Instant | null;
  }>(trx, 'SELECT * FROM page_route WHERE page_id = ANY(?)', [pageIds]);
  const asked = new Set(pageIds);
  const wanted = places
    .filter(({ pageId }) => asked.has(pageId))
    .map(({ pageId, hostId, path, during }) => ({
      page_id: pageId,
      host_id: hostId,
      path,
      from_at: during.from,
      until_at: during.until,
    }));
  const keyOf = (row: (typeof stored)[number]) =>
    canonical([row.page_id, row.host_id, row.path, row.from_at, row.until_at]);
  const [had, has] = [new Set(stored.map(keyOf)), new Set(wanted.map(keyOf))];
  const differing = [...stored.filter((row) => !has.has(keyOf(row))), ...wanted.filter((row) => !had.has(keyOf(row)))];
  if (!differing.length) return [];
  const pages = new Set(differing.map(({ page_id }) => page_id));
  await trx.raw('DELETE FROM page_route WHERE page_id = ANY(?)', [[...pages]]);
  const rows = wanted.filter(({ page_id }) => pages.has(page_id));
  await insertRows(
    trx,
    'page_route',
    rows.map((row) => ({ ...row, from_at: dateOf(row.from_at), until_at: dateOf(row.until_at) })),
  );
  return [...new Set(differing.map(({ host_id }) => host_id))];
}

/** Raises the versions of hosts, notes which version makes a release out, and tells the edges when it commits. */
export async function announce(
  trx: Db,
  changed: { readonly routes: readonly HostId[]; readonly frames: readonly HostId[] },
  releaseIds: readonly ReleaseId[],
  now: Instant,
): Promise<void> {
  const [routes, frames] = [new Set(changed.routes), new Set(changed.frames)];
  const hostIds = [...new Set([...routes, ...frames])];
  if (hostIds.length)
    await trx.raw(
      `WITH raised AS (
        UPDATE host SET version = version + (id = ANY(?))::int, frame_version = frame_version + (id = ANY(?))::int
        WHERE id IN (SELECT id FROM host WHERE id = ANY(?) ORDER BY id FOR NO KEY UPDATE) RETURNING id, version, frame_version)
      INSERT INTO release_host (release_id, host_id, version, frame_version)
      SELECT r, raised.id, raised.version, raised.frame_version FROM unnest(?::bigint[]) r CROSS JOIN raised ON CONFLICT DO NOTHING`,
      [[...routes], [...frames], hostIds, [...releaseIds]],
    );
  if (releaseIds.length)
    await trx('release')
      .whereIn('id', [...releaseIds])
      .whereNull('published_at')
      .update({ published_at: dateOf(now) });
  if (hostIds.length || releaseIds.length) await trx.raw('SELECT pg_notify(?, ?)', [ROUTES_CHANNEL, '']);
}

export async function noteFailure(db: Db, releaseIds: readonly ReleaseId[], failure: string): Promise<void> {
  await db('release')
    .whereIn('id', [...releaseIds])
    .update({ failure: failure.slice(0, 500) });
}
