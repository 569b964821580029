const count = (n: number, what: string) => `${n.toLocaleString('en')} ${what}${n === 1 ? '' : 's'}`;
const linksHere = (n: number) => `${count(n, 'live page')} ${n === 1 ? 'links' : 'link'} here`;
const stillLinksHere = (n: number) => `${count(n, 'live page')} still ${n === 1 ? 'links' : 'link'} here`;

/** What speaks for keeping a page or taking it off, by code, in words. */
export const EVIDENCE = {
  visited: ({ visits }: { readonly visits: number }) => `${count(visits, 'visit')} in the last 30 days`,
  quiet: ({ days }: { readonly days: number }) => `No visit for ${days} days, while it was live`,
  linked: ({ pages }: { readonly pages: number }) => linksHere(pages),
  led: ({ name, more }: { readonly name: string; readonly more: number }) =>
    more ? `“${name}” and ${more} more of what stands around pages lead here` : `“${name}” leads here`,
  'open-and-alone': () => 'Live with no end planned, and no live page links here',
  'linked-and-redirected': ({ pages }: { readonly pages: number }) =>
    `${stillLinksHere(pages)}: keep the redirect, or change the links`,
  'linked-in-vain': ({ pages }: { readonly pages: number }) => `${stillLinksHere(pages)}, and visitors get nothing`,
  'redirect-used': ({ times }: { readonly times: number }) =>
    `Its redirect was used ${count(times, 'time')} in the last 30 days`,
  'asked-in-vain': ({ times }: { readonly times: number }) =>
    `Asked for ${count(times, 'time')} in the last 30 days, with nothing to show: send visitors somewhere`,
  unmissed: () => 'Ended, not linked from any live page, and no requests in 30 days',
} satisfies Record<string, (params: never) => string>;

export type EvidenceCode = keyof typeof EVIDENCE;
export type EvidenceParams<Code extends EvidenceCode> = Parameters<(typeof EVIDENCE)[Code]>;

/** The words of a statement. */
export const evidenceWords = ({ code, params }: { readonly code: EvidenceCode; readonly params: object }): string =>
  (EVIDENCE[code] as (params: object) => string)(params);
