import { listedPagesOf, pageReferencesOf, referencesOf, type Block, type PageDocument } from '@domatium/core/document';
import {
  groupBy,
  type AddressKey,
  type Claim,
  type HostId,
  type PageId,
  type PortfolioId,
  type ReleaseId,
  type RevisionId,
} from '@domatium/core/plan';
import { linkFindingsOf, type Finding } from '@domatium/core/checks';
import { stableOver, type RouteTable } from '@domatium/core/routing';
import { DAY, endOf, later, writeInstant, type Instant, type Interval } from '@domatium/core/time';
import type { Knex } from 'knex';
import { rowsOf } from '../../platform/database/context.js';
import {
  addressesOf,
  claimsOfNeighbourhood,
  neighbourhoodOf,
  placesOf,
  tableOf,
  type Neighbourhood,
} from '../plans/index.js';
import { keepFindings } from '../checks/index.js';
import { namesOfPages, pagesOfReleases, revisionsById, zoneOf } from '../releases/index.js';
import { itemsOfReleases, stockOf, type ShelvedItem } from '../stock/index.js';
import { Before } from './before.js';
import { shelfHrefs } from './open.js';
import { prepareFramedPages } from './framed-pages.js';
import { amiss, type Amiss } from './frame-lines.js';
import { dueFrames, prepareFrames, type FramedSites, type PreparedFrames } from './frames.js';
import type { RenderInput, Shelves, SiteView, Surroundings } from './input.js';
import { attempt, hiddenFrom, renderInput, renderKeyOf, type Renders } from './render.js';
import { signatureOf, surroundingsAt, type PortfolioOverTime } from './surroundings.js';
import { dependents, framedBy, ruledBy, usersOf } from './reach.js';
import { openPlans, publication, type Prepared, type Publication, type Publisher } from './publication.js';
import * as store from './store.js';
import { pagesLedTo, pagesOfSites, sitesLeadingTo } from './ways.js';
import { UNNAMED } from '@domatium/core/words';

/**
 * Makes releases ready for visitors (design section 5): first what they changed, then the pages that only refer to it.
 * Asked for some of what is decided, or with `null` for whatever is, all that is decided by then goes out together, so that nobody meets half of a later release through an address it
 * shares with an earlier one; `isAlone` publishes only these, with all others left out. Can be killed anywhere and run
 * again: what is written is whole, and what is the same is not written.
 */
export async function publishReleases(
  publisher: Publisher,
  portfolioId: PortfolioId,
  releaseIds: readonly ReleaseId[] | null,
  isAlone = false,
): Promise<void> {
  const done = await publication(publisher, portfolioId, async (one) => {
    const wanted = releaseIds ? one.open.filter(({ id }) => releaseIds.includes(id)) : one.open;
    if (!wanted.length) return null;
    const releases = isAlone ? wanted : one.open;
    const horizon = Math.min(...releases.map(({ at }) => at)) as Instant;
    const ids = releases.map(({ id }) => id);
    const changed = await pagesOfReleases(one.reader, ids);
    const items = await itemsOfReleases(one.reader, ids);
    const users = await usersOf(one, items, ids, horizon);
    const pageIds = [...new Set([...changed.map(({ page_id }) => page_id), ...users])];
    const plans = changed.flatMap(({ before, after }) => [before, after]);
    const ruled = await ruledBy(one, items, horizon);
    const task = { pageIds, ruled, plans, horizon, releaseIds: ids, sites: framedBy(items) };
    const pages = await preparePages(one, task);
    return { ...pages, result: { horizon, ...(await dependents(one, pageIds, pages.result, horizon)) } };
  });
  if (!done) return;
  const { referrers, sites, horizon } = done;
  if (!referrers.length && sites !== 'all' && !sites.size) return;
  await publication(publisher, portfolioId, (one) =>
    preparePages(one, { pageIds: referrers, ruled: [], plans: [], horizon, releaseIds: [], sites }),
  );
}

/**
 * Makes what is planned of pages ready for visitors, whatever release it came from, and the frames of sites anew: of many
 * pages in turns once is enough.
 */
export async function publishPlans(
  publisher: Publisher,
  portfolioId: PortfolioId,
  pageIds: readonly PageId[],
  sites: FramedSites = 'all',
): Promise<void> {
  await publication(publisher, portfolioId, (one) =>
    preparePages(one, { pageIds, ruled: [], plans: [], horizon: publisher.clock(), releaseIds: [], sites }),
  );
}

/** Years that are turned are made ready further ahead the later one looks; for so long all is there. */
const LOOKED_AHEAD = 366 * DAY;

/**
 * The frames of a portfolio derived anew: how many there are, and where something else stands within a year. `null` where
 * a release is on its way, of which nothing can be said yet.
 */
export function framesDerived(
  publisher: Publisher,
  portfolioId: PortfolioId,
): Promise<{ readonly count: number; readonly amiss: readonly Amiss[] } | null> {
  const reading = { isolationLevel: 'repeatable read', readOnly: true } as const;
  return publisher.database.transaction(async (reader) => {
    const open = await store.openReleases(reader, portfolioId);
    if (open.length) return null;
    const from = publisher.clock();
    const task: Task = { pageIds: [], ruled: [], plans: [], horizon: from, releaseIds: [], sites: 'all' };
    const { frames } = await preparePages({ publisher, portfolioId, reader, open }, task);
    const found = await amiss(reader, portfolioId, frames.made, { from, until: later(from, LOOKED_AHEAD) });
    return { count: frames.made.length, amiss: found };
  }, reading);
}

interface Task {
  readonly pageIds: readonly PageId[];
  /** Pages that are the same, of which something else is said of what stands around them. */
  readonly ruled: readonly PageId[];
  /** Plans as they were and are: every address in them is written anew. */
  readonly plans: readonly Parameters<typeof addressesOf>[0][];
  /** Nothing before it changes. */
  readonly horizon: Instant;
  readonly releaseIds: readonly ReleaseId[];
  /** Sites whose frames may be others. */
  readonly sites: FramedSites;
}

/** What pages need to be rendered and written; the result is their neighbourhood as it was then. */
async function preparePages(
  one: Publication,
  task: Task,
): Promise<Prepared<Neighbourhood> & { readonly frames: PreparedFrames }> {
  const { publisher, portfolioId, reader } = one;
  const source = { db: reader, portfolioId, style: publisher.style };
  const instead = await openPlans(reader, one.open, task.releaseIds);
  const around = await neighbourhoodOf(source, task.pageIds, { former: task.plans, instead });
  const addresses = uniqueAddresses(
    [...task.pageIds.flatMap((id) => around.plans.get(id) ?? []), ...task.plans].flatMap((plan) =>
      addressesOf(plan, around.siteAddresses),
    ),
  );
  const stock = await stockOf(reader, portfolioId);
  const documents = await documentsAt(reader, around, addresses, stock);
  const changed = new Set(task.pageIds);
  const hostName = (id: HostId) => around.hosts.get(id) ?? '';
  const { siteAddresses } = around;
  const pages = await prepareFramedPages(
    reader,
    portfolioId,
    [...new Set([...task.pageIds, ...task.ruled])],
    { stock, siteAddresses, hostName, plans: instead, documents: documents.byRevision },
    task.horizon,
  );
  const leading = pagesLedTo(stock);
  const sites = joined(
    task.sites,
    sitesLeadingTo(leading, (id) => changed.has(id)),
  );
  const frames = await dueFrames(reader, portfolioId, { siteAddresses, pages }, sites, task.horizon);
  const ledTo = pagesOfSites(leading, new Set(frames.due.map(({ address }) => address.siteId)));
  const whole = await neighbourhoodOf(source, [...documents.references, ...ledTo], { known: around, instead });
  const table = tableOf(whole);
  const shelves = await store.shelvesOf(reader, portfolioId);
  const titles = await store.titlesOf(reader, listedRevisions(whole, documents.byRevision, stock, ledTo));
  const overTime: PortfolioOverTime = {
    ...{ table, stock },
    periodsOf: (id) => whole.plans.get(id)?.periods ?? [],
    placementsOf: (id) => whole.plans.get(id)?.placements ?? [],
    titleOf: (id) => titles.get(id) ?? '',
    zone: await zoneOf(reader, portfolioId),
    now: publisher.clock(),
  };
  const preparedFrames = await prepareFrames(
    { publisher, portfolioId, overTime, shelves, hostName: (id) => whole.hosts.get(id) ?? '' },
    frames,
    task.horizon,
  );
  const world = { around: whole, overTime, shelves };
  const { renders, routesWith } = await routesAt(one, world, addresses, documents.byRevision, task.horizon);
  const plan = { around: whole, table, documents: documents.byRevision, now: publisher.clock() };
  const findings = await planFindings(reader, portfolioId, task.pageIds, plan);
  const write = async (trx: Knex.Transaction, artifacts: ReadonlyMap<string, string>) => {
    const routes = routesWith(artifacts);
    await keepFindings(trx, portfolioId, 'plan', findings);
    const touched = await store.writeRoutes(trx, portfolioId, addresses, routes, task.horizon);
    // An edge has to know every place it may be led to, live or not.
    const led = routes.flatMap(({ claim }) => targetOf(claim)).filter((id) => whole.plans.has(id));
    const placed = [...new Set([...task.pageIds, ...led])];
    const moved = await store.writePlaces(trx, placed, placesOf(whole));
    const before = new Before();
    const framed = [...(await pages.write(trx, before.keep)), ...(await preparedFrames.write(trx, before.keep))];
    await before.write(trx, task.releaseIds);
    const risen = { routes: [...touched, ...moved], frames: [...new Set(framed)] };
    await store.announce(trx, risen, task.releaseIds, publisher.clock());
  };
  return { renders, ready: preparedFrames.ready, write, result: around, frames: preparedFrames };
}

const joined = (one: FramedSites, other: FramedSites): FramedSites =>
  one === 'all' || other === 'all' ? 'all' : new Set([...one, ...other]);

const targetOf = (claim: Claim): PageId[] =>
  claim.layer === 'after' && claim.answer.kind === 'redirect' && claim.answer.target.kind === 'page'
    ? [claim.answer.target.pageId]
    : [];

function uniqueAddresses(addresses: readonly AddressKey[]): AddressKey[] {
  return [...new Map(addresses.map(({ hostId, path }) => [`${hostId} ${path}`, { hostId, path }])).values()];
}

/** Documents of every revision that is planned at these addresses, and the pages they refer to. */
async function documentsAt(
  trx: Knex.Transaction,
  around: Neighbourhood,
  addresses: readonly AddressKey[],
  stock: readonly ShelvedItem[],
) {
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
    references: [...new Set(revisions.flatMap(({ document }) => pageReferencesOf(withAllPieces(document, stock))))],
  };
}

/** A document with everything its pieces hold at any time. */
function withAllPieces(document: PageDocument, stock: readonly ShelvedItem[]): PageDocument {
  const used = new Set(referencesOf(document, 'piece'));
  const held = stock.flatMap((item) =>
    used.has(item.id) && item.kind === 'piece'
      ? item.periods.flatMap(({ content }) => content as readonly Block[])
      : [],
  );
  return held.length ? { ...document, blocks: [...document.blocks, ...held] } : document;
}

/**
 * Every claim at these addresses as routes, split where anything their pages show changes: what is to be rendered, and
 * the routes once that is done.
 */
async function routesAt(
  { publisher, reader, portfolioId }: Publication,
  world: {
    readonly around: Neighbourhood;
    readonly overTime: PortfolioOverTime;
    readonly shelves: Shelves;
  },
  addresses: readonly AddressKey[],
  documents: ReadonlyMap<RevisionId, PageDocument>,
  horizon: Instant,
): Promise<{
  readonly renders: Renders;
  readonly routesWith: (artifacts: ReadonlyMap<string, string>) => store.NewRoute[];
}> {
  const { around, overTime, shelves } = world;
  const wanted = new Set(addresses.map(({ hostId, path }) => `${hostId} ${path}`));
  const claims = claimsOfNeighbourhood(around).filter(({ hostId, path }) => wanted.has(`${hostId} ${path}`));
  const published = await store.publishedClaims(
    reader,
    claims.map(({ sourceId }) => sourceId),
  );
  const sites = await siteViews(reader, portfolioId, around);
  const inputs = new Map<string, RenderInput>();
  const keys = new Map<string, string>();
  const keyOf = (document: PageDocument, site: SiteView, path: string, surroundings: Surroundings) => {
    const { scripts } = publisher.files;
    const input = renderInput(document, site, path, surroundings, shelves, scripts, publisher.style);
    const key = renderKeyOf(input);
    inputs.set(key, input);
    return key;
  };
  const stretchesOf = (claim: Claim): (Omit<store.NewRoute, 'artifact' | 'hiddenFrom'> & { key: string | null })[] => {
    if (claim.layer === 'after') return [{ claim, during: claim.during, key: null }];
    const document = documents.get(claim.revisionId);
    const site = sites(claim, claim.during.from);
    if (!document || !site) return [];
    const isKnown = published.has(claim.sourceId);
    if (isKnown && endOf(claim.during) <= horizon) return [];
    const during = isKnown && claim.during.from < horizon ? { from: horizon, until: claim.during.until } : claim.during;
    const siteKey = JSON.stringify(site);
    const period =
      overTime
        .periodsOf(claim.pageId)
        .find((one) => one.during.from <= claim.during.from && claim.during.from < endOf(one.during)) ?? null;
    return stableOver(
      during,
      (at, witness) => surroundingsAt(overTime, document, site, { path: claim.path, period }, at, witness),
      (a, b) => signatureOf(a) === signatureOf(b),
    ).map(({ during: stretch, value }) => {
      // A page that comes back with the same revision is the same render: its key is made once.
      const sameness = `${claim.revisionId} ${claim.path} ${siteKey} ${signatureOf(value)}`;
      const key = keys.get(sameness) ?? keyOf(document, site, claim.path, value);
      keys.set(sameness, key);
      return { claim, during: stretch, key };
    });
  };
  // What is over and can't be computed holds up nothing: nobody gets it any more.
  const isOver = ({ during }: { readonly during: Interval }) => endOf(during) <= overTime.now;
  const stretches = claims.flatMap((claim) => attempt(() => stretchesOf(claim), isOver(claim)) ?? []);
  const needed = new Set(stretches.map((stretch) => (isOver(stretch) ? null : stretch.key)));
  const renders = { portfolioId, inputs, shelf: shelfHrefs(shelves), isNeeded: (key: string) => needed.has(key) };
  const routesWith = (artifacts: ReadonlyMap<string, string>) =>
    stretches.flatMap(({ claim, during, key }): store.NewRoute[] => {
      if (key === null) return [{ claim, during, artifact: null, hiddenFrom: null }];
      const [artifact, input] = [artifacts.get(key), inputs.get(key)];
      return artifact ? [{ claim, during, artifact, hiddenFrom: input ? hiddenFrom(input) : null }] : [];
    });
  return { renders, routesWith };
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
      nameOf: (id) => names.get(id) ?? UNNAMED.page,
      write: (at) => writeInstant(at, zone, now),
    }))
      if (!known.some(({ message }) => message === finding.message)) known.push(finding);
  }
  return found;
}

/** Revisions whose titles are shown by pages that list them, or by menus. */
function listedRevisions(
  around: Neighbourhood,
  documents: ReadonlyMap<RevisionId, PageDocument>,
  stock: readonly ShelvedItem[],
  ledTo: readonly PageId[],
): RevisionId[] {
  const shown = [...documents.values()].flatMap((document) => listedPagesOf(withAllPieces(document, stock)));
  const listed = new Set([...shown, ...ledTo]);
  return [...listed].flatMap((id) => (around.plans.get(id)?.periods ?? []).map(({ revisionId }) => revisionId));
}

async function siteViews(
  trx: Knex.Transaction,
  portfolioId: PortfolioId,
  around: Neighbourhood,
): Promise<(place: { hostId: HostId; path: string }, at: Instant) => SiteView | null> {
  const own = new Set(
    (await rowsOf<{ id: HostId }>(trx, 'SELECT id FROM host WHERE portfolio_id = ? AND is_own', [portfolioId])).map(
      ({ id }) => id,
    ),
  );
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
    if (!address) return null;
    return {
      siteId: address.siteId,
      host: around.hosts.get(hostId) ?? '',
      basePath: address.basePath,
      isOwnHost: own.has(hostId),
    };
  };
}
