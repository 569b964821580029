import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import parser from 'robots-parser';
import { validateXML } from 'xmllint-wasm';
import { checkTypedPath, normalisePath, rootFileAt } from '../../src/address/index.js';
import type { PageId, PlanRowId, PortfolioId, RevisionId } from '../../src/plan/index.js';
import {
  compile,
  eachListed,
  resolve,
  robotsText,
  sitemapIndex,
  sitemapPath,
  sitemapsAt,
  type CompiledHost,
  type Route,
} from '../../src/routing/index.js';
import type { Instant } from '../../src/time/index.js';

// Its types say what it would be as a module of another kind.
const robotsParser = parser as unknown as typeof parser.default;
const style = { scheme: 'https', suffix: '', port: null } as const;
const HOST = 'one.example';
const schema = (name: string) => readFileSync(new URL(`../schemas/${name}.xsd`, import.meta.url), 'utf8');
const faultsOf = async (xml: string, name: string) => {
  const { errors } = await validateXML({ xml: { fileName: 'it.xml', contents: xml }, schema: schema(name) });
  return errors.map(({ message }) => message);
};
const PATHS = ['/', '/a', '/b/c', '/o%27neill&co', '/-/not-found'];
const route = fc
  .record({
    path: fc.constantFrom(...PATHS),
    from: fc.nat(20),
    length: fc.integer({ min: 1, max: 12 }),
    hiddenFrom: fc.option(fc.constantFrom(0, 5, 15, 25), { freq: 1 }),
    isPage: fc.boolean(),
  })
  .map(({ path, from, length, hiddenFrom, isPage }): Route => {
    const during = { from: from as Instant, until: (from + length) as Instant };
    const answer = {
      ...({ kind: 'page', pageId: 1 as PageId, revisionId: 1 as RevisionId, claimId: 1 as PlanRowId } as const),
      ...{ artifact: 'x', ...(hiddenFrom === null ? {} : { hiddenFrom: hiddenFrom as Instant }) },
    };
    return isPage
      ? { path, layer: 'page', during, answer }
      : { path, layer: 'after', during, answer: { kind: 'gone' } };
  });
/** Of one path and layer no two at once, as constraints of the database see to it. */
const routes = fc
  .array(route, { maxLength: 14 })
  .map((all) =>
    all.filter(
      (one, n) =>
        !all
          .slice(0, n)
          .some(
            (other) =>
              other.path === one.path &&
              other.layer === one.layer &&
              other.during.from < (one.during.until ?? 0) &&
              one.during.from < (other.during.until ?? 0),
          ),
    ),
  );
const live = (path: string, from: number): Route => ({
  ...{ path, layer: 'page', during: { from: from as Instant, until: null } },
  answer: {
    ...{ kind: 'page', pageId: 1 as PageId, revisionId: 1 as RevisionId, claimId: 1 as PlanRowId, artifact: 'x' },
  },
});
const tableOf = (all: readonly Route[]) =>
  compile([{ host: HOST, version: 1, portfolioId: 1 as PortfolioId, routes: all, sites: [], pages: [] }], style);

describe('the sitemap of a host', () => {
  it('names at every instant what visitors get as a page and may be found, since when, and holds until it changes', () => {
    fc.assert(
      fc.property(routes, (all) => {
        const table = tableOf(all);
        const host = table.hosts.get(HOST) as CompiledHost;
        const naive = (at: number) =>
          PATHS.slice(0, 4)
            .flatMap((path) => {
              const answer = resolve(table, { host: HOST, path }, at as Instant);
              const held = all.find(
                (one) =>
                  one.path === path && one.layer === 'page' && one.during.from <= at && at < (one.during.until ?? 0),
              );
              if (answer.kind !== 'page' || held?.answer.kind !== 'page') return [];
              return (held.answer.hiddenFrom ?? Infinity) <= at ? [] : [{ path, since: held.during.from as number }];
            })
            .sort((a, b) => (a.path < b.path ? -1 : 1));
        for (let at = 0; at < 34; at++) {
          const entries: { path: string; since: number }[] = [];
          const until = eachListed(host, at, (path, since) => entries.push({ path, since }));
          expect(entries).toEqual(naive(at));
          for (let later = at; later < Math.min(until, 34); later++) expect(naive(later)).toEqual(entries);
        }
      }),
    );
  });
  it('is as the schema of the protocol wants it, in parts that hold no more than it allows and lose nothing', async () => {
    const long = normalisePath(`/${'ø&"'.repeat(40)}`) as string;
    const paths = [long, ...Array.from({ length: 7 }, (_, n) => `/page-${n}?<'`)];
    const table = tableOf(paths.map((path, n) => live(path, Date.UTC(2026, 10, n + 1))));
    const host = table.hosts.get(HOST) as CompiledHost;
    const now = Date.UTC(2026, 11, 1);
    for (const most of [
      { entries: 50_000, bytes: 1e9 },
      { entries: 3, bytes: 1e9 },
      { entries: 9, bytes: 700 },
    ]) {
      const parts = sitemapsAt(host, now, style, most).parts.map((part) => new TextDecoder().decode(part));
      for (const part of parts) {
        expect(await faultsOf(part, 'sitemap')).toEqual([]);
        const count = part.match(/<url>/g)?.length ?? 0;
        expect(count <= most.entries && (part.length <= most.bytes || count === 1)).toBe(true);
      }
      expect(parts.join('').match(/<url>/g)).toHaveLength(paths.length);
      const index = sitemapIndex(parts.length, HOST, style);
      expect(await faultsOf(index, 'siteindex')).toEqual([]);
      parts.forEach((_, n) => expect(index).toContain(`<loc>https://${HOST}${sitemapPath(n + 1)}</loc>`));
    }
    expect(sitemapsAt(host, 0, style)).toEqual({ parts: [], until: Date.UTC(2026, 10, 1) });
    // A schema that takes anything would prove nothing.
    expect(await faultsOf('<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"/>', 'sitemap')).not.toEqual([]);
  });
  it('is named to crawlers, which may ask for everything', () => {
    const robots = robotsParser(`https://${HOST}/robots.txt`, robotsText(`https://${HOST}/sitemap.xml`));
    expect([robots.isAllowed(`https://${HOST}/any`, 'AnyBot'), robots.getSitemaps()]).toEqual([
      true,
      [`https://${HOST}/sitemap.xml`],
    ]);
    expect(robotsParser(`https://${HOST}/robots.txt`, robotsText(null)).getSitemaps()).toEqual([]);
  });
  it('lies where no page can be put', () => {
    for (const path of ['/robots.txt', '/sitemap.xml', '/sitemap-2.xml']) {
      expect(rootFileAt(path)).not.toBeNull();
      expect(checkTypedPath(path).ok).toBe(false);
    }
    for (const path of ['/sitemap', '/sitemap-0.xml', '/a/sitemap.xml', '/robots.txt.html'])
      expect(rootFileAt(path)).toBeNull();
  });
});
