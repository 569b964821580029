/** Whether search engines can find a page, and why not, in a few words. */
export const SEARCH_WORDS = {
  found: 'Yes',
  'not-live': 'No: not live',
  redirected: 'No: redirected',
  'not-found-page': 'No: not-found page',
  'own-host': 'No: not on a domain',
  'robots-txt': 'No: robots.txt',
  noindex: 'No: kept out itself',
  'noindex-above': 'No: kept out by a rule',
  unavailable: 'No: its date is past',
  'unavailable-above': 'No: past a rule’s date',
  elsewhere: 'No: another page stands for it',
  unlinked: 'Hardly: not linked',
} as const;
