import { joinPath } from '../address/index.js';
import { endOf, intersect, interval } from '../time/index.js';
import type { AfterAnswer, AnswerKind, Claim, LivePeriod, PageAddress, Placement, SiteAddress } from './types.js';

/** Everything claims are derived from. Any part of a plan may be given; its claims are exact for that part (below). */
export interface ClaimInputs {
  readonly placements: readonly Placement[];
  readonly periods: readonly LivePeriod[];
  readonly siteAddresses: readonly SiteAddress[];
  readonly afterwards: readonly AfterAnswer[];
  readonly moves: readonly AfterAnswer[];
  readonly exactRedirects: readonly AfterAnswer[];
}

/**
 * What every address gives, in both layers (design rules 1 and 2). A page's claims need that page's rows only; the
 * claims of the layer `after` need all answers at their address. Answers come out already cut against each other.
 */
export function claimsOf(inputs: ClaimInputs): Claim[] {
  const answers = [...inputs.afterwards, ...inputs.moves, ...inputs.exactRedirects];
  const byAddress = groupBy(answers, (answer) => `${answer.hostId} ${answer.path}`);
  return [...pageClaims(inputs), ...[...byAddress.values()].flatMap(cutAnswers)];
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

function pageClaims({ placements, periods, siteAddresses }: ClaimInputs): Claim[] {
  const addresses = groupBy(pageAddressesOf(placements, siteAddresses), (address) => address.pageId);
  return periods.flatMap((period) =>
    (addresses.get(period.pageId) ?? []).flatMap(({ hostId, path, during }): Claim[] => {
      const both = intersect(period.during, during);
      const { id: sourceId, pageId, revisionId } = period;
      return both ? [{ layer: 'page', hostId, path, during: both, pageId, revisionId, sourceId }] : [];
    }),
  );
}

const KIND_ORDER: Record<AnswerKind, number> = { move: 0, afterwards: 1, exact: 2 };

/** Positive where `a` holds over `b`: the later start, then the kind, then the higher identity. */
export function comparePrecedence(a: AfterAnswer, b: AfterAnswer): number {
  return a.rank - b.rank || KIND_ORDER[a.kind] - KIND_ORDER[b.kind] || a.order - b.order || a.id - b.id;
}

function cutAnswers(answers: readonly AfterAnswer[]): Claim[] {
  const byPrecedence = [...answers].sort((a, b) => comparePrecedence(b, a));
  const instants = [...new Set(answers.flatMap(({ during }) => [during.from as number, endOf(during)]))].sort(
    (a, b) => a - b,
  );
  const claims: Claim[] = [];
  let last: { holder: AfterAnswer; from: number; until: number } | null = null;
  const close = () => {
    const during = last && interval(last.from, last.until);
    if (!last || !during) return;
    const { id: sourceId, hostId, path, pageId, answer } = last.holder;
    claims.push({ layer: 'after', hostId, path, during, pageId, answer, sourceId });
  };
  instants.slice(0, -1).forEach((from, index) => {
    const until = instants[index + 1] ?? Infinity;
    const holder = byPrecedence.find(({ during }) => during.from <= from && from < endOf(during));
    if (holder && last?.holder === holder && last.until === from) {
      last.until = until;
      return;
    }
    close();
    last = holder ? { holder, from, until } : null;
  });
  close();
  return claims;
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
