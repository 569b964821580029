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
