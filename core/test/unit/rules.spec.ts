import { describe, expect, it } from '@jest/globals';
import {
  addressAt,
  afterClaimsOf,
  answersOf,
  canGoBackToPlan,
  claimDifference,
  inputsOf,
  isEndingSoon,
  movePage,
  paintRelease,
  paintTakeOff,
  proposedEnd,
  putBack,
  stateAt,
  type Answer,
  type Claim,
  type PageId,
  type PagePlan,
  type RevisionId,
  type SiteId,
} from '../../src/plan/index.js';
import type { Instant } from '../../src/time/index.js';
import { ids, SITES as ALL } from '../replay/world.js';

const SITES = ALL.filter(({ id }) => id > 4 || id === 1).map((one) => ({
  ...one,
  during: { ...one.during, until: null },
}));

const GONE: Answer = { kind: 'gone' };
const NOT_FOUND: Answer = { kind: 'not-found' };
const OUT: Answer = { kind: 'redirect', status: 302, target: { kind: 'outside', url: 'https://o.example/' } };
const at = (t: number) => t as Instant;
const nextId = ids();
const empty: PagePlan = {
  pageId: 1 as PageId,
  periods: [],
  statements: [],
  placements: [
    {
      id: nextId(),
      pageId: 1 as PageId,
      siteId: 1 as SiteId,
      path: '/a',
      during: { from: at(0), until: null },
      leaves: null,
    },
  ],
};
const put = (
  plan: PagePlan,
  revision: number,
  from: number,
  until: number | null,
  afterwards: Answer | null = until === null ? null : NOT_FOUND,
) =>
  paintRelease(
    plan,
    { revisionId: revision as RevisionId, from: at(from), until: until === null ? null : at(until), afterwards },
    nextId,
  );
const off = (plan: PagePlan, from: number, until: number | null, afterwards: Answer) =>
  paintTakeOff(plan, { from: at(from), until: until === null ? null : at(until), afterwards }, nextId);
/** Periods as `revision@from-until`. */
const periods = ({ periods: all }: PagePlan) =>
  all.map(({ revisionId, during: { from, until } }) => `${revisionId}@${from}-${until ?? ''}`);
const answers = (plan: PagePlan) =>
  answersOf(inputsOf([plan], SITES))
    .map(({ kind, answer, path, during: { from } }) => `${kind} ${answer.kind} ${path}@${from}`)
    .sort();

describe('painting (rule 6)', () => {
  const planned = put(put(empty, 1, 10, 20, GONE).plan, 2, 30, 40, OUT).plan;
  it('ends what started before at the start, and drops the rest of it', () => {
    const { plan, cuts } = put(put(empty, 1, 0, null).plan, 2, 10, 20);
    expect(periods(plan)).toEqual(['1@0-10', '2@10-20']);
    expect(cuts).toEqual([{ revisionId: 1, during: { from: 10, until: null }, isLater: false }]);
  });
  it('keeps what was planned to start at or after the end, with its afterwards', () => {
    const { plan, cuts } = put(planned, 3, 25, 30, NOT_FOUND);
    expect(periods(plan)).toEqual(['1@10-20', '3@25-30', '2@30-40']);
    expect(answers(plan)).toEqual(['afterwards gone /a@20', 'afterwards not-found /a@30', 'afterwards redirect /a@40']);
    expect(cuts).toEqual([]);
  });
  it('drops the part behind the end of a later period that began inside, and its afterwards', () => {
    const { plan, cuts } = put(planned, 3, 25, 35, NOT_FOUND);
    expect(periods(plan)).toEqual(['1@10-20', '3@25-35']);
    expect(answers(plan)).toEqual(['afterwards gone /a@20', 'afterwards not-found /a@35']);
    expect(cuts).toEqual([{ revisionId: 2, during: { from: 30, until: 40 }, isLater: true }]);
  });
  it('goes back to the plan exactly, where that has the page live', () => {
    const back = put(put(empty, 1, 0, 50, GONE).plan, 2, 10, 20, null).plan;
    expect(periods(back)).toEqual(['1@0-10', '2@10-20', '1@20-50']);
    expect(answers(back)).toEqual(['afterwards gone /a@50']);
    expect([
      canGoBackToPlan(planned, at(35)),
      canGoBackToPlan(planned, at(25)),
      canGoBackToPlan(planned, at(40)),
      canGoBackToPlan(planned, null),
    ]).toEqual([true, false, false, false]);
  });
  it('puts the afterwards where the page lies just before the end', () => {
    const moved = movePage(empty, { at: at(15), siteId: 2 as SiteId, path: '/b', leaves: null }, nextId);
    expect(answers(put(moved, 1, 10, 15, GONE).plan)).toEqual(['afterwards gone /a@15', 'move redirect /a@15']);
    expect(answers(put(moved, 1, 10, 16, GONE).plan)).toEqual(['afterwards gone /b@16', 'move redirect /a@15']);
  });
  it('takes off: nothing is painted, later periods go, the afterwards begins at once even where the page was off', () => {
    const { plan, cuts } = off(planned, 22, null, OUT);
    expect(periods(plan)).toEqual(['1@10-20']);
    expect(answers(plan)).toEqual(['afterwards gone /a@20', 'afterwards redirect /a@22']);
    expect(cuts.map(({ isLater }) => isLater)).toEqual([true]);
    expect(periods(off(planned, 12, 15, GONE).plan)).toEqual(['1@10-12', '2@30-40']);
  });
  it('refuses an end that is not after its start', () => {
    expect(() => put(empty, 1, 10, 10)).toThrow(RangeError);
    expect(() => off(empty, 10, 9, GONE)).toThrow(RangeError);
  });
  it('proposes the end of the period that holds the start, with its afterwards, or else the next start', () => {
    expect(proposedEnd(planned, at(10))).toEqual({ until: 20, afterwards: GONE });
    expect(proposedEnd(planned, at(20))).toEqual({ until: 30, afterwards: null });
    expect(proposedEnd(planned, at(40))).toEqual({ until: null, afterwards: null });
  });
});

describe('moves (rule 7)', () => {
  const live = put(empty, 1, 10, 30, GONE).plan;
  const move = (plan: PagePlan, t: number, path: string, leaves: Answer | null = null) =>
    movePage(plan, { at: at(t), siteId: 1 as SiteId, path, leaves }, nextId);
  it('leave a redirect by reference where the page was live, or what was chosen', () => {
    expect(answers(move(live, 20, '/b'))).toEqual(['afterwards gone /b@30', 'move redirect /a@20']);
    expect(answers(move(live, 20, '/b', NOT_FOUND))).toEqual(['afterwards gone /b@30', 'move not-found /a@20']);
  });
  it('leave no trace where the page is not live; afterwards of past periods stay where they were', () => {
    expect(answers(move(live, 5, '/b'))).toEqual(['afterwards gone /b@30']);
    expect(answers(move(live, 10, '/b'))).toEqual(['afterwards gone /b@30']);
    expect(answers(move(live, 40, '/b'))).toEqual(['afterwards gone /a@30']);
  });
  it('keep a later move, and end only the placement they fall in', () => {
    const twice = move(move(live, 25, '/c'), 15, '/b');
    expect([14, 15, 24, 25].map((t) => addressAt(twice, at(t), SITES)?.path)).toEqual(['/a', '/b', '/b', '/c']);
  });
});

describe('undo (rule 8)', () => {
  it('goes on with the row that is still in force, and brings back a new row that keeps rank and order', () => {
    const before = put(put(empty, 1, 0, 50, GONE).plan, 2, 60, null).plan;
    const after = off(before, 20, null, OUT).plan;
    const back = putBack(before, after, at(25), SITES, nextId);
    expect(periods(back)).toEqual(['1@0-20', '1@25-50', '2@60-']);
    const given = (plan: PagePlan, kind: string) =>
      answersOf(inputsOf([plan], SITES)).find(({ answer }) => answer.kind === kind);
    const { rank, order } = given(before, 'gone') ?? {};
    expect(given(back, 'gone')).toMatchObject({ rank, order, during: { from: 50 } });
    expect(given(back, 'redirect')?.during).toEqual({ from: 20, until: 25 });
    expect(periods(putBack(before, after, at(20), SITES, nextId))).toEqual(['1@0-50', '2@60-']);
  });
  it('redirects the address that served only through the undone release, unless that is declined', () => {
    const before = put(empty, 1, 0, null).plan;
    const after = movePage(before, { at: at(10), siteId: 2 as SiteId, path: '/b', leaves: null }, nextId);
    const kept = (isLeft: boolean) => answers(putBack(before, after, at(15), SITES, nextId, isLeft));
    expect(kept(true)).toContain('move redirect /b@15');
    expect(kept(false).filter((text) => text.endsWith('@15'))).toEqual([]);
  });
});

describe('claims (rule 2)', () => {
  const answer = (
    kind: 'exact' | 'afterwards' | 'move',
    from: number,
    until: number | null,
    rank = from,
    order: number = nextId(),
  ) => ({
    kind,
    pageId: 1 as PageId,
    hostId: 1 as never,
    path: '/a',
    during: { from: at(from), until: until === null ? null : at(until) },
    answer: GONE,
    rank: at(rank),
    order,
  });
  const cut = (...all: ReturnType<typeof answer>[]) =>
    afterClaimsOf(all).map(
      ({ sourceId, during: { from, until } }) =>
        `${all.findIndex(({ order }) => order === (sourceId as number))}@${from}-${until ?? ''}`,
    );
  it('give the latest start, then exact before afterwards before move, then the later one', () => {
    expect(cut(answer('afterwards', 0, null), answer('move', 10, 20))).toEqual(['0@0-10', '1@10-20', '0@20-']);
    expect(cut(answer('move', 10, null), answer('exact', 10, null), answer('afterwards', 10, null))).toEqual(['1@10-']);
    expect(cut(answer('afterwards', 10, null, 10, 7), answer('afterwards', 10, null, 10, 8))).toEqual(['1@10-']);
    // What an undo brought back keeps its old rank and stays under what began later.
    expect(cut(answer('afterwards', 30, null, 5), answer('move', 20, 40))).toEqual(['1@20-40', '0@40-']);
  });
  it('differ from stored ones by rows and ends, never by touching what stays', () => {
    const claim = (from: number, until: number | null, revision: number): Claim & { id: number } => ({
      id: from,
      layer: 'page',
      hostId: 1 as never,
      path: '/a',
      during: { from: at(from), until: until === null ? null : at(until) },
      sourceId: 1 as never,
      pageId: 1 as PageId,
      revisionId: revision as RevisionId,
    });
    const { removed, added, ended } = claimDifference(
      [claim(0, null, 1), claim(50, 60, 2), claim(70, null, 3)],
      [claim(0, 20, 1), claim(20, 50, 4), claim(50, 60, 5), claim(70, null, 3)],
    );
    expect(removed.map(({ id }) => id)).toEqual([50]);
    expect(added.map(({ during: { from } }) => from)).toEqual([20, 50]);
    expect(ended.map(({ stored, claim: next }) => [stored.id, next.during.until])).toEqual([[0, 20]]);
  });
});

describe('states', () => {
  const list = (...all: [number, number | null][]) =>
    all.map(([from, until]) => ({ during: { from: at(from), until: until === null ? null : at(until) } }));
  it.each([
    [[], 5, 'draft'],
    [list([0, 5]), 5, 'ended'],
    [list([0, 5]), 4, 'live'],
    [list([5, null]), 5, 'live'],
    [list([5, null]), 4, 'coming'],
    [list([0, 2], [6, 8]), 4, 'coming'],
  ] as const)('%j at %i is %s', (all, t, state) => expect(stateAt(all, at(t))).toBe(state));
  it('end soon only where nothing of the page follows directly', () => {
    expect(isEndingSoon(list([0, 5]), at(4), 2)).toBe(true);
    expect(isEndingSoon(list([0, 5], [5, null]), at(4), 2)).toBe(false);
    expect(isEndingSoon(list([0, 5], [5, 6]), at(4), 2)).toBe(true);
    expect(isEndingSoon(list([0, null]), at(4), 2)).toBe(false);
  });
});
