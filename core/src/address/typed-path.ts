import { isReservedPath, joinPath, MAX_PATH_BYTES, normalisePath } from './path.js';

export type TypedPath = { readonly ok: true; readonly path: string } | { readonly ok: false; readonly why: string };

/**
 * Checks a path as a person types it for a page. A leading slash may be left out; what is wrong is said in words. The
 * whole address counts: `bases` are the base paths under which it will lie.
 */
export function checkTypedPath(typed: string, bases: readonly string[] = ['/']): TypedPath {
  const raw = typed.trim();
  if (/[?#]/.test(raw)) return { ok: false, why: 'An address can’t contain ? or #.' };
  if (/%2f|%5c/i.test(raw)) return { ok: false, why: 'A slash can’t be percent-encoded.' };
  if (/[\p{Cf}\p{Cc}]/u.test(raw)) return { ok: false, why: 'The address contains an invisible character.' };
  if (/\s/.test(raw)) return { ok: false, why: 'Use a hyphen instead of a space.' };
  const path = normalisePath(raw.startsWith('/') ? raw : '/' + raw);
  if (path === null) {
    return raw.length > 300
      ? { ok: false, why: 'The address is too long: at most 1,024 bytes.' }
      : { ok: false, why: 'This isn’t a valid address: check the percent-encoding.' };
  }
  if (isReservedPath(path)) return { ok: false, why: `${path} is kept for the installation. Choose another.` };
  if (path !== '/' && !/[\p{L}\p{N}]/u.test(safeDecode(path)))
    return { ok: false, why: 'An address needs at least one letter or digit.' };
  const longest = Math.max(...path.split('/').map((segment) => segment.length));
  if (longest > 200) return { ok: false, why: `Too long: ${longest} characters in one part; at most 200.` };
  const base = bases.reduce((deepest, one) => (one.length > deepest.length ? one : deepest), '/');
  const whole = joinPath(base, path).length;
  if (whole > MAX_PATH_BYTES)
    return { ok: false, why: `The address is too long: ${whole} bytes with ${base}, at most 1,024.` };
  return { ok: true, path };
}

function safeDecode(path: string): string {
  try {
    return decodeURIComponent(path);
  } catch {
    return path;
  }
}
