import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Answer, PageId } from '../../src/plan/index.js';
import { nextFlipAfter, isSameResolution, resolve, type RouteTable } from '../../src/routing/index.js';
import type { Instant } from '../../src/time/index.js';
import { answerAt, begin, replay, type Naive } from './naive.js';
import { act, END, firstPlans, HOSTS, ids, PAGES, PATHS, table, undo, type Act, type Plans } from './world.js';

const places = HOSTS.flatMap((host) => PATHS.map((path) => ({ host, path })));
const page = fc.constantFrom(...PAGES);
const answer: fc.Arbitrary<Answer> = fc.oneof(
  fc.constant<Answer>({ kind: 'gone' }),
  fc.constant<Answer>({ kind: 'not-found' }),
  fc.constant<Answer>({ kind: 'redirect', target: { kind: 'outside', url: 'https://o.example/' }, status: 302 }),
  page.map((pageId): Answer => ({ kind: 'redirect', target: { kind: 'page', pageId }, status: 301 })),
);
const length = fc.option(fc.integer({ min: 1, max: 8 }), { nil: null });
/** Acts at rising instants; each may reach into the future, none into the past. */
const acts = fc
  .array(
    fc.tuple(
      fc.integer({ min: 0, max: 2 }),
      fc.integer({ min: 0, max: 6 }),
      length,
      page,
      fc.integer({ min: 1, max: 5 }),
      fc.option(answer, { nil: null }),
      fc.constantFrom('release', 'release', 'off', 'move'),
      fc.constantFrom(1, 2),
      fc.constantFrom(...PATHS),
    ),
    { maxLength: 9 },
  )
  .map((drawn) => {
    let now = 1;
    return drawn
      .map(([step, ahead, size, who, revision, after, kind, site, path]): { now: number; act: Act } => {
        now += step;
        const from = now + ahead;
        const until = size === null || from + size >= END - 1 ? null : from + size;
        if (kind === 'move') return { now, act: { kind, page: who, at: from, site, path } };
        if (kind === 'off')
          return { now, act: { kind, page: who, from, until, afterwards: after ?? { kind: 'not-found' } } };
        return { now, act: { kind: 'release', page: who, revision, from, until, afterwards: after } };
      })
      .filter(({ act: { kind, ...rest } }) =>
        kind === 'move' ? (rest as { at: number }).at < END - 1 : (rest as { from: number }).from < END - 1,
      );
  });

function shown(routes: RouteTable, place: { host: string; path: string }, t: number): string {
  const got = resolve(routes, place, t as Instant);
  switch (got.kind) {
    case 'page':
      return `page ${got.pageId} r${got.revisionId}`;
    case 'redirect':
      return got.to.kind === 'outside' ? `out ${got.to.url}` : `to ${got.to.host}${got.to.path}`;
    case 'not-found':
      return 'not found';
    default:
      return got.kind;
  }
}
const all = (routes: RouteTable, from = 0) =>
  Array.from({ length: END - from }, (_, i) => places.map((place) => shown(routes, place, from + i)));
const plain = (world: Naive, from = 0) =>
  Array.from({ length: END - from }, (_, i) => places.map(({ host, path }) => answerAt(world, host + path, from + i)));
const run = (list: readonly { act: Act }[], nextId = ids()) => {
  let plans = firstPlans();
  const done: { before: Plans; after: Plans; act: Act; at: number }[] = [];
  list.forEach(({ act: what }, at) => {
    const after = act(plans, what, nextId);
    if (after) {
      done.push({ before: plans, after, act: what, at });
      plans = after;
    }
  });
  return { plans, done, nextId };
};

describe('the plan', () => {
  it('gives at every address and minute what a minute-by-minute replay of the acts gives (rules 1, 2, 3, 6, 7)', () => {
    fc.assert(
      fc.property(acts, (list) => {
        let plans = firstPlans();
        let world = begin();
        const nextId = ids();
        for (const { act: what } of list) {
          const next = act(plans, what, nextId);
          const naive = replay(world, what);
          expect(next === null).toBe(naive === null);
          if (!next || !naive) continue;
          [plans, world] = [next, naive];
        }
        expect(all(table(plans))).toEqual(plain(world));
      }),
      { numRuns: 1500 },
    );
  });

  it('changes no answer before the instant of the act (rule 5)', () => {
    fc.assert(
      fc.property(acts, (list) => {
        for (const { before, after, act: what } of run(list).done) {
          const at = what.kind === 'move' ? what.at : what.from;
          expect(all(table(after)).slice(0, at)).toEqual(all(table(before)).slice(0, at));
        }
      }),
      { numRuns: 300 },
    );
  });

  it('gives after an undo what a replay without the undone act gives, and leaves the past alone (rule 8)', () => {
    fc.assert(
      fc.property(acts, fc.nat(), (list, pick) => {
        const { plans, done, nextId } = run(list);
        const undoable = done.filter(
          ({ act: what, at }) => !done.some((later) => later.at > at && later.act.page === what.page),
        );
        const undone = undoable[pick % Math.max(1, undoable.length)];
        if (!undone) return;
        const now = Math.max(...list.map(({ now: at }) => at)) + 1;
        const without = run(list.filter((_, at) => at !== undone.at));
        // Without the act another may be accepted or refused; only like is compared with like.
        const accepted = done.filter((one) => one !== undone).map((one) => one.act);
        fc.pre(
          without.done.length === accepted.length && without.done.every((one, index) => one.act === accepted[index]),
        );
        const back = undo(plans, undone.before, undone.act.page, now, nextId);
        fc.pre(back !== null);
        expect(all(table(back as Plans), now)).toEqual(all(table(without.plans), now));
        expect(all(table(back as Plans)).slice(0, now)).toEqual(all(table(plans)).slice(0, now));
      }),
      { numRuns: 600 },
    );
  });

  it('answers every redirect in one hop, and never with a redirect to itself (rule 3)', () => {
    fc.assert(
      fc.property(acts, (list) => {
        const routes = table(run(list).plans);
        for (let t = 0; t < END; t++)
          for (const place of places) {
            const got = resolve(routes, place, t as Instant);
            if (got.kind === 'redirect' && got.to.kind === 'address')
              expect(resolve(routes, got.to, t as Instant).kind).toBe('page');
          }
      }),
      { numRuns: 400 },
    );
  });

  it('knows the next flip: nothing changes before it, something does at it', () => {
    fc.assert(
      fc.property(acts, fc.integer({ min: 0, max: END - 1 }), (list, now) => {
        const routes = table(run(list).plans);
        const differs = (t: number) =>
          places.some(
            (place) =>
              !isSameResolution(resolve(routes, place, (t - 1) as Instant), resolve(routes, place, t as Instant)),
          );
        const naive = Array.from({ length: 200 }, (_, i) => now + 1 + i).find(differs) ?? null;
        expect(nextFlipAfter(routes, now as Instant)).toBe(naive);
      }),
      { numRuns: 300 },
    );
  });

  it('lets the page that lies on top answer, and what lies under it again when it ends', () => {
    const gone: Act = {
      kind: 'release',
      page: 1 as PageId,
      revision: 1,
      from: 2,
      until: 4,
      afterwards: { kind: 'gone' },
    };
    const over: Act = { kind: 'move', page: 3 as PageId, at: 5, site: 1, path: '/a' };
    const live: Act = {
      kind: 'release',
      page: 3 as PageId,
      revision: 2,
      from: 6,
      until: 8,
      afterwards: { kind: 'not-found' },
    };
    const routes = table(run([gone, over, live].map((what) => ({ act: what }))).plans);
    const at = (t: number) => shown(routes, places[0] as (typeof places)[number], t);
    expect([1, 2, 3, 4, 5, 6, 7, 8].map(at)).toEqual([
      'not found',
      'page 1 r1',
      'page 1 r1',
      'gone',
      'gone',
      'page 3 r2',
      'page 3 r2',
      'not found',
    ]);
  });
});
