import type { PageId, RevisionId } from '../plan/index.js';
import { givenWords, type Given } from '../words/index.js';
import type { Resolution } from './types.js';

/** How an answer speaks of pages. */
export interface Names {
  readonly page: (id: PageId) => string;
  /** Its number. */
  readonly revision: (id: RevisionId) => number | string;
}

/** What an answer is, by code; `revision` is the number of the page's revision. */
export function givenOf(answer: Resolution, { page, revision }: Names): Given {
  switch (answer.kind) {
    case 'page':
      return { code: 'page', params: { page: page(answer.pageId), revision: revision(answer.revisionId) } };
    case 'redirect': {
      const to = answer.to.kind === 'outside' ? answer.to.url : answer.to.host + answer.to.path;
      return { code: 'redirect', params: { to, status: answer.status } };
    }
    case 'not-found':
      return { code: answer.page ? 'not-found-page' : 'not-found', params: {} };
    default:
      return { code: answer.kind, params: {} };
  }
}

/** An answer in words, to stand behind "visitors get". */
export const resolutionWords = (answer: Resolution, names: Names): string => givenWords(givenOf(answer, names));
