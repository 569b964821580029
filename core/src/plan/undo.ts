import { before, endOf, fromOn, type Instant, type Interval } from '../time/index.js';
import { answersOf, isSamePlace } from './answers.js';
import { canonical } from './difference.js';
import type { IdSource } from './ids.js';
import { addressAt, inputsOf } from './places.js';
import type { AfterAnswer, LivePeriod, PagePlan, Placement, SiteAddress, Statement } from './types.js';

/**
 * The plan from `at` on as it was in `old`, with the past of `current` left alone (design rule 8). Rows that go on
 * unchanged keep their identity; what comes back is a new row. What addresses gave without the undone release they give
 * again, with its rank and order. An address that served only through the undone release redirects to its page, unless
 * `leavesRedirect` is false.
 */
export function putBack(
  old: PagePlan,
  current: PagePlan,
  at: Instant,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
  leavesRedirect = true,
): PagePlan {
  const leaves = leavesRedirect ? { answer: { kind: 'follow' } as const, order: nextId(), until: null } : null;
  const placements = splice(old.placements, current.placements, at, nextId, isSamePlacement, leaves);
  const periods = splice(old.periods, current.periods, at, nextId, isSamePeriod, null);
  const rows = { pageId: current.pageId, placements, periods };
  const wanted = wantedAnswers(old, current, at, siteAddresses);
  const derived = answersOf(inputsOf([{ ...rows, statements: [] }], siteAddresses));
  // A move that comes back for this very instant leaves what was chosen for it, and nothing else.
  const comesBack = (one: AfterAnswer) =>
    wanted.some((other) => other.kind === 'move' && other.rank === at && isSamePlace(one, other));
  // What a row leaves holds as long as that is wanted; what an address keeps that served only till now is left alone.
  const held = new Map(
    derived
      .filter((one) => !(leavesRedirect && one.kind === 'move' && one.rank === at && !comesBack(one)))
      .map((one) => [one.leftBy, wanted.find((other) => isSameAnswer(one, other))?.during ?? null] as const),
  );
  const kept = <R extends Placement | LivePeriod>(row: R): R => {
    const during = held.get(row);
    if (during === undefined || !row.leaves || during?.until === row.leaves.until) return row;
    return { ...row, leaves: during && { ...row.leaves, until: during.until } };
  };
  const missing = wanted.filter((one) => !derived.some((other) => isSameAnswer(one, other)));
  return {
    pageId: current.pageId,
    placements: placements.map(kept),
    periods: periods.map(kept),
    statements: statementsOf(missing, [...current.statements, ...old.statements], rows, siteAddresses, nextId),
  };
}

interface Row {
  readonly id: Placement['id'];
  readonly during: Interval;
  readonly leaves: unknown;
}

function splice<T extends Row>(
  old: readonly T[],
  current: readonly T[],
  at: Instant,
  nextId: IdSource,
  isSame: (a: T, b: T) => boolean,
  /** What the ends leave that are made here. */
  leaves: T['leaves'],
): T[] {
  const past = current.flatMap((row) => {
    const during = before(row.during, at);
    if (!during) return [];
    return [during.until === row.during.until ? row : { ...row, during, leaves }];
  });
  const joined = new Set<T>();
  const future = old.flatMap((row): T[] => {
    const during = fromOn(row.during, at);
    if (!during) return [];
    // A row that is in force right up to `at` just goes on; so does one that has not begun.
    const goesOn = past.find(
      (kept) => !joined.has(kept) && kept.id === row.id && endOf(kept.during) === during.from && isSame(kept, row),
    );
    if (goesOn) joined.add(goesOn);
    if (goesOn) return [{ ...row, during: { from: goesOn.during.from, until: during.until } }];
    return [{ ...row, during, id: row.during.from >= at ? row.id : nextId() }];
  });
  return [...past.filter((row) => !joined.has(row)), ...future].sort((a, b) => a.during.from - b.during.from);
}

/** The answers of `current` up to `at` and those of `old` from then on; what both have is one answer. */
function wantedAnswers(
  old: PagePlan,
  current: PagePlan,
  at: Instant,
  siteAddresses: readonly SiteAddress[],
): AfterAnswer[] {
  const past = answersOf(inputsOf([current], siteAddresses)).flatMap((one) => clipped(one, before(one.during, at)));
  const future = answersOf(inputsOf([old], siteAddresses)).flatMap((one) => clipped(one, fromOn(one.during, at)));
  const goingOn = new Map<AfterAnswer, AfterAnswer>();
  const rest = future.filter((next) => {
    const last = past.find(
      (one) => one.during.until === next.during.from && isSameSaying(one, next) && !goingOn.has(one),
    );
    if (last) goingOn.set(last, next);
    return !last;
  });
  return [
    ...past.map((one) => {
      const next = goingOn.get(one);
      return next ? { ...one, during: { from: one.during.from, until: next.during.until } } : one;
    }),
    ...rest,
  ];
}

const clipped = (one: AfterAnswer, during: Interval | null): AfterAnswer[] => (during ? [{ ...one, during }] : []);

/** Answers that no end leaves, as what is said; rows that say so already go on. */
function statementsOf(
  answers: readonly AfterAnswer[],
  known: readonly Statement[],
  rows: Pick<PagePlan, 'placements'>,
  siteAddresses: readonly SiteAddress[],
  nextId: IdSource,
): Statement[] {
  const taken = new Set<Statement['id']>();
  return answers.map((one): Statement => {
    const { kind, pageId, during, answer, rank, order } = one;
    const row = known.find((said) => said.order === order && said.during.from === during.from && !taken.has(said.id));
    const id = row?.id ?? nextId();
    taken.add(id);
    const derived = addressAt(rows, rank, siteAddresses);
    const place = derived && isSamePlace(derived, one) ? null : { hostId: one.hostId, path: one.path };
    return { id, kind, pageId, during, answer, rank, order, place };
  });
}

const isSamePlacement = (a: Placement, b: Placement) => a.siteId === b.siteId && a.path === b.path;
const isSamePeriod = (a: LivePeriod, b: LivePeriod) => a.revisionId === b.revisionId;

/** The same thing said of the same address, over whatever time. */
const isSameSaying = (a: AfterAnswer, b: AfterAnswer) =>
  a.order === b.order &&
  a.rank === b.rank &&
  a.kind === b.kind &&
  isSamePlace(a, b) &&
  canonical(a.answer) === canonical(b.answer);
const isSameAnswer = (a: AfterAnswer, b: AfterAnswer) => isSameSaying(a, b) && a.during.from === b.during.from;
