import type { Uses } from '@domatium/contracts';
import { say } from '@domatium/core/words/pictures';

export const countOf = (count: number, what: string) =>
  `${count.toLocaleString('en')} ${what}${count === 1 ? '' : 's'}`;

/** Who will meet the new one where something is replaced everywhere, and when. */
export function reachWords({ count, live }: Uses, when: string): string {
  if (!count) return say.noPageUsesIt;
  const drafts = count - live;
  if (!live) return say.itInTheDraftNoVisitor(countOf(count, 'page'), count === 1 ? say.has : say.have);
  return say.thatLiveOrPlannedWillShow(
    countOf(live, 'page'),
    live === 1 ? say.is : say.are,
    when,
    drafts ? say.tooWithDraft(countOf(drafts, 'draft')) : '',
  );
}

/** The first pages by name, and how many more there are. */
export function namesOf({ pages, count }: Uses): string {
  const named = pages.slice(0, 6).map(({ name }) => name);
  return `${named.join(' · ')}${named.length && count > named.length ? say.andMore(count - named.length) : ''}`;
}
