import { afterAll, beforeAll, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { AnswerInput, ReleaseChange } from '@domatium/contracts';
import { readablePath } from '@domatium/core/address';
import type { PageId } from '@domatium/core/plan';
import { resolutionWords, resolve, resolvedOver, stretchesOf, type RouteTable } from '@domatium/core/routing';
import { DAY, instant, later, MINUTE, type Instant } from '@domatium/core/time';
import { sheet } from '../../src/pages/service.js';
import { preview } from '../../src/releases/preview.js';
import { revisionNumbers } from '../../src/releases/index.js';
import { World } from './harness.js';

const PLANS = 1000;
const AT_ONCE = 8;
const PATHS = ['/v1', '/v2', '/v3', '/v4'];

let world: World;
const pages: PageId[] = [];
beforeAll(async () => {
  world = await World.open();
  for (let n = 0; n < AT_ONCE; n++)
    pages.push(await world.page(PATHS[n % PATHS.length] as string, { site: (n % 2) + 1, name: `P${n}` }));
});
afterAll(() => world.close());

const act = fc.record({
  kind: fc.constantFrom('release', 'release', 'release', 'off', 'move', 'move', 'shift', 'afterwards'),
  ahead: fc.oneof(fc.constant(0), fc.integer({ min: 1, max: 90 })),
  size: fc.oneof(fc.constant(null), fc.integer({ min: 1, max: 60 })),
  path: fc.constantFrom(...PATHS),
  site: fc.constantFrom(1, 2),
  answer: fc.oneof(fc.constantFrom('gone', 'not-found', 'outside', 'own'), fc.nat(AT_ONCE - 1)),
  rewrites: fc.boolean(),
});
type Act = typeof act extends fc.Arbitrary<infer One> ? One : never;

function answerOf(answer: string | number): AnswerInput {
  if (typeof answer === 'number')
    return { kind: 'redirect', status: 302, target: { kind: 'page', pageId: pages[answer] as PageId } };
  if (answer === 'gone' || answer === 'not-found') return { kind: answer };
  const url = answer === 'own' ? 'https://x.one.example/below/v1?a=1' : 'https://elsewhere.example/';
  return { kind: 'redirect', status: 301, target: { kind: 'outside', url } };
}

function changeOf(pageId: PageId, { kind, ahead, size, path, site, answer }: Act): ReleaseChange {
  const minute = Math.ceil(world.now / MINUTE) * MINUTE;
  const from = ahead === 0 ? ('now' as const) : world.wall(minute + ahead * MINUTE);
  const afterwards = answerOf(answer);
  if (kind === 'move')
    return { act: 'move', pageId, at: from, siteId: site, path, leaves: size === null ? null : afterwards };
  if (kind === 'off') return { act: 'take-off', pageId, from, until: null, afterwards };
  if (kind === 'shift') return { act: 'shift', pageId, days: (size ?? 2) % 3 === 0 ? 1 : 2 };
  if (kind === 'afterwards') return { act: 'afterwards', pageId, afterwards };
  const until = size === null ? null : world.wall(minute + (ahead + size) * MINUTE);
  return { act: 'release', pageId, from, until, afterwards: until && afterwards, cutsLater: true };
}

/** What a visitor of an address gets at an instant by the routes an edge has, in the words of sheet and preview. */
function words(routes: RouteTable, address: string, at: number, numbers: ReadonlyMap<number, number>): string {
  const slash = address.indexOf('/');
  const place = { host: address.slice(0, slash), path: address.slice(slash) };
  return said(resolve(routes, place, instant(at)), numbers);
}
const said = (answer: Parameters<typeof resolutionWords>[0], numbers: ReadonlyMap<number, number>) =>
  resolutionWords(answer, {
    page: (id) => `P${pages.indexOf(id)}`,
    revision: (id) => `revision ${numbers.get(id) ?? '?'}`,
  }).replace(/\/[^\s,]*%[^\s,]*/g, (path) => readablePath(path));

it(`a page's sheet, the preview before it and the edge say the same of ${PLANS} random plans, at all their instants`, async () => {
  let plans = 0;
  let lines = 0;
  let seed = 1;
  while (plans < PLANS) {
    for (const one of fc.sample(act, { numRuns: AT_ONCE, seed: seed++ })) {
      const page = pages[seed % AT_ONCE] as PageId;
      if (one.rewrites) await world.rewrite(page, `Words ${seed}`);
      const change = changeOf(page, one);
      const looked = await preview(world.context(), world.one, [change]);
      const refused = looked.faults.length > 0 || looked.findings.some(({ severity }) => severity === 'blocks');
      if (refused) continue;
      await world.press([change]);
      plans++;
      await world.publish();
      const routes = await world.routes();
      const revisions = [...routes.hosts.values()].flatMap(({ source }) =>
        source.routes.flatMap(({ answer }) => (answer.kind === 'page' ? [answer.revisionId] : [])),
      );
      const numbers = await revisionNumbers(world.database, [...new Set(revisions)]);
      // Links on other pages are told of too; there are none here.
      for (const { at, address, words: told } of looked.lines) {
        const plain = told.replace(' (an older revision returns)', '');
        expect([told, words(routes, address, Math.max(at, world.now), numbers)]).toEqual([told, plain]);
        lines++;
      }
      const shown = await sheet(world.context(), world.one, page);
      const place = { host: shown.host, path: shown.path };
      const first = Math.min(
        world.now,
        ...stretchesOf(routes.hosts.get(place.host), place.path).map(({ from }) => from),
      );
      const over = resolvedOver(routes, place, { from: first as Instant, until: null });
      const mine = (text: string) => text.replace(new RegExp(`^P${pages.indexOf(page)}, `), 'this page, ');
      expect(shown.lines.map(({ from, until, words: told }) => [from, until, told])).toEqual(
        over.map(({ during, value }) => [during.from, during.until, mine(said(value, numbers))]),
      );
      lines += over.length;
    }
    world.now = later(world.now, 3 * MINUTE);
    // Now and then days pass, so that plans end and begin anew.
    if (seed % 30 === 0) world.now = later(world.now, DAY);
  }
  expect(lines).toBeGreaterThan(3 * PLANS);
});
