import {
  EMPTY_RICH_TEXT,
  isWrong,
  pictureUseFromJSON,
  richTextFromJSON,
  type LinkTarget,
  type PictureUse,
  type RichText,
} from '@domatium/core/document';
import { addressToTarget, targetToAddress } from '@domatium/core/source';
import { Extension, Mark, mergeAttributes, Node, type Editor } from '@tiptap/core';
import Blockquote from '@tiptap/extension-blockquote';
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

const raised = (name: 'superscript' | 'subscript', tag: 'sup' | 'sub', excludes: string) =>
  Mark.create({
    name,
    excludes,
    parseHTML: () => [{ tag }],
    renderHTML: ({ HTMLAttributes }) => [tag, HTMLAttributes, 0],
  });

/** Where the lines of a paragraph stand, by the class that pages have for it. */
const Align = Extension.create({
  name: 'align',
  addGlobalAttributes: () => [
    {
      types: ['paragraph', 'heading'],
      attributes: {
        align: {
          default: null,
          parseHTML: (element) => /(?:^| )to-(centre|end)/.exec(element.className)?.[1] ?? null,
          renderHTML: ({ align }) => (align ? { class: `to-${align as string}` } : {}),
        },
      },
    },
  ],
});

/** The use of a picture as the clipboard says it; `false` where it says none. */
function useFrom(text: string): PictureUse | false {
  try {
    const use = pictureUseFromJSON(JSON.parse(text));
    return isWrong(use) ? false : use;
  } catch (error) {
    if (error instanceof SyntaxError) return false;
    throw error;
  }
}

/** The address of a picture of the shelf as it is shown while one types; empty where there is none. */
export type ShownPicture = (id: number) => string;

/** A small picture within a line, by identity, on the clipboard too. */
const Inset = (shown: ShownPicture) =>
  Node.create({
    name: 'picture',
    inline: true,
    group: 'inline',
    atom: true,
    selectable: true,
    addAttributes: () =>
      Object.fromEntries(
        Object.entries({ pictureId: null, description: '', isDecorative: false, focus: null }).map(([key, value]) => [
          key,
          { default: value, rendered: false },
        ]),
      ),
    parseHTML: () => [
      {
        tag: 'span[data-use]',
        getAttrs: (element) => useFrom(element.getAttribute('data-use') ?? ''),
      },
    ],
    renderHTML: ({ node, HTMLAttributes }) => [
      'span',
      mergeAttributes(HTMLAttributes, { class: 'inset', 'data-use': JSON.stringify(node.attrs) }),
      ['img', { src: shown(Number(node.attrs['pictureId'])), alt: String(node.attrs['description']) }],
    ],
  });

/** All that formatted text of a page may have. */
export const richExtensions = (shown: ShownPicture) => [
  Inset(shown),
  Align,
  Blockquote,
  raised('superscript', 'sup', 'subscript'),
  raised('subscript', 'sub', 'superscript'),
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

export type Format =
  'bold' | 'italic' | 'superscript' | 'subscript' | 'h2' | 'h3' | 'quote' | 'bullets' | 'numbers' | 'centre' | 'end';

export function toggleFormat(editor: Editor, format: Format): void {
  const chain = editor.chain().focus();
  const align = (how: 'centre' | 'end') => {
    const next = editor.isActive({ align: how }) ? null : how;
    return chain.updateAttributes('paragraph', { align: next }).updateAttributes('heading', { align: next });
  };
  const acts = {
    bold: () => chain.toggleBold(),
    italic: () => chain.toggleItalic(),
    h2: () => chain.toggleHeading({ level: 2 }),
    h3: () => chain.toggleHeading({ level: 3 }),
    bullets: () => chain.toggleBulletList(),
    numbers: () => chain.toggleOrderedList(),
    superscript: () => chain.toggleMark('superscript'),
    subscript: () => chain.toggleMark('subscript'),
    quote: () => {
      // Nothing is lifted out of a selection of the whole text: it begins and ends outside of all paragraphs.
      const { from, to } = editor.state.selection;
      return (from === 0 ? chain.setTextSelection({ from: 1, to: to - 1 }) : chain).toggleBlockquote();
    },
    centre: () => align('centre'),
    end: () => align('end'),
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
    superscript: editor.isActive('superscript'),
    subscript: editor.isActive('subscript'),
    quote: editor.isActive('blockquote'),
    centre: editor.isActive({ align: 'centre' }),
    end: editor.isActive({ align: 'end' }),
    link: editor.isActive('link'),
  };
}

/** The picture that is selected in a text, `null` where none is. */
export function pictureIn(editor: Editor): PictureUse | null {
  return editor.isActive('picture') ? (editor.getAttributes('picture') as PictureUse) : null;
}

/** Puts a picture at the cursor, or says anew what the selected one is; `null` takes that away. */
export function putPicture(editor: Editor, use: PictureUse | null): void {
  const chain = editor.chain().focus();
  if (!use) chain.deleteSelection().run();
  else if (pictureIn(editor)) chain.updateAttributes('picture', use).run();
  else chain.insertContent({ type: 'picture', attrs: use }).run();
}

/** What TipTap holds as our own shape; there is nothing in it that pages can't have. */
export function richTextIn(editor: Editor): RichText {
  const text = richTextFromJSON(editor.getJSON(), '', []);
  return text.content.length ? text : EMPTY_RICH_TEXT;
}
