import { isReservedPath, joinPath, MAX_PATH_BYTES, normalisePath, rootFileAt } from './path.js';
import { refusal, type Refusal } from '../words/faults.js';

export type TypedPath = { readonly ok: true; readonly path: string } | Refusal;

const LONGEST_PART = 200;

/**
 * Checks a path as a person types it for a page. A leading slash may be left out; what is wrong comes with its code. The
 * whole address counts: `bases` are the base paths under which it will lie.
 */
export function checkTypedPath(typed: string, bases: readonly string[] = ['/']): TypedPath {
  const raw = typed.trim();
  if (/[?#]/.test(raw)) return refusal('path-query');
  if (/%2f|%5c/i.test(raw)) return refusal('path-slash');
  if (/[\p{Cf}\p{Cc}]/u.test(raw)) return refusal('path-invisible');
  if (/\s/.test(raw)) return refusal('path-space');
  const path = normalisePath(raw.startsWith('/') ? raw : '/' + raw);
  if (path === null) {
    return raw.length > 300 ? refusal('path-too-long', { most: MAX_PATH_BYTES }) : refusal('path-encoding');
  }
  if (isReservedPath(path) || rootFileAt(path)) return refusal('path-reserved', { path });
  if (path !== '/' && !/[\p{L}\p{N}]/u.test(safeDecode(path))) return refusal('path-without-letter');
  const longest = Math.max(...path.split('/').map((segment) => segment.length));
  if (longest > LONGEST_PART) return refusal('path-part-too-long', { length: longest, most: LONGEST_PART });
  const base = bases.reduce((deepest, one) => (one.length > deepest.length ? one : deepest), '/');
  const whole = joinPath(base, path).length;
  if (whole > MAX_PATH_BYTES) return refusal('path-too-long-below', { length: whole, base, most: MAX_PATH_BYTES });
  return { ok: true, path };
}

function safeDecode(path: string): string {
  try {
    return decodeURIComponent(path);
  } catch {
    return path;
  }
}
