import {
  ChangeDetectionStrategy,
  Component,
  effect,
  input,
  output,
  signal,
  untracked,
  type OnDestroy,
} from '@angular/core';
import {
  EMPTY_RICH_TEXT,
  linkTargetFromJSON,
  richTextFromJSON,
  type LinkTarget,
  type RichText,
} from '@domatium/core/document';
import { canonical } from '@domatium/core/plan';
import { Editor, Mark } from '@tiptap/core';
import Bold from '@tiptap/extension-bold';
import Document from '@tiptap/extension-document';
import HardBreak from '@tiptap/extension-hard-break';
import Heading from '@tiptap/extension-heading';
import Italic from '@tiptap/extension-italic';
import { BulletList, ListItem, ListKeymap, OrderedList } from '@tiptap/extension-list';
import Paragraph from '@tiptap/extension-paragraph';
import Text from '@tiptap/extension-text';
import { TiptapEditorDirective } from 'ngx-tiptap';
import { LinkField } from './link-field';

/** A link that keeps where it leads by identity. Pasted links to outside addresses come along; others become text. */
const Reference = Mark.create({
  name: 'link',
  inclusive: false,
  addAttributes: () => ({ target: { default: null, rendered: false } }),
  parseHTML: () => [
    {
      tag: 'a[href]',
      getAttrs: (element) => {
        const target = linkTargetFromJSON({ kind: 'outside', url: element.getAttribute('href') });
        return typeof target === 'string' ? false : { target };
      },
    },
  ],
  renderHTML: () => ['a', { class: 'reference' }, 0],
});

/** Formatted text with links by reference (TipTap). */
@Component({
  selector: 'dm-rich-text-field',
  imports: [TiptapEditorDirective, LinkField],
  templateUrl: './rich-text-field.html',
  styleUrl: './rich-text-field.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RichTextField implements OnDestroy {
  readonly label = input.required<string>();
  readonly value = input.required<RichText>();
  readonly changed = output<RichText>();
  protected readonly editor = new Editor({
    extensions: [
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
    ],
    injectCSS: false,
    onUpdate: ({ editor }) => this.changed.emit(clean(editor.getJSON())),
    onTransaction: ({ editor }) => this.show(editor as Editor),
  });
  protected readonly active = signal<Readonly<Record<string, boolean>>>({});
  protected readonly linking = signal<{ target: LinkTarget | null } | null>(null);
  protected readonly hasSelection = signal(false);

  constructor() {
    effect(() => {
      const value = this.value();
      const label = this.label();
      untracked(() => {
        this.editor.setOptions({
          editorProps: { attributes: { 'aria-label': label, role: 'textbox', 'aria-multiline': 'true' } },
        });
        // Only what comes from outside (undo, the other's text) is set; what was typed here is there already.
        if (canonical(clean(this.editor.getJSON())) !== canonical(value))
          this.editor.commands.setContent(value as never, { emitUpdate: false });
      });
    });
  }

  ngOnDestroy(): void {
    this.editor.destroy();
  }

  protected toggle(what: 'bold' | 'italic' | 'h2' | 'h3' | 'bullets' | 'numbers'): void {
    const chain = this.editor.chain().focus();
    const acts = {
      bold: () => chain.toggleBold(),
      italic: () => chain.toggleItalic(),
      h2: () => chain.toggleHeading({ level: 2 }),
      h3: () => chain.toggleHeading({ level: 3 }),
      bullets: () => chain.toggleBulletList(),
      numbers: () => chain.toggleOrderedList(),
    };
    acts[what]().run();
  }

  protected startLink(): void {
    this.linking.set({ target: (this.editor.getAttributes('link')['target'] as LinkTarget | null) ?? null });
  }

  protected link(target: LinkTarget | null): void {
    const chain = this.editor.chain().focus().extendMarkRange('link');
    (target ? chain.setMark('link', { target }) : chain.unsetMark('link')).run();
    this.linking.set(null);
  }

  private show(editor: Editor): void {
    this.active.set({
      bold: editor.isActive('bold'),
      italic: editor.isActive('italic'),
      h2: editor.isActive('heading', { level: 2 }),
      h3: editor.isActive('heading', { level: 3 }),
      bullets: editor.isActive('bulletList'),
      numbers: editor.isActive('orderedList'),
      link: editor.isActive('link'),
    });
    this.hasSelection.set(!editor.state.selection.empty || editor.isActive('link'));
  }
}

/** What TipTap holds as our own shape; there is nothing in it that pages can't have. */
function clean(json: unknown): RichText {
  const text = richTextFromJSON(json, '', []);
  return text.content.length ? text : EMPTY_RICH_TEXT;
}
