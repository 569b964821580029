import { found, type Finding } from '../checks/finding.js';
import type { PageId } from '../plan/index.js';
import type { JudgedPage } from './sight.js';

/** Pages that are to be found by one phrase: search engines show one of them, and nobody chooses which. */
export function aims(
  { id, sight }: JudgedPage,
  aimingAt: (phrase: string) => ReadonlySet<PageId>,
  nameOf: (id: PageId) => string,
): Finding[] {
  return [...sight.phrases].flatMap(([plain, phrase]) => {
    const others = [...aimingAt(plain)].filter((one) => one !== id);
    const params = { phrase, pages: others.slice(0, 3).map(nameOf), more: Math.max(0, others.length - 3) };
    return others.length ? [found('aims', 'worth-fixing', 'phrase-shared', params, null)] : [];
  });
}
