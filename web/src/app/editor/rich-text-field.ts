import {
  ChangeDetectionStrategy,
  Component,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
  type OnDestroy,
} from '@angular/core';
import type { LinkTarget, PictureUse, RichText } from '@domatium/core/document';
import { canonical } from '@domatium/core/plan';
import { Editor } from '@tiptap/core';
import { TiptapEditorDirective } from 'ngx-tiptap';
import { EditorClipboard } from './editor-clipboard';
import { FormatBar } from './format-bar';
import { FocusFirst } from '../shared/focus-first';
import { isLinkKey } from './in-place';
import { LinkField } from './link-field';
import { PicturesService } from '../pictures/pictures.service';
import { PictureField } from './picture-field';
import { formatsOf, pictureIn, putPicture, richExtensions, richTextIn, toggleFormat, type Format } from './rich-text';
import { TextPaste } from './text-paste';
import { say } from '@domatium/core/words/editor';

/** Formatted text with links by reference (TipTap). */
@Component({
  selector: 'dm-rich-text-field',
  imports: [TiptapEditorDirective, FormatBar, LinkField, FocusFirst, PictureField],
  templateUrl: './rich-text-field.html',
  styleUrl: './rich-text-field.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RichTextField implements OnDestroy {
  protected readonly say = say;
  readonly label = input.required<string>();
  readonly value = input.required<RichText>();
  readonly changed = output<RichText>();
  private readonly paste = inject(TextPaste);
  private readonly pictures = inject(PicturesService);
  private readonly around = inject(EditorClipboard, { optional: true });
  protected readonly editor = new Editor({
    extensions: richExtensions((id) => this.pictures.byId().get(id)?.variants[0]?.src ?? ''),
    injectCSS: false,
    onUpdate: ({ editor }) => this.changed.emit(richTextIn(editor as Editor)),
    onTransaction: ({ editor }) => this.show(editor as Editor),
  });
  protected readonly active = signal<Partial<ReturnType<typeof formatsOf>>>({});
  protected readonly linking = signal<{ target: LinkTarget | null } | null>(null);
  protected readonly picturing = signal<{ use: PictureUse | null } | null>(null);
  protected readonly hasSelection = signal(false);

  constructor() {
    effect(() => {
      const value = this.value();
      const label = this.label();
      untracked(() => {
        this.editor.setOptions({
          editorProps: {
            attributes: { 'aria-label': label, role: 'textbox', 'aria-multiline': 'true', dir: 'auto' },
            handlePaste: (_, event) => this.pasted(event.clipboardData),
            handleKeyDown: (_, event) => {
              if (!isLinkKey(event) || !this.hasSelection()) return false;
              event.preventDefault();
              this.startLink();
              return true;
            },
          },
        });
        // Only what comes from outside (undo, the other's text) is set; what was typed here is there already.
        if (canonical(richTextIn(this.editor)) !== canonical(value))
          this.editor.commands.setContent(value as never, { emitUpdate: false });
      });
    });
  }

  ngOnDestroy(): void {
    this.editor.destroy();
  }

  private pasted(clipboard: DataTransfer | null): boolean {
    return this.paste.into(this.editor, { kind: 'rich', label: this.label(), max: null }, clipboard, this.around);
  }

  protected toggle(format: Format): void {
    toggleFormat(this.editor, format);
  }

  protected startLink(): void {
    this.linking.set({ target: (this.editor.getAttributes('link')['target'] as LinkTarget | null) ?? null });
  }

  protected link(target: LinkTarget | null): void {
    const chain = this.editor.chain().focus().extendMarkRange('link');
    (target ? chain.setMark('link', { target }) : chain.unsetMark('link')).run();
    this.linking.set(null);
  }

  protected startPicture(): void {
    this.picturing.set({ use: pictureIn(this.editor) });
  }

  protected picture(use: PictureUse | null): void {
    putPicture(this.editor, use);
    this.picturing.set(use && { use: pictureIn(this.editor) });
  }

  private show(editor: Editor): void {
    this.active.set(formatsOf(editor));
    this.hasSelection.set(!editor.state.selection.empty || editor.isActive('link'));
  }
}
