import { isBelow, joinPath, pathBelow } from '../address/index.js';
import type { PageId } from '../plan/index.js';
import { endOf, type Instant, type Interval } from '../time/index.js';
import { follow, resolve, type Followed } from './resolve.js';
import type { RouteTable } from './table.js';
import type { Address, Resolution } from './types.js';

/**
 * The next instant after `now` at which what visitors get at any address of `routes` changes, or `null` if nothing is
 * planned. Half-open periods: an end counts as a flip at the end itself.
 */
export function nextFlipAfter(routes: RouteTable, now: Instant): Instant | null {
  const edges = new Set<number>();
  const note = (at: number) => {
    if (at > now && at !== Infinity) edges.add(at);
  };
  for (const { times, sites, source } of routes.hosts.values()) {
    times.forEach(note);
    for (const { during } of [...sites, ...source.pages]) {
      note(during.from);
      note(endOf(during));
    }
  }
  const ordered = [...edges].sort((a, b) => a - b) as Instant[];
  return ordered.find((at) => isFlip(routes, at)) ?? null;
}

/** Whether any address gives something else from `at` on than just before. */
function isFlip(routes: RouteTable, at: Instant): boolean {
  const justBefore = (at - 1) as Instant;
  for (const address of addressesThatDiffer(routes))
    if (!isSameResolution(resolve(routes, address, justBefore), resolve(routes, address, at))) return true;
  return false;
}

/** Below each site; nothing ever lies there, so it gives what every address of the site gives that has nothing of its own. */
const NOWHERE = '/-/nowhere';

/**
 * Addresses among which every change shows: those with stretches of their own, the same under each other address of
 * their site, and one of each site that has nothing.
 */
function* addressesThatDiffer(routes: RouteTable): Generator<Address> {
  for (const { host, paths, sites } of routes.hosts.values()) {
    for (const path of paths.keys()) yield { host, path };
    for (const { basePath, primary } of sites) {
      yield { host, path: joinPath(basePath, NOWHERE) };
      if (!primary || (primary.host === host && primary.basePath === basePath)) continue;
      for (const path of routes.hosts.get(primary.host)?.paths.keys() ?? [])
        if (isBelow(primary.basePath, path))
          yield { host, path: joinPath(basePath, pathBelow(primary.basePath, path)) };
    }
  }
}

/** Whether a visitor would notice no difference: same revision, same place, same kind of refusal. */
export function isSameResolution(a: Resolution, b: Resolution): boolean {
  return visibleOf(a) === visibleOf(b);
}

/** What a visitor would notice of an answer, as a text. */
export function visibleOf(answer: Resolution): string {
  switch (answer.kind) {
    case 'page':
      return `page ${answer.pageId} ${answer.revisionId} ${answer.artifact}`;
    case 'redirect':
      return `redirect ${answer.status} ${answer.to.kind === 'outside' ? answer.to.url : `${answer.to.host}${answer.to.path}${answer.to.rest}`}`;
    case 'not-found':
      return `not-found ${answer.page ? `${answer.page.pageId} ${answer.page.revisionId} ${answer.page.artifact}` : ''}`;
    default:
      return answer.kind;
  }
}

/** A stretch of time in which something computed over the routes stays the same. */
export interface Stable<T> {
  readonly during: Interval;
  readonly value: T;
}

/** Where a reference to a page leads over `[from, until)`, as stretches in order; neighbours differ. */
export function followedOver(routes: RouteTable, pageId: PageId, during: Interval): Stable<Followed>[] {
  return stableOver(during, (at, witness) => follow(routes, pageId, at, 301, witness), sameFollowed);
}

/** What visitors of an address get over `[from, until)`, as stretches in order; neighbours differ. */
export function resolvedOver(
  routes: RouteTable,
  address: { host: string; path: string },
  during: Interval,
): Stable<Resolution>[] {
  return stableOver(
    during,
    (at, witness) => resolve(routes, address, at, (from, until) => witness(from, until)),
    isSameResolution,
  );
}

function sameFollowed(a: Followed, b: Followed): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}

/** Evaluates from stretch to stretch: each evaluation tells its witness how long what it saw stays as it is. */
export function stableOver<T>(
  during: Interval,
  evaluate: (at: Instant, witness: (from: number, until: number) => void) => T,
  isSame: (a: T, b: T) => boolean,
): Stable<T>[] {
  const found: { from: Instant; until: number; value: T }[] = [];
  let at: number = during.from;
  while (at < endOf(during)) {
    let until = endOf(during);
    const value = evaluate(at as Instant, (_, end) => {
      if (end > at && end < until) until = end;
    });
    const last = found.at(-1);
    if (last && isSame(last.value, value)) last.until = until;
    else found.push({ from: at as Instant, until, value });
    at = until;
  }
  return found.map(({ from, until, value }) => ({
    during: { from, until: until === Infinity ? null : (until as Instant) },
    value,
  }));
}
