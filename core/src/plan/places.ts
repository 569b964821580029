import { joinPath } from '../address/index.js';
import { contains, intersect, type Instant } from '../time/index.js';
import type { AddressKey, LivePeriod, PageAddress, PagePlan, Placement, SiteAddress, Statement } from './types.js';

/** Everything claims are derived from. Any part of a plan may be given; its claims are exact for that part. */
export interface ClaimInputs {
  readonly placements: readonly Placement[];
  readonly periods: readonly LivePeriod[];
  readonly statements: readonly Statement[];
  readonly siteAddresses: readonly SiteAddress[];
}

/** The inputs of some pages, and of addresses that something is said of without a page: exact redirects. */
export function inputsOf(
  plans: Iterable<PagePlan>,
  siteAddresses: readonly SiteAddress[],
  exact: Iterable<Statement> = [],
): ClaimInputs {
  const all = [...plans];
  return {
    placements: all.flatMap((plan) => plan.placements),
    periods: all.flatMap((plan) => plan.periods),
    statements: [...all.flatMap((plan) => plan.statements), ...exact],
    siteAddresses,
  };
}

/** Where pages lie over time: each placement under the primary addresses of its site. */
export function pageAddressesOf(
  placements: readonly Placement[],
  siteAddresses: readonly SiteAddress[],
): PageAddress[] {
  const primary = primaryBySite(siteAddresses);
  return placements.flatMap((placement) =>
    (primary.get(placement.siteId) ?? []).flatMap(({ hostId, basePath, during }) => {
      const both = intersect(placement.during, during);
      return both ? [{ pageId: placement.pageId, hostId, path: joinPath(basePath, placement.path), during: both }] : [];
    }),
  );
}

/** Where a page lies at an instant, live or not. */
export function addressAt(
  { placements }: Pick<PagePlan, 'placements'>,
  at: Instant,
  siteAddresses: readonly SiteAddress[],
): AddressKey | null {
  return pageAddressesOf(placements, siteAddresses).find(({ during }) => contains(during, at)) ?? null;
}

/** Kept for each list: it is asked once a page, and a portfolio has hundreds of sites. */
const primaries = new WeakMap<readonly SiteAddress[], Map<SiteAddress['siteId'], SiteAddress[]>>();

function primaryBySite(siteAddresses: readonly SiteAddress[]): Map<SiteAddress['siteId'], SiteAddress[]> {
  const known = primaries.get(siteAddresses);
  if (known) return known;
  const made = groupBy(
    siteAddresses.filter(({ isPrimary }) => isPrimary),
    ({ siteId }) => siteId,
  );
  primaries.set(siteAddresses, made);
  return made;
}

export function groupBy<T, K>(items: readonly T[], keyOf: (item: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const item of items) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}
