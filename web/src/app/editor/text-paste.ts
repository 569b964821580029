import { inject, Injectable } from '@angular/core';
import type { TextField } from '@domatium/core/document';
import { lengthOf } from '@domatium/core/text';
import { pastedText, wordsOf } from '@domatium/core/source';
import { say } from '@domatium/core/words/editor';
import type { Editor, JSONContent } from '@tiptap/core';
import { NoticeService } from '../hub/notices';
import { tooLongToPaste } from '../hub/whole-paste';
import { treeOfHtml } from '../source/html-tree';
import { EditorClipboard } from './editor-clipboard';

/** What is pasted into a text: all of it that a text can hold; what it can’t hold is asked about or named, never dropped. */
@Injectable({ providedIn: 'root' })
export class TextPaste {
  private readonly notices = inject(NoticeService);

  /** Says whether it is done with; otherwise the text takes it as it is. */
  into(
    editor: Editor,
    field: Pick<TextField, 'kind' | 'label' | 'max'>,
    clipboard: DataTransfer | null,
    page: EditorClipboard | null,
  ): boolean {
    const html = clipboard?.getData('text/html') ?? '';
    const plain = clipboard?.getData('text/plain') ?? '';
    if (!html && !plain) return !!page?.takeFiles(clipboard);
    if (field.kind !== 'rich') return this.words(editor, field, plain || wordsOf(treeOfHtml(html)));
    // What was copied in such a text has all that it had there.
    return !!html && !html.includes('data-pm-slice') && this.formatted(editor, html, page);
  }

  private formatted(editor: Editor, html: string, page: EditorClipboard | null): boolean {
    const { text, holdsMore, left } = pastedText(treeOfHtml(html));
    if (holdsMore && page?.lookAt(html)) return true;
    const [only] = text.content;
    const isLine = text.content.length === 1 && only?.type === 'paragraph';
    editor.commands.insertContent((isLine ? (only.content ?? []) : text.content) as JSONContent[]);
    if (holdsMore) this.notices.say({ kind: 'trouble', text: say.tablesCameAsWords });
    if (left.length) this.notices.say({ kind: 'trouble', text: say.pastedWithout(left.join(', ')) });
    return true;
  }

  private words(
    editor: Editor,
    { kind, label, max }: Pick<TextField, 'kind' | 'label' | 'max'>,
    text: string,
  ): boolean {
    const { doc, selection } = editor.state;
    const kept =
      lengthOf(doc.textBetween(0, doc.content.size, '\n\n', '\n')) -
      lengthOf(doc.textBetween(selection.from, selection.to, '\n\n', '\n'));
    const pasted = kind === 'line' ? text.trim().replace(/\s*\n\s*/g, ' ') : text.replace(/\r\n?/g, '\n').trim();
    if (max !== null && kept + lengthOf(pasted) > max) {
      this.notices.say({ kind: 'trouble', text: tooLongToPaste(label, lengthOf(pasted), max - kept) });
      return true;
    }
    const lineOf = (line: string): JSONContent[] => (line ? [{ type: 'text', text: line }] : []);
    const paragraphs = pasted.split(/\n\s*\n/).map((part) => ({
      type: 'paragraph',
      content: part.split('\n').flatMap((line, n) => [...(n ? [{ type: 'hardBreak' }] : []), ...lineOf(line)]),
    }));
    const [only] = paragraphs;
    editor.commands.insertContent(
      kind === 'line' ? lineOf(pasted) : paragraphs.length === 1 ? (only?.content ?? []) : paragraphs,
    );
    return true;
  }
}
