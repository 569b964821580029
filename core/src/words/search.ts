/** Whether search engines can find a page, and why not, in a few words. */
export const SEARCH_WORDS = {
  found: 'Yes',
  'not-live': 'No: not live',
  redirected: 'No: redirected',
  'not-found-page': 'No: not-found page',
  'own-host': 'No: not on a domain',
  noindex: 'No: kept out itself',
  unavailable: 'No: its date is past',
  unlinked: 'Hardly: not linked',
} as const;
