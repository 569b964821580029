import { factFields } from '../fields/facts.js';
import type { Fact } from '../fields/types.js';

export interface Gaps {
  readonly required: readonly string[];
  readonly recommended: readonly string[];
}

/** What search engines would miss of a fact, by the keys of its fields: what neither a person nor the page says. */
export function gapsOf({ kind, values }: Fact, said: Readonly<Record<string, string>>): Gaps {
  const missing = (asked: 'required' | 'recommended') =>
    factFields(kind).flatMap(({ key, need }) => (need === asked && !values[key] && !said[key] ? [key] : []));
  return { required: missing('required'), recommended: missing('recommended') };
}
