import { isBelow, joinPath, pathBelow, placeOfUrl, type AddressStyle } from '@domatium/core/address';
import {
  claimsOf,
  groupBy,
  inputsOf,
  pageAddressesOf,
  type AddressKey,
  type Answer,
  type Claim,
  type HostId,
  type PageAddress,
  type PageId,
  type PagePlan,
  type PlanRowId,
  type PortfolioId,
  type SiteAddress,
  type Statement,
} from '@domatium/core/plan';
import { compile, type HostRoutes, type Route, type RouteTable, type SiteRoute } from '@domatium/core/routing';
import { intersect, type Instant } from '@domatium/core/time';
import type { Db } from '../../platform/database/context.js';
import {
  exactAt,
  hostNamesOf,
  pagesAt,
  plansOf,
  redirectingPages,
  redirectsOutside,
  siteAddressesOf,
} from './store.js';

/**
 * A part of a portfolio's plan that is closed under everything answers depend on: with a page come all that lie at its
 * addresses, and all that its answers lead to. Whatever is asked about its pages is answered as from the whole plan.
 */
export interface Neighbourhood {
  readonly portfolioId: PortfolioId;
  /** How absolute addresses look outside, to know those of our own. */
  readonly style: AddressStyle;
  readonly plans: ReadonlyMap<PageId, PagePlan>;
  /** What is said of its addresses without a page, by its row. */
  readonly exact: ReadonlyMap<PlanRowId, Statement>;
  readonly siteAddresses: readonly SiteAddress[];
  readonly hosts: ReadonlyMap<HostId, string>;
}

export interface NeighbourhoodOptions {
  /** Brings, from this instant on, whatever redirects to the pages. */
  readonly inbound?: Instant;
  /** Brings what lies at these addresses. */
  readonly extra?: readonly AddressKey[];
  /** Plans that stand for those that are stored; what lies where they lie comes with them. */
  readonly instead?: ReadonlyMap<PageId, PagePlan>;
  /** Brings what lies where these plans lay. */
  readonly former?: readonly PagePlan[];
  /** One that is only widened. */
  readonly known?: Neighbourhood;
}

/** Where a portfolio's plans are read, and how its addresses look. */
export interface PlanSource {
  readonly db: Db;
  readonly portfolioId: PortfolioId;
  readonly style: AddressStyle;
}

/** Nothing yet but what every neighbourhood of a portfolio needs: to be widened, or read once for several. */
export async function emptyNeighbourhood({ db, portfolioId, style }: PlanSource): Promise<Neighbourhood> {
  const siteAddresses = await siteAddressesOf(db, portfolioId);
  const none = { plans: new Map(), exact: new Map() };
  return { portfolioId, style, ...none, siteAddresses, hosts: await hostNamesOf(db, portfolioId) };
}

/** Loads the neighbourhood of pages. */
export async function neighbourhoodOf(
  { db, portfolioId, style }: PlanSource,
  seeds: readonly PageId[],
  options: NeighbourhoodOptions = {},
): Promise<Neighbourhood> {
  const { instead } = options;
  const known = options.known ?? (await emptyNeighbourhood({ db, portfolioId, style }));
  const { siteAddresses, hosts } = known;
  const plans = new Map<PageId, PagePlan>(known.plans);
  const exact = new Map(known.exact);
  const around = { portfolioId, style, plans, exact, siteAddresses, hosts };
  const addressed = (some: Iterable<PagePlan>) => [...some].flatMap((plan) => addressesOf(plan, siteAddresses));
  const seen = new Set<string>(addressed(plans.values()).map(keyOf));
  const first = [...seeds, ...(instead?.keys() ?? [])];
  let wanted: PageId[] = (
    options.inbound === undefined
      ? first
      : await withInbound({ db, portfolioId, style }, around, first, options.inbound)
  ).filter((id) => !plans.has(id));
  let addresses: readonly AddressKey[] = [...(options.extra ?? []), ...addressed(options.former ?? [])];
  while (wanted.length || addresses.length) {
    const loaded = await plansOf(
      db,
      portfolioId,
      wanted.filter((id) => !plans.has(id)),
    );
    for (const id of loaded.keys()) loaded.set(id, instead?.get(id) ?? (loaded.get(id) as PagePlan));
    for (const [id, plan] of loaded) plans.set(id, plan);
    const led = [...loaded.values()].map((plan) => leadsOf(around, plan));
    const fresh = [...addresses, ...addressed(loaded.values()), ...led.flatMap(({ places }) => places)];
    addresses = fresh.filter((address) => !seen.has(keyOf(address)) && seen.add(keyOf(address)));
    const next = new Set<PageId>(await pagesAt(db, siteAddresses, addresses));
    const said = await exactAt(db, portfolioId, addresses);
    for (const one of said) exact.set(one.id, one);
    const on = ledTo(
      around,
      said.map(({ answer }) => answer),
    );
    for (const id of [...led.flatMap(({ pages }) => pages), ...on.pages]) next.add(id);
    wanted = [...next].filter((id) => !plans.has(id));
    addresses = on.places.filter((address) => !seen.has(keyOf(address)));
  }
  return around;
}

const keyOf = ({ hostId, path }: AddressKey) => `${hostId} ${path}`;

/** The pages a plan may lead to, and the addresses of ours it names as addresses outside. */
export function leadsOf(
  around: Pick<Neighbourhood, 'style' | 'hosts' | 'siteAddresses'>,
  plan: PagePlan,
): { readonly pages: readonly PageId[]; readonly places: readonly AddressKey[] } {
  return ledTo(around, answersIn(plan));
}

function ledTo(around: Pick<Neighbourhood, 'style' | 'hosts' | 'siteAddresses'>, answers: readonly Answer[]) {
  return {
    pages: answers.flatMap((answer) =>
      answer.kind === 'redirect' && answer.target.kind === 'page' ? [answer.target.pageId] : [],
    ),
    places: answers.flatMap((answer) => placesLedTo(around, answer)),
  };
}

/** Every answer that a plan may give: what its ends leave, and what is said. */
function answersIn({ placements, periods, statements }: PagePlan): Answer[] {
  return [
    ...placements.flatMap(({ leaves }) => (leaves && leaves.answer.kind !== 'follow' ? [leaves.answer] : [])),
    ...periods.flatMap(({ leaves }) => (leaves ? [leaves.answer] : [])),
    ...statements.map(({ answer }) => answer),
  ];
}

/**
 * The addresses of ours that an address outside names: itself, and the same under the other addresses of the sites
 * that it lies in.
 */
export function placesLedTo(
  { style, hosts, siteAddresses }: Pick<Neighbourhood, 'style' | 'hosts' | 'siteAddresses'>,
  answer: Answer,
): AddressKey[] {
  if (answer.kind !== 'redirect' || answer.target.kind !== 'outside') return [];
  const place = placeOfUrl(style, answer.target.url);
  const hostId = place && [...hosts].find(([, name]) => name === place.host)?.[0];
  return place && hostId !== undefined && hostId !== null
    ? alsoUnderPrimary(siteAddresses, { hostId, path: place.path })
    : [];
}

/** These pages and all that redirect to them, or will, from an instant on. */
export async function withInbound(
  source: PlanSource,
  around: Pick<Neighbourhood, 'hosts' | 'siteAddresses'>,
  seeds: readonly PageId[],
  from: Instant,
): Promise<PageId[]> {
  const all = new Set(seeds);
  for (let fresh: readonly PageId[] = [...seeds]; fresh.length;) {
    const found = [
      ...(await redirectingPages(source.db, fresh, from)),
      ...(await outsideTo(source, around, fresh, from)),
    ];
    fresh = [...new Set(found)].filter((id) => !all.has(id));
    for (const id of fresh) all.add(id);
  }
  return [...all];
}

/** The pages whose redirects name addresses of these pages as addresses outside. */
async function outsideTo(
  { db, portfolioId, style }: PlanSource,
  { hosts, siteAddresses }: Pick<Neighbourhood, 'hosts' | 'siteAddresses'>,
  pages: readonly PageId[],
  from: Instant,
): Promise<PageId[]> {
  const named = [...hosts.values()].flatMap((host) => [
    host,
    `${host}${style.suffix}${style.port === null ? '' : `:${style.port}`}`,
  ]);
  const redirects = await redirectsOutside(db, portfolioId, named, from);
  if (!redirects.length) return [];
  const plans = await plansOf(db, portfolioId, pages);
  const own = new Set([...plans.values()].flatMap((plan) => addressesOf(plan, siteAddresses)).map(keyOf));
  return redirects.flatMap(({ page_id, target_url: url }) => {
    const target = { kind: 'outside', url } as const;
    const places = placesLedTo({ style, hosts, siteAddresses }, { kind: 'redirect', target, status: 301 });
    return places.some((place) => own.has(keyOf(place))) ? [page_id] : [];
  });
}

/** An address, and where it leads under the primary addresses of the sites that have it under another one. */
function alsoUnderPrimary(siteAddresses: readonly SiteAddress[], address: AddressKey): AddressKey[] {
  const others = siteAddresses
    .filter(
      ({ hostId, isPrimary, basePath }) => hostId === address.hostId && !isPrimary && isBelow(basePath, address.path),
    )
    .flatMap(({ siteId, basePath }) =>
      siteAddresses
        .filter((one) => one.siteId === siteId && one.isPrimary)
        .map((primary) => ({
          hostId: primary.hostId,
          path: joinPath(primary.basePath, pathBelow(basePath, address.path)),
        })),
    );
  return [address, ...others];
}

/** Every address a plan touches: where the page lies over time, and where its answers are. */
export function addressesOf(plan: PagePlan, siteAddresses: readonly SiteAddress[]): AddressKey[] {
  const said = plan.statements.flatMap(({ place }) => (place ? [place] : []));
  return [...pageAddressesOf(plan.placements, siteAddresses), ...said];
}

/** The neighbourhood with some plans changed. */
export function withPlans(neighbourhood: Neighbourhood, changed: Iterable<PagePlan>): Neighbourhood {
  const plans = new Map(neighbourhood.plans);
  for (const plan of changed) plans.set(plan.pageId, plan);
  return { ...neighbourhood, plans };
}

export function claimsOfNeighbourhood({ plans, siteAddresses, exact }: Neighbourhood): Claim[] {
  return claimsOf(inputsOf(plans.values(), siteAddresses, exact.values()));
}

export function placesOf({ plans, siteAddresses }: Neighbourhood): PageAddress[] {
  return pageAddressesOf(
    [...plans.values()].flatMap((plan) => plan.placements),
    siteAddresses,
  );
}

/** Routes without artifacts, to ask what visitors would get. */
export function tableOf(neighbourhood: Neighbourhood): RouteTable {
  const { hosts, siteAddresses, portfolioId, style } = neighbourhood;
  const claims = groupBy(claimsOfNeighbourhood(neighbourhood), ({ hostId }) => hostId);
  const places = groupBy(placesOf(neighbourhood), ({ hostId }) => hostId);
  return compile(
    [...hosts].map(([hostId, host]): HostRoutes => ({
      host,
      version: 0,
      portfolioId,
      routes: (claims.get(hostId) ?? []).map(routeOfClaim),
      pages: places.get(hostId) ?? [],
      sites: siteAddresses
        .filter((address) => address.hostId === hostId)
        .flatMap((address) => siteRoutes(address, siteAddresses, hosts)),
    })),
    style,
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
      const there = { host: hosts.get(primary.hostId) ?? '', basePath: primary.basePath };
      return during ? [{ basePath, isPrimary, during, primary: there }] : [];
    });
}

export function routeOfClaim(claim: Claim): Route {
  const { path, layer, during, pageId, sourceId } = claim;
  if (claim.layer === 'after') return { path, layer, during, answer: { ...claim.answer, pageId, sourceId } };
  const answer = { kind: 'page', pageId: claim.pageId, revisionId: claim.revisionId, claimId: sourceId } as const;
  return { path, layer, during, answer: { ...answer, artifact: null } };
}
