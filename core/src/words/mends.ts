/** What a machine can do about something found, as the button says it. */
export const MENDS = {
  shorten: () => 'Shorten it at a word',
  take: ({ text }: { readonly text: string }) => `Take “${text}”`,
  empty: () => 'Leave it empty',
  remove: () => 'Remove the block',
  decorative: () => 'Mark as decorative',
  'keep-out': () => 'Keep it out of search results',
  itself: () => 'Let this page stand for itself',
  unlink: () => 'Remove the link',
  'count-to-end': () => 'Count to the end of the page’s period',
  'use-heading': () => 'Use its heading',
} satisfies Record<string, (params: never) => string>;

export type MendCode = keyof typeof MENDS;

/** The same for many pages at once, where that is offered: what takes blocks away is done page by page, by who looks. */
export const MENDS_OF_MANY: Partial<Record<MendCode, string>> = {
  shorten: 'Shorten at a word',
  take: 'Take the page’s own words',
  empty: 'Leave it empty',
  decorative: 'Mark as decorative',
  'count-to-end': 'Count to the end of the page’s period',
  'use-heading': 'Use the heading',
};
