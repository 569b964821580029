import { isWrong, linkTargetFromJSON, type LinkTarget } from './link.js';
import { wrong } from '../words/faults.js';
import type { Result } from './result.js';

/** Where the same content is to be found instead: search engines are asked to show that page. */
export type Canonical = Extract<LinkTarget, { readonly kind: 'page' | 'outside' }>;

/** Another page, or an outside address, from JSON; `null` where nothing is said: the page stands for itself. */
export function canonicalFromJSON(json: unknown): Result<Canonical | null> {
  if (json === undefined || json === null) return { ok: true, value: null };
  const target = linkTargetFromJSON(json);
  if (isWrong(target)) return { ok: false, faults: [{ path: '', ...target }] };
  if (target.kind === 'outside') return { ok: true, value: target };
  return target.kind === 'page'
    ? { ok: true, value: { kind: 'page', pageId: target.pageId } }
    : { ok: false, faults: [{ path: '', ...wrong('link-unknown') }] };
}
