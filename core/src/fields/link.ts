import { checkOutsideAddress } from '../address/index.js';
import type { PageId } from '../plan/index.js';
import { isRecord } from './result.js';

/**
 * Where a link leads: to a page by identity, so that a move never breaks it, perhaps to one block of it; to a block of the
 * page it stands on; to a file; to an outside address; to a mailbox or a telephone.
 */
export type LinkTarget =
  | { readonly kind: 'page'; readonly pageId: PageId; readonly blockId?: string }
  | { readonly kind: 'block'; readonly blockId: string }
  | { readonly kind: 'file'; readonly fileId: number }
  | { readonly kind: 'outside'; readonly url: string }
  | { readonly kind: 'mail'; readonly address: string }
  | { readonly kind: 'phone'; readonly number: string };

export const BLOCK_ID = /^[a-z0-9]{4,24}$/;

/** A mailbox as links and forms take it (HTML, 4.10.5.1.5), or a text that says what is wrong. */
export function checkMailbox(
  typed: string,
): { readonly ok: true; readonly address: string } | { readonly ok: false; readonly why: string } {
  const address = typed.trim().replace(/^mailto:/i, '');
  return /^[\w.!#$%&'*+/=?^`{|}~-]+@[a-z0-9](?:[a-z0-9-]*[a-z0-9])?(?:\.[a-z0-9](?:[a-z0-9-]*[a-z0-9])?)+$/i.test(
    address,
  ) && address.length <= 254
    ? { ok: true, address }
    : { ok: false, why: 'Enter an e-mail address such as desk@marrowick.example.' };
}

/** A telephone number as it is dialled (RFC 3966), or a text that says what is wrong. */
export function checkPhone(
  typed: string,
): { readonly ok: true; readonly number: string } | { readonly ok: false; readonly why: string } {
  const number = typed
    .trim()
    .replace(/^tel:/i, '')
    .replace(/[\s().\u2011-]+/g, '')
    .replace(/-/g, '');
  return /^\+?[0-9]{3,15}$/.test(number)
    ? { ok: true, number }
    : { ok: false, why: 'Enter a phone number with its country code, such as +47 75 12 00 31.' };
}

/** A link target from JSON, or a text that says what is wrong. */
export function linkTargetFromJSON(json: unknown): LinkTarget | string {
  if (!isRecord(json)) return 'Choose where it leads.';
  const { kind, pageId, blockId, fileId, url, address, number } = json;
  switch (kind) {
    case 'page': {
      if (!isIdentity(pageId)) return 'Choose a page.';
      const at = typeof blockId === 'string' && BLOCK_ID.test(blockId) ? { blockId } : {};
      return { kind, pageId: pageId as PageId, ...at };
    }
    case 'block':
      return typeof blockId === 'string' && BLOCK_ID.test(blockId) ? { kind, blockId } : 'Choose a block.';
    case 'file':
      return isIdentity(fileId) ? { kind, fileId } : 'Choose a file.';
    case 'outside': {
      const checked = checkOutsideAddress(typeof url === 'string' ? url : '');
      return checked.ok ? { kind, url: checked.url } : checked.why;
    }
    case 'mail': {
      const checked = checkMailbox(typeof address === 'string' ? address : '');
      return checked.ok ? { kind, address: checked.address } : checked.why;
    }
    case 'phone': {
      const checked = checkPhone(typeof number === 'string' ? number : '');
      return checked.ok ? { kind, number: checked.number } : checked.why;
    }
    default:
      return 'Choose a page, a file, an outside address, a mailbox or a telephone.';
  }
}

const isIdentity = (value: unknown): value is number => Number.isSafeInteger(value) && (value as number) > 0;
