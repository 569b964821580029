import { isBelow, joinPath, NOT_FOUND_PATH, pathBelow, withRest } from '../address/index.js';
import type { PageId, RedirectStatus } from '../plan/index.js';
import { endOf, type Instant, type Interval } from '../time/index.js';
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
      return answer.kind === 'page' ? answer : afterAnswer(routes, host, address.path, answer, at, witness);
    }
    if (witness) witnessGap(host, address.path, at, witness);
  }
  return siteAnswer(routes, host, address.path, at, witness);
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
  path: string,
  answer: Exclude<RouteAnswer, RoutePage>,
  at: Instant,
  witness?: Witness,
): Resolution {
  const pageId = answer.pageId ?? null;
  if (answer.kind === 'gone') return { kind: 'gone', pageId };
  if (answer.kind === 'not-found') return notFound(host, path, at, pageId, witness);
  const start: Way = { status: answer.status, rest: '', isDirect: true, met: new Set([host.host + path]) };
  const end = followAnswer(routes, host, answer, at, start, witness);
  switch (end.kind) {
    case 'address': {
      // A page that has come to lie at the very address that was asked for answers for itself.
      const { host: name, path: place, pageId: target, rest } = end;
      return {
        kind: 'redirect',
        status: end.status,
        to: { kind: 'address', host: name, path: place, pageId: target, rest },
        pageId,
      };
    }
    case 'outside':
      return { kind: 'redirect', status: end.status, to: { kind: 'outside', url: end.url }, pageId };
    case 'gone':
      return { kind: 'gone', pageId };
    default:
      return notFound(host, path, at, pageId, witness);
  }
}

/** Where a reference to a page ends at an instant. `loop` and `nothing` give a visitor the not-found page. */
export type Followed =
  | {
      readonly kind: 'address';
      readonly host: string;
      readonly path: string;
      readonly pageId: PageId;
      readonly rest: string;
      readonly status: RedirectStatus;
      readonly isDirect: boolean;
    }
  | { readonly kind: 'outside'; readonly url: string; readonly status: RedirectStatus; readonly isDirect: false }
  | { readonly kind: 'gone' }
  | { readonly kind: 'nothing' }
  | { readonly kind: 'loop' };

/** A step on the way of a reference: an address, and whose answer holds there. */
export interface Step extends Address {
  readonly pageId: PageId | null;
}

/** What has been gathered on the way. */
interface Way {
  status: RedirectStatus;
  rest: string;
  isDirect: boolean;
  readonly met: Set<string>;
  /** Filled where somebody wants to know the way itself. */
  readonly trail?: Step[];
}

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
  const way: Way = { status, rest: '', isDirect: true, met: new Set() };
  const end = followPage(routes, pageId, at, way, witness);
  return end.kind === 'address' && end.pageId !== pageId ? { ...end, isDirect: false } : end;
}

/** Where an answer that lies at an address leads at an instant, with the way there. */
export function followFrom(
  routes: RouteTable,
  from: Address,
  answer: Extract<RouteAnswer, { kind: 'redirect' }>,
  at: Instant,
  witness?: Witness,
): { readonly end: Followed; readonly trail: readonly Step[] } {
  const host = routes.hosts.get(from.host);
  const trail: Step[] = [];
  if (!host) return { end: { kind: 'nothing' }, trail };
  const way: Way = { status: answer.status, rest: '', isDirect: true, met: new Set([from.host + from.path]), trail };
  return { end: followAnswer(routes, host, answer, at, way, witness), trail };
}

function followAnswer(
  routes: RouteTable,
  host: CompiledHost,
  { target, status }: Extract<RouteAnswer, { kind: 'redirect' }>,
  at: Instant,
  way: Way,
  witness?: Witness,
): Followed {
  if (status === 302) way.status = 302;
  if (target.kind === 'page') return followPage(routes, target.pageId, at, way, witness);
  const own = routes.ownPlace(target.url, host);
  if (!own) return { kind: 'outside', url: withRest(target.url, way.rest), status: way.status, isDirect: false };
  way.rest = withRest(own.rest, way.rest);
  return followAddress(routes, own.host, own.path, at, way, witness);
}

function followPage(routes: RouteTable, pageId: PageId, at: Instant, way: Way, witness?: Witness): Followed {
  if (witness) witnessPlaces(routes, pageId, at, witness);
  const place = routes.placeAt(pageId, at);
  if (!place) way.trail?.push({ host: '', path: '', pageId });
  return place ? followAddress(routes, place.host, place.path, at, way, witness, pageId) : { kind: 'nothing' };
}

function followAddress(
  routes: RouteTable,
  name: string,
  path: string,
  at: Instant,
  way: Way,
  witness?: Witness,
  /** The page that is looked for here. */
  asked: PageId | null = null,
): Followed {
  const host = routes.hosts.get(name);
  if (!host) return { kind: 'nothing' };
  const stretch = stretchAt(host, host.paths.get(path), at);
  if (witness) {
    if (stretch) witnessStretch(host, stretch, witness);
    else witnessGap(host, path, at, witness);
  }
  way.trail?.push({ host: name, path, pageId: stretch?.answer.pageId ?? asked });
  if (way.met.has(name + path)) return { kind: 'loop' };
  way.met.add(name + path);
  if (!stretch) {
    const primary = underPrimary(host, path, at, witness);
    if (!primary) return { kind: 'nothing' };
    way.isDirect = false;
    return followAddress(routes, primary.host, primary.path, at, way, witness);
  }
  const { answer } = stretch;
  const { status, rest, isDirect } = way;
  if (answer.kind === 'page')
    return { kind: 'address', host: name, path, pageId: answer.pageId, rest, status, isDirect };
  if (answer.kind === 'gone') return { kind: 'gone' };
  if (answer.kind === 'not-found') return { kind: 'nothing' };
  way.isDirect = false;
  return followAnswer(routes, host, answer, at, way, witness);
}

function witnessPlaces(routes: RouteTable, pageId: PageId, at: Instant, witness: Witness): void {
  for (const { during } of routes.placesOf(pageId)) witnessInterval(during, at, witness);
}

/** Tells until when an interval holds, or from when it will. */
function witnessInterval(during: Interval, at: number, witness: Witness): void {
  if (during.from <= at && at < endOf(during)) witness(during.from, endOf(during));
  else if (during.from > at) witness(-Infinity, during.from);
}

/** The same path under the primary address of the site, where an address lies under another one. */
function underPrimary(host: CompiledHost, path: string, at: Instant, witness?: Witness): Address | null {
  const site = siteAt(host, path, at, witness);
  if (!site || site.isPrimary || !site.primary) return null;
  const { primary } = site;
  const there = { host: primary.host, path: joinPath(primary.basePath, pathBelow(site.basePath, path)) };
  return there.host === host.host && there.path === path ? null : there;
}

function siteAnswer(routes: RouteTable, host: CompiledHost, path: string, at: Instant, witness?: Witness): Resolution {
  const primary = underPrimary(host, path, at, witness);
  if (!primary) return notFound(host, path, at, null, witness);
  const there = resolve(routes, primary, at, witness);
  if (there.kind !== 'page') return there;
  const { pageId } = there;
  return { kind: 'redirect', status: 301, to: { kind: 'address', ...primary, pageId, rest: '' }, pageId };
}

/** The site address with the longest base path that contains a path at an instant, or `null`. */
export function siteAt(host: CompiledHost, path: string, at: Instant, witness?: Witness): SiteRoute | null {
  for (const site of host.sites) {
    if (!isBelow(site.basePath, path)) continue;
    if (witness) witnessInterval(site.during, at, witness);
    if (site.during.from <= at && at < endOf(site.during)) return site;
  }
  return null;
}

function notFound(host: CompiledHost, path: string, at: Instant, pageId: PageId | null, witness?: Witness): Resolution {
  const site = siteAt(host, path, at, witness);
  const place = site ? joinPath(site.basePath, NOT_FOUND_PATH) : '';
  const stretch = site ? stretchAt(host, host.paths.get(place), at) : null;
  if (witness && site) {
    if (stretch) witnessStretch(host, stretch, witness);
    else witnessGap(host, place, at, witness);
  }
  return { kind: 'not-found', pageId, page: stretch?.answer.kind === 'page' ? stretch.answer : null };
}
