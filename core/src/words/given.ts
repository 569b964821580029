/** What has no name here, or none that is known. */
export const UNNAMED = { page: 'a page', picture: 'a picture' };

/** What an address gives, and how a link to a page works, by code, in words: to stand behind "visitors get". */
export const GIVEN = {
  page: ({ page, revision }: { readonly page: string; readonly revision: number | string }) =>
    `${page}, revision ${revision}`,
  'older-page': ({ page, revision }: { readonly page: string; readonly revision: number | string }) =>
    `${page}, revision ${revision} (an older revision returns)`,
  redirect: ({ to, status }: { readonly to: string; readonly status: number }) => `a redirect to ${to}, ${status}`,
  gone: () => 'gone (410)',
  'not-found-page': () => 'the site’s not-found page (404)',
  'not-found': () => 'not found (404)',
  'unknown-host': () => '421 Misdirected Request',
  'link-works': () => 'links here: works',
  'link-redirects': () => 'still links here, through a redirect',
  'link-broken': () => 'links here: broken, shown as plain text',
  'left-out': () => 'leads here: left out until the page is live',
} satisfies Record<string, (params: never) => string>;

export type GivenCode = keyof typeof GIVEN;

/** A code with what its words need. */
export interface Given {
  readonly code: GivenCode;
  readonly params: object;
}

export const givenWords = ({ code, params }: Given): string => (GIVEN[code] as (params: object) => string)(params);
