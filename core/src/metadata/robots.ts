import type { Robots } from '../fields/types.js';

/**
 * What stands in the robots meta tag; empty where everything is as usual. The names are those that search engines document;
 * the instant is written as ISO 8601 allows.
 */
export function robotsContent(robots: Robots): string {
  const { noindex, nofollow, noarchive, maxSnippet, maxImagePreview, unavailableAfter } = robots;
  return [
    noindex && 'noindex',
    nofollow && 'nofollow',
    noarchive && 'noarchive',
    maxSnippet !== undefined && `max-snippet:${maxSnippet}`,
    maxImagePreview && `max-image-preview:${maxImagePreview}`,
    unavailableAfter && `unavailable_after: ${new Date(unavailableAfter.at).toISOString()}`,
  ]
    .filter(Boolean)
    .join(', ');
}
