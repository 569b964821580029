import type { Code } from '@domatium/core/codes';
import { inertMarkup } from '../shared/trusted';

/**
 * What a pasted element of HTML says of a code: the address of its script with its parameters, or the script in it. `null`
 * where there is no such element, `'several'` where there is more than one script: each is a code of its own.
 */
export function pastedCode(text: string): Pick<Code, 'source' | 'data'> | Pick<Code, 'source'> | 'several' | null {
  if (!/<script\b/i.test(text)) return null;
  // Read apart from the page: nothing in it runs or loads.
  const scripts = [...new DOMParser().parseFromString(inertMarkup(text), 'text/html').scripts];
  const [script] = scripts;
  if (!script || scripts.length > 1) return script ? 'several' : null;
  const url = script.getAttribute('src');
  if (url === null) return { source: { kind: 'script', script: script.textContent.trim() } };
  const data = [...script.attributes].flatMap(({ name, value }) =>
    name.startsWith('data-') ? [{ name: name.slice('data-'.length), value }] : [],
  );
  // An address without its scheme is that of the page, which is https where it is published.
  return { source: { kind: 'address', url: url.startsWith('//') ? `https:${url}` : url }, data };
}
