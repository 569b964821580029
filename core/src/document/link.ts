import { checkOutsideAddress } from '../address/index.js';
import type { PageId } from '../plan/index.js';
import { isRecord } from './result.js';

/** Where a link leads: to a page by identity, so that a move never breaks it, or to an outside address. */
export type LinkTarget =
  { readonly kind: 'page'; readonly pageId: PageId } | { readonly kind: 'outside'; readonly url: string };

/** A link target from JSON, or a text that says what is wrong. */
export function linkTargetFromJSON(json: unknown): LinkTarget | string {
  if (!isRecord(json)) return 'Choose a page or an outside address.';
  if (json['kind'] === 'page') {
    const pageId = json['pageId'];
    return Number.isSafeInteger(pageId) && (pageId as number) > 0
      ? { kind: 'page', pageId: pageId as PageId }
      : 'Choose a page.';
  }
  if (json['kind'] === 'outside' && typeof json['url'] === 'string') {
    const checked = checkOutsideAddress(json['url']);
    return checked.ok ? { kind: 'outside', url: checked.url } : checked.why;
  }
  return 'Choose a page or an outside address.';
}
