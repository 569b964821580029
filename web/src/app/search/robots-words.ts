import type { Robots } from '@domatium/core/document';
import { say } from '@domatium/core/words/metadata';

/** What is asked of search engines, in a few words. */
export function robotsWords(robots: Robots): string {
  const keys = Object.keys(robots) as (keyof Robots)[];
  const words = keys.map((key) => say.whatIsAskedThere[key]).join(', ') || say.whatIsAskedThere.nothing;
  return words.slice(0, 1).toUpperCase() + words.slice(1);
}
