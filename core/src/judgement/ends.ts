import { countdownOver } from '../checks/content.js';
import { facts } from '../checks/facts.js';
import { found, type Finding } from '../checks/finding.js';
import { search } from '../checks/search.js';
import type { Instant } from '../time/index.js';
import type { FindingParams } from '../words/index.js';
import type { JudgedPage } from './sight.js';

type Write = (at: Instant) => string;

/** A page that goes before its campaign does; what is stated, and counted down to, that is over at the moment. */
export function ends({ sight, live, campaign, role, isShown }: JudgedPage, at: Instant, write: Write): Finding[] {
  const { document } = sight;
  const until = live.until;
  const during = { from: Math.max(at, live.from) as Instant, until };
  const input = { document, during, write };
  return [
    ...(campaign && until !== null && until < campaign.until && at < until
      ? [
          found(
            'ends',
            'worth-fixing',
            'ends-early',
            { campaign: campaign.name, at: until, until: campaign.until },
            null,
            write,
          ),
        ]
      : []),
    ...facts(input).flatMap(({ code, params, place }) =>
      code === 'fact-over'
        ? [found('ends', 'worth-fixing', 'fact-passed', params as FindingParams<'fact-passed'>, place, write)]
        : [],
    ),
    ...countdownOver(input).map(({ params, place }) =>
      found('ends', 'worth-fixing', 'countdown-passed', params as FindingParams<'countdown-passed'>, place, write),
    ),
    ...search({ document, search: { role, said: isShown ? null : { noindex: true } } }),
  ];
}
