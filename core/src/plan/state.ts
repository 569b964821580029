import { contains, type Instant, type Interval } from '../time/index.js';

/** State of a page at an instant (design section 2). Derived, never stored. The bin comes with a period of its own. */
export type PageState = 'live' | 'coming' | 'ended' | 'draft';

/** The first that holds: a period contains the instant, one starts later, all are over, there is none. */
export function stateAt(periods: readonly { readonly during: Interval }[], at: Instant): PageState {
  if (periods.some(({ during }) => contains(during, at))) return 'live';
  if (periods.some(({ during }) => during.from > at)) return 'coming';
  return periods.length > 0 ? 'ended' : 'draft';
}

/** Whether a live page comes off within `ms` and no period of its own follows on directly. */
export function isEndingSoon(periods: readonly { readonly during: Interval }[], at: Instant, ms: number): boolean {
  let end = periods.find(({ during }) => contains(during, at))?.during.until ?? null;
  if (end === null) return false;
  for (;;) {
    const follows = periods.find(({ during }) => during.from === end);
    if (!follows) return end - at <= ms;
    if (follows.during.until === null) return false;
    end = follows.during.until;
  }
}
