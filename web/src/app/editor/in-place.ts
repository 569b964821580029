import type { RichText, TextField } from '@domatium/core/document';
import { isFirstContent } from '@domatium/core/text';
import { canonical } from '@domatium/core/plan';
import { Editor, type JSONContent } from '@tiptap/core';
import { CharacterCount } from '@tiptap/extensions';
import { LINE_EXTENSIONS, LINES_EXTENSIONS, richExtensions, richTextIn } from './rich-text';

/** Which text of which block is typed on the page. */
export interface InPlaceField extends TextField {
  readonly blockId: string;
  readonly path: string;
}

export interface InPlaceHooks {
  /** What was typed. */
  changed(value: string | RichText): void;
  /** The cursor, the selection or the formats are others. */
  moved(editor: Editor): void;
  /** The cursor leaves the text at its end or beginning, by an arrow or Enter in a single line. */
  left(by: 1 | -1): void;
  /** A link is asked for, by its key. */
  linked(): void;
  /** The address of a picture within a text. */
  shown(id: number): string;
  /** Something is pasted; says whether that is done with. */
  pasted(editor: Editor, clipboard: DataTransfer | null): boolean;
}

/** A text that is typed on the page itself: TipTap, mounted from outside of the frame on the element that shows it. */
export class InPlace {
  readonly editor: Editor;

  constructor(
    readonly element: HTMLElement,
    readonly field: InPlaceField,
    value: string | RichText,
    hooks: InPlaceHooks,
  ) {
    element.replaceChildren();
    this.editor = new Editor({
      element: { mount: element },
      extensions: [
        ...(field.kind === 'rich'
          ? richExtensions((id) => hooks.shown(id))
          : field.kind === 'line'
            ? LINE_EXTENSIONS
            : LINES_EXTENSIONS),
        ...(field.max === null ? [] : [CharacterCount.configure({ limit: field.max })]),
      ],
      content: this.contentOf(value),
      injectCSS: false,
      editorProps: {
        attributes: { role: 'textbox', 'aria-label': field.label, 'aria-multiline': String(field.kind !== 'line') },
        handlePaste: (_, event) => hooks.pasted(this.editor, event.clipboardData),
        handleKeyDown: (view, event) => {
          if (field.kind === 'rich' && isLinkKey(event)) {
            event.preventDefault();
            hooks.linked();
            return true;
          }
          const by = field.kind === 'line' && event.key === 'Enter' ? 1 : stepOf(event);
          if (!by) return false;
          const isAtEdge = event.key === 'Enter' || view.endOfTextblock(by === 1 ? 'down' : 'up');
          const { doc, selection } = view.state;
          // Only from the first or last line of the whole text; between its paragraphs arrows go on as everywhere.
          const isOutermost = by === 1 ? selection.to >= doc.content.size - 1 : selection.from <= 1;
          const isSingle = doc.childCount < 2 || isOutermost;
          if (!isAtEdge || !isSingle) return false;
          hooks.left(by);
          return true;
        },
      },
      onUpdate: () => hooks.changed(this.value()),
      onTransaction: ({ editor }) => hooks.moved(editor as Editor),
    });
  }

  value(): string | RichText {
    if (this.field.kind === 'rich') return richTextIn(this.editor);
    if (this.field.kind === 'line') return this.editor.state.doc.textContent;
    const { doc } = this.editor.state;
    return doc.textBetween(0, doc.content.size, '\n\n', '\n');
  }

  /** Takes what comes from elsewhere: undo, or the margin. What was typed here is here already. */
  take(value: string | RichText): void {
    if (canonical(this.value()) === canonical(value)) return;
    const { from } = this.editor.state.selection;
    this.editor.commands.setContent(this.contentOf(value), { emitUpdate: false });
    this.editor.commands.setTextSelection(Math.min(from, this.editor.state.doc.content.size));
  }

  /** Puts the cursor where a point of the frame is, or at the end; a first content, which asks to be replaced, is selected whole. */
  focusAt(point: { left: number; top: number } | null): void {
    const at = point && this.editor.view.posAtCoords(point);
    this.focusOn(at ? at.pos : this.editor.state.doc.content.size);
    if (isFirstContent(this.editor.getText())) this.editor.commands.selectAll();
  }

  focusOn(position: number): void {
    // At once, not with the next frame: the key that follows is text already.
    this.editor.view.focus();
    this.editor.commands.setTextSelection(position);
  }

  end(): void {
    this.element.ownerDocument.getSelection()?.removeAllRanges();
    this.editor.destroy();
    for (const name of ['contenteditable', 'role', 'aria-label', 'aria-multiline', 'tabindex', 'translate'])
      this.element.removeAttribute(name);
    this.element.classList.remove('ProseMirror', 'ProseMirror-focused', 'tiptap');
    if (!this.element.className) this.element.removeAttribute('class');
  }

  private contentOf(value: string | RichText): JSONContent {
    if (typeof value !== 'string') return value as unknown as JSONContent;
    const textOf = (text: string): JSONContent[] => (text ? [{ type: 'text', text }] : []);
    if (this.field.kind === 'line') return { type: 'doc', content: textOf(value) };
    const paragraphs = value.split(/\n\s*\n/).map((paragraph) => ({
      type: 'paragraph',
      content: paragraph.split('\n').flatMap((line, n) => [...(n ? [{ type: 'hardBreak' }] : []), ...textOf(line)]),
    }));
    return { type: 'doc', content: paragraphs };
  }
}

/** Ctrl+K, or Command+K: as everywhere where one writes. */
export const isLinkKey = ({ key, ctrlKey, metaKey, shiftKey, altKey }: KeyboardEvent): boolean =>
  key.toLowerCase() === 'k' && (ctrlKey || metaKey) && !shiftKey && !altKey;

function stepOf({ key, shiftKey, altKey, ctrlKey, metaKey }: KeyboardEvent): 1 | -1 | 0 {
  if (shiftKey || altKey || ctrlKey || metaKey) return 0;
  return key === 'ArrowDown' ? 1 : key === 'ArrowUp' ? -1 : 0;
}
