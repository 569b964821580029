import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  paintRelease,
  retimePeriod,
  type LivePeriod,
  type PageId,
  type PagePlan,
  type PlanRowId,
  type RevisionId,
} from '../../src/plan/index.js';
import { endOf, type Instant } from '../../src/time/index.js';

const ids = () => {
  let n = 0;
  return () => ++n as PlanRowId & number;
};
const EMPTY: PagePlan = { pageId: 1 as PageId, placements: [], periods: [], statements: [] };
const gone = { kind: 'gone' as const };

describe('other times for a period', () => {
  const stretch = fc
    .tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 1, max: 20 }), fc.boolean())
    .map(([from, length, isOpen]) => ({ from: from as Instant, until: isOpen ? null : ((from + length) as Instant) }));
  it('keep its revision and what it leaves, overlap nothing, and touch nothing beside it', () => {
    fc.assert(
      fc.property(fc.array(stretch, { minLength: 1, maxLength: 6 }), fc.nat(5), stretch, (all, which, wanted) => {
        const nextId = ids();
        const plan = all.reduce(
          (now, { from, until }, n) =>
            paintRelease(
              now,
              { revisionId: (n + 1) as RevisionId, from, until, afterwards: until === null ? null : gone },
              nextId,
            ).plan,
          EMPTY,
        );
        const period = plan.periods[which % plan.periods.length] as LivePeriod;
        const { plan: after, cuts } = retimePeriod(plan, period, { ...wanted, afterwards: null }, nextId);
        const changed = after.periods.find(({ during }) => during.from === wanted.from);
        expect(changed).toMatchObject({ revisionId: period.revisionId, during: wanted });
        // What was cut short, and so followed at once, left nothing.
        if (wanted.until !== null && period.leaves) expect(changed?.leaves?.answer).toEqual(gone);
        after.periods.forEach(({ during }, n) => {
          const next = after.periods[n + 1];
          if (next) expect(endOf(during)).toBeLessThanOrEqual(next.during.from);
        });
        for (const other of plan.periods) {
          if (other === period) continue;
          const isBeside =
            endOf(other.during) <= wanted.from || (wanted.until !== null && other.during.from >= wanted.until);
          if (isBeside) expect(after.periods).toContainEqual(other);
          else expect(cuts.length).toBeGreaterThan(0);
        }
      }),
      { numRuns: 300 },
    );
  });
  it('that are its own change nothing', () => {
    const nextId = ids();
    const { plan } = paintRelease(
      EMPTY,
      { revisionId: 1 as RevisionId, from: 5 as Instant, until: 9 as Instant, afterwards: gone },
      nextId,
    );
    const [period] = plan.periods as [LivePeriod];
    const same = retimePeriod(plan, period, { from: 5 as Instant, until: 9 as Instant, afterwards: null }, nextId);
    expect(same).toEqual({ plan, cuts: [] });
  });
});
