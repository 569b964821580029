import removeAccents from 'remove-accents';

export * from './names.js';
export * from './first-content.js';

const NOT_PLAIN = /[^\x20-\x7e]/;

/** A text as finding compares it: no accents, no case, single spaces; letters of their own as people type them (ł as l, ß as ss). */
export function fold(text: string): string {
  const plain = NOT_PLAIN.test(text)
    ? removeAccents(text.normalize('NFKD').replace(/\p{M}/gu, '')).replace(/ß/g, 'ss')
    : text;
  return plain.toLowerCase().replace(/\s+/g, ' ').trim();
}

/** Whether every word of `query` occurs in one of `texts`. Both sides are folded by the caller where speed matters. */
export function matches(query: string, texts: readonly string[]): boolean {
  const folded = texts.map(fold);
  return fold(query)
    .split(' ')
    .every((word) => folded.some((text) => text.includes(word)));
}

/** A text of at most so many characters (code points), cut between words. */
export function cutAtWord(text: string, most: number): string {
  const characters = [...text];
  if (characters.length <= most) return text;
  const cut = characters.slice(0, most + 1).join('');
  const end = cut.lastIndexOf(' ');
  return (end > most / 2 ? cut.slice(0, end) : characters.slice(0, most).join('')).replace(/[\s,;:–-]+$/, '');
}

/** The length of a text as people count it: characters, not code units. */
export function lengthOf(text: string): number {
  return [...new Intl.Segmenter(undefined, { granularity: 'grapheme' }).segment(text)].length;
}
