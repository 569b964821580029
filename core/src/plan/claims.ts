import { endOf, intersect, interval } from '../time/index.js';
import { answersOf } from './answers.js';
import type { PlanRowId } from './ids.js';
import { groupBy, pageAddressesOf, type ClaimInputs } from './places.js';
import type { AfterAnswer, AnswerKind, Claim } from './types.js';

/**
 * What every address gives, in both layers (design rules 1 and 2). A page's claims need that page's rows only; the
 * claims of the layer `after` need every page that has an answer at their address. Answers come out already cut
 * against each other.
 */
export function claimsOf(inputs: ClaimInputs): Claim[] {
  return [...pageClaimsOf(inputs), ...afterClaimsOf(answersOf(inputs))];
}

/** The claims of the layer `page`. */
export function pageClaimsOf({ placements, periods, siteAddresses }: Omit<ClaimInputs, 'statements'>): Claim[] {
  const addresses = groupBy(pageAddressesOf(placements, siteAddresses), (address) => address.pageId);
  return periods.flatMap((period) =>
    (addresses.get(period.pageId) ?? []).flatMap(({ hostId, path, during }): Claim[] => {
      const both = intersect(period.during, during);
      const { id: sourceId, pageId, revisionId } = period;
      return both ? [{ layer: 'page', hostId, path, during: both, pageId, revisionId, sourceId }] : [];
    }),
  );
}

/** The claims of the layer `after`: answers cut against the others at their address. */
export function afterClaimsOf(answers: readonly AfterAnswer[]): Claim[] {
  const byAddress = groupBy(answers, (answer) => `${answer.hostId} ${answer.path}`);
  return [...byAddress.values()].flatMap(cutAnswers);
}

const KIND_ORDER: Record<AnswerKind, number> = { move: 0, afterwards: 1, exact: 2 };

/** Positive where `a` holds over `b`: the later start, then the kind, then the higher identity. */
export function comparePrecedence(a: AfterAnswer, b: AfterAnswer): number {
  return a.rank - b.rank || KIND_ORDER[a.kind] - KIND_ORDER[b.kind] || a.order - b.order;
}

function cutAnswers(answers: readonly AfterAnswer[]): Claim[] {
  const byPrecedence = [...answers].sort((a, b) => comparePrecedence(b, a));
  const instants = [...new Set(answers.flatMap(({ during }) => [during.from as number, endOf(during)]))].sort(
    (a, b) => a - b,
  );
  const claims: Claim[] = [];
  let last: { holder: AfterAnswer; from: number; until: number } | null = null;
  const close = () => {
    const during = last && interval(last.from, last.until);
    if (!last || !during) return;
    const { order, hostId, path, pageId, answer } = last.holder;
    claims.push({ layer: 'after', hostId, path, during, pageId, answer, sourceId: order as PlanRowId });
  };
  instants.slice(0, -1).forEach((from, index) => {
    const until = instants[index + 1] ?? Infinity;
    const holder = byPrecedence.find(({ during }) => during.from <= from && from < endOf(during));
    if (holder && last?.holder === holder && last.until === from) {
      last.until = until;
      return;
    }
    close();
    last = holder ? { holder, from, until } : null;
  });
  close();
  return claims;
}
