import {
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
import { Router } from '@angular/router';
import type { PictureView } from '@domatium/contracts';
import { readablePath } from '@domatium/core/address';
import { blockTypes, differenceWords, type BlockType } from '@domatium/core/blocks';
import { documentFindingsOf, type Finding } from '@domatium/core/checks';
import { exampleBlock, pageReferencesOf, type FieldValue, type LinkTarget } from '@domatium/core/document';
import type { RenderWorld } from '@domatium/core/render';
import { DESCRIPTION_SHOWN, TITLE_SHOWN } from '@domatium/core/metadata';
import type { PictureId } from '@domatium/core/plan';
import { lengthOf } from '@domatium/core/text';
import { isThemeKey, type ThemeKey } from '@domatium/core/theme';
import { writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../register/register.service';
import { PlanDrawing } from '../releases/plan-drawing';
import { api, Api, Refusal } from '../shared/api';
import { PresenceService } from '../presence/presence.service';
import { BlockFields } from './block-fields';
import { BlockDrag, type Dragged } from './block-drag';
import { Canvas, type CanvasWidth, type Seen } from './canvas';
import { ChosenBlocks, newId } from './chosen-blocks';
import { DraftService } from './draft.service';
import { Outline } from './outline';
import { ReadAloud } from './read-aloud';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';

const WAYS: readonly { readonly seen: Seen; readonly label: string }[] = [
  { seen: 'plain', label: 'As most see it' },
  { seen: 'large', label: 'Text twice as large' },
  { seen: 'no-pictures', label: 'Without pictures' },
  { seen: 'aloud', label: 'As it is read aloud' },
];
/** A picture that never arrives: its description stands there. */
const LOST = 'data:image/png,';
const HOW = { changed: 'differs', 'only-in-first': 'only in mine', 'only-in-second': 'only in the other' };

/** The editor: outline, canvas and margin over the page's own rail. */
@Component({
  selector: 'dm-editor',
  imports: [Outline, Canvas, BlockFields, PlanDrawing, ReadAloud, NgbDropdownModule],
  providers: [DraftService, BlockDrag, ChosenBlocks],
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
  private readonly client = inject(Api);
  private readonly router = inject(Router);
  private readonly title = inject(Title);
  protected readonly pictures = signal<readonly PictureView[]>([]);
  protected readonly choice = inject(ChosenBlocks);
  protected readonly chosen = this.choice.main;
  private readonly drag = inject(BlockDrag);
  private readonly canvases = viewChildren(Canvas);
  protected readonly width = signal<CanvasWidth | 'both'>('wide');
  /** How the page is looked at: as most see it, or as some do. */
  protected readonly seen = signal<Seen>('plain');
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
  private readonly site = computed(
    () => this.service.head()?.sites.find(({ id }) => id === this.draft.draft()?.siteId) ?? null,
  );
  protected readonly theme = computed<ThemeKey>(() => {
    const theme = this.site()?.theme;
    return isThemeKey(theme) ? theme : 'ferry';
  });
  protected readonly brand = computed(() => this.site()?.brand ?? '');
  protected readonly chosenBlock = computed(
    () => this.document()?.blocks.find(({ id }) => id === this.chosen()) ?? null,
  );
  protected readonly definition = computed(() => {
    const block = this.chosenBlock();
    return block ? blockTypes[block.type] : null;
  });
  protected readonly findings = computed<Finding[]>(() => {
    const document = this.document();
    return document ? documentFindingsOf(document) : [];
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
        return `kept ${time}`;
      case 'offline':
        return 'no connection: kept on this machine, sent as soon as it is back';
      case 'refused':
        return 'not kept';
      default:
        return 'keeping…';
    }
  });
  protected readonly titleLength = computed(() => lengthOf(this.document()?.metadata.title ?? ''));
  protected readonly descriptionLength = computed(() => lengthOf(this.document()?.metadata.description ?? ''));
  protected readonly shown = { title: TITLE_SHOWN, description: DESCRIPTION_SHOWN };

  /** What the canvas needs to know of the world; the same shape the renderer on the server gets. */
  protected readonly links = computed<RenderWorld>(() => {
    const document = this.shownDocument();
    const pages = new Map((document ? pageReferencesOf(document) : []).map((id) => [id, this.service.page(id)]));
    const pictures = new Map(this.pictures().map((picture) => [picture.id, picture]));
    const own = this.draft.draft()?.host;
    const isWithout = this.seen() === 'no-pictures';
    return {
      hrefOf: (target: LinkTarget) => {
        if (target.kind === 'outside') return target.url;
        const page = pages.get(target.pageId);
        return page ? (page.host === own ? page.path : `//${page.host}${page.path}`) : null;
      },
      pictureOf: (id: PictureId) => {
        const picture = pictures.get(id);
        return picture && isWithout
          ? { ...picture, variants: picture.variants.map(({ width }) => ({ width, src: LOST })) }
          : (picture ?? null);
      },
    };
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
    this.drag.dropped.pipe(takeUntilDestroyed()).subscribe(({ what, at }) => this.drop(what, at));
    effect(() => this.title.setTitle(`${this.draft.draft()?.name ?? 'Page'} · Domatium`));
  }

  private async load(portfolioId: number, pageId: number): Promise<void> {
    try {
      this.pictures.set(await this.client.call(api.pictures, { params: { portfolioId } }));
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
    setTimeout(() => this.canvases()[0]?.startTyping(blockId));
  }

  protected toOutline(blockId: string): void {
    document.querySelector<HTMLElement>(`[data-block="${blockId}"]`)?.focus();
  }

  protected setMetadata(key: 'title' | 'description', value: string): void {
    this.draft.edit({ kind: 'metadata', key, value });
  }

  /** A new block, before the one that is at `at` or behind the chosen one. */
  protected insert(type: BlockType, at: number | null = null): void {
    const blocks = this.document()?.blocks ?? [];
    const after = blocks.findIndex(({ id }) => id === this.chosen());
    const block = exampleBlock(type, newId());
    if (this.draft.edit({ kind: 'insert', at: at ?? (after < 0 ? blocks.length : after + 1), block }))
      this.choice.choose(block.id);
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
    if (event.type === 'paste') {
      if (!this.choice.pasteFrom(event.clipboardData, portfolioId)) return;
    } else {
      const isText = target?.ownerDocument.getSelection()?.isCollapsed === false;
      if (isText || !this.choice.blocks().length) return;
      this.choice.copyTo(event.clipboardData, portfolioId);
      if (event.type === 'cut') this.choice.remove();
    }
    event.preventDefault();
  }

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
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
