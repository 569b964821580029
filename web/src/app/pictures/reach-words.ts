import type { Uses } from '@domatium/contracts';

export const countOf = (count: number, what: string) =>
  `${count.toLocaleString('en')} ${what}${count === 1 ? '' : 's'}`;

/** Who will meet the new one where something is replaced everywhere, and when. */
export function reachWords({ count, live }: Uses, when: string): string {
  if (!count) return 'No page uses it.';
  const drafts = count - live;
  if (!live)
    return `${countOf(count, 'page')} ${count === 1 ? 'has' : 'have'} it in the draft; no visitor sees it yet.`;
  return `${countOf(live, 'page')} that ${live === 1 ? 'is' : 'are'} live or planned will show the new one ${when}, without a release${drafts ? `; ${countOf(drafts, 'draft')} too` : ''}.`;
}

/** The first pages by name, and how many more there are. */
export function namesOf({ pages, count }: Uses): string {
  const named = pages.slice(0, 6).map(({ name }) => name);
  return `${named.join(' · ')}${named.length && count > named.length ? ` and ${count - named.length} more` : ''}`;
}
