import { writeAnswerCell } from '@domatium/core/exchange';
import { answerBehind, type PageId, type PagePlan } from '@domatium/core/plan';
import type { Instant } from '@domatium/core/time';

/** What a list says comes behind a period's end; empty where it has none, or the page goes on at once. */
export function afterwardsCell(
  plan: PagePlan,
  { until }: { readonly until: number | null },
  addressOf: (page: PageId) => string,
): string {
  if (until === null || plan.periods.some(({ during }) => during.from === until)) return '';
  const next = Math.min(...plan.periods.map(({ during }) => during.from).filter((from) => from > until));
  // Of a page that is over it may have been said anew since.
  const said = plan.statements
    .filter(({ kind, rank, during }) => kind === 'afterwards' && rank > until && rank < next && during.until === null)
    .sort((a, b) => b.rank - a.rank || b.order - a.order)[0];
  const answer = said?.answer ?? answerBehind(plan, until as Instant);
  return answer ? writeAnswerCell(answer, addressOf) : '';
}
