/** How wide a text is in pixels at a size, as a common sans-serif draws it. */
export type Measure = (text: string, size: number) => number;

/** Room for a text: so many lines of so many pixels, at a size. */
export interface Room {
  readonly size: number;
  readonly width: number;
  readonly lines: number;
}

/**
 * About the room results of a search have on a wide window and on a phone. Search engines publish no such limits; these
 * are usual widths of their columns, and what is drawn and counted here.
 */
export const RESULT_ROOM = {
  wide: { title: { size: 20, width: 600, lines: 1 }, description: { size: 14, width: 600, lines: 2 } },
  narrow: { title: { size: 18, width: 328, lines: 2 }, description: { size: 14, width: 328, lines: 3 } },
} as const satisfies Record<string, Record<'title' | 'description', Room>>;
/** About the room where a page is shared: below a large picture, beside a small one, in a chat. */
export const SHARED_ROOM = {
  large: { title: { size: 16, width: 480, lines: 1 }, description: { size: 14, width: 480, lines: 2 } },
  small: { title: { size: 16, width: 330, lines: 2 }, description: { size: 14, width: 330, lines: 1 } },
  chat: { title: { size: 14, width: 250, lines: 2 }, description: { size: 13, width: 250, lines: 2 } },
} as const satisfies Record<string, Record<'title' | 'description', Room>>;

/** Never on a line of its own. */
const MORE = '\u00a0…';

/** A text as it is shown in a room: what does not fit is cut at the end of a word, in the midst of one that is wider than a line. */
export function cutTo(text: string, { size, width, lines }: Room, measure: Measure): { text: string; isCut: boolean } {
  const words = text.trim().split(/\s+/).filter(Boolean);
  const fits = (line: string) => measure(line, size) <= width;
  const shown: string[] = [];
  let at = 0;
  for (let line = 1; line <= lines && at < words.length; line++) {
    const begin = at;
    while (at < words.length && fits(words.slice(begin, at + 1).join(' '))) at++;
    if (line === lines && at < words.length) {
      while (at > begin && !fits(words.slice(begin, at).join(' ') + MORE)) at--;
      shown.push((at > begin ? words.slice(begin, at).join(' ') : within(words[begin] ?? '', fits)) + MORE);
      return { text: shown.join(' '), isCut: true };
    }
    // A word that is wider than a line is broken over lines.
    if (at === begin) {
      const part = within(words[begin] ?? '', fits, '');
      words.splice(begin, 1, part, (words[begin] ?? '').slice(part.length));
      at++;
    }
    shown.push(words.slice(begin, at).join(' '));
  }
  return { text: shown.join(' '), isCut: false };
}

/** As much of a word as fits, and one letter at least. */
function within(word: string, fits: (line: string) => boolean, more = MORE): string {
  const letters = [...word];
  let count = letters.length;
  while (count > 1 && !fits(letters.slice(0, count).join('') + more)) count--;
  return letters.slice(0, count).join('');
}
