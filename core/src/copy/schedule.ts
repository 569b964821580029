import { answerBehind, type Answer, type PagePlan } from '../plan/index.js';
import type { Instant } from '../time/index.js';

/** A period of a copy, still to be released. */
export interface CopiedPeriod {
  readonly from: Instant;
  readonly until: Instant | null;
  /** What the address gives behind it; `null` where the next period follows directly or there is no end. */
  readonly afterwards: Answer | null;
}

/** Days between two starts; with the same weekday kept, to the nearest whole number of weeks. */
export function daysBetween(from: string, to: string, keepsWeekday: boolean): number {
  const days = Math.round((Date.parse(`${to}T00:00Z`) - Date.parse(`${from}T00:00Z`)) / 86_400_000);
  return keepsWeekday ? Math.round(days / 7) * 7 : days;
}

/**
 * The periods of a page moved in time by `shift`, in order, with what comes behind each. What would lie before `now` is
 * left out; one that would have begun already begins at `now`.
 */
export function copiedPeriods(plan: PagePlan, shift: (at: Instant) => Instant, now: Instant): CopiedPeriod[] {
  return plan.periods.flatMap(({ during }, index): CopiedPeriod[] => {
    const from = shift(during.from);
    const until = during.until === null ? null : shift(during.until);
    if (until !== null && until <= now) return [];
    const isFollowed = plan.periods[index + 1]?.during.from === during.until;
    return [
      {
        from: from < now ? now : from,
        until,
        afterwards:
          during.until === null || isFollowed ? null : (answerBehind(plan, during.until) ?? { kind: 'not-found' }),
      },
    ];
  });
}
