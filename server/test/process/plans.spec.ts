import { afterAll, beforeAll, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { AnswerInput, ReleaseChange } from '@domatium/contracts';
import { readablePath } from '@domatium/core/address';
import type { PageId } from '@domatium/core/plan';
import { resolutionWords, resolve, resolvedOver, stretchesOf, type RouteTable } from '@domatium/core/routing';
import { DAY, instant, later, MINUTE, type Instant } from '@domatium/core/time';
import { neighbourhoodOf, tableOf } from '../../src/heart/plans/index.js';
import { sheet } from '../../src/features/pages/service.js';
import { preview } from '../../src/heart/releases/preview.js';
import { revisionNumbers } from '../../src/heart/releases/index.js';
import { verifyPortfolio } from '../../src/features/verify/index.js';
import { World } from './harness.js';

const PLANS = 1000;
const AT_ONCE = 8;
/** So many plans have the same pages; then others come, so that no history grows without end. */
const PLANS_A_GROUP = 40;

let world: World;
let pages: PageId[] = [];
let paths: string[] = [];
beforeAll(async () => {
  world = await World.open();
});
afterAll(() => world.close());

async function begin(group: number): Promise<void> {
  paths = [1, 2, 3, 4].map((n) => `/g${group}-${n}`);
  pages = [];
  for (let n = 0; n < AT_ONCE; n++)
    pages.push(await world.page(paths[n % paths.length] as string, { site: (n % 2) + 1, name: `P${n}` }));
}

const act = fc.record({
  kind: fc.constantFrom('release', 'release', 'release', 'off', 'move', 'move', 'shift', 'afterwards'),
  ahead: fc.oneof(fc.constant(0), fc.integer({ min: 1, max: 90 })),
  size: fc.oneof(fc.constant(null), fc.integer({ min: 1, max: 60 })),
  path: fc.nat(3),
  site: fc.constantFrom(1, 2),
  answer: fc.oneof(fc.constantFrom('gone', 'not-found', 'outside', 'own'), fc.nat(AT_ONCE - 1)),
  rewrites: fc.boolean(),
});
type Act = typeof act extends fc.Arbitrary<infer One> ? One : never;

function answerOf(answer: string | number): AnswerInput {
  if (typeof answer === 'number')
    return { kind: 'redirect', status: 302, target: { kind: 'page', pageId: pages[answer] as PageId } };
  if (answer === 'gone' || answer === 'not-found') return { kind: answer };
  const url = answer === 'own' ? `https://x.one.example/below${paths[0]}?a=1` : 'https://elsewhere.example/';
  return { kind: 'redirect', status: 301, target: { kind: 'outside', url } };
}

function changeOf(pageId: PageId, { kind, ahead, size, path, site, answer }: Act): ReleaseChange {
  const minute = Math.ceil(world.now / MINUTE) * MINUTE;
  const from = ahead === 0 ? ('now' as const) : world.wall(minute + ahead * MINUTE);
  const afterwards = answerOf(answer);
  if (kind === 'move')
    return {
      act: 'move',
      pageId,
      at: from,
      siteId: site,
      path: paths[path] as string,
      leaves: size === null ? null : afterwards,
    };
  if (kind === 'off') return { act: 'take-off', pageId, from, until: null, afterwards };
  if (kind === 'shift') return { act: 'shift', pageId, days: (size ?? 2) % 3 === 0 ? 1 : 2 };
  if (kind === 'afterwards') return { act: 'afterwards', pageId, afterwards };
  const until = size === null ? null : world.wall(minute + (ahead + size) * MINUTE);
  return { act: 'release', pageId, from, until, afterwards: until && afterwards, cutsLater: true };
}

/** Of these changes those that can go together, with what the preview says of them: what can't is left out. */
async function wanted(all: readonly ReleaseChange[]) {
  let changes = all;
  for (;;) {
    const looked = await preview(world.context(), world.one, { changes });
    const faulty = new Set(looked.faults.map(({ path }) => changes[Number(/\d+/.exec(path)?.[0])]?.pageId));
    for (const { severity, pageId } of looked.findings) if (severity === 'blocks') faulty.add(pageId);
    if (!faulty.size) return { changes, looked };
    changes = changes.filter(({ pageId }) => !faulty.has(pageId));
    if (!changes.length) return { changes, looked };
  }
}

const OLDER = ' (an older revision returns)';
const source = () => ({ db: world.database, portfolioId: world.one, style: world.publisher.style });
const revisionsIn = (routes: RouteTable) =>
  [...routes.hosts.values()].flatMap(({ source: { routes: all } }) =>
    all.flatMap(({ answer }) => (answer.kind === 'page' ? [answer.revisionId] : [])),
  );

/** What a visitor of an address gets at an instant by a table of routes, in the words of sheet and preview. */
function words(routes: RouteTable, address: string, at: number, numbers: ReadonlyMap<number, number>): string {
  const slash = address.indexOf('/');
  const place = { host: address.slice(0, slash), path: address.slice(slash) };
  return said(resolve(routes, place, instant(at)), numbers);
}
const said = (answer: Parameters<typeof resolutionWords>[0], numbers: ReadonlyMap<number, number>) =>
  resolutionWords(answer, {
    page: (id) => `P${pages.indexOf(id)}`,
    revision: (id) => numbers.get(id) ?? '?',
  }).replace(/\/[^\s,]*%[^\s,]*/g, (path) => readablePath(path));

it(`a page's sheet, the preview before it and the edge say the same of ${PLANS} random plans, at all their instants`, async () => {
  let plans = 0;
  let lines = 0;
  let seed = 1;
  let groups = 0;
  while (plans < PLANS) {
    if (plans >= groups * PLANS_A_GROUP) await begin(++groups);
    const drawn = fc.sample(act, { numRuns: AT_ONCE, seed: seed++ });
    for (const [n, one] of drawn.entries())
      if (one.rewrites) await world.rewrite(pages[n] as PageId, `Words ${seed} ${n}`);
    const { changes, looked } = await wanted(drawn.map((one, n) => changeOf(pages[n] as PageId, one)));
    if (!changes.length) continue;
    const { at: pressed } = await world.press(changes);
    plans += changes.length;
    const around = await neighbourhoodOf(source(), pages);
    const revisions = [...around.plans.values()].flatMap(({ periods }) => periods.map(({ revisionId }) => revisionId));
    const [decided, numbersThen] = [tableOf(around), await revisionNumbers(world.database, revisions)];
    // Links on other pages are told of too; there are none here.
    expect(looked.lines.map(({ at, address, words: told }) => [at, address, told])).toEqual(
      looked.lines.map(({ at, address, words: told }) => {
        const older = told.endsWith(OLDER) ? OLDER : '';
        return [at, address, words(decided, address, Math.max(at, pressed), numbersThen) + older];
      }),
    );
    lines += looked.lines.length;
    world.now = later(world.now, MINUTE / 4);
    await world.publish();
    const routes = await world.routes();
    const numbers = await revisionNumbers(world.database, revisionsIn(routes));
    for (const page of changes.map(({ pageId }) => pageId as PageId)) {
      const shown = await sheet(world.context(), world.one, page);
      const place = { host: shown.host, path: shown.path };
      const begun = stretchesOf(routes.hosts.get(place.host), place.path).map(({ from }) => from);
      const over = resolvedOver(routes, place, { from: Math.min(world.now, ...begun) as Instant, until: null });
      const mine = (text: string) => text.replace(new RegExp(`^P${pages.indexOf(page)}, `), 'this page, ');
      expect(shown.lines.map(({ from, until, words: told }) => [from, until, told])).toEqual(
        over.map(({ during, value }) => [during.from, during.until, mine(said(value, numbers))]),
      );
      lines += over.length;
    }
    world.now = later(world.now, 2 * MINUTE);
    // Now and then days pass, so that plans end and begin anew.
    if (seed % 30 === 0) world.now = later(world.now, DAY);
  }
  expect(lines).toBeGreaterThan(3 * PLANS);
  const parts = { database: world.database, style: world.publisher.style, clock: () => world.now };
  expect((await verifyPortfolio(parts, world.one)).differences).toEqual([]);
}, 600_000);
