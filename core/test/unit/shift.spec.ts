import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  answersOf,
  claimsOf,
  inputsOf,
  isAnythingAhead,
  lastEnd,
  movePage,
  paintRelease,
  paintTakeOff,
  setAfterwards,
  shiftPlan,
  type Answer,
  type PageId,
  type PagePlan,
  type RevisionId,
  type SiteId,
} from '../../src/plan/index.js';
import { resolve } from '../../src/routing/index.js';
import type { Instant } from '../../src/time/index.js';
import { firstPlans, ids, SITES, table } from '../replay/world.js';

const END = 24;
const first = firstPlans([1, 2] as PageId[]).get(2 as PageId) as PagePlan;
const place = { host: 'two.example', path: '/b' };
const time = (n: number) => n as Instant;
/** Plans of one page: releases and take-offs one after another, with afterwards. */
const plan = fc
  .array(
    fc.tuple(
      fc.nat(END),
      fc.option(fc.integer({ min: 1, max: 6 }), { nil: null }),
      fc.constantFrom('gone', 'not-found'),
      fc.boolean(),
    ),
    { maxLength: 5 },
  )
  .map((acts) => {
    const nextId = ids();
    return acts.reduce((now: PagePlan, [from, size, kind, isRelease], n) => {
      const until = size === null ? null : time(from + size);
      const afterwards = { kind } as Answer;
      return isRelease
        ? paintRelease(now, { revisionId: (n + 1) as RevisionId, from: time(from), until, afterwards }, nextId).plan
        : paintTakeOff(now, { from: time(from), until, afterwards }, nextId).plan;
    }, first);
  });
const shown = (one: PagePlan, t: number) => {
  const got = resolve(table(new Map([[one.pageId, one]])), place, time(t));
  return got.kind === 'page' ? `r${got.revisionId}` : got.kind;
};
const by = (n: number) => (t: Instant) => time(t + n);

describe('a plan that is shifted', () => {
  it('gives before the instant what it gave, and later what it gave that much earlier', () => {
    fc.assert(
      fc.property(plan, fc.nat(END), fc.integer({ min: 1, max: 9 }), (one, at, days) => {
        const moved = shiftPlan(one, time(at), by(days), ids(5000));
        if ('kind' in moved) throw new Error(moved.kind);
        for (let t = 0; t <= at + days; t++) expect([t, shown(moved, t)]).toEqual([t, shown(one, Math.min(t, at))]);
        for (let t = at; t < END + 9; t++) expect([t, shown(moved, t + days)]).toEqual([t, shown(one, t)]);
      }),
    );
  });
  it('comes back by the same way', () => {
    fc.assert(
      fc.property(plan, fc.nat(END), fc.integer({ min: 1, max: 9 }), (one, at, days) => {
        const there = shiftPlan(one, time(at), by(days), ids(5000)) as PagePlan;
        const back = shiftPlan(there, time(at), by(-days), ids(9000)) as PagePlan;
        expect(Array.from({ length: END + 9 }, (_, t) => shown(back, t))).toEqual(
          Array.from({ length: END + 9 }, (_, t) => shown(one, t)),
        );
      }),
    );
  });
  it('is refused where instants would change their order, as in the hour that clocks skip', () => {
    const one = paintRelease(
      first,
      { revisionId: 1 as RevisionId, from: time(5), until: time(9), afterwards: { kind: 'gone' } },
      ids(),
    ).plan;
    const skipped = (t: Instant) => time(t === 5 ? 30 : t + 20);
    expect(shiftPlan(one, time(3), skipped, ids(50))).toEqual({ kind: 'order', earlier: 5, later: 9 });
  });
  it('takes what ends leave along, to wherever the page lies then', () => {
    const nextId = ids();
    const one = movePage(
      paintRelease(
        first,
        { revisionId: 1 as RevisionId, from: time(5), until: time(9), afterwards: { kind: 'gone' } },
        nextId,
      ).plan,
      { at: time(12), siteId: 3 as SiteId, path: '/a', leaves: null },
      nextId,
    );
    const done = shiftPlan(one, time(3), by(6), nextId) as PagePlan;
    expect(answersOf(inputsOf([done], SITES)).map(({ kind, path, rank }) => [kind, path, rank])).toEqual([
      ['afterwards', '/shop/a', 15],
      ['move', '/b', 12],
    ]);
  });
  it('is refused where something would begin or end in the past', () => {
    const [release] = [
      paintRelease(
        first,
        { revisionId: 1 as RevisionId, from: time(5), until: time(9), afterwards: { kind: 'gone' } },
        ids(),
      ),
    ];
    const kind = (at: number, n: number) => {
      const done = shiftPlan(release.plan, time(at), by(n), ids(50));
      return 'kind' in done ? done.kind : null;
    };
    expect([kind(3, -1), kind(3, -2), kind(6, -3)]).toEqual([null, 'past', 'past']);
    expect([isAnythingAhead(release.plan, time(8)), isAnythingAhead(release.plan, time(9))]).toEqual([true, false]);
  });
});

describe('another afterwards', () => {
  it('holds from the last end on, and changes nothing before', () => {
    fc.assert(
      fc.property(plan, fc.nat(END), (one, at) => {
        const end = lastEnd(one);
        const next = setAfterwards(
          one,
          time(at),
          { kind: 'redirect', target: { kind: 'outside', url: 'https://o.example/' }, status: 302 },
          SITES,
          ids(7000),
        );
        if (end === null || end === -Infinity) return expect(next).toBe(one);
        const from = Math.max(end, at);
        for (let t = 0; t < END + 12; t++)
          expect([t, shown(next, t)]).toEqual([t, t >= from ? 'redirect' : shown(one, t)]);
        // It can be chosen again and again without leaving the older ones lying about.
        const again = setAfterwards(next, time(at), { kind: 'gone' }, SITES, ids(8000));
        const claims = (some: PagePlan) => claimsOf(inputsOf([some], SITES)).length;
        expect(claims(again)).toBeLessThanOrEqual(claims(next));
      }),
    );
  });
});
