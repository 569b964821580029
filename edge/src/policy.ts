import type { CodeSources } from '@domatium/core/codes';

/** What pages may load and do (design section 6), before the codes that run on them. */
const PAGE_POLICY: readonly (readonly [directive: string, sources: string])[] = [
  ['default-src', "'none'"],
  ['img-src', "'self'"],
  ['media-src', "'self'"],
  ['script-src', "'self'"],
  ['style-src', "'self'"],
  ['style-src-attr', "'unsafe-inline'"],
  ['font-src', "'self'"],
  ['frame-src', "'self' https: http:"],
  ['base-uri', "'none'"],
  ['form-action', 'https: http:'],
  ['frame-ancestors', "'none'"],
];

/** Content-Security-Policy of a page: what its codes ask for is added, and nothing else. */
export function policyWith(sources: CodeSources | null): string {
  const added: Readonly<Record<string, readonly string[]>> = sources
    ? { 'script-src': sources.script, 'img-src': sources.image, 'connect-src': sources.connect }
    : {};
  const directives = PAGE_POLICY.map(([directive, own]) => [directive, own, ...(added[directive] ?? [])].join(' '));
  const connect = added['connect-src']?.length ? [['connect-src', ...added['connect-src']].join(' ')] : [];
  return [...directives, ...connect].join('; ');
}

/**
 * What every answer of a published host says. Forms go to outside services; pages run no script but the small files that
 * ship with blocks, which lie under their hash on the same host, and their codes.
 */
export const safetyWith = (sources: CodeSources | null): readonly string[] => [
  ...['Content-Security-Policy', policyWith(sources)],
  ...['X-Content-Type-Options', 'nosniff'],
  ...['Referrer-Policy', 'strict-origin-when-cross-origin'],
];

export const SAFETY = safetyWith(null);
