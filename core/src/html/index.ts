/** Markup that is safe to send. Made by `html`, and by `page.ts` for our own stylesheet; a plain text put into `html` is escaped. */
export class Html {
  constructor(readonly markup: string) {}
}

export type HtmlPart = Html | string | number | null | undefined | false | readonly HtmlPart[];

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };

/** Text as it may stand in an element or in a quoted attribute. NUL, which HTML can't hold, is dropped. */
export function escapeText(text: string): string {
  return /[&<>"'\u0000]/.test(text) ? text.replace(/[&<>"'\u0000]/g, (char) => ESCAPES[char] ?? '') : text;
}

function partMarkup(part: HtmlPart): string {
  if (part === null || part === undefined || part === false || part === '') return '';
  if (part instanceof Html) return part.markup;
  if (typeof part === 'object') return part.map(partMarkup).join('');
  return escapeText(String(part));
}

/** Template tag: the literal parts are markup, everything put in is text unless `html` made it. */
export function html(literals: TemplateStringsArray, ...parts: HtmlPart[]): Html {
  let markup = literals[0] ?? '';
  for (let index = 0; index < parts.length; index++)
    markup += partMarkup(parts[index]) + (literals[index + 1] as string);
  return new Html(markup);
}
