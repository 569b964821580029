import { checkOutsideAddress } from '../address/index.js';
import { wrong, type Wrong } from '../words/faults.js';
import { isRecord, type Fault, type Result } from './result.js';
import type { HeadElement } from './types.js';

export const MOST_ELEMENTS = 20;
export const LONGEST_CONTENT = 1_000;
const NAME = /^[a-z][a-z\d_.:-]{0,79}$/i;
/** What every page says by fields of its own, or what the installation sees to. */
const OURS =
  /^(description|robots|viewport|referrer|theme-color|color-scheme|twitter:card|og:(title|description|type|url|site_name|image.*))$/i;

/**
 * Kinds of links a head may hold beside ours: those of the HTML standard (4.6.7) that fetch nothing and run nothing, and
 * `me`.
 */
export const LINK_RELATIONS = [
  'author',
  'help',
  'license',
  'me',
  'privacy-policy',
  'search',
  'terms-of-service',
] as const;

/** Further elements of a head from JSON, each meta name and each link once. */
export function headElementsFromJSON(json: unknown): Result<readonly HeadElement[]> {
  if (!Array.isArray(json)) return { ok: false, faults: [{ path: '', ...wrong('not-a-list') }] };
  const faults: Fault[] = [];
  if (json.length > MOST_ELEMENTS) faults.push({ path: '', ...wrong('elements-count', { most: MOST_ELEMENTS }) });
  const seen = new Set<string>();
  const elements = json.slice(0, MOST_ELEMENTS).flatMap((one: unknown, index): HeadElement[] => {
    const read = elementFromJSON(one);
    if ('fault' in read) {
      faults.push({ path: `[${index}].${read.at}`, ...read.fault });
      return [];
    }
    if (seen.has(elementKey(read))) {
      faults.push({ path: `[${index}].${read.kind === 'meta' ? 'name' : 'href'}`, ...wrong('element-twice') });
      return [];
    }
    seen.add(elementKey(read));
    return [read];
  });
  return faults.length ? { ok: false, faults } : { ok: true, value: elements };
}

/** Elements with the same key say the same thing: one of them is enough. */
export const elementKey = (element: HeadElement): string =>
  element.kind === 'meta' ? `meta ${element.name.toLowerCase()}` : `link ${element.rel} ${element.href}`;

function elementFromJSON(json: unknown): HeadElement | { readonly at: string; readonly fault: Wrong } {
  if (!isRecord(json)) return { at: 'name', fault: wrong('fields-unreadable') };
  const { kind, name, content, rel, href } = json;
  if (kind === 'meta') {
    const trimmed = typeof name === 'string' ? name.trim() : '';
    if (!NAME.test(trimmed)) return { at: 'name', fault: wrong('element-name') };
    if (OURS.test(trimmed)) return { at: 'name', fault: wrong('element-ours') };
    if (typeof content !== 'string' || !content.trim() || content.length > LONGEST_CONTENT)
      return { at: 'content', fault: wrong('element-content', { most: LONGEST_CONTENT }) };
    return { kind, name: trimmed, content: content.trim() };
  }
  if (kind !== 'link') return { at: 'kind', fault: wrong('option-unknown') };
  const known = LINK_RELATIONS.find((one) => one === rel);
  if (!known) return { at: 'rel', fault: wrong('option-unknown') };
  const checked = checkOutsideAddress(typeof href === 'string' ? href : '');
  return checked.ok ? { kind, rel: known, href: checked.url } : { at: 'href', fault: checked.why };
}
