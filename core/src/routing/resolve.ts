import { isBelow, joinPath, NOT_FOUND_PATH, pathBelow } from '../address/index.js';
import type { PageId, RedirectStatus } from '../plan/index.js';
import { endOf, type Instant } from '../time/index.js';
import { endsOf, stretchAt, stretchesOf, type CompiledHost, type RouteTable, type StretchNode } from './table.js';
import type { Address, Resolution, RouteAnswer, RoutePage, SiteRoute } from './types.js';

const UNKNOWN_HOST: Resolution = { kind: 'unknown-host' };

/** Told of every stretch of time the answer rests on, for those who need to know how long it stays. */
export type Witness = (from: number, until: number) => void;

/**
 * What a visitor gets at an address at an instant (design rule 3): the page; then what lies after it; then, where the
 * site address is not primary, the same path under the primary one; then the not-found page of the site.
 */
export function resolve(routes: RouteTable, address: Address, at: Instant, witness?: Witness): Resolution {
  const host = routes.hosts.get(address.host);
  if (host === undefined) return UNKNOWN_HOST;
  const newest = host.paths.get(address.path);
  if (newest !== undefined) {
    const stretch = stretchAt(host, newest, at);
    if (stretch !== null) {
      const { answer } = stretch;
      if (witness) witnessStretch(host, stretch, witness);
      // Nothing is built for a page: this is the way of nearly every request.
      return answer.kind === 'page' ? answer : afterAnswer(routes, host, address, answer, at, witness);
    }
    if (witness) witnessGap(host, address.path, at, witness);
  }
  return siteAnswer(routes, host, address, at, witness);
}

function witnessStretch(host: CompiledHost, stretch: StretchNode, witness: Witness): void {
  const { from, until } = endsOf(host, stretch);
  witness(from, until);
}

function witnessGap(host: CompiledHost, path: string, at: number, witness: Witness): void {
  let from = -Infinity;
  let until = Infinity;
  for (const stretch of stretchesOf(host, path)) {
    if (stretch.until <= at) from = Math.max(from, stretch.until);
    if (stretch.from > at) until = Math.min(until, stretch.from);
  }
  witness(from, until);
}

function afterAnswer(
  routes: RouteTable,
  host: CompiledHost,
  address: Address,
  answer: Exclude<RouteAnswer, RoutePage>,
  at: Instant,
  witness?: Witness,
): Resolution {
  const pageId = answer.pageId ?? null;
  if (answer.kind === 'gone') return { kind: 'gone', pageId };
  if (answer.kind === 'not-found') return notFound(host, address.path, at, pageId);
  const { target, status } = answer;
  if (target.kind === 'outside') return { kind: 'redirect', status, to: target, pageId };
  const end = follow(routes, target.pageId, at, status, witness);
  switch (end.kind) {
    case 'address': {
      // A page that has come to lie at the very address that was asked for answers for itself.
      return {
        kind: 'redirect',
        status: end.status,
        to: { kind: 'address', host: end.host, path: end.path, pageId: end.pageId },
        pageId,
      };
    }
    case 'outside':
      return { kind: 'redirect', status: end.status, to: { kind: 'outside', url: end.url }, pageId };
    case 'gone':
      return { kind: 'gone', pageId };
    default:
      return notFound(host, address.path, at, pageId);
  }
}

/** Where a reference to a page ends at an instant. `loop` and `nothing` give a visitor the not-found page. */
export type Followed =
  | {
      readonly kind: 'address';
      readonly host: string;
      readonly path: string;
      readonly pageId: PageId;
      readonly status: RedirectStatus;
      readonly isDirect: boolean;
    }
  | { readonly kind: 'outside'; readonly url: string; readonly status: RedirectStatus; readonly isDirect: false }
  | { readonly kind: 'gone' }
  | { readonly kind: 'nothing' }
  | { readonly kind: 'loop' };

/**
 * Follows a page by reference: a live page gives its address; one that is off gives what its address gives then, as
 * far as it leads. `status` becomes 302 as soon as one step on the way is.
 */
export function follow(
  routes: RouteTable,
  pageId: PageId,
  at: Instant,
  status: RedirectStatus = 301,
  witness?: Witness,
): Followed {
  const met = new Set<PageId>();
  let isDirect = true;
  let next = pageId;
  for (;;) {
    if (met.has(next)) return { kind: 'loop' };
    met.add(next);
    const place = routes.placeAt(next, at);
    if (witness) witnessPlaces(routes, next, at, witness);
    const host = place ? routes.hosts.get(place.host) : undefined;
    const newest = place && host?.paths.get(place.path);
    if (!place || !host || !newest) return { kind: 'nothing' };
    const stretch = stretchAt(host, newest, at);
    if (witness) {
      if (stretch) witnessStretch(host, stretch, witness);
      else witnessGap(host, place.path, at, witness);
    }
    if (!stretch) return { kind: 'nothing' };
    const { answer } = stretch;
    if (answer.kind === 'page') {
      const isOwn = answer.pageId === pageId;
      return {
        kind: 'address',
        host: place.host,
        path: place.path,
        pageId: answer.pageId,
        status,
        isDirect: isDirect && isOwn,
      };
    }
    if (answer.kind === 'gone') return { kind: 'gone' };
    if (answer.kind === 'not-found') return { kind: 'nothing' };
    if (answer.status === 302) status = 302;
    if (answer.target.kind === 'outside') return { kind: 'outside', url: answer.target.url, status, isDirect: false };
    isDirect = false;
    next = answer.target.pageId;
  }
}

function witnessPlaces(routes: RouteTable, pageId: PageId, at: Instant, witness: Witness): void {
  for (const { during } of routes.placesOf(pageId)) {
    if (during.from <= at && at < endOf(during)) witness(during.from, endOf(during));
    else if (during.from > at) witness(-Infinity, during.from);
  }
}

function siteAnswer(
  routes: RouteTable,
  host: CompiledHost,
  address: Address,
  at: Instant,
  witness?: Witness,
): Resolution {
  const site = siteAt(host, address.path, at);
  if (site && !site.isPrimary && site.primary) {
    const { primary } = site;
    const path = joinPath(primary.basePath, pathBelow(site.basePath, address.path));
    const there =
      primary.host === address.host && path === address.path
        ? null
        : resolve(routes, { host: primary.host, path }, at, witness);
    if (there?.kind === 'page')
      return {
        kind: 'redirect',
        status: 301,
        to: { kind: 'address', host: primary.host, path, pageId: there.pageId },
        pageId: there.pageId,
      };
    if (there) return there;
  }
  return notFound(host, address.path, at, null);
}

/** The site address with the longest base path that contains a path at an instant, or `null`. */
export function siteAt(host: CompiledHost, path: string, at: Instant): SiteRoute | null {
  for (const site of host.sites)
    if (isBelow(site.basePath, path) && site.during.from <= at && at < endOf(site.during)) return site;
  return null;
}

function notFound(host: CompiledHost, path: string, at: Instant, pageId: PageId | null): Resolution {
  const site = siteAt(host, path, at);
  const newest = site ? host.paths.get(joinPath(site.basePath, NOT_FOUND_PATH)) : undefined;
  const answer = stretchAt(host, newest, at)?.answer;
  return { kind: 'not-found', pageId, page: answer?.kind === 'page' ? answer : null };
}
