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
import { filter } from 'rxjs';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { readablePath } from '@domatium/core/address';
import { blockTypes, type BlockType } from '@domatium/core/blocks';
import { documentFindingsOf, draftLinkFindingsOf, mendsOf, type Finding } from '@domatium/core/checks';
import { differenceWords, exampleBlock, newBlock, pictureFieldOf, type FieldValue } from '@domatium/core/document';
import type { PictureId } from '@domatium/core/plan';
import type { PageId } from '@domatium/core/plan';
import { DAY, instantOfWall, later, wallOf, writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { PlanDrawing } from '../shared/plan-drawing';
import { PicturesService } from '../pictures/pictures.service';
import { Refusal } from '../hub/api';
import { asHtml } from '../source/html-tree';
import { SessionService } from '../hub/session.service';
import { MomentField } from '../shared/moment-field';
import { NoticeService } from '../hub/notices';
import { TroubleBar } from '../troubles/trouble-bar';
import { StockService } from '../hub/stock.service';
import { PresenceService } from '../presence/presence.service';
import { BlockFields } from './block-fields';
import { BlockDrag, type Dragged } from './block-drag';
import { Canvas, type CanvasWidth, type DroppedPictures } from './canvas';
import { WAYS } from './canvas-sheets';
import { ChosenBlocks, newId } from './chosen-blocks';
import { DraftService } from './draft.service';
import { conflictWords } from './conflict-words';
import { saveFolder } from './export-page';
import { HistoryPanel } from './history-panel';
import { ImportPanel } from './import-panel';
import { Outline } from './outline';
import { PageFields } from './page-fields';
import { PageWorld } from './page-world';
import { PhonePanel } from './phone-panel';
import { SourcePanel } from './source-panel';
import { StartPanel } from './start-panel';
import { ReadAloud } from './read-aloud';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';

const HOW = { changed: 'differs', 'only-in-first': 'only in mine', 'only-in-second': 'only in the other' };

/** The editor: outline, canvas and margin over the page's own rail. */
@Component({
  selector: 'dm-editor',
  imports: [
    TroubleBar,
    Outline,
    Canvas,
    BlockFields,
    HistoryPanel,
    ImportPanel,
    MomentField,
    PageFields,
    PhonePanel,
    PlanDrawing,
    ReadAloud,
    SourcePanel,
    StartPanel,
    NgbDropdownModule,
    RouterLink,
  ],
  providers: [DraftService, BlockDrag, ChosenBlocks, PageWorld],
  templateUrl: './editor.html',
  styleUrl: './editor.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Editor {
  readonly portfolioId = input.required<string>();
  readonly pageId = input.required<string>();
  readonly block = input<string>();
  protected readonly service = inject(RegisterService);
  protected readonly draft = inject(DraftService);
  protected readonly presence = inject(PresenceService);
  private readonly app = inject(ApplicationRef);
  private readonly router = inject(Router);
  private readonly title = inject(Title);
  private readonly pictures = inject(PicturesService);
  private readonly stock = inject(StockService);
  protected readonly world = inject(PageWorld);
  protected readonly choice = inject(ChosenBlocks);
  protected readonly chosen = this.choice.main;
  private readonly drag = inject(BlockDrag);
  private readonly notices = inject(NoticeService);
  private readonly session = inject(SessionService);
  private readonly canvases = viewChildren(Canvas);
  protected readonly width = signal<CanvasWidth | 'both'>('wide');
  /** How the page is looked at: as most see it, or as some do. */
  protected readonly seen = this.world.seen;
  protected readonly ways = WAYS;
  protected readonly way = computed(() => WAYS.find(({ seen }) => seen === this.seen())?.label ?? '');
  protected readonly widths = computed<readonly CanvasWidth[]>(() => {
    const width = this.width();
    return width === 'both' ? ['wide', 'narrow'] : [width];
  });
  protected readonly trouble = signal<string | null>(null);

  protected readonly document = this.draft.document;
  /** Which of two people's texts is on the canvas while one has to choose. */
  protected readonly look = signal<'mine' | 'theirs'>('mine');
  protected readonly shownDocument = computed(() =>
    this.look() === 'theirs' ? (this.draft.other()?.document ?? this.document()) : this.document(),
  );
  protected readonly differences = computed(() => {
    const [mine, theirs] = [this.document(), this.draft.other()?.document];
    return mine && theirs ? differenceWords(mine, theirs, HOW) : [];
  });
  protected readonly page = computed(() => this.service.page(Number(this.pageId())) ?? null);
  protected readonly theme = this.world.theme;
  protected readonly brand = computed(() => this.world.site()?.brand ?? '');
  protected readonly chosenBlock = computed(
    () => this.document()?.blocks.find(({ id }) => id === this.chosen()) ?? null,
  );
  protected readonly definition = computed(() => {
    const block = this.chosenBlock();
    return block ? blockTypes[block.type] : null;
  });
  protected readonly findings = computed<Finding[]>(() => {
    const document = this.document();
    return document
      ? [
          ...documentFindingsOf(document),
          ...draftLinkFindingsOf(document, this.draft.pageId() as PageId, this.world.known),
        ]
      : [];
  });
  protected readonly address = computed(() => {
    const draft = this.draft.draft();
    return draft ? draft.host + readablePath(draft.path) : '';
  });
  protected readonly revision = computed(() => {
    const draft = this.draft.draft();
    return draft ? (draft.latestRevision ?? 0) + 1 : 1;
  });
  protected readonly keptWords = computed(() => {
    const at = this.draft.keptAt();
    const time = at === null ? '' : writeInstant(at as Instant, this.service.zone(), this.service.now()).split(', ')[1];
    switch (this.draft.keeping()) {
      case 'kept':
        return `Saved ${time}`;
      case 'offline':
        return 'Offline. Saved on this device; it syncs when you reconnect';
      case 'refused':
        return 'Not saved';
      default:
        return 'Saving…';
    }
  });
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
    this.drag.dropped.pipe(takeUntilDestroyed()).subscribe(({ what, at }) => this.drop(what, at));
    effect(() => this.title.setTitle(`${this.draft.draft()?.name ?? 'Page'} · Domatium`));
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

  protected choose(which: 'mine' | 'theirs'): void {
    this.look.set('mine');
    this.draft.choose(which);
  }

  protected set({ field, value }: { field: string; value: FieldValue }): void {
    this.draft.edit({ kind: 'set', blockId: this.chosen(), field, value });
  }

  protected setIn({ blockId, field, value }: { blockId: string; field: string; value: FieldValue }): void {
    this.draft.edit({ kind: 'set', blockId, field, value });
  }

  /** What was dragged stands before the block that is at `at` now. */
  private drop(what: Dragged, at: number): void {
    const blocks = this.document()?.blocks ?? [];
    if (what.kind === 'new') return this.insert(what.type, at);
    const from = blocks.findIndex(({ id }) => id === what.blockId);
    const to = at > from ? at - 1 : at;
    if (from >= 0 && to !== from) this.draft.edit({ kind: 'move', blockId: what.blockId, to });
    this.choice.choose(what.blockId);
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

  /** What is worth knowing of the chosen block, beyond its fields. */
  protected readonly notes = computed(() => {
    const block = this.chosenBlock();
    return (block && blockTypes[block.type].notes?.(block.fields)) ?? [];
  });
  protected readonly isNaming = signal(false);
  /** What needs more room than the margin. */
  protected readonly panel = signal<'history' | 'start' | 'source' | 'import' | 'phone' | null>(null);
  /** HTML that was pasted and is looked at before it is put on the page. */
  protected readonly pasted = signal<string | null>(null);
  /** Blocks with findings, by the worse of them. */
  protected readonly marks = computed(() => {
    const marks = new Map<string, Finding['severity']>();
    for (const { place, severity } of this.findings())
      if (place && 'blockId' in place && marks.get(place.blockId) !== 'blocks') marks.set(place.blockId, severity);
    return marks;
  });
  protected readonly thenLocal = computed(() => {
    const at = this.world.at();
    return at === null ? null : wallOf(at, this.service.zone());
  });
  protected readonly atWords = computed(() => {
    const at = this.world.at();
    return at === null ? '' : `, ${writeInstant(at, this.service.zone(), this.service.now())}`;
  });

  protected seeAt(local: string | null): void {
    if (local === 'start') return this.world.at.set(later(this.service.now(), 7 * DAY));
    const at = local === null ? null : instantOfWall({ local, zone: this.service.zone() });
    if (local === null || at !== null) this.world.at.set(at);
  }

  protected mends(finding: Finding) {
    const document = this.document();
    return document ? mendsOf(document, finding) : [];
  }

  protected readonly conflictWords = conflictWords;

  protected closeImport(): void {
    this.panel.set(null);
    this.pasted.set(null);
  }

  protected async exportFolder(): Promise<void> {
    const document = this.document();
    if (!document) return;
    const { scheme = 'https' } = this.session.session()?.style ?? {};
    const host = this.draft.draft()?.host ?? '';
    await saveFolder(this.draft.draft()?.name ?? 'page', {
      document,
      theme: this.theme(),
      brand: this.brand(),
      siteCss: this.world.siteCss(),
      world: this.world.world(),
      portfolioId: Number(this.portfolioId()),
      outside: (href) => (href.startsWith('//') ? `${scheme}:${href}` : `${scheme}://${host}${href}`),
    });
    this.notices.say({ kind: 'done', text: 'The page is in your downloads, as a folder that opens from disk.' });
  }

  /** The chosen blocks go into the stock, and are used from there, linked. */
  protected async keepPiece(name: string): Promise<void> {
    if (!name.trim()) return;
    if (await this.choice.keepPiece(name.trim(), Number(this.portfolioId()))) this.isNaming.set(false);
  }

  /** A new block, before the one that is at `at` or behind the chosen one. */
  protected insert(type: BlockType, at: number | null = null): void {
    const block = exampleBlock(type, newId());
    if (at === null) this.choice.put([block]);
    else if (this.draft.edit({ kind: 'insert', at, block })) this.choice.choose(block.id);
  }

  /** A piece linked, or its blocks as a copy with a life of its own. */
  protected insertPiece({ id, how }: { readonly id: number; readonly how: 'linked' | 'loose' }): void {
    const held = this.world.held()?.pieces.find((piece) => piece.id === id)?.blocks ?? [];
    this.choice.put(
      how === 'linked'
        ? [newBlock('piece', newId(), { piece: { id } })]
        : held.map((block) => ({ ...block, id: newId() })),
    );
  }

  /** A picture from outside, dropped on a block or between two: brought in, and put where it was dropped. */
  protected async dropPictures({ files, blockId, field, at }: DroppedPictures): Promise<void> {
    let [place, behind] = [blockId && field ? { blockId, field } : null, at];
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
        if (this.draft.edit({ kind: 'insert', at: behind++, block })) this.choice.choose(block.id);
      }
      place = null;
    }
  }

  /** One step up or down, or as far as the outline was dragged. */
  protected move(blockId: string, by: number): void {
    if (!this.choice.ids().has(blockId)) this.choice.choose(blockId);
    if (by === 1 || by === -1) this.choice.move(by);
    else {
      const from = (this.document()?.blocks ?? []).findIndex(({ id }) => id === blockId);
      this.draft.edit({ kind: 'move', blockId, to: from + by });
    }
  }

  /** Moved from the outline: the row is the same one, elsewhere, and the hand stays on it. */
  protected moveInOutline({ blockId, by }: { blockId: string; by: number }): void {
    this.move(blockId, by);
    setTimeout(() => this.toOutline(blockId));
  }

  protected goTo(place: Finding['place']): void {
    if (place && 'blockId' in place) this.choice.choose(place.blockId);
    else if (place) this.choice.choose('page');
  }

  protected async release(): Promise<void> {
    await this.draft.keep();
    await this.router.navigate(['/portfolios', this.portfolioId(), 'pages'], {
      queryParams: { page: this.pageId(), panel: 'release' },
    });
  }

  protected back(): void {
    void this.router.navigate(['/portfolios', this.portfolioId(), 'pages'], { queryParams: { page: this.pageId() } });
  }

  /** Keeps before one goes; what can't be kept now stays on this machine and is sent when the page is opened again. */
  async leave(): Promise<boolean> {
    await this.draft.keep();
    void this.service.load();
    return true;
  }

  /** Blocks go to the clipboard and come from it, unless a text is meant. */
  @HostListener('document:copy', ['$event'])
  @HostListener('document:cut', ['$event'])
  @HostListener('document:paste', ['$event'])
  protected onClipboard(event: ClipboardEvent): void {
    const target = event.target as Element | null;
    if (target?.closest?.('input, textarea, .ProseMirror, [role="dialog"]')) return;
    const portfolioId = Number(this.portfolioId());
    const files = [...(event.clipboardData?.files ?? [])].filter(({ type }) => type.startsWith('image/'));
    if (event.type === 'paste' && files.length) {
      const block = this.chosenBlock();
      const field = block && pictureFieldOf(block);
      const at = (this.document()?.blocks ?? []).findIndex(({ id }) => id === this.chosen()) + 1;
      void this.dropPictures({ files, blockId: block?.id ?? null, field, at });
    } else if (event.type === 'paste') {
      if (!this.choice.pasteFrom(event.clipboardData, portfolioId) && !this.pasteHtml(event.clipboardData)) return;
    } else {
      const isText = target?.ownerDocument.getSelection()?.isCollapsed === false;
      if (isText || !this.choice.blocks().length) return;
      this.choice.copyTo(event.clipboardData, portfolioId);
      if (event.type === 'cut') this.choice.remove();
    }
    event.preventDefault();
  }

  /** Something of a document or of a web page: looked at before it becomes blocks. Says whether there was any. */
  private pasteHtml(clipboard: DataTransfer | null): boolean {
    const html = clipboard?.getData('text/html') || asHtml(clipboard?.getData('text/plain') ?? '');
    if (!html.trim() || !this.service.mayWrite()) return false;
    this.pasted.set(html);
    this.panel.set('import');
    return true;
  }

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    if (this.panel()) return;
    const key = event.key.toLowerCase();
    const chosen = this.chosenBlock()?.id;
    const isInOutline = (event.target as HTMLElement).closest?.('dm-outline') !== null;
    if (event.altKey && chosen && !isInOutline && (key === 'arrowup' || key === 'arrowdown'))
      this.move(chosen, key === 'arrowup' ? -1 : 1);
    else if (!(event.ctrlKey || event.metaKey)) return;
    else if (key === 's') void this.draft.keep();
    else if (key === 'z' && event.shiftKey) this.draft.redo();
    else if (key === 'z') this.draft.undo();
    else if (key === 'y') this.draft.redo();
    else return;
    event.preventDefault();
  }
}
