import { say } from '@domatium/core/words/editor';
import { say as common } from '@domatium/core/words/common'; /** One thing a screen reader says: what it is, and its words. */
export interface Heard {
  readonly kind: string;
  readonly words: string;
}

const textOf = (element: Element) => (element.textContent ?? '').replace(/\s+/g, ' ').trim();
const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;

/** A thing that is said as a whole, with what stands in it left out; `null` for what is only gone through. */
function heardAs(element: Element): Heard | null {
  const words = textOf(element);
  switch (element.localName) {
    case 'h1':
    case 'h2':
    case 'h3':
      return { kind: say.headingWithLocalName(element.localName.slice(1)), words };
    case 'a':
      return { kind: say.link, words };
    case 'img':
      return { kind: say.picture, words: element.getAttribute('alt') ?? say.withoutADescription };
    case 'button':
      return { kind: say.button, words };
    case 'label':
      return { kind: say.field, words };
    case 'input':
      return { kind: say.field, words: element.getAttribute('aria-label') ?? say.withoutALabel };
    default:
      return null;
  }
}

/**
 * What a screen reader says of a page, in its order: headings with their level, links, pictures by their description,
 * lists and tables by their size, fields by their label. Decorative pictures and empty elements are not said.
 */
export function heardIn(root: Element): Heard[] {
  const heard: Heard[] = [];
  const hear = (kind: string, words: string) => {
    if (words) heard.push({ kind, words });
  };
  const visit = (element: Element): void => {
    switch (element.localName) {
      case 'ul':
      case 'ol':
        hear(say.list, count(element.children.length, 'entry').replace('entrys', 'entries'));
        break;
      case 'table':
        hear(
          'Table',
          [element.querySelector('caption')?.textContent, count(element.querySelectorAll('tr').length, 'row')]
            .filter(Boolean)
            .join(', '),
        );
        break;
      case 'nav':
        hear(say.navigation, element.getAttribute('aria-label') ?? say.withoutAName);
        break;
      default: {
        const whole = heardAs(element);
        if (whole) return hear(whole.kind, whole.words);
      }
    }
    if (element.localName === 'caption') return;
    let text = '';
    for (const node of element.childNodes) {
      if (node.nodeType === node.TEXT_NODE) text += node.textContent ?? '';
      else if (node.nodeType === node.ELEMENT_NODE) {
        const child = node as Element;
        if (isInline(child)) text += child.textContent ?? '';
        else {
          hear(common.text, text.replace(/\s+/g, ' ').trim());
          text = '';
          visit(child);
        }
      }
    }
    hear(common.text, text.replace(/\s+/g, ' ').trim());
  };
  visit(root);
  return heard;
}

const INLINE = new Set(['strong', 'em', 'span', 's', 'br']);
const isInline = (element: Element) => INLINE.has(element.localName) && !element.querySelector('a, img');
