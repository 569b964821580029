import { EMPTY_RICH_TEXT, richTextFromJSON, type LinkTarget, type RichText } from '@domatium/core/document';
import { addressToTarget, targetToAddress } from '@domatium/core/source';
import { Mark, type Editor } from '@tiptap/core';
import Bold from '@tiptap/extension-bold';
import Document from '@tiptap/extension-document';
import HardBreak from '@tiptap/extension-hard-break';
import Heading from '@tiptap/extension-heading';
import Italic from '@tiptap/extension-italic';
import { BulletList, ListItem, ListKeymap, OrderedList } from '@tiptap/extension-list';
import Paragraph from '@tiptap/extension-paragraph';
import Text from '@tiptap/extension-text';

/** A link that keeps where it leads by identity, on the clipboard too; what leads nowhere a page may link to becomes text. */
const Reference = Mark.create({
  name: 'link',
  inclusive: false,
  addAttributes: () => ({ target: { default: null, rendered: false } }),
  parseHTML: () => [
    {
      tag: 'a[href]',
      getAttrs: (element) => {
        const target = addressToTarget(element.getAttribute('href') ?? '');
        return target ? { target } : false;
      },
    },
  ],
  renderHTML: ({ mark }) => ['a', { class: 'reference', href: targetToAddress(mark.attrs['target'] as LinkTarget) }, 0],
});

/** All that formatted text of a page may have. */
export const RICH_EXTENSIONS = [
  Document,
  Paragraph,
  Text,
  Bold,
  Italic,
  HardBreak,
  Heading.configure({ levels: [2, 3] }),
  BulletList,
  OrderedList,
  ListItem,
  ListKeymap,
  Reference,
];

/** Text with its lines, without any format. */
export const LINES_EXTENSIONS = [Document, Paragraph, Text, HardBreak];

/** One line of text: the element that shows it holds the text itself. */
export const LINE_EXTENSIONS = [Document.extend({ content: 'text*' }), Text];

export type Format = 'bold' | 'italic' | 'h2' | 'h3' | 'bullets' | 'numbers';

export function toggleFormat(editor: Editor, format: Format): void {
  const chain = editor.chain().focus();
  const acts = {
    bold: () => chain.toggleBold(),
    italic: () => chain.toggleItalic(),
    h2: () => chain.toggleHeading({ level: 2 }),
    h3: () => chain.toggleHeading({ level: 3 }),
    bullets: () => chain.toggleBulletList(),
    numbers: () => chain.toggleOrderedList(),
  };
  acts[format]().run();
}

/** Which formats hold where the cursor is. */
export function formatsOf(editor: Editor): Readonly<Record<Format | 'link', boolean>> {
  return {
    bold: editor.isActive('bold'),
    italic: editor.isActive('italic'),
    h2: editor.isActive('heading', { level: 2 }),
    h3: editor.isActive('heading', { level: 3 }),
    bullets: editor.isActive('bulletList'),
    numbers: editor.isActive('orderedList'),
    link: editor.isActive('link'),
  };
}

/** What TipTap holds as our own shape; there is nothing in it that pages can't have. */
export function richTextIn(editor: Editor): RichText {
  const text = richTextFromJSON(editor.getJSON(), '', []);
  return text.content.length ? text : EMPTY_RICH_TEXT;
}
