import { NO_METADATA, type SharedMetadata } from '@domatium/core/stock';
import type { DemoPart } from './scenario.js';
import { at } from './build.js';

const always = { decided: at(-60, '10:10'), from: at(-59), until: null } as const;
const said = (name: string, more: Partial<SharedMetadata>, rest: Partial<DemoPart> = {}): DemoPart => ({
  ...{ ...always, ...rest, kind: 'metadata', name, content: () => ({ ...NO_METADATA, ...more }) },
});

/** What is said to search engines of the coast: how titles end, by which code it is known, and what is for pass holders alone. */
export const coastMetadata: readonly DemoPart[] = [
  said('Marrowick Coast', {
    titleAfter: '| {site name}',
    siteName: 'Marrowick Coast',
    organization: 'Marrowick Coast',
    elements: [{ kind: 'meta', name: 'site-verification', content: 'mwc-5e1b90' }],
  }),
  said('Storm desk', { titleBefore: 'Storm:', robots: { noarchive: true, maxSnippet: 120 } }, { site: 'storm' }),
  said('/partners', { robots: { noindex: true, nofollow: true } }, { site: 'pass', key: 'path:/partners' }),
];
