import { found, type Finding } from '../checks/finding.js';
import type { Instant } from '../time/index.js';
import type { JudgedPage } from './sight.js';

/** A day that was still to come when the text went live, and has passed: what it announces is over. */
export function dates({ sight, since }: JudgedPage, at: Instant): Finding[] {
  return sight.days
    .filter(({ overAt }) => overAt > since && overAt <= at)
    .map(({ blockId, text }) =>
      found('dates', 'worth-fixing', 'day-over', { text: text.slice(0, 60) }, { blockId, field: '' }),
    );
}
