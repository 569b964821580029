import { inject, Injectable, signal } from '@angular/core';
import { newBlock, pictureFieldOf } from '@domatium/core/document';
import type { PictureId } from '@domatium/core/plan';
import { RegisterService } from '../hub/register.service';
import { PicturesService } from '../pictures/pictures.service';
import { asHtml } from '../source/html-tree';
import type { DroppedPictures } from './file-drop';
import { ChosenBlocks, newId } from './chosen-blocks';
import { DraftService } from './draft.service';

/** What comes onto the page from elsewhere, by the clipboard or dropped: blocks, pictures, and parts of other documents. */
@Injectable()
export class EditorClipboard {
  private readonly register = inject(RegisterService);
  private readonly pictures = inject(PicturesService);
  private readonly draft = inject(DraftService);
  private readonly choice = inject(ChosenBlocks);
  /** HTML that was pasted and is looked at before it is put on the page. */
  readonly pasted = signal<string | null>(null);

  /** Blocks go to the clipboard and come from it, unless a text is meant. */
  take(event: ClipboardEvent): void {
    const target = event.target as Element | null;
    if (target?.closest?.('input, textarea, .ProseMirror, [role="dialog"]')) return;
    const isTaken = event.type === 'paste' ? this.paste(event.clipboardData) : this.copy(event, target);
    if (isTaken) event.preventDefault();
  }

  /** A picture from outside, dropped on a block or between two: brought in, and put where it was dropped. */
  async dropPictures({ files, blockId, field, at }: DroppedPictures): Promise<void> {
    let [place, next] = [blockId && field ? { blockId, field } : null, at];
    for (const file of files) {
      const received = await this.pictures.bring(file);
      if (!received?.picture) continue;
      const { id, description } = received.picture;
      const use = { pictureId: id as PictureId, description, isDecorative: false };
      if (place) {
        this.draft.edit({ kind: 'set', ...place, value: use });
        this.choice.choose(place.blockId);
      } else {
        const block = newBlock('picture', newId(), { picture: use });
        if (this.draft.edit({ kind: 'insert', at: next++, block })) this.choice.choose(block.id);
      }
      place = null;
    }
  }

  private copy(event: ClipboardEvent, target: Element | null): boolean {
    const isText = target?.ownerDocument.getSelection()?.isCollapsed === false;
    if (isText || !this.choice.blocks().length) return false;
    this.choice.copyTo(event.clipboardData, this.register.portfolioId());
    if (event.type === 'cut') this.choice.remove();
    return true;
  }

  private paste(clipboard: DataTransfer | null): boolean {
    return (
      this.takeFiles(clipboard) ||
      this.choice.pasteFrom(clipboard, this.register.portfolioId()) ||
      this.lookAt(clipboard?.getData('text/html') || asHtml(clipboard?.getData('text/plain') ?? ''))
    );
  }

  /** Pictures on the clipboard: brought in, and put at the chosen block. Says whether there were any. */
  takeFiles(clipboard: DataTransfer | null): boolean {
    const files = [...(clipboard?.files ?? [])].filter(({ type }) => type.startsWith('image/'));
    if (!files.length) return false;
    const blocks = this.draft.document()?.blocks ?? [];
    const at = blocks.findIndex(({ id }) => id === this.choice.main());
    const block = blocks[at];
    void this.dropPictures({
      files,
      blockId: block?.id ?? null,
      field: block ? pictureFieldOf(block) : null,
      at: at + 1,
    });
    return true;
  }

  /** Something of a document or of a web page: looked at before it becomes blocks. Says whether there was any. */
  lookAt(html: string): boolean {
    if (!html.trim() || !this.register.mayWrite()) return false;
    this.pasted.set(html);
    return true;
  }
}
