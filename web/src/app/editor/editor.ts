import {
  ApplicationRef,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  signal,
  untracked,
  viewChildren,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import type { BlockType } from '@domatium/core/blocks';
import { exampleBlock, newBlock, placeEdit, spotAt, type FieldValue, type Spot } from '@domatium/core/document';
import { filter } from 'rxjs';
import { Refusal } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { StockService } from '../hub/stock.service';
import { PicturesService } from '../pictures/pictures.service';
import { PresenceService } from '../presence/presence.service';
import { onKeys } from '../shared/keys';
import { PlanDrawing } from '../shared/plan-drawing';
import { TroubleBar } from '../troubles/trouble-bar';
import { BlockDrag, type Dragged } from './block-drag';
import { BlockMargin } from './block-margin';
import { Canvas, type CanvasWidth } from './canvas';
import { ChosenBlocks, newId } from './chosen-blocks';
import { ConflictBar } from './conflict-bar';
import { DraftFindings } from './draft-findings';
import { DraftService } from './draft.service';
import { EditorClipboard } from './editor-clipboard';
import { EditorHead, type EditorPanel } from './editor-head';
import { HistoryPanel } from './history-panel';
import { ImportPanel } from './import-panel';
import { Outline } from './outline';
import { PageWorld } from './page-world';
import { PageReview } from '../remarks/page-review';
import { OverriddenCard } from './overridden-card';
import { PhonePanel } from './phone-panel';
import { ReadAloud } from './read-aloud';
import { SourcePanel } from './source-panel';
import { StartPanel } from './start-panel';
import { say } from '@domatium/core/words/editor';
import { say as common } from '@domatium/core/words/common';

/** The editor: outline, canvas and margin over the page's own rail. */
@Component({
  selector: 'dm-editor',
  imports: [
    BlockMargin,
    Canvas,
    ConflictBar,
    EditorHead,
    HistoryPanel,
    ImportPanel,
    Outline,
    OverriddenCard,
    PageReview,
    PhonePanel,
    PlanDrawing,
    ReadAloud,
    SourcePanel,
    StartPanel,
    TroubleBar,
  ],
  providers: [DraftService, BlockDrag, ChosenBlocks, PageWorld, DraftFindings, EditorClipboard],
  templateUrl: './editor.html',
  styleUrl: './editor.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Editor {
  protected readonly say = say;
  readonly portfolioId = input.required<string>();
  readonly pageId = input.required<string>();
  readonly block = input<string>();
  private readonly service = inject(RegisterService);
  protected readonly draft = inject(DraftService);
  protected readonly presence = inject(PresenceService);
  private readonly app = inject(ApplicationRef);
  private readonly place = inject(PlaceService);
  private readonly title = inject(Title);
  private readonly pictures = inject(PicturesService);
  private readonly stock = inject(StockService);
  protected readonly world = inject(PageWorld);
  protected readonly findings = inject(DraftFindings);
  protected readonly clipboard = inject(EditorClipboard);
  protected readonly choice = inject(ChosenBlocks);
  protected readonly chosen = this.choice.main;
  private readonly drag = inject(BlockDrag);
  private readonly notices = inject(NoticeService);
  private readonly canvases = viewChildren(Canvas);
  protected readonly width = signal<CanvasWidth | 'both'>('wide');
  protected readonly widths = computed<readonly CanvasWidth[]>(() => {
    const width = this.width();
    return width === 'both' ? ['wide', 'narrow'] : [width];
  });
  protected readonly panel = signal<EditorPanel | null>(null);
  protected readonly trouble = signal<string | null>(null);
  protected readonly document = this.draft.document;
  /** Which of two people's texts is on the canvas while one has to choose. */
  protected readonly look = signal<'mine' | 'theirs'>('mine');
  protected readonly shownDocument = computed(() =>
    this.look() === 'theirs' ? (this.draft.other()?.document ?? this.document()) : this.document(),
  );
  protected readonly page = computed(() => this.service.page(Number(this.pageId())) ?? null);

  constructor() {
    effect(() => this.service.open(Number(this.portfolioId())));
    effect((onCleanup) => {
      const pageId = Number(this.pageId());
      onCleanup(untracked(() => this.presence.watch(pageId, true)));
    });
    effect(() => {
      const [portfolioId, pageId] = [Number(this.portfolioId()), Number(this.pageId())];
      untracked(() => void this.load(portfolioId, pageId));
    });
    effect(() => {
      const block = this.block();
      if (block) this.choice.choose(block);
    });
    effect(() => this.world.document.set(this.shownDocument()));
    effect(() => this.presence.at(this.chosen()));
    this.draft.merged.pipe(takeUntilDestroyed()).subscribe((text) => this.notices.say({ kind: 'done', text }));
    this.service.events
      .pipe(
        filter(({ kind, pageIds }) => kind === 'draft' && !!pageIds?.includes(Number(this.pageId()))),
        takeUntilDestroyed(),
      )
      .subscribe(({ version }) => void this.draft.follow(version));
    this.drag.dropped.pipe(takeUntilDestroyed()).subscribe(({ what, spot }) => this.drop(what, spot));
    effect(() => this.title.setTitle(say.domatium(this.draft.draft()?.name ?? common.page)));
  }

  private async load(portfolioId: number, pageId: number): Promise<void> {
    try {
      void this.stock.open(portfolioId);
      await this.pictures.open(portfolioId);
      await this.draft.open(portfolioId, pageId);
      if (!this.block()) this.choice.choose(this.document()?.blocks[0]?.id ?? 'page');
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
    }
  }

  protected setIn({ blockId, field, value }: { blockId: string; field: string; value: FieldValue }): void {
    this.draft.edit({ kind: 'set', blockId, field, value });
  }

  /** What was dragged stands where it was dropped. */
  private drop(what: Dragged, spot: Spot): void {
    const document = this.document();
    const block =
      what.kind === 'new' ? exampleBlock(what.type, newId()) : document?.blocks.find(({ id }) => id === what.blockId);
    const edit = document && block && placeEdit(document, block, spot);
    if (edit) this.draft.edit(edit);
    if (block) this.choice.choose(block.id);
  }

  /** From the outline onto the page, to type there; back with Escape. */
  protected type(blockId: string): void {
    this.choice.choose(blockId);
    // The canvas shows what was done before; the next key is text already.
    this.app.tick();
    this.canvases()[0]?.startTyping(blockId);
  }

  protected toOutline(blockId: string): void {
    document.querySelector<HTMLElement>(`[data-block="${blockId}"]`)?.focus();
  }

  /** A new block behind the chosen one. */
  protected insert(type: BlockType): void {
    this.choice.put([exampleBlock(type, newId())]);
  }

  /** A piece linked, or its blocks as a copy with a life of its own. */
  protected insertPiece({ id, how }: { readonly id: number; readonly how: 'linked' | 'loose' }): void {
    const held = this.world.piece(id);
    this.choice.put(
      how === 'linked'
        ? [newBlock('piece', newId(), { piece: { id } })]
        : held.map((block) => ({ ...block, id: newId() })),
    );
  }

  /** One step up or down, or as far as the outline was dragged. */
  protected move(blockId: string, by: number): void {
    if (!this.choice.ids().has(blockId)) this.choice.choose(blockId);
    if (by === 1 || by === -1) this.choice.move(by);
    else {
      const document = this.document();
      const from = document?.blocks.findIndex(({ id }) => id === blockId) ?? -1;
      const block = document?.blocks[from];
      if (!document || !block) return;
      const edit = placeEdit(document, block, spotAt(document.blocks.toSpliced(from, 1), from + by));
      if (edit) this.draft.edit(edit);
    }
  }

  /** Moved from the outline: the row is the same one, elsewhere, and the hand stays on it. */
  protected moveInOutline({ blockId, by }: { blockId: string; by: number }): void {
    this.move(blockId, by);
    setTimeout(() => this.toOutline(blockId));
  }

  protected async release(): Promise<void> {
    await this.draft.keep();
    if (this.draft.isUnsaved()) return;
    await this.place.toPages(this.portfolioId(), { page: this.pageId(), panel: 'release' });
  }

  protected back(): void {
    void this.place.toPages(this.portfolioId(), { page: this.pageId() });
  }

  /** Keeps before one goes; what can't be kept now stays on this machine and is sent when the page is opened again. */
  async leave(): Promise<boolean> {
    await this.draft.keep();
    void this.service.load();
    return true;
  }

  @HostListener('document:copy', ['$event'])
  @HostListener('document:cut', ['$event'])
  @HostListener('document:paste', ['$event'])
  protected onClipboard(event: ClipboardEvent): void {
    this.clipboard.take(event);
  }

  private readonly keys = onKeys({
    save: () => void this.draft.keep(),
    undo: () => this.draft.undo(),
    redo: () => this.draft.redo(),
    moveUp: (event) => this.moveChosen(event, -1),
    moveDown: (event) => this.moveChosen(event, 1),
    beside: () => this.choice.stand('beside'),
    alone: () => this.choice.stand('alone'),
  });

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    if (!this.panel() && this.clipboard.pasted() === null) this.keys(event);
  }

  /** In the outline the keys belong to its rows. */
  private moveChosen(event: KeyboardEvent, by: 1 | -1): boolean {
    if (this.chosen() === 'page' || (event.target as HTMLElement).closest?.('dm-outline')) return false;
    this.move(this.chosen(), by);
    return true;
  }
}
