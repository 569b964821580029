export type OutsideAddress = { readonly ok: true; readonly url: string } | { readonly ok: false; readonly why: string };

/** Checks an outside address a person typed. Only http, https, mailto and tel lead anywhere from a page. */
export function checkOutsideAddress(typed: string, kinds: 'link' | 'redirect' = 'link'): OutsideAddress {
  const raw = typed.trim();
  if (raw.length > 2048) return { ok: false, why: 'The address is too long: at most 2,048 characters.' };
  if (/[\u0000-\u0020\u007f]/.test(raw)) return { ok: false, why: 'An address can’t contain spaces.' };
  let url: URL;
  try {
    url = new URL(raw);
  } catch {
    return { ok: false, why: 'Write the whole address, beginning with https://' };
  }
  const allowed = kinds === 'link' ? ['http:', 'https:', 'mailto:', 'tel:'] : ['http:', 'https:'];
  if (!allowed.includes(url.protocol)) return { ok: false, why: `${url.protocol} addresses can’t be used here.` };
  if (url.username || url.password) return { ok: false, why: 'Leave the name and password out of the address.' };
  return { ok: true, url: url.href };
}
