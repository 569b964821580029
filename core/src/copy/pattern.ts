import { slugOf } from '../address/index.js';

/** What a pattern is filled from. */
export interface PatternParts {
  readonly name: string;
  readonly path: string;
}

/** Words in names and paths that change from one run to the next, such as last year's number to this year's. */
export interface Replacement {
  readonly from: string;
  readonly to: string;
}

const replaced = (text: string, replacements: readonly Replacement[]) =>
  replacements.reduce((result, { from, to }) => (from ? result.replaceAll(from, to) : result), text);

/** A name by a pattern: `{name}` stands for the old one, after the replacements. `{name} 2027` */
export function nameByPattern(pattern: string, { name }: PatternParts, replacements: readonly Replacement[]): string {
  return pattern.replaceAll('{name}', replaced(name, replacements)).replace(/\s+/g, ' ').trim();
}

/**
 * A path by a pattern: `{path}` stands for the old path, `{slug}` for its last part, `{name}` for a slug of the name.
 * `{path}-2027` of `/winter/midwinter` is `/winter/midwinter-2027`; of `/` it is `/2027`.
 */
export function pathByPattern(pattern: string, parts: PatternParts, replacements: readonly Replacement[]): string {
  const old = replaced(
    parts.path,
    replacements.map(({ from, to }) => ({ from: slugOf(from) || from, to: slugOf(to) })),
  );
  const path = pattern
    .replaceAll('{path}', old === '/' ? '/' : old)
    .replaceAll('{slug}', old.split('/').at(-1) ?? '')
    .replaceAll('{name}', slugOf(replaced(parts.name, replacements)));
  const tidy = `/${path}`
    .replace(/\/{2,}/g, '/')
    .replace(/\/-+/g, '/')
    .replace(/--+/g, '-');
  return tidy.length > 1 ? tidy.replace(/[-/]+$/, '') || '/' : tidy;
}
