import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { blockWords, MAX_BLOCKS, type Block, type PageDocument } from '@domatium/core/document';
import type { PictureId } from '@domatium/core/plan';
import { blocksFromHtml } from '@domatium/core/source';
import { BringIn } from '../pictures/bring-in';
import { PicturesService } from '../pictures/pictures.service';
import { Uploads } from '../pictures/uploads';
import { PreviewFrame } from '../shared/preview-frame';
import { treeOfHtml } from '../source/html-tree';
import { ChosenBlocks, newId } from './chosen-blocks';
import { DraftService } from './draft.service';
import { PageWorld } from './page-world';
import { Panel } from './panel';
import { say } from '@domatium/core/words/editor';
import { say as common } from '@domatium/core/words/common';

/** HTML that was pasted, or a file that is brought in: cleaned into blocks, shown first, with its pictures. */
@Component({
  selector: 'dm-import-panel',
  imports: [Panel, PreviewFrame, BringIn, Uploads],
  templateUrl: './import-panel.html',
  styleUrl: './import-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ImportPanel {
  protected readonly say = say;
  protected readonly common = common;
  /** What was pasted; a file is asked for where there is nothing. */
  readonly pasted = input<string | null>(null);
  readonly closed = output();
  protected readonly draft = inject(DraftService);
  protected readonly world = inject(PageWorld);
  private readonly choice = inject(ChosenBlocks);
  private readonly pictures = inject(PicturesService);
  private readonly html = signal<string | null>(null);
  private readonly files = signal<readonly File[]>([]);
  protected readonly isBusy = signal(false);
  protected readonly trouble = signal<string | null>(null);
  protected readonly isPage = computed(() => this.pasted() === null);
  /** As many blocks find a place behind those that are there, or in their place. */
  private readonly room = computed(() =>
    this.isPage() ? MAX_BLOCKS : MAX_BLOCKS - (this.draft.document()?.blocks.length ?? 0),
  );
  protected readonly read = computed(() => {
    const html = this.pasted() ?? this.html();
    return html === null ? null : blocksFromHtml(treeOfHtml(html), newId, this.isPage(), this.room());
  });
  protected readonly document = computed<PageDocument | null>(() => {
    const read = this.read();
    return read && { metadata: { title: read.title, description: read.description }, blocks: read.blocks };
  });
  /** Pictures the HTML names, and whether their files were brought along. */
  protected readonly named = computed(() =>
    (this.read()?.pictures ?? []).map((picture) => ({ ...picture, file: this.fileFor(picture.src) })),
  );
  protected readonly missing = computed(() => this.named().filter(({ file }) => !file).length);
  protected readonly wordsOf = blockWords;

  protected async take(files: readonly File[]): Promise<void> {
    this.trouble.set(null);
    const page = files.find(({ name, type }) => /\.x?html?$/i.test(name) || type === 'text/html');
    if (page) this.html.set(await page.text());
    else if (!this.html()) this.trouble.set(say.noneIsAnHtmlFile);
    this.files.update((all) => [...all, ...files.filter(({ type }) => type.startsWith('image/'))]);
  }

  /** A picture is found by the end of its address, or is written into the HTML itself. */
  private fileFor(src: string): File | null {
    const name = decodeURIComponent(src.split(/[?#]/)[0]?.split('/').at(-1) ?? '').toLowerCase();
    return this.files().find((file) => file.name.toLowerCase() === name) ?? fileOfData(src);
  }

  protected async put(how: 'behind' | 'instead'): Promise<void> {
    const read = this.read();
    const document = this.draft.document();
    if (!read || !document) return;
    this.isBusy.set(true);
    const blocks = await this.withPictures(read.blocks);
    this.isBusy.set(false);
    if (how === 'behind') this.choice.put(blocks);
    else {
      const { title, description } = document.metadata;
      const metadata = {
        ...document.metadata,
        title: read.title || title,
        description: read.description || description,
      };
      this.draft.edit({ kind: 'whole', document: { ...document, metadata, blocks } });
    }
    this.closed.emit();
  }

  private async withPictures(blocks: readonly Block[]): Promise<Block[]> {
    const brought = new Map<string, { pictureId: PictureId; description: string; isDecorative: boolean }>();
    for (const { blockId, file, description } of this.named()) {
      const received = file && (await this.pictures.bring(file));
      if (received?.picture)
        brought.set(blockId, {
          pictureId: received.picture.id as PictureId,
          description: description || received.picture.description,
          isDecorative: false,
        });
    }
    return blocks.map((block) => {
      const picture = brought.get(block.id);
      return picture ? { ...block, fields: { ...block.fields, picture } } : block;
    });
  }
}

/** A picture that is written into an address (RFC 2397), as a file. */
function fileOfData(src: string): File | null {
  const [, type = '', text = ''] = /^data:(image\/[a-z+]+);base64,(.+)$/i.exec(src) ?? [];
  if (!type) return null;
  try {
    const bytes = Uint8Array.from(atob(text), (char) => char.charCodeAt(0));
    return new File([bytes], `pasted.${type.slice(6).replace('+xml', '')}`, { type });
  } catch {
    return null;
  }
}
