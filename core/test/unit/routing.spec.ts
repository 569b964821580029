import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { PageId, PlanRowId, PortfolioId, RevisionId } from '../../src/plan/index.js';
import {
  compile,
  compileHost,
  follow,
  followedOver,
  nextFlipAfter,
  redirectProblems,
  resolve,
  resolvedOver,
  type HostRoutes,
  type Route,
  type RouteAnswer,
  type SiteRoute,
} from '../../src/routing/index.js';
import { contains, type Instant, type Interval } from '../../src/time/index.js';

const END = 30;
const during = (from: number, until: number | null): Interval => ({
  from: from as Instant,
  until: until as Instant | null,
});
const always = during(0, null);
const page = (id: number, revision = 1): RouteAnswer => ({
  kind: 'page',
  pageId: id as PageId,
  revisionId: revision as RevisionId,
  claimId: id as PlanRowId,
  artifact: null,
});
const to = (id: number, status: 301 | 302 = 301): RouteAnswer => ({
  kind: 'redirect',
  status,
  target: { kind: 'page', pageId: id as PageId },
});
const out = (url: string, status: 301 | 302 = 302): RouteAnswer => ({
  kind: 'redirect',
  status,
  target: { kind: 'outside', url },
});
const live = (path: string, id: number, when = always): Route => ({
  path,
  layer: 'page',
  during: when,
  answer: page(id),
});
const after = (path: string, answer: RouteAnswer, when = always): Route => ({
  path,
  layer: 'after',
  during: when,
  answer,
});
const primary = (host: string, basePath = '/'): SiteRoute => ({
  basePath,
  during: always,
  isPrimary: true,
  primary: { host, basePath },
});
const host = (
  name: string,
  routes: Route[],
  places: [number, string][] = [],
  sites: SiteRoute[] = [primary(name)],
): HostRoutes => ({
  host: name,
  version: 1,
  portfolioId: 1 as PortfolioId,
  routes,
  sites,
  pages: places.map(([id, path]) => ({ pageId: id as PageId, path, during: always })),
});
const tableOf = (hosts: readonly HostRoutes[]) => compile(hosts, { scheme: 'https', suffix: '', port: null });
const ask = (routes: ReturnType<typeof tableOf>, address: string, at = 5) => {
  const [name = '', ...rest] = address.split('/');
  return resolve(routes, { host: name, path: `/${rest.join('/')}` }, at as Instant);
};

describe('resolve (rule 3)', () => {
  it('asks the page first, then what lies after it, then the primary site address, then the not-found page', () => {
    const old: SiteRoute = {
      basePath: '/old',
      during: always,
      isPrimary: false,
      primary: { host: 'b.example', basePath: '/' },
    };
    const routes = tableOf([
      host(
        'a.example',
        [live('/x', 1, during(0, 10)), after('/x', out('https://o.example/')), live('/-/not-found', 9)],
        [[1, '/x']],
        [primary('a.example'), old],
      ),
      host('b.example', [live('/deep/page', 2), after('/gone', { kind: 'gone' })], [[2, '/deep/page']]),
    ]);
    expect(ask(routes, 'a.example/x')).toMatchObject({ kind: 'page', pageId: 1 });
    expect(ask(routes, 'a.example/x', 10)).toMatchObject({ kind: 'redirect', to: { url: 'https://o.example/' } });
    expect(ask(routes, 'a.example/old/deep/page')).toMatchObject({
      kind: 'redirect',
      status: 301,
      to: { host: 'b.example', path: '/deep/page' },
    });
    expect(ask(routes, 'a.example/old/gone')).toMatchObject({ kind: 'gone' });
    expect(ask(routes, 'a.example/older')).toMatchObject({ kind: 'not-found', page: { pageId: 9 } });
    expect(ask(routes, 'c.example/')).toEqual({ kind: 'unknown-host' });
  });
  it('takes the site address with the longest base path that contains the path', () => {
    const routes = tableOf([
      host(
        'a.example',
        [live('/-/not-found', 1), live('/shop/-/not-found', 2)],
        [],
        [primary('a.example'), primary('a.example', '/shop')],
      ),
    ]);
    expect(ask(routes, 'a.example/shop/x')).toMatchObject({ page: { pageId: 2 } });
    expect(ask(routes, 'a.example/shopping')).toMatchObject({ page: { pageId: 1 } });
  });
  it('follows references at the asked instant to one hop; one 302 on the way makes the hop a 302', () => {
    const routes = tableOf([
      host(
        'a.example',
        [
          after('/1', to(2)),
          after('/2', to(3, 302)),
          live('/3', 3, during(0, 10)),
          after('/3', out('https://o.example/', 301), during(10, 20)),
        ],
        [
          [1, '/1'],
          [2, '/2'],
          [3, '/3'],
        ],
      ),
    ]);
    expect(ask(routes, 'a.example/1')).toMatchObject({ kind: 'redirect', status: 302, to: { path: '/3', pageId: 3 } });
    expect(ask(routes, 'a.example/1', 15)).toMatchObject({
      kind: 'redirect',
      status: 302,
      to: { url: 'https://o.example/' },
    });
    expect(ask(routes, 'a.example/1', 20)).toMatchObject({ kind: 'not-found' });
  });
  it('gives a page met twice, or one that lies nowhere, as not found', () => {
    const routes = tableOf([
      host(
        'a.example',
        [after('/1', to(2)), after('/2', to(1)), after('/3', to(99))],
        [
          [1, '/1'],
          [2, '/2'],
        ],
      ),
    ]);
    for (const path of ['1', '2', '3']) expect(ask(routes, `a.example/${path}`)).toMatchObject({ kind: 'not-found' });
    expect(follow(routes, 1 as PageId, 0 as Instant)).toEqual({ kind: 'loop' });
  });
  it('follows addresses of the same portfolio that are written out, also under another address of their site', () => {
    const alias: SiteRoute = {
      basePath: '/old',
      during: during(0, 20),
      isPrimary: false,
      primary: { host: 'b.example', basePath: '/' },
    };
    const routes = tableOf([
      host(
        'a.example',
        [
          after('/1', out('https://a.example/old/2?from=1#top', 301)),
          after('/3', out('https://elsewhere.example/2')),
          after('/4', out('https://b.example:8443/2')),
          after('/5', out('https://b.example/5')),
        ],
        [],
        [primary('a.example'), alias],
      ),
      host('b.example', [live('/2', 2), after('/5', out('https://a.example/5'))], [[2, '/2']]),
      { ...host('c.example', [after('/1', out('https://b.example/2'))]), portfolioId: 2 as PortfolioId },
    ]);
    expect(ask(routes, 'a.example/1')).toMatchObject({
      status: 301,
      to: { host: 'b.example', path: '/2', pageId: 2, rest: '?from=1#top' },
    });
    expect(ask(routes, 'a.example/3')).toMatchObject({ to: { url: 'https://elsewhere.example/2' } });
    expect(ask(routes, 'a.example/4')).toMatchObject({ to: { url: 'https://b.example:8443/2' } });
    expect(ask(routes, 'a.example/5')).toMatchObject({ kind: 'not-found' });
    expect(ask(routes, 'c.example/1')).toMatchObject({ to: { url: 'https://b.example/2' } });
    // The site has that address until 20: what is told over time knows it, and so does the next flip.
    const over = resolvedOver(routes, { host: 'a.example', path: '/1' }, during(0, null));
    expect(over.map(({ during: { from }, value }) => [from, value.kind])).toEqual([
      [0, 'redirect'],
      [20, 'not-found'],
    ]);
    expect(nextFlipAfter(routes, 0 as Instant)).toBe(20);
  });
  it('answers for whoever lies at the address of a page that is off', () => {
    const routes = tableOf([
      host(
        'a.example',
        [after('/old', to(1)), live('/here', 2)],
        [
          [1, '/here'],
          [2, '/here'],
        ],
      ),
    ]);
    expect(ask(routes, 'a.example/old')).toMatchObject({ to: { path: '/here', pageId: 2 } });
    expect(follow(routes, 1 as PageId, 0 as Instant)).toMatchObject({ kind: 'address', isDirect: false });
  });
});

const stretch = fc
  .tuple(fc.integer({ min: 0, max: END }), fc.option(fc.integer({ min: 1, max: 12 }), { nil: null }))
  .map(([from, size]) => during(from, size === null ? null : from + size));
const answers = fc.oneof(
  fc.constant<RouteAnswer>({ kind: 'gone' }),
  fc.constant<RouteAnswer>({ kind: 'not-found' }),
  fc.constantFrom(1, 2, 3).map((id) => to(id, id === 2 ? 302 : 301)),
  fc.constant(out('https://o.example/')),
);
/** Routes as `claimsOf` gives them: in one layer nothing overlaps at an address. */
const routesOf = fc
  .array(
    fc.record({
      path: fc.constantFrom('/1', '/2', '/3', '/4'),
      layer: fc.constantFrom('page' as const, 'after' as const),
      when: stretch,
      id: fc.constantFrom(1, 2, 3),
      answer: answers,
    }),
    { maxLength: 14 },
  )
  .map((drawn) => {
    const kept: Route[] = [];
    for (const { path, layer, when, id, answer } of drawn) {
      const one: Route = layer === 'page' ? live(path, id, when) : after(path, answer, when);
      const meets = (other: Route) =>
        other.path === path &&
        other.layer === layer &&
        other.during.from < (when.until ?? Infinity) &&
        when.from < (other.during.until ?? Infinity);
      if (!kept.some(meets)) kept.push(one);
    }
    return kept;
  });
const PLACES: [number, string][] = [
  [1, '/1'],
  [2, '/2'],
  [3, '/3'],
];

/** The same question answered by reading through all routes: no compiling, no layers laid on each other. */
function scan(routes: readonly Route[], path: string, at: Instant, met: number[] = []): string {
  const here = routes.filter((route) => route.path === path && contains(route.during, at));
  const top = here.find(({ layer }) => layer === 'page') ?? here.find(({ layer }) => layer === 'after');
  if (!top || top.answer.kind === 'not-found') return 'not-found';
  if (top.answer.kind === 'page') return met.length ? `to ${path}` : `page ${top.answer.pageId}`;
  if (top.answer.kind === 'gone') return 'gone';
  if (top.answer.target.kind === 'outside') return 'out';
  const { pageId } = top.answer.target;
  return met.includes(pageId)
    ? 'not-found'
    : scan(routes, PLACES.find(([id]) => id === pageId)?.[1] ?? '', at, [...met, pageId]);
}
const shown = (routes: ReturnType<typeof tableOf>, path: string, at: Instant) => {
  const got = resolve(routes, { host: 'a.example', path }, at);
  if (got.kind === 'page') return `page ${got.pageId}`;
  if (got.kind === 'redirect') return got.to.kind === 'outside' ? 'out' : `to ${got.to.path}`;
  return got.kind;
};

describe('compiled routes', () => {
  it('answer like a scan of all routes, at every path and minute', () => {
    fc.assert(
      fc.property(routesOf, (routes) => {
        const table = tableOf([host('a.example', routes, PLACES)]);
        for (let t = 0; t < END + 14; t++)
          for (const path of ['/1', '/2', '/3', '/4', '/5'])
            expect(shown(table, path, t as Instant)).toBe(scan(routes, path, t as Instant));
      }),
      { numRuns: 500 },
    );
  });
  it('tell over a stretch what they tell at each of its minutes, and name every change', () => {
    fc.assert(
      fc.property(routesOf, stretch, (routes, when) => {
        const table = tableOf([host('a.example', routes, PLACES)]);
        const places = followedOver(table, 1 as PageId, when);
        const seen = resolvedOver(table, { host: 'a.example', path: '/1' }, when);
        for (let t = when.from as number; t < Math.min(when.until ?? END + 14, END + 14); t++) {
          const at = t as Instant;
          expect(places.find((part) => contains(part.during, at))?.value).toEqual(follow(table, 1 as PageId, at));
          const value = seen.find((part) => contains(part.during, at))?.value;
          expect(value?.kind).toBe(resolve(table, { host: 'a.example', path: '/1' }, at).kind);
        }
        for (const list of [places, seen]) {
          expect(list[0]?.during.from).toBe(when.from);
          expect(list.at(-1)?.during.until).toBe(when.until);
          list.slice(1).forEach((part, index) => expect(part.during.from).toBe(list[index]?.during.until));
        }
      }),
      { numRuns: 300 },
    );
  });
  it('swap hosts whole, and forget hosts and the places of their pages', () => {
    const table = tableOf([
      host('a.example', [live('/x', 1)], [[1, '/x']]),
      host('b.example', [after('/y', to(1))], []),
    ]);
    expect(ask(table, 'b.example/y')).toMatchObject({ to: { host: 'a.example', path: '/x' } });
    table.replaceHosts([
      compileHost(host('a.example', [], [])),
      compileHost(host('b.example', [live('/new', 1), after('/y', to(1))], [[1, '/new']])),
    ]);
    expect(ask(table, 'b.example/y')).toMatchObject({ to: { host: 'b.example', path: '/new' } });
    expect(table.placesOf(1 as PageId)).toHaveLength(1);
    table.removeHost('b.example');
    expect(ask(table, 'b.example/new')).toEqual({ kind: 'unknown-host' });
    expect(table.placesOf(1 as PageId)).toHaveLength(0);
  });
});

describe('redirect problems', () => {
  it('find loops and dead ends at any instant from one on, with their time', () => {
    const routes = tableOf([
      host(
        'a.example',
        [
          after('/1', to(2)),
          live('/2', 2, during(0, 10)),
          after('/2', to(1), during(10, 20)),
          after('/2', { kind: 'gone' }, during(20, null)),
        ],
        PLACES,
      ),
    ]);
    const found = redirectProblems(
      routes,
      [
        { host: 'a.example', path: '/1' },
        { host: 'a.example', path: '/2' },
      ],
      5 as Instant,
    );
    expect(found.map(({ kind, path, during: { from, until } }) => [kind, path, from, until])).toEqual([
      ['loop', '/1', 10, 20],
      ['loop', '/2', 10, 20],
      ['dead-end', '/1', 20, null],
    ]);
    expect(redirectProblems(routes, [{ host: 'a.example', path: '/1' }], 25 as Instant)).toMatchObject([
      { kind: 'dead-end', during: { from: 25 } },
    ]);
  });
});
