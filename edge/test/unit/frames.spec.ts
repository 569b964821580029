import { describe, expect, it } from '@jest/globals';
import { codesToText, type SiteCode } from '@domatium/core/codes';
import { entriesMark, navMarks, type FrameLine, type Nav } from '@domatium/core/frame';
import type { PageId } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';
import { sha256 } from '@domatium/storage';
import fc from 'fast-check';
import { Frames } from '../../src/index.js';

const HOST = 'one.example';
const WAY = navMarks('way page', entriesMark());
const waysOf = (name: string): Nav => ({
  home: { label: `${name} home · `, href: '/' },
  tree: [{ id: 1, label: `${name} way`, href: '/one' }],
  menus: {},
});
const codeAt = (src: string, on: SiteCode['on'], except: readonly (string | number)[] = []): SiteCode => ({
  ...{ src, on, except, purpose: 'measuring', place: 'head', load: 'after', data: [], hosts: [] },
});
/** Everywhere but on one page, at a path and below it, and on one page alone; named by where they stand. */
const codesOf = (name: string) =>
  codesToText({
    loader: '/-/loader.js',
    codes: [codeAt(`${name} all`, 'all', [2]), codeAt(`${name} path`, ['/summer']), codeAt(`${name} page`, [3])],
  });
const BASES = ['/', '/events', '/events/summer'] as const;
const VARIANTS = ['', 'v', 'w'] as const;
const PAGES = [1, 2, 3] as const;
const END = 20;
const ALWAYS = { from: 0, until: null };

/** Stretches between moments, some left out: none overlap. */
const stretches = fc
  .uniqueArray(fc.integer({ min: 1, max: END - 1 }), { maxLength: 4 })
  .chain((cuts) =>
    fc.tuple(
      fc.constant([...cuts, 0, END].sort((a, b) => a - b)),
      fc.array(fc.boolean(), { minLength: 6, maxLength: 6 }),
    ),
  )
  .map(([cuts, kept]) =>
    cuts.slice(0, -1).flatMap((from, n) => (kept[n] ? [{ from, until: cuts[n + 1] as number }] : [])),
  );
const one = <T>(values: readonly T[]) => fc.constantFrom(...values);
const isIn = ({ from, until }: { from: number; until: number }, at: number) => from <= at && at < until;
const lies = (base: string, path: string) => base === '/' || path === base || path.startsWith(`${base}/`);

describe('frames at an edge', () => {
  it('are those of the page’s variant where it is narrowest, else of its site, and never parts of two', () => {
    const places = fc.tuple(...BASES.flatMap(() => VARIANTS.map(() => stretches)));
    const pages = fc.tuple(
      ...PAGES.map(() => fc.tuple(stretches, fc.array(one(['v', 'w', 'gone']), { minLength: 5, maxLength: 5 }))),
    );
    fc.assert(
      fc.property(
        places,
        pages,
        one(['/', '/events', '/events/summer', '/eventsx', '/events/summer/a']),
        fc.nat(END),
        (routes, framed, path, at) => {
          const texts = new Map<string, string>();
          const lines: FrameLine[] = [];
          const named = (text: string) => (texts.set(sha256(text), text), sha256(text));
          const all = BASES.flatMap((basePath, b) =>
            VARIANTS.flatMap((variant, v) =>
              (routes[b * VARIANTS.length + v] ?? []).map((during, n) => {
                const name = `${basePath} ${variant} ${n}`;
                // Lines hold longer than the place, or as long, or have holes beside it.
                const line = (...parts: string[]) =>
                  lines.push({ id: lines.length, stretches: [{ during: (n % 2 ? during : ALWAYS) as never, parts }] }) -
                  1;
                return {
                  ...{ basePath, variant, during: during as never, name },
                  lines: {
                    icons: line(),
                    head: line(named(`${name} head`)),
                    above: line(named(`${name} above`), named(WAY)),
                    below: line(named(`${name} below`)),
                    nav: line(named(JSON.stringify(waysOf(name)))),
                    codes: line(named(codesOf(name))),
                    root: line(),
                  },
                };
              }),
            ),
          );
          const own = PAGES.flatMap((pageId, p) =>
            (framed[p]?.[0] ?? []).map((during, n) => ({
              pageId,
              during: during as never,
              variant: framed[p]?.[1][n] ?? 'v',
            })),
          );
          const frames = new Frames();
          const hosts = [{ hostId: 1, host: HOST, version: 1, routes: all, pages: own }];
          frames.replace({ hosts, lines, texts });
          for (const pageId of [...PAGES, 9]) {
            const variant = own.find((page) => page.pageId === pageId && isIn(page.during, at))?.variant ?? '';
            const found = [variant, ''].flatMap((wanted) =>
              [...BASES]
                .reverse()
                .flatMap((base) =>
                  all.filter(
                    (route) =>
                      route.basePath === base && route.variant === wanted && lies(base, path) && isIn(route.during, at),
                  ),
                ),
            )[0];
            const got = frames.at(HOST, path, at as Instant, pageId as PageId)?.filled();
            // The ways are those of the same frame, and stand there for the page that has a place in them.
            const way = found && pageId === 1 ? `${found.name} home · ${found.name} way` : '';
            const below =
              found?.basePath === '/events' ? path.slice('/events'.length) : found?.basePath === '/' ? path : '/';
            const codes = [
              ...(pageId === 2 ? [] : ['all']),
              ...(/^\/summer(\/|$)/.test(below) ? ['path'] : []),
              ...(pageId === 3 ? ['page'] : []),
            ].map((which) => `${found?.name} ${which}`);
            expect(got && (got.running?.codes ?? []).map(({ src }) => src)).toEqual(found && codes);
            expect(got && [got.head, got.above.replace(/<[^>]*>/g, ''), got.below]).toEqual(
              found && [`${found.name} head`, `${found.name} above${way}`, `${found.name} below`],
            );
          }
        },
      ),
    );
  });
});
