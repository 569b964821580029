import { transliterate } from 'transliteration';

/** Longest slug made from a name; a typed one may be longer, up to the limit of a path. */
export const MADE_SLUG_LENGTH = 60;

/**
 * A slug from a name in any script: transliterated, lower case, words joined by hyphens, cut at a word.
 * Empty where the name has no letter or digit.
 */
export function slugOf(name: string): string {
  const plain = transliterate(name.normalize('NFC').slice(0, 400)).toLowerCase();
  const words = plain.replace(/['’`]/g, '').match(/[a-z0-9]+/g) ?? [];
  let slug = '';
  for (const word of words) {
    const next = slug ? `${slug}-${word}` : word;
    if (next.length > MADE_SLUG_LENGTH) return slug || word.slice(0, MADE_SLUG_LENGTH);
    slug = next;
  }
  return slug;
}
