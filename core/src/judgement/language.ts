import { found, type Finding } from '../checks/finding.js';
import { SHORT } from './reading.js';
import type { JudgedPage } from './sight.js';

/** What is marked as one language and written in another: screen readers speak it with the wrong voice. */
export function language({ sight, language: marked }: JudgedPage): Finding[] {
  const read = sight.language;
  const said = marked.toLowerCase().split('-')[0] ?? '';
  if (!read || !said || said === read || !Object.values(SHORT).includes(said)) return [];
  return [found('language', 'worth-fixing', 'language-other', { marked: said, read }, null)];
}
