import { refusal, type Refusal } from '../words/faults.js';

export type OutsideAddress = { readonly ok: true; readonly url: string } | Refusal;

const LONGEST = 2048;

/** Checks an outside address a person typed. Only http, https, mailto and tel lead anywhere from a page. */
export function checkOutsideAddress(typed: string, kinds: 'link' | 'redirect' = 'link'): OutsideAddress {
  const raw = typed.trim();
  if (raw.length > LONGEST) return refusal('outside-too-long', { most: LONGEST });
  if (/[\u0000-\u0020\u007f]/.test(raw)) return refusal('outside-spaces');
  let url: URL;
  try {
    url = new URL(raw);
  } catch {
    return refusal('outside-incomplete');
  }
  const allowed = kinds === 'link' ? ['http:', 'https:', 'mailto:', 'tel:'] : ['http:', 'https:'];
  if (!allowed.includes(url.protocol)) return refusal('outside-scheme', { scheme: url.protocol });
  if (url.username || url.password) return refusal('outside-password');
  return { ok: true, url: url.href };
}
