import { found, type Finding } from '../checks/finding.js';
import type { PageId } from '../plan/index.js';
import { MOST, NAMED } from './same.js';
import type { JudgedPage } from './sight.js';

/** Pages that are to be found by one phrase: search engines show one of them, and nobody chooses which. */
export function aims(
  { id, sight }: JudgedPage,
  aimingAt: (phrase: string) => ReadonlySet<PageId>,
  nameOf: (id: PageId) => string,
): Finding[] {
  return [...sight.phrases].flatMap(([plain, phrase]) => {
    const all = aimingAt(plain);
    const others = all.size > MOST + 1 ? [] : [...all].filter((one) => one !== id).sort((a, b) => a - b);
    const isMany = all.size > MOST + 1;
    const more = isMany ? null : Math.max(0, others.length - NAMED);
    const params = { phrase, pages: others.slice(0, NAMED).map(nameOf), more };
    return isMany || others.length ? [found('aims', 'worth-fixing', 'phrase-shared', params, null)] : [];
  });
}
