import type { AddressStyle } from '@domatium/core/address';
import { NOT_FOUND_PATH } from '@domatium/core/address';
import { pageReferencesOf, type PageDocument } from '@domatium/core/document';
import {
  groupBy,
  type Claim,
  type HostId,
  type PageId,
  type PortfolioId,
  type ReleaseId,
  type RevisionId,
} from '@domatium/core/plan';
import { linkFindingsOf, type Finding } from '@domatium/core/checks';
import { follow, stableOver, type Followed, type RouteTable } from '@domatium/core/routing';
import { isThemeKey, type ThemeKey } from '@domatium/core/theme';
import { endOf, writeInstant, type Instant } from '@domatium/core/time';
import type { BlobStore } from '@domatium/storage';
import type { Knex } from 'knex';
import { rowsOf } from '../database/context.js';
import {
  addressesOf,
  claimsOfNeighbourhood,
  neighbourhoodOf,
  placesOf,
  redirectingPages,
  tableOf,
  type AddressRow,
  type Neighbourhood,
} from '../plans/index.js';
import { keepPlanFindings } from '../checks/index.js';
import { namesOfPages, pagesOfReleases, referrersOf, revisionsById, zoneOf } from '../releases/store.js';
import type { ThemeFiles } from './files.js';
import { renderAll, renderInput, renderKeyOf, type RenderInput, type SiteView } from './render.js';
import * as store from './store.js';

export interface Publisher {
  readonly database: Knex;
  readonly blobs: BlobStore;
  readonly style: AddressStyle;
  readonly themes: Record<ThemeKey, ThemeFiles>;
  readonly clock: () => Instant;
}

/**
 * Makes releases ready for visitors (design section 5): first what they changed, then the pages that only refer to it.
 * Can be killed anywhere and run again: what is written is whole, and what is the same is not written.
 */
export async function publishReleases(
  publisher: Publisher,
  portfolioId: PortfolioId,
  releaseIds: readonly ReleaseId[],
): Promise<void> {
  const releases = await store.releasesToPublish(publisher.database, portfolioId, releaseIds);
  if (!releases.length) return;
  const horizon = Math.min(...releases.map(({ at }) => at)) as Instant;
  const ids = releases.map(({ id }) => id);
  const changed = await pagesOfReleases(publisher.database, ids);
  const pageIds = [...new Set(changed.map(({ page_id }) => page_id))];
  const plans = changed.flatMap(({ before, after }) => [before, after]);
  const around = await publishPages(publisher, portfolioId, { pageIds, plans, horizon, releaseIds: ids });
  const referrers = await dependents(publisher, pageIds, around, horizon);
  if (referrers.length)
    await publishPages(publisher, portfolioId, { pageIds: referrers, plans: [], horizon, releaseIds: [] });
}

/** Makes what is planned of pages ready for visitors, whatever release it came from. */
export async function publishPlans(
  publisher: Publisher,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
): Promise<void> {
  await publishPages(publisher, portfolioId, { pageIds, plans: [], horizon: publisher.clock(), releaseIds: [] });
}

/** Pages whose links may lead elsewhere now: those that refer to what changed, or to what redirects to it or lies beside it. */
async function dependents(
  { database }: Publisher,
  pageIds: readonly PageId[],
  around: Neighbourhood,
  horizon: Instant,
): Promise<PageId[]> {
  const changed = new Set(pageIds);
  const places = new Set(
    placesOf(around)
      .filter(({ pageId }) => changed.has(pageId))
      .map(({ hostId, path }) => `${hostId} ${path}`),
  );
  const beside = placesOf(around)
    .filter(({ hostId, path }) => places.has(`${hostId} ${path}`))
    .map(({ pageId }) => pageId);
  const dirty = new Set<PageId>([...pageIds, ...beside]);
  for (let fresh = [...dirty]; fresh.length;) {
    fresh = (await redirectingPages(database, fresh, horizon)).filter((id) => !dirty.has(id));
    for (const id of fresh) dirty.add(id);
  }
  const referrers = await referrersOf(database, [...dirty], horizon);
  return [...new Set(referrers.map(({ referrer }) => referrer))].filter((id) => !changed.has(id));
}

interface Task {
  readonly pageIds: readonly PageId[];
  /** Plans as they were and are: every address in them is written anew. */
  readonly plans: readonly Parameters<typeof addressesOf>[0][];
  /** Nothing before it changes. */
  readonly horizon: Instant;
  readonly releaseIds: readonly ReleaseId[];
}

/** Writes routes and artifacts of pages; gives their neighbourhood as it was then. */
async function publishPages(publisher: Publisher, portfolioId: PortfolioId, task: Task): Promise<Neighbourhood> {
  return publisher.database.transaction(async (trx) => {
    // One publication of a portfolio at a time: the later one sees what the earlier wrote.
    await trx.raw('SELECT pg_advisory_xact_lock(?, ?)', [store.PUBLISH_LOCK, portfolioId]);
    const around = await neighbourhoodOf(trx, portfolioId, task.pageIds, { former: task.plans });
    const addresses = uniqueAddresses(
      [...task.pageIds.flatMap((id) => around.plans.get(id) ?? []), ...task.plans].flatMap((plan) =>
        addressesOf(plan, around.siteAddresses),
      ),
    );
    const documents = await documentsAt(trx, around, addresses);
    const whole = await neighbourhoodOf(trx, portfolioId, documents.references, { known: around });
    const table = tableOf(whole);
    const routes = await routesAt(
      publisher,
      trx,
      portfolioId,
      { around: whole, table },
      addresses,
      documents.byRevision,
      task.horizon,
    );
    const plan = { around: whole, table, documents: documents.byRevision, now: publisher.clock() };
    await keepPlanFindings(trx, portfolioId, await planFindings(trx, portfolioId, task.pageIds, plan));
    const touched = await store.writeRoutes(trx, portfolioId, addresses, routes, task.horizon);
    const moved = await store.writePlaces(trx, task.pageIds, placesOf(whole));
    await store.announce(trx, [...new Set([...touched, ...moved])], task.releaseIds, publisher.clock());
    return around;
  });
}

function uniqueAddresses(addresses: readonly AddressRow[]): AddressRow[] {
  return [...new Map(addresses.map(({ hostId, path }) => [`${hostId} ${path}`, { hostId, path }])).values()];
}

/** Documents of every revision that is planned at these addresses, and the pages they refer to. */
async function documentsAt(trx: Knex.Transaction, around: Neighbourhood, addresses: readonly AddressRow[]) {
  const wanted = new Set(addresses.map(({ hostId, path }) => `${hostId} ${path}`));
  const claims = claimsOfNeighbourhood(around).filter(
    (claim) => claim.layer === 'page' && wanted.has(`${claim.hostId} ${claim.path}`),
  );
  const revisions = await revisionsById(trx, [
    ...new Set(claims.flatMap((claim) => (claim.layer === 'page' ? [claim.revisionId] : []))),
  ]);
  const byRevision = new Map<RevisionId, PageDocument>(revisions.map(({ id, document }) => [id, document]));
  return {
    byRevision,
    references: [...new Set(revisions.flatMap(({ document }) => pageReferencesOf(document)))],
  };
}

/** Every claim at these addresses as routes: pages rendered, split where anything they show changes. */
async function routesAt(
  publisher: Publisher,
  trx: Knex.Transaction,
  portfolioId: PortfolioId,
  { around, table }: { readonly around: Neighbourhood; readonly table: RouteTable },
  addresses: readonly AddressRow[],
  documents: ReadonlyMap<RevisionId, PageDocument>,
  horizon: Instant,
): Promise<store.NewRoute[]> {
  const wanted = new Set(addresses.map(({ hostId, path }) => `${hostId} ${path}`));
  const claims = claimsOfNeighbourhood(around).filter(({ hostId, path }) => wanted.has(`${hostId} ${path}`));
  const published = await store.publishedClaims(
    trx,
    claims.map(({ sourceId }) => sourceId),
  );
  const sites = await siteViews(trx, portfolioId, around, publisher.themes);
  const pictures = await store.picturesOfPortfolio(trx, portfolioId);
  const inputs = new Map<string, RenderInput>();
  const keys = new Map<string, string>();
  const placeOf = ({ name, language, theme, host, basePath }: SiteView) =>
    JSON.stringify([name, language, theme.stylesheetHref, host, basePath]);
  const keyOf = (document: PageDocument, site: SiteView, path: string, ends: ReadonlyMap<PageId, Followed>) => {
    const isFound = !path.endsWith(NOT_FOUND_PATH);
    const input = renderInput(document, site, path, ends, pictures, publisher.style, isFound);
    const key = renderKeyOf(input);
    inputs.set(key, input);
    return key;
  };
  const pending = claims.flatMap((claim): (Omit<store.NewRoute, 'artifact'> & { key: string | null })[] => {
    if (claim.layer === 'after') return [{ claim, during: claim.during, key: null }];
    const document = documents.get(claim.revisionId);
    const site = sites(claim, claim.during.from);
    if (!document || !site) return [];
    const isKnown = published.has(claim.sourceId);
    if (isKnown && endOf(claim.during) <= horizon) return [];
    const during = isKnown && claim.during.from < horizon ? { from: horizon, until: claim.during.until } : claim.during;
    return stretchesOf(table, document, during).map(({ during: stretch, value: ends }) => {
      // A page that comes back with the same revision is the same render: its key is made once.
      const sameness = `${claim.revisionId} ${claim.path} ${placeOf(site)} ${JSON.stringify([...ends])}`;
      const key = keys.get(sameness) ?? keyOf(document, site, claim.path, ends);
      keys.set(sameness, key);
      return { claim, during: stretch, key };
    });
  });
  const artifacts = await renderAll(trx, publisher.blobs, inputs);
  return pending.map(({ claim, during, key }) => ({
    claim,
    during,
    artifact: key === null ? null : (artifacts.get(key) as string),
  }));
}

/** Links of pages that are live or will be, which lead through redirects or nowhere. */
async function planFindings(
  trx: Knex.Transaction,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
  plan: {
    readonly around: Neighbourhood;
    readonly table: RouteTable;
    readonly documents: ReadonlyMap<RevisionId, PageDocument>;
    readonly now: Instant;
  },
): Promise<Map<PageId, Finding[]>> {
  const { around, table, documents, now } = plan;
  const found = new Map<PageId, Finding[]>(pageIds.map((id) => [id, []]));
  const zone = await zoneOf(trx, portfolioId);
  const references = [...new Set([...documents.values()].flatMap(pageReferencesOf))];
  const names = await namesOfPages(trx, portfolioId, references);
  for (const claim of claimsOfNeighbourhood(around)) {
    if (claim.layer !== 'page' || endOf(claim.during) <= now) continue;
    const [known, document] = [found.get(claim.pageId), documents.get(claim.revisionId)];
    if (!known || !document) continue;
    const isLive = claim.during.from <= now;
    for (const finding of linkFindingsOf({
      document,
      pageId: claim.pageId,
      planned: table,
      during: isLive ? { from: now, until: claim.during.until } : claim.during,
      isLive,
      nameOf: (id) => names.get(id) ?? 'a page',
      write: (at) => writeInstant(at, zone, now),
    }))
      if (!known.some(({ message }) => message === finding.message)) known.push(finding);
  }
  return found;
}

/** A document's time split into stretches in which every page it refers to leads to the same place. */
function stretchesOf(table: RouteTable, document: PageDocument, during: Claim['during']) {
  const references = pageReferencesOf(document);
  return stableOver(
    during,
    (at, witness) => new Map(references.map((id): [PageId, Followed] => [id, follow(table, id, at, 301, witness)])),
    (a, b) => sameEnds(a, b),
  );
}

function sameEnds(a: ReadonlyMap<PageId, Followed>, b: ReadonlyMap<PageId, Followed>): boolean {
  return JSON.stringify([...a]) === JSON.stringify([...b]);
}

async function siteViews(
  trx: Knex.Transaction,
  portfolioId: PortfolioId,
  around: Neighbourhood,
  themes: Record<ThemeKey, ThemeFiles>,
): Promise<(place: { hostId: HostId; path: string }, at: Instant) => SiteView | null> {
  const rows = await rowsOf<{ id: number; brand: string; theme: string; language: string }>(
    trx,
    'SELECT id, brand, theme, language FROM site WHERE portfolio_id = ?',
    [portfolioId],
  );
  const own = new Set(
    (await rowsOf<{ id: HostId }>(trx, 'SELECT id FROM host WHERE portfolio_id = ? AND is_own', [portfolioId])).map(
      ({ id }) => id,
    ),
  );
  const sites = new Map(rows.map((row) => [row.id, row]));
  const byHost = groupBy(
    around.siteAddresses.filter(({ isPrimary }) => isPrimary),
    ({ hostId }) => hostId,
  );
  return ({ hostId, path }, at) => {
    const address = (byHost.get(hostId) ?? [])
      .filter(
        ({ basePath, during }) =>
          (basePath === '/' || path === basePath || path.startsWith(`${basePath}/`)) &&
          during.from <= at &&
          at < endOf(during),
      )
      .sort((a, b) => b.basePath.length - a.basePath.length)[0];
    const site = address && sites.get(address.siteId);
    if (!address || !site) return null;
    const theme = themes[isThemeKey(site.theme) ? site.theme : 'ferry'];
    return {
      name: site.brand,
      language: site.language,
      theme,
      host: around.hosts.get(hostId) ?? '',
      basePath: address.basePath,
      isOwnHost: own.has(hostId),
    };
  };
}
