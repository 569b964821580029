import type { PageId, PlanRowId, PortfolioId, RevisionId } from '@domatium/core/plan';
import { compile, resolve, type HostRoutes, type Route } from '@domatium/core/routing';
import type { Instant } from '@domatium/core/time';
import { figure, finish, median } from './print.js';

/** (a) `resolve` over 100,000 claims with periods against `Map.get` with the same fresh strings. */
const HOSTS = 300;
const CLAIMS = 100_000;
const LOOKUPS = 400_000;
const NOW = Date.UTC(2026, 10, 25, 9);

const hosts = Array.from({ length: HOSTS }, (_, n) => `site-${n}.client-${n % 40}.example`);
const pathOf = (n: number) => `/campaign-${n % 97}/page-${n}`;
const routesOf = (host: number): Route[] =>
  Array.from({ length: Math.ceil(CLAIMS / HOSTS) }, (_, n) => {
    const during = { from: NOW - (n % 5) * 864e5 - 1, until: n % 3 ? null : NOW + 864e6 };
    return {
      path: pathOf(n * HOSTS + host),
      layer: 'page',
      during,
      answer: {
        kind: 'page',
        pageId: n as PageId,
        revisionId: n as RevisionId,
        claimId: n as PlanRowId,
        artifact: 'x',
      },
    } as unknown as Route;
  });
const table = compile(
  hosts.map((host, n): HostRoutes => ({
    ...{ host, version: 1, portfolioId: 1 as PortfolioId },
    ...{ routes: routesOf(n), sites: [], pages: [] },
  })),
  { scheme: 'https', suffix: '', port: null },
);
const flat = new Map<string, Route>();
hosts.forEach((host, n) => {
  for (const route of routesOf(n)) flat.set(host + route.path, route);
});

/** Strings that were never looked up before, as they come from a socket: their hash is not known yet. */
const fresh = (text: string) => Buffer.from(text, 'latin1').toString('latin1');

function run(): { ours: number; map: number } {
  const wanted = Array.from({ length: LOOKUPS }, (_, i) => {
    const n = (i * 7919) % CLAIMS;
    return [hosts[n % HOSTS] as string, pathOf(n)] as const;
  });
  const addresses = wanted.map(([host, path]) => ({ host: fresh(host), path: fresh(path) }));
  const keys = wanted.map(([host, path]) => fresh(host + path));
  let found = 0;
  const a = process.hrtime.bigint();
  for (const address of addresses) if (resolve(table, address, NOW as Instant).kind === 'page') found++;
  const b = process.hrtime.bigint();
  for (const key of keys) if (flat.get(key)) found++;
  const c = process.hrtime.bigint();
  if (found !== 2 * LOOKUPS) throw new Error(`Found ${found}`);
  return { ours: LOOKUPS / (Number(b - a) / 1e9), map: LOOKUPS / (Number(c - b) / 1e9) };
}

run();
const runs = Array.from({ length: 7 }, run);
console.log('(a) resolve over 100,000 claims with periods on 300 hosts');
figure('resolve', median(runs.map(({ ours }) => ours)), 'answers/s');
figure('Map.get', median(runs.map(({ map }) => map)), 'lookups/s');
figure('ratio', median(runs.map(({ ours, map }) => ours / map)), '', { atLeast: 0.5 });
finish();
