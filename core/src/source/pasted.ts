import type { RichText } from '../document/index.js';
import { bodyOf, isHeld, leftWords } from './blocks-from-html.js';
import { cleaned } from './cleaned.js';
import { richFromHtml } from './rich-html.js';
import type { HtmlElement } from './tree.js';

/** What was pasted into a text. */
export interface PastedText {
  readonly text: RichText;
  /** Whether it holds more than a text can: tables, pictures, quotes; their words are in it. */
  readonly holdsMore: boolean;
  /** What did not come along, in words. */
  readonly left: readonly string[];
}

/** What a clipboard holds, as formatted text. */
export function pastedText(root: HtmlElement): PastedText {
  const { root: whole, left } = cleaned(root);
  const body = bodyOf(whole);
  return {
    text: richFromHtml(body.children),
    holdsMore: body.children.some(isHeld),
    left: [...left].map(([what, count]) => leftWords(what, count)),
  };
}
