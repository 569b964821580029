import type { Fact } from '../fields/types.js';
import type { Moment } from '../fields/moment.js';
import { gapsOf, saidByPage } from '../structured/index.js';
import { fillText } from '../text/index.js';
import { instantOfWall, type Instant } from '../time/index.js';
import { piecesOf } from '../document/index.js';
import { found, type CheckInput, type Finding } from './finding.js';

type Sight = Pick<CheckInput, 'document' | 'during' | 'shared' | 'write'>;

/**
 * What a page states for machines, and is not whole or is over when the page goes live. A fact that lacks something is not
 * published.
 */
export function facts(input: Sight): Finding[] {
  const { document, during, shared, write } = input;
  const stated = document.metadata.facts ?? [];
  if (!stated.length) return [];
  const values = shared?.values(during)[0]?.values ?? new Map<string, string>();
  const pieces = piecesOf(document).flatMap(({ value }) => shared?.piece(value, during)?.blocks ?? []);
  const { title, description } = document.metadata;
  const page = {
    blocks: [...document.blocks, ...pieces],
    ...{ title, description },
    // A page without a site is none: the name of its site is there where nobody else is named.
    organization: '·',
    fill: (text: string) => fillText(text, values),
  };
  return stated.flatMap((fact) => {
    const missing = gapsOf(fact, saidByPage(fact.kind, page)).required;
    const over = overAt(fact);
    return [
      ...(missing.length
        ? [found('facts', 'worth-fixing', 'fact-incomplete', { kind: fact.kind, missing }, { metadata: 'facts' })]
        : []),
      ...(over !== null && over <= during.from
        ? [found('facts', 'worth-fixing', 'fact-over', { kind: fact.kind, at: over }, { metadata: 'facts' }, write)]
        : []),
    ];
  });
}

/** When what is stated is over; `null` where it says nothing of that. Days end at their end, wherever that is last. */
function overAt({ kind, values }: Fact): Instant | null {
  const { end, start, until } = values;
  const moment = (kind === 'event' ? (end ?? start) : undefined) as Moment | undefined;
  if (moment) return moment.at as Instant;
  return typeof until === 'string' ? instantOfWall({ local: `${until}T23:59`, zone: 'Etc/GMT+12' }) : null;
}
