import type { HostRoutes } from '@domatium/core/routing';
import { joinPath } from '@domatium/core/address';
import { DAY, endOf, later, type Instant } from '@domatium/core/time';
import type { EdgeQuestion } from '@domatium/storage';

/** Whole numbers below `below`, the same row for the same seed (Park and Miller's minimal standard generator). */
function numbers(seed: number): (below: number) => number {
  let state = (seed % 2147483646) + 1;
  return (below) => {
    state = (state * 48271) % 2147483647;
    return state % below;
  };
}

/**
 * Addresses and instants to ask at: each address that has routes at most so often, at now, at a moment of the next
 * year, and just before and at an instant at which something of it changes; and of each site an address with nothing.
 */
export function sampled(hosts: readonly HostRoutes[], now: Instant, most: number): EdgeQuestion[] {
  const pick = numbers(now);
  const questions: EdgeQuestion[] = [];
  const ask = (host: string, path: string, at: number) => {
    if (at >= now && Number.isFinite(at)) questions.push({ host, path, at: at as Instant });
  };
  for (const { host, sites } of hosts)
    for (const { basePath } of sites) ask(host, joinPath(basePath, '/nothing-lies-here'), now);
  const addresses = hosts.flatMap(({ host, routes, pages }) =>
    [...routes, ...pages].map(({ path, during }) => ({ host, path, during })),
  );
  while (questions.length < most && addresses.length) {
    const [one] = addresses.splice(pick(addresses.length), 1);
    if (!one) break;
    const { host, path, during } = one;
    const edge = pick(2) ? during.from : endOf(during);
    for (const at of [now, edge - 1, edge, later(now, pick(365) * DAY + pick(DAY))]) ask(host, path, at);
  }
  return questions.slice(0, most);
}
