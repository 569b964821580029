import { codeOnSite, codesToText, type Code } from '@domatium/core/codes';
import { stockAt } from '@domatium/core/stock';
import type { Instant } from '@domatium/core/time';
import { sha256 } from '@domatium/storage';
import type { ShelvedItem } from '../stock/index.js';
import { fileHref } from './files.js';
import type { Witness } from './surroundings.js';

/** The codes of a site, as they stand around its pages, and the scripts of them that are published as files. */
export interface CodesAround {
  /** Blank where there are none. */
  readonly text: string;
  /** Addresses of all files it asks for. */
  readonly files: readonly string[];
  /** Scripts by their hashes. */
  readonly scripts: ReadonlyMap<string, Buffer>;
}

/** `loader`: the address of `codesScript`. */
export function codesAround(
  items: readonly ShelvedItem[],
  siteId: number,
  loader: string,
  at: Instant,
  witness: Witness,
): CodesAround {
  const scripts = new Map<string, Buffer>();
  const codes = items.flatMap(({ periods }) => {
    const code = (stockAt(periods, at, witness)?.content ?? null) as Code | null;
    if (!code) return [];
    const { source } = code;
    const hash = source.kind === 'script' ? sha256(source.script) : '';
    const here = codeOnSite(code, source.kind === 'script' ? fileHref(hash, 'js') : source.url, siteId);
    if (here && source.kind === 'script') scripts.set(hash, Buffer.from(source.script));
    return here ?? [];
  });
  if (!codes.length) return { text: '', files: [], scripts };
  const files = [loader, ...[...scripts.keys()].map((hash) => fileHref(hash, 'js'))];
  return { text: codesToText({ loader, codes }), files, scripts };
}
