import { checkOutsideAddress } from '../address/index.js';
import { fillText, namesIn } from '../text/names.js';
import type { PageId } from '../plan/index.js';
import { refusal, wrong, type Refusal, type Wrong } from '../words/faults.js';
import { isRecord } from './result.js';

/**
 * Where a link leads: to a page by identity, so that a move never breaks it, perhaps to one block of it; to a block of the
 * page it stands on; to a file; to an outside address; to a mailbox or a telephone. The last three may hold names of shared
 * values between { }.
 */
export type LinkTarget =
  | { readonly kind: 'page'; readonly pageId: PageId; readonly blockId?: string }
  | { readonly kind: 'block'; readonly blockId: string }
  | { readonly kind: 'file'; readonly fileId: number }
  | { readonly kind: 'outside'; readonly url: string }
  | { readonly kind: 'mail'; readonly address: string }
  | { readonly kind: 'phone'; readonly number: string };

export const BLOCK_ID = /^[a-z0-9]{4,24}$/;

/** A mailbox as links and forms take it (HTML, 4.10.5.1.5), or what is wrong. */
function checkMailbox(typed: string): { readonly ok: true; readonly address: string } | Refusal {
  const address = typed.trim().replace(/^mailto:/i, '');
  return /^[\w.!#$%&'*+/=?^`{|}~-]+@[a-z0-9](?:[a-z0-9-]*[a-z0-9])?(?:\.[a-z0-9](?:[a-z0-9-]*[a-z0-9])?)+$/i.test(
    address,
  ) && address.length <= 254
    ? { ok: true, address }
    : refusal('mailbox-invalid');
}

/** A telephone number as it is dialled (RFC 3966), or what is wrong. */
function checkPhone(typed: string): { readonly ok: true; readonly number: string } | Refusal {
  const number = typed
    .trim()
    .replace(/^tel:/i, '')
    .replace(/[\s().\u2011-]+/g, '')
    .replace(/-/g, '');
  return /^\+?[0-9]{3,15}$/.test(number) ? { ok: true, number } : refusal('phone-invalid');
}

type TypedKind = 'outside' | 'mail' | 'phone';
/** A link that people type letter by letter. */
export type TypedTarget = Extract<LinkTarget, { readonly kind: TypedKind }>;

/** What was typed as a target of a kind, or what is wrong with it; nothing is judged of what stands between { }. */
export function typedTarget(kind: TypedKind, typed: string): TypedTarget | Wrong {
  if (namesIn(typed).length) return namedTarget(kind, typed.trim());
  if (kind === 'mail') {
    const checked = checkMailbox(typed);
    return checked.ok ? { kind, address: checked.address } : checked.why;
  }
  if (kind === 'phone') {
    const checked = checkPhone(typed);
    return checked.ok ? { kind, number: checked.number } : checked.why;
  }
  const checked = checkOutsideAddress(typed);
  return checked.ok ? { kind, url: checked.url } : checked.why;
}

const LONGEST_NAMED = 400;
const NAME_ALONE = /^\{[^{}\n]+\}$/;

/** A target with names in it: what stands around them must be right, whatever they hold. */
function namedTarget(kind: TypedKind, typed: string): TypedTarget | Wrong {
  const around = typed.replace(/\{[^{}\n]+\}/g, '');
  if (kind === 'mail') {
    const address = typed.replace(/^mailto:/i, '');
    return /\s/.test(around) || address.length > LONGEST_NAMED ? wrong('mailbox-invalid') : { kind, address };
  }
  if (kind === 'phone') {
    const number = typed.replace(/^tel:/i, '');
    return /[^\d\s+().\u2011-]/.test(around.replace(/^tel:/i, '')) || number.length > LONGEST_NAMED
      ? wrong('phone-invalid')
      : { kind, number };
  }
  if (NAME_ALONE.test(typed)) return { kind, url: typed };
  const checked = checkOutsideAddress(typed.replace(/\{[^{}\n]+\}/g, 'name'));
  return checked.ok ? { kind, url: typed } : checked.why;
}

/** What was typed of a link; `null` of one that was chosen. */
export function typedOf(target: LinkTarget): string | null {
  switch (target.kind) {
    case 'outside':
      return target.url;
    case 'mail':
      return target.address;
    case 'phone':
      return target.number;
    default:
      return null;
  }
}

/** A link with its names filled in; `null` where it leads nowhere then. A value within an address is written as addresses are. */
export function filledTarget(target: LinkTarget, values: ReadonlyMap<string, string>): LinkTarget | null {
  const typed = typedOf(target);
  if (typed === null || !namesIn(typed).length) return target;
  const { kind } = target as TypedTarget;
  const isWithin = kind === 'outside' && !NAME_ALONE.test(typed);
  const held = isWithin ? new Map([...values].map(([name, value]) => [name, encodeURI(value.trim())])) : values;
  const filled = fillText(typed, held).trim();
  if (namesIn(filled).length) return null;
  const read = typedTarget(kind, filled);
  return isWrong(read) ? null : read;
}

/** A link target from JSON, or what is wrong with it. */
export function linkTargetFromJSON(json: unknown): LinkTarget | Wrong {
  if (!isRecord(json)) return wrong('link-missing');
  const { kind, pageId, blockId, fileId, url, address, number } = json;
  switch (kind) {
    case 'page': {
      if (!isIdentity(pageId)) return wrong('link-page');
      const at = typeof blockId === 'string' && BLOCK_ID.test(blockId) ? { blockId } : {};
      return { kind, pageId: pageId as PageId, ...at };
    }
    case 'block':
      return typeof blockId === 'string' && BLOCK_ID.test(blockId) ? { kind, blockId } : wrong('link-block');
    case 'file':
      return isIdentity(fileId) ? { kind, fileId } : wrong('link-file');
    case 'outside':
    case 'mail':
    case 'phone': {
      const typed = { outside: url, mail: address, phone: number }[kind];
      return typedTarget(kind, typeof typed === 'string' ? typed : '');
    }
    default:
      return wrong('link-unknown');
  }
}

/** Whether that is what is wrong with a link, and no link. */
export const isWrong = (read: object | null): read is Wrong => read !== null && 'code' in read;

const isIdentity = (value: unknown): value is number => Number.isSafeInteger(value) && (value as number) > 0;
