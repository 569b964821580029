import { endOf, type Instant, type Interval } from '../time/index.js';
import { stableOver } from './flips.js';
import { followFrom, type Step } from './resolve.js';
import { stretchesOf, type RouteTable } from './table.js';
import type { PageId, PlanRowId, RedirectTarget } from '../plan/index.js';
import type { Address } from './types.js';

/** A chosen redirect that leads round in a circle or nowhere for a while. */
export interface RedirectProblem extends Address {
  readonly kind: 'loop' | 'dead-end';
  readonly target: RedirectTarget;
  readonly during: Interval;
  /** Whose redirect it is, and by what it was made. */
  readonly pageId: PageId | null;
  readonly sourceId: PlanRowId | null;
  /** Whether it is so from the redirect's own start on. */
  readonly isAtStart: boolean;
  /** The way it leads. */
  readonly trail: readonly Step[];
}

/**
 * Redirects at `addresses` that, somewhere from `from` on, loop or end nowhere. What a move left is none of them: it
 * gives at each instant what its page's address gives.
 */
export function redirectProblems(routes: RouteTable, addresses: Iterable<Address>, from: Instant): RedirectProblem[] {
  const problems: RedirectProblem[] = [];
  for (const { host, path } of addresses)
    for (const { answer, ...stretch } of stretchesOf(routes.hosts.get(host), path)) {
      if (answer.kind !== 'redirect' || stretch.until <= from) continue;
      const { target, pageId = null, sourceId = null } = answer;
      if (target.kind === 'page' && target.pageId === pageId) continue;
      const start = Math.max(stretch.from, from) as Instant;
      const during = { from: start, until: stretch.until === Infinity ? null : (stretch.until as Instant) };
      const parts = stableOver(
        during,
        (at, witness) => followFrom(routes, { host, path }, answer, at, witness),
        (a, b) => a.end.kind === b.end.kind && wayOf(a.trail) === wayOf(b.trail),
      );
      for (const { during: part, value } of parts) {
        const { kind } = value.end;
        if (kind === 'address' || kind === 'outside') continue;
        problems.push({
          ...{ host, path, target, pageId, sourceId, during: part, trail: value.trail },
          kind: kind === 'loop' ? 'loop' : 'dead-end',
          isAtStart: part.from === start,
        });
      }
    }
  return problems.sort((a, b) => a.during.from - b.during.from || endOf(a.during) - endOf(b.during));
}

const wayOf = (trail: readonly Step[]) => trail.map(({ host, path }) => host + path).join(' ');
