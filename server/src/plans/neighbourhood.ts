import {
  claimsOf,
  groupBy,
  pageAddressesOf,
  type Claim,
  type HostId,
  type PageAddress,
  type PageId,
  type PagePlan,
  type PortfolioId,
  type SiteAddress,
} from '@domatium/core/plan';
import { compile, type HostRoutes, type Route, type RouteTable, type SiteRoute } from '@domatium/core/routing';
import { intersect, type Instant } from '@domatium/core/time';
import type { Db } from '../database/context.js';
import {
  answeringPages,
  claimingPages,
  hostNamesOf,
  plansOf,
  redirectingPages,
  siteAddressesOf,
  type AddressRow,
} from './store.js';

/**
 * A part of a portfolio's plan that is closed under everything answers depend on: with a page come all that lie at its
 * addresses, and all that its answers lead to. Whatever is asked about its pages is answered as from the whole plan.
 */
export interface Neighbourhood {
  readonly plans: ReadonlyMap<PageId, PagePlan>;
  readonly siteAddresses: readonly SiteAddress[];
  readonly hosts: ReadonlyMap<HostId, string>;
}

/**
 * Loads the neighbourhood of pages; `inbound` also brings, from that instant on, whatever redirects to them, `extra`
 * what lies at these addresses, and `former` what lies where these plans lay. `known` is one that is only widened.
 */
export async function neighbourhoodOf(
  db: Db,
  portfolioId: PortfolioId,
  seeds: readonly PageId[],
  options: {
    inbound?: Instant;
    extra?: readonly AddressRow[];
    former?: readonly PagePlan[];
    known?: Neighbourhood;
  } = {},
): Promise<Neighbourhood> {
  const { known } = options;
  const siteAddresses = known?.siteAddresses ?? (await siteAddressesOf(db, portfolioId));
  const hosts = known?.hosts ?? (await hostNamesOf(db, portfolioId));
  const plans = new Map<PageId, PagePlan>(known?.plans);
  const addressed = (some: Iterable<PagePlan>) => [...some].flatMap((plan) => addressesOf(plan, siteAddresses));
  const seen = new Set<string>(addressed(plans.values()).map(({ hostId, path }) => `${hostId} ${path}`));
  const first = options.inbound === undefined ? [...seeds] : await withInbound(db, seeds, options.inbound);
  let wanted: PageId[] = first.filter((id) => !plans.has(id));
  let addresses: readonly AddressRow[] = [...(options.extra ?? []), ...addressed(options.former ?? [])];
  while (wanted.length || addresses.length) {
    const loaded = await plansOf(
      db,
      portfolioId,
      wanted.filter((id) => !plans.has(id)),
    );
    for (const [id, plan] of loaded) plans.set(id, plan);
    addresses = [...addresses, ...addressed(loaded.values())].filter(({ hostId, path }) => {
      const key = `${hostId} ${path}`;
      return !seen.has(key) && seen.add(key);
    });
    const next = new Set<PageId>([...(await answeringPages(db, addresses)), ...(await claimingPages(db, addresses))]);
    for (const { answers } of loaded.values())
      for (const { answer } of answers)
        if (answer.kind === 'redirect' && answer.target.kind === 'page') next.add(answer.target.pageId);
    wanted = [...next].filter((id) => !plans.has(id));
    addresses = [];
  }
  return { plans, siteAddresses, hosts };
}

async function withInbound(db: Db, seeds: readonly PageId[], from: Instant): Promise<PageId[]> {
  const all = new Set(seeds);
  for (let fresh = [...seeds]; fresh.length;) {
    fresh = (await redirectingPages(db, fresh, from)).filter((id) => !all.has(id));
    for (const id of fresh) all.add(id);
  }
  return [...all];
}

/** Every address a plan touches: where the page lies over time, and where its answers are. */
export function addressesOf(plan: PagePlan, siteAddresses: readonly SiteAddress[]): AddressRow[] {
  return [...pageAddressesOf(plan.placements, siteAddresses), ...plan.answers];
}

/** The neighbourhood with some plans changed. */
export function withPlans(neighbourhood: Neighbourhood, changed: Iterable<PagePlan>): Neighbourhood {
  const plans = new Map(neighbourhood.plans);
  for (const plan of changed) plans.set(plan.pageId, plan);
  return { ...neighbourhood, plans };
}

export function claimsOfNeighbourhood({ plans, siteAddresses }: Neighbourhood): Claim[] {
  const all = [...plans.values()];
  const answers = all.flatMap((plan) => plan.answers);
  return claimsOf({
    placements: all.flatMap((plan) => plan.placements),
    periods: all.flatMap((plan) => plan.periods),
    siteAddresses,
    afterwards: answers.filter(({ kind }) => kind === 'afterwards'),
    moves: answers.filter(({ kind }) => kind === 'move'),
    exactRedirects: answers.filter(({ kind }) => kind === 'exact'),
  });
}

export function placesOf({ plans, siteAddresses }: Neighbourhood): PageAddress[] {
  return pageAddressesOf(
    [...plans.values()].flatMap((plan) => plan.placements),
    siteAddresses,
  );
}

/** Routes without artifacts, to ask what visitors would get. */
export function tableOf(neighbourhood: Neighbourhood): RouteTable {
  const { hosts, siteAddresses } = neighbourhood;
  const claims = groupBy(claimsOfNeighbourhood(neighbourhood), ({ hostId }) => hostId);
  const places = groupBy(placesOf(neighbourhood), ({ hostId }) => hostId);
  return compile(
    [...hosts].map(([hostId, host]): HostRoutes => ({
      host,
      version: 0,
      routes: (claims.get(hostId) ?? []).map(routeOfClaim),
      pages: places.get(hostId) ?? [],
      sites: siteAddresses
        .filter((address) => address.hostId === hostId)
        .flatMap((address) => siteRoutes(address, siteAddresses, hosts)),
    })),
  );
}

function siteRoutes(
  address: SiteAddress,
  all: readonly SiteAddress[],
  hosts: ReadonlyMap<HostId, string>,
): SiteRoute[] {
  const { basePath, isPrimary } = address;
  return all
    .filter(({ siteId, isPrimary: is }) => is && siteId === address.siteId)
    .flatMap((primary) => {
      const during = intersect(address.during, primary.during);
      return during
        ? [
            {
              basePath,
              isPrimary,
              during,
              primary: { host: hosts.get(primary.hostId) ?? '', basePath: primary.basePath },
            },
          ]
        : [];
    });
}

export function routeOfClaim(claim: Claim): Route {
  const { path, layer, during, pageId } = claim;
  return claim.layer === 'page'
    ? {
        path,
        layer,
        during,
        answer: {
          kind: 'page',
          pageId: claim.pageId,
          revisionId: claim.revisionId,
          claimId: claim.sourceId,
          artifact: null,
        },
      }
    : { path, layer, during, answer: { ...claim.answer, pageId } };
}
