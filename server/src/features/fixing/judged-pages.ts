import { NOT_FOUND_PATH } from '@domatium/core/address';
import { completeDocument, type PageDocument } from '@domatium/core/document';
import { sightOf, type JudgedPage, type PictureSize, type Sight } from '@domatium/core/judgement';
import { groupBy, type PageId, type PortfolioId, type RevisionId } from '@domatium/core/plan';
import { alwaysAt, heldMetadata, placeOnSite, roleAt, type SiteProfile } from '@domatium/core/stock';
import { instantOfWall, type Instant } from '@domatium/core/time';
import { metadataRulesAt, stockOf } from '../../heart/stock/index.js';
import { dateOf, rowsOf, type Db } from '../../platform/database/context.js';

interface Row {
  readonly id: PageId;
  readonly name: string;
  readonly role: string;
  readonly revision: RevisionId;
  readonly from: Instant;
  readonly until: Instant | null;
  readonly siteId: number;
  readonly path: string;
  readonly host: string;
  readonly basePath: string;
  readonly isOwn: boolean;
  readonly campaign: string | null;
  readonly lastDay: string | null;
}

/** So many documents are read at once. */
const AT_ONCE = 500;

/** Every page that is live at a moment or will be, as it is then first; those in the bin are not. */
function rowsAt(db: Db, portfolioId: PortfolioId, at: Instant): Promise<Row[]> {
  const when = dateOf(at);
  return rowsOf(
    db,
    `SELECT DISTINCT ON (q.page_id, q.from_at) p.id, p.name, p.role, q.revision_id AS revision, q.from_at AS "from", q.until_at AS "until",
      l.site_id AS "siteId", l.path, h.name AS host, a.base_path AS "basePath", h.is_own AS "isOwn", c.name AS campaign, c.until_day::text AS "lastDay"
    FROM period q JOIN page p ON p.id = q.page_id AND p.deleted_at IS NULL
    JOIN placement l ON l.page_id = p.id AND l.during @> greatest(q.from_at, ?)
    JOIN site_address a ON a.site_id = l.site_id AND a.is_primary AND a.from_at <= greatest(q.from_at, ?) AND (a.until_at IS NULL OR a.until_at > greatest(q.from_at, ?))
    JOIN host h ON h.id = a.host_id LEFT JOIN campaign c ON c.id = p.campaign_id
    WHERE q.portfolio_id = ? AND coalesce(q.until_at, 'infinity') > ? AND l.path <> '${NOT_FOUND_PATH}'
      AND NOT EXISTS (SELECT FROM bin_stay b WHERE b.page_id = p.id AND b.from_at <= ? AND (b.until_at IS NULL OR b.until_at > ?))
    ORDER BY q.page_id, q.from_at`,
    [when, when, when, portfolioId, when, when, when],
  );
}

/** A page with where it lies. */
export interface PlacedPage extends JudgedPage {
  readonly siteId: number;
  readonly host: string;
  readonly path: string;
}

/** What documents are looked at for, by revision: read and made once, kept while a page shows it. */
export type Sights = Map<RevisionId, Sight>;

async function readSights(db: Db, sights: Sights, wanted: readonly RevisionId[]): Promise<void> {
  const asked = new Set(wanted);
  for (const id of sights.keys()) if (!asked.has(id)) sights.delete(id);
  const missing = [...asked].filter((id) => !sights.has(id));
  for (let n = 0; n < missing.length; n += AT_ONCE) {
    const rows = await rowsOf<{ id: RevisionId; document: PageDocument }>(
      db,
      'SELECT id, document FROM revision WHERE id = ANY(?)',
      [missing.slice(n, n + AT_ONCE)],
    );
    for (const [index, { id, document }] of rows.entries()) {
      sights.set(id, sightOf(completeDocument(document)));
      // Whoever asks meanwhile waits for none of it.
      if (index % 20 === 0) await new Promise(setImmediate);
    }
  }
}

/** All pages of a portfolio as they are at a moment, or will be first after it. */
export async function judgedPages(
  db: Db,
  portfolioId: PortfolioId,
  { at, zone }: { readonly at: Instant; readonly zone: string },
  sights: Sights,
): Promise<PlacedPage[]> {
  const byPage = groupBy(await rowsAt(db, portfolioId, at), ({ id }) => id);
  await readSights(
    db,
    sights,
    [...byPage.values()].flatMap(([first]) => first?.revision ?? []),
  );
  const stock = await stockOf(db, portfolioId);
  const rules = metadataRulesAt(stock, at);
  const profiles = new Map(
    stock.flatMap(({ kind, siteId, periods }) => {
      const held = kind === 'profile' && siteId !== null ? alwaysAt(periods, at) : null;
      return held ? [[siteId as number, held.content as SiteProfile] as const] : [];
    }),
  );
  return [...byPage].flatMap(([id, [first, ...later]]): PlacedPage[] => {
    const sight = first && sights.get(first.revision);
    if (!first || !sight) return [];
    const { name, revision, from, siteId, path, lastDay } = first;
    let { until } = first;
    for (const next of later) if (next.from === until) until = next.until;
    const profile = profiles.get(siteId);
    const { robots, canonical, language } = sight.document.metadata;
    const asked = robots ?? heldMetadata(rules, placeOnSite(siteId, '', path)).robots.value;
    const ends = lastDay === null ? null : instantOfWall({ local: `${lastDay}T23:59`, zone });
    const rest = {
      ...{ name, live: { from, until }, since: from, role: roleAt(first.role, path) },
      language: language ?? profile?.language ?? '',
      isShown: !first.isOwn && !asked?.noindex && !canonical,
      campaign: first.campaign !== null && ends ? { name: first.campaign, until: ends } : null,
      sitePicture: profile?.shareId ?? null,
    };
    const place = { siteId, host: first.host, path: wholePath(first.basePath, path) };
    return [{ id, key: JSON.stringify([revision, rest]), sight, ...rest, ...place }];
  });
}

/** Where a page lies on its host, by where its site lies and where it lies there. */
const wholePath = (base: string, path: string) => (base === '/' ? path : path === '/' ? base : base + path);

/** Pictures of a portfolio as they were given. */
export async function pictureSizes(db: Db, portfolioId: PortfolioId): Promise<(id: number) => PictureSize | undefined> {
  const rows = await rowsOf<PictureSize & { id: number }>(
    db,
    `SELECT id, width, height, format = 'svg' AS "isVector" FROM picture WHERE portfolio_id = ?`,
    [portfolioId],
  );
  const sizes = new Map(rows.map((row) => [row.id, row]));
  return (id) => sizes.get(id);
}
