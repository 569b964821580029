import { NOT_FOUND_PATH } from '@domatium/core/address';
import { completeDocument, type PageDocument } from '@domatium/core/document';
import { sightOf, type JudgedPage, type PictureSize, type Sight } from '@domatium/core/judgement';
import { groupBy, type PageId, type PortfolioId, type RevisionId } from '@domatium/core/plan';
import { alwaysAt, heldMetadata, placeOnSite, roleAt, type SiteProfile } from '@domatium/core/stock';
import { contains, instantOfWall, type Instant } from '@domatium/core/time';
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
  readonly campaignId: number | null;
}

/** So many documents are read at once. */
const AT_ONCE = 500;

/** Periods of pages that are live at a moment or will be, with where they lie then; those in the bin are none. */
const JUDGED = `FROM period q JOIN page p ON p.id = q.page_id AND p.deleted_at IS NULL
  JOIN placement l ON l.page_id = p.id AND l.during @> greatest(q.from_at, ?)
  WHERE q.portfolio_id = ? AND coalesce(q.until_at, 'infinity') > ? AND l.path <> '${NOT_FOUND_PATH}'
    AND p.id NOT IN (SELECT page_id FROM bin_stay WHERE portfolio_id = ? AND from_at <= ? AND (until_at IS NULL OR until_at > ?))`;
const judgedBindings = (portfolioId: PortfolioId, at: Instant) => {
  const when = dateOf(at);
  return [when, portfolioId, when, portfolioId, when, when];
};

/** A text for each of those pages that is the same as long as all is that `judgedPages` reads of it. */
export async function stampsAt(db: Db, portfolioId: PortfolioId, at: Instant): Promise<Map<PageId, string>> {
  const rows = await rowsOf<{ id: PageId; stamp: string }>(
    db,
    `SELECT p.id, concat_ws(' ', l.site_id, l.path, p.role, p.campaign_id, string_agg(concat_ws(' ', q.revision_id,
      extract(epoch FROM q.from_at), extract(epoch FROM q.until_at)), ',' ORDER BY q.from_at), p.name) AS stamp
    ${JUDGED} GROUP BY p.id, l.site_id, l.path ORDER BY p.id, min(q.from_at)`,
    judgedBindings(portfolioId, at),
  );
  const stamps = new Map<PageId, string>();
  for (const { id, stamp } of rows) stamps.set(id, `${stamps.get(id) ?? ''}${stamp}`);
  return stamps;
}

/** Periods of every page that is live at a moment or will be, with where it lies then; those in the bin are not. */
function rowsAt(db: Db, portfolioId: PortfolioId, at: Instant, only: readonly PageId[] | null): Promise<Row[]> {
  return rowsOf(
    db,
    `SELECT p.id, p.name, p.role, p.campaign_id AS "campaignId", q.revision_id AS revision, q.from_at AS "from", q.until_at AS "until",
      l.site_id AS "siteId", l.path
    ${JUDGED} ${only ? 'AND p.id = ANY(?)' : ''} ORDER BY q.page_id, q.from_at`,
    [...judgedBindings(portfolioId, at), ...(only ? [only] : [])],
  );
}

interface Address {
  readonly siteId: number;
  readonly from: Instant;
  readonly until: Instant | null;
  readonly host: string;
  readonly basePath: string;
  readonly isOwn: boolean;
}

/** Where sites lie over time. */
function addressesOf(db: Db, portfolioId: PortfolioId): Promise<Address[]> {
  return rowsOf(
    db,
    `SELECT a.site_id AS "siteId", a.from_at AS "from", a.until_at AS "until", h.name AS host, a.base_path AS "basePath", h.is_own AS "isOwn"
    FROM site_address a JOIN host h ON h.id = a.host_id WHERE a.portfolio_id = ? AND a.is_primary`,
    [portfolioId],
  );
}

/** What campaigns are called, and when they are over; those without an end are none here. */
async function campaignsOf(db: Db, portfolioId: PortfolioId, zone: string) {
  const rows = await rowsOf<{ id: number; name: string; day: string }>(
    db,
    'SELECT id, name, until_day::text AS day FROM campaign WHERE portfolio_id = ? AND until_day IS NOT NULL',
    [portfolioId],
  );
  return new Map(
    rows.flatMap(({ id, name, day }) => {
      const until = instantOfWall({ local: `${day}T23:59`, zone });
      return until === null ? [] : [[id, { name, until }] as const];
    }),
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
      if (index % 3 === 0) await new Promise(setImmediate);
    }
  }
}

/** What sites and campaigns are at a moment, and what is asked of search engines there. */
export interface Ground {
  readonly at: Instant;
  readonly addressAt: (siteId: number, at: Instant) => Address | undefined;
  readonly campaigns: ReadonlyMap<number, { readonly name: string; readonly until: Instant }>;
  readonly profiles: ReadonlyMap<number, SiteProfile>;
  readonly rules: ReturnType<typeof metadataRulesAt>;
  /** The same as long as all of this is. */
  readonly key: string;
}

export async function groundAt(
  db: Db,
  portfolioId: PortfolioId,
  { at, zone }: { readonly at: Instant; readonly zone: string },
): Promise<Ground> {
  const stock = await stockOf(db, portfolioId);
  const rules = metadataRulesAt(stock, at);
  const profiles = new Map(
    stock.flatMap(({ kind, siteId, periods }) => {
      const held = kind === 'profile' && siteId !== null ? alwaysAt(periods, at) : null;
      return held ? [[siteId as number, held.content as SiteProfile] as const] : [];
    }),
  );
  const addresses = await addressesOf(db, portfolioId);
  const campaigns = await campaignsOf(db, portfolioId, zone);
  const key = JSON.stringify([rules, [...profiles], addresses, [...campaigns]]);
  const bySite = groupBy(addresses, ({ siteId }) => siteId);
  const addressAt = (siteId: number, when: Instant) => bySite.get(siteId)?.find((one) => contains(one, when));
  return { at, rules, profiles, campaigns, addressAt, key };
}

/** Pages of a portfolio as they are at a moment, or will be first after it: all of them, or some. */
export async function judgedPages(
  db: Db,
  portfolioId: PortfolioId,
  { at, rules, profiles, campaigns, addressAt }: Ground,
  sights: Sights,
  only: readonly PageId[] | null = null,
): Promise<PlacedPage[]> {
  const byPage = groupBy(await rowsAt(db, portfolioId, at, only), ({ id }) => id);
  await readSights(
    db,
    sights,
    [...byPage.values()].flatMap(([first]) => first?.revision ?? []),
  );
  const askedAbove = (siteId: number, path: string) =>
    rules.length ? heldMetadata(rules, placeOnSite(siteId, '', path)).robots.value : null;
  return [...byPage].flatMap(([id, [first, ...later]]): PlacedPage[] => {
    const sight = first && sights.get(first.revision);
    const address = first && addressAt(first.siteId, Math.max(first.from, at) as Instant);
    if (!first || !sight || !address) return [];
    const { name, revision, from, siteId, path, campaignId } = first;
    let { until } = first;
    for (const next of later) if (next.from === until) until = next.until;
    const profile = profiles.get(siteId);
    const { robots, canonical, language } = sight.document.metadata;
    const asked = robots ?? askedAbove(siteId, path);
    const role = roleAt(first.role, path);
    const written = language ?? profile?.language ?? '';
    const isShown = !address.isOwn && !asked?.noindex && !canonical;
    const campaign = (campaignId !== null && campaigns.get(campaignId)) || null;
    const sitePicture = profile?.shareId ?? null;
    // Ten thousand of these are made after each publication: texts that people chose come last.
    const key = `${revision} ${from} ${until} ${role} ${written} ${isShown} ${sitePicture} ${campaign?.until} ${name}\n${campaign?.name}`;
    return [
      {
        ...{ id, key, sight, name, role, isShown, campaign, sitePicture, siteId },
        ...{ live: { from, until }, since: from, language: written },
        ...{ host: address.host, path: wholePath(address.basePath, path) },
      },
    ];
  });
}

/** Where a page lies on its host, by where its site lies and where it lies there. */
const wholePath = (base: string, path: string) => (base === '/' ? path : path === '/' ? base : base + path);

/** Pictures of a portfolio as they were given. */
export async function pictureSizes(db: Db, portfolioId: PortfolioId): Promise<ReadonlyMap<number, PictureSize>> {
  const rows = await rowsOf<PictureSize & { id: number }>(
    db,
    `SELECT id, width, height, format = 'svg' AS "isVector" FROM picture WHERE portfolio_id = ?`,
    [portfolioId],
  );
  return new Map(rows.map(({ id, ...size }) => [id, size]));
}
