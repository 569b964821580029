import { endOf, type Instant, type Interval } from '../time/index.js';
import { followedOver } from './flips.js';
import { stretchesOf, type RouteTable } from './table.js';
import type { PageId } from '../plan/index.js';

/** A redirect by reference that leads nowhere for a while. */
export interface RedirectProblem {
  readonly kind: 'loop' | 'dead-end';
  readonly host: string;
  readonly path: string;
  readonly target: PageId;
  readonly during: Interval;
}

/** Redirects by reference among `paths` of `routes` that, somewhere from `from` on, loop or end nowhere. */
export function redirectProblems(
  routes: RouteTable,
  addresses: Iterable<{ readonly host: string; readonly path: string }>,
  from: Instant,
): RedirectProblem[] {
  const problems: RedirectProblem[] = [];
  for (const { host, path } of addresses)
    for (const stretch of stretchesOf(routes.hosts.get(host), path)) {
      const { answer } = stretch;
      if (answer.kind !== 'redirect' || answer.target.kind !== 'page' || stretch.until <= from) continue;
      const target = answer.target.pageId;
      const during = {
        from: Math.max(stretch.from, from) as Instant,
        until: stretch.until === Infinity ? null : (stretch.until as Instant),
      };
      for (const { during: part, value } of followedOver(routes, target, during)) {
        if (value.kind === 'loop') problems.push({ kind: 'loop', host, path, target, during: part });
        else if (value.kind === 'nothing' || value.kind === 'gone')
          problems.push({ kind: 'dead-end', host, path, target, during: part });
        // A redirect that arrives where it started would send the visitor round for ever.
        else if (value.kind === 'address' && value.host === host && value.path === path)
          problems.push({ kind: 'loop', host, path, target, during: part });
      }
    }
  return problems.sort((a, b) => a.during.from - b.during.from || endOf(a.during) - endOf(b.during));
}
