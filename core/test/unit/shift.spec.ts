import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  claimsOf,
  isAnythingAhead,
  lastEnd,
  paintRelease,
  paintTakeOff,
  setAfterwards,
  shiftPlan,
  type Answer,
  type PagePlan,
  type RevisionId,
} from '../../src/plan/index.js';
import { resolve } from '../../src/routing/index.js';
import type { Instant } from '../../src/time/index.js';
import { END, firstPlans, ids, PAGES, SITES, table } from './world.js';

const first = firstPlans().get(PAGES[0] as never) as PagePlan;
const place = { host: 'one.example', path: '/a' };
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
        ? paintRelease(now, { revisionId: (n + 1) as RevisionId, from: time(from), until, afterwards }, SITES, nextId)
            .plan
        : paintTakeOff(now, { from: time(from), until, afterwards }, SITES, nextId).plan;
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
        expect(moved).not.toBeNull();
        if (!moved) return;
        for (let t = 0; t <= at + days; t++) expect([t, shown(moved, t)]).toEqual([t, shown(one, Math.min(t, at))]);
        for (let t = at; t < END + 9; t++) expect([t, shown(moved, t + days)]).toEqual([t, shown(one, t)]);
      }),
    );
  });
  it('comes back by the same way', () => {
    fc.assert(
      fc.property(plan, fc.nat(END), fc.integer({ min: 1, max: 9 }), (one, at, days) => {
        const there = shiftPlan(one, time(at), by(days), ids(5000)) as PagePlan;
        const back = shiftPlan(there, time(at), by(-days), ids(9000));
        expect(back && Array.from({ length: END + 9 }, (_, t) => shown(back, t))).toEqual(
          Array.from({ length: END + 9 }, (_, t) => shown(one, t)),
        );
      }),
    );
  });
  it('is refused where something would begin or end in the past', () => {
    const [release] = [
      paintRelease(
        first,
        { revisionId: 1 as RevisionId, from: time(5), until: time(9), afterwards: { kind: 'gone' } },
        SITES,
        ids(),
      ),
    ];
    expect(shiftPlan(release.plan, time(3), by(-1), ids(50))).not.toBeNull();
    expect(shiftPlan(release.plan, time(3), by(-2), ids(50))).toBeNull();
    expect(shiftPlan(release.plan, time(6), by(-3), ids(50))).toBeNull();
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
        expect(
          claimsOf({ ...again, siteAddresses: SITES, afterwards: again.answers, moves: [], exactRedirects: [] }).length,
        ).toBeLessThanOrEqual(
          claimsOf({ ...next, siteAddresses: SITES, afterwards: next.answers, moves: [], exactRedirects: [] }).length,
        );
      }),
    );
  });
});
