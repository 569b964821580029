import { found, type CheckInput, type Finding } from './finding.js';

/** A thank-you page that search engines may show: whoever comes to it from there is thanked for nothing, and is counted as having acted. */
export function search({ document, search: sight }: Pick<CheckInput, 'document' | 'search'>): Finding[] {
  if (sight?.role !== 'thank-you') return [];
  const asked = document.metadata.robots ?? sight.said;
  return asked?.noindex
    ? []
    : [found('search', 'worth-fixing', 'thanks-found', { asked: asked ?? {} }, { metadata: 'robots' })];
}
