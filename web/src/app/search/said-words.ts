import type { Robots } from '@domatium/core/document';
import type { HeldMetadata, RuleFor } from '@domatium/core/stock';
import { say } from '@domatium/core/words/metadata';

/** What is asked of search engines, in a few words. */
export function robotsWords(robots: Robots): string {
  const keys = Object.keys(robots) as (keyof Robots)[];
  const words = keys.map((key) => say.whatIsAskedThere[key]).join(', ') || say.whatIsAskedThere.nothing;
  return words.slice(0, 1).toUpperCase() + words.slice(1);
}

/** Names of further elements by who set them, a line for each. */
export function elementsWords(elements: HeldMetadata['elements'], about: (rule: RuleFor) => string): string[] {
  const names = new Map<string, string[]>();
  for (const { value, by } of elements) {
    const rule = by ? about(by.for) : '';
    names.set(rule, [...(names.get(rule) ?? []), value.kind === 'meta' ? value.name : value.rel]);
  }
  return [...names].map(([rule, all]) => say.fromThere(rule, all.join(', ')));
}
