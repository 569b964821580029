import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
  type OnDestroy,
  type AfterViewInit,
} from '@angular/core';
import type { FieldValue, PageDocument, Spot } from '@domatium/core/document';
import type { PictureId } from '@domatium/core/plan';
import type { RenderWorld } from '@domatium/core/render';
import type { Theme } from '@domatium/core/theme';
import { RegisterService } from '../hub/register.service';
import { filesPlace, ownCssOf } from '../shared/preview-frame';
import { inertMarkup } from '../shared/trusted';
import { BlockDrag, type DropPlace } from './block-drag';
import { CanvasFrame } from './canvas-frame';
import { BLOCK, CanvasPlaces, type Seam } from './canvas-places';
import { sheetsOf, type Seen, type Sheets } from './canvas-sheets';
import { FileDrop, type DroppedPictures } from './file-drop';
import { FocusFirst } from '../shared/focus-first';
import { PictureField } from './picture-field';
import { FormatBar } from './format-bar';
import { LinkField } from './link-field';
import { EditorClipboard } from './editor-clipboard';
import { TextPaste } from './text-paste';
import { OwnHtmlService } from './own-html.service';
import { OwnHtmlRuns } from './own-html-runs';
import { TextOnPage } from './text-on-page';
import { say } from '@domatium/core/words/editor';

/** A chosen block of which less is in view is scrolled into it, in pixels of the page. */
const LEAST_SEEN = 100;

export const WIDTHS = { wide: 1160, narrow: 390 } as const;
export type CanvasWidth = keyof typeof WIDTHS;

/** The true page from the true renderer, in a frame of the same origin without scripts, with what stands over it. */
@Component({
  selector: 'dm-canvas',
  imports: [FormatBar, LinkField, FocusFirst, PictureField],
  templateUrl: './canvas.html',
  styleUrl: './canvas.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Canvas implements AfterViewInit, OnDestroy, DropPlace {
  protected readonly say = say;
  readonly document = input.required<PageDocument>();
  readonly theme = input.required<Theme>();
  readonly brand = input.required<string>();
  readonly chosen = input<string | null>(null);
  /** All that are chosen, that one among them. */
  readonly all = input<ReadonlySet<string>>(new Set());
  readonly width = input<CanvasWidth>('wide');
  readonly links = input.required<RenderWorld>();
  /** Own CSS of the site. */
  readonly siteCss = input('');
  /** Where its files lie. */
  readonly files = input(filesPlace(inject(RegisterService).portfolioId()));
  /** Whether what is shown may be changed here. */
  readonly mayEdit = input(false);
  readonly seen = input<Seen>('plain');
  /** Blocks with findings: marks stand level with them. */
  readonly marks = input<ReadonlyMap<string, 'blocks' | 'worth-fixing'>>(new Map());
  readonly choose = output<string>();
  readonly edit = output<{ readonly blockId: string; readonly field: string; readonly value: FieldValue }>();
  /** The person has done typing and is back at the block. */
  readonly typed = output<string>();
  /** Keys pressed in the frame are heard by nobody else. */
  readonly key = output<KeyboardEvent>();
  readonly clipboard = output<ClipboardEvent>();
  /** Pictures from outside were dropped on the page. */
  readonly pictures = output<DroppedPictures>();

  protected readonly drag = inject(BlockDrag, { optional: true });
  private readonly ownHtml = inject(OwnHtmlService);
  private readonly paste = inject(TextPaste);
  /** What comes onto a page by the clipboard, where there is a page around. */
  private readonly around = inject(EditorClipboard, { optional: true });
  private readonly frame = viewChild.required<ElementRef<HTMLIFrameElement>>('frame');
  private readonly layer = viewChild.required<ElementRef<HTMLElement>>('layer');
  private readonly field = viewChild.required<ElementRef<HTMLElement>>('field');
  private readonly room = signal({ width: 700, height: 600 });
  private readonly isReady = signal(false);
  protected readonly handle = signal<{ x: number; y: number } | null>(null);
  protected readonly levels = signal<readonly { id: string; x: number; y: number; severity: string }[]>([]);
  protected readonly drop = signal<Seam | null>(null);
  private readonly observer = new ResizeObserver(
    ([entry]) => entry && this.room.set({ width: entry.contentRect.width, height: entry.contentRect.height }),
  );

  /** What the rules are made of; typing changes none of it. */
  private readonly styled = computed(() => [this.theme(), this.seen(), this.mayEdit(), this.ownCss()]);
  private readonly ownCss = computed(() => ownCssOf(this.siteCss(), this.document()));

  protected readonly pageWidth = computed(() => WIDTHS[this.width()]);
  protected readonly scale = computed(() => Math.min(1, this.room().width / this.pageWidth()));
  protected readonly height = computed(() => this.room().height);

  constructor() {
    effect(() => {
      this.styled();
      if (this.isReady()) untracked(() => this.content.write(this.sheets()));
    });
    effect(() => {
      const [brand, links] = [this.brand(), this.links()];
      if (this.isReady()) untracked(() => this.content.surround(brand, links));
    });
    effect(() => {
      const [document, links, ready] = [this.document(), this.links(), this.isReady()];
      if (ready) untracked(() => this.update(document, links));
    });
    effect(() => {
      const [chosen, all] = [this.chosen(), this.all()];
      this.document();
      if (this.isReady()) untracked(() => this.mark(chosen, all));
    });
    effect(() => {
      if (!this.mayEdit()) untracked(() => this.text.end());
    });
    effect(() => {
      this.marks();
      if (this.isReady()) untracked(() => this.placeHandle());
    });
    effect(() => {
      this.room();
      this.width();
      // After the frame has its new size.
      if (this.isReady()) setTimeout(() => this.placeHandle());
    });
  }

  ngAfterViewInit(): void {
    this.observer.observe(this.field().nativeElement);
    this.drag?.register(this);
    const frame = this.frame().nativeElement;
    frame.addEventListener('load', () => this.loaded());
    frame.srcdoc = inertMarkup(this.content.pageFor(this.document(), this.brand(), this.sheets(), this.links()));
  }

  ngOnDestroy(): void {
    this.text.end();
    this.runs.end();
    this.drag?.unregister(this);
    this.observer.disconnect();
  }

  private sheets(): Sheets {
    return sheetsOf(this.theme(), {
      ownCss: this.ownCss(),
      mayEdit: this.mayEdit(),
      seen: this.seen(),
      files: this.files(),
    });
  }

  private readonly places = new CanvasPlaces(
    () => this.frame().nativeElement,
    () => this.field().nativeElement,
    () => this.scale(),
  );

  private readonly runs = new OwnHtmlRuns(
    () => this.layer().nativeElement,
    this.places,
    (markup) => this.ownHtml.addressOf(markup),
  );
  private readonly content = new CanvasFrame(() => this.frame().nativeElement);
  protected readonly text = new TextOnPage({
    places: this.places,
    page: () => this.content.page,
    document: () => this.document(),
    mayEdit: () => this.mayEdit(),
    width: () => this.room().width,
    focus: () => this.frame().nativeElement.focus(),
    choose: (blockId) => this.choose.emit(blockId),
    edit: (edit) => this.edit.emit(edit),
    pasted: (editor, field, clipboard) => this.paste.into(editor, field, clipboard, this.around),
    shown: (id) => this.links().pictureOf(id as PictureId)?.variants[0]?.src ?? '',
    ended: (blockId) => {
      this.content.forget(blockId);
      this.update(this.document(), this.links());
    },
  });
  private readonly fileDrop = new FileDrop({
    places: this.places,
    document: () => this.document(),
    mayEdit: () => this.mayEdit(),
    show: (spot) => this.show(spot),
    dropped: (pictures) => this.pictures.emit(pictures),
  });

  /** The press that goes on began the typing. */
  private hasBegun = false;

  private loaded(): void {
    const { page } = this.content;
    if (!page) return;
    page.head.append(page.createElement('style'));
    page.addEventListener('pointerdown', (event) => this.pressed(event), true);
    page.addEventListener('click', (event) => event.preventDefault());
    page.addEventListener('pointerup', ({ clientX: left, clientY: top }) => {
      const hasBegun = this.hasBegun;
      this.hasBegun = false;
      // Behind what the browser makes of the press itself.
      if (hasBegun) setTimeout(() => this.text.pressedAt({ left, top }));
    });
    page.addEventListener('keydown', (event) => this.keyInFrame(event));
    for (const type of ['copy', 'cut', 'paste'] as const)
      page.addEventListener(type, (event) => this.clipboard.emit(event));
    this.fileDrop.listen(page);
    page.addEventListener('scroll', () => this.followScroll(), { passive: true });
    this.isReady.set(true);
  }

  /** Chooses the block that was pressed, and begins to type where the press was on a text. */
  private pressed(event: PointerEvent): void {
    this.hasBegun = false;
    const target = event.target as Element;
    const section = target.closest<HTMLElement>(BLOCK);
    if (!section || this.text.element?.contains(target)) return;
    const blockId = section.id.slice(2);
    this.text.end();
    this.choose.emit(blockId);
    const element = target.closest<HTMLElement>('[data-field]');
    if (!element || !this.mayEdit()) return;
    this.text.type(blockId, element);
    this.hasBegun = true;
  }

  /** Begins to type in the first text of a block, from the keyboard. */
  startTyping(blockId: string): void {
    this.text.start(blockId);
  }

  private keyInFrame(event: KeyboardEvent): void {
    const { blockId } = this.text;
    if (event.key === 'Escape' && blockId !== null) {
      this.text.end();
      this.typed.emit(blockId);
    } else this.key.emit(event);
  }

  /** Marks of findings level with their blocks, and the handle of the chosen one. */
  private placeHandle(): void {
    this.levels.set(this.places.levelsOf(this.marks()));
    this.runs.lay(this.content.page, this.scale(), this.chosen());
    this.handle.set(this.mayEdit() ? this.places.cornerOf(this.chosen()) : null);
  }

  private followScroll(): void {
    if (this.text.bar()) this.text.placeBar();
    this.placeHandle();
  }

  protected startDrag(event: PointerEvent): void {
    const blockId = this.chosen();
    if (blockId) this.drag?.start(event, { kind: 'block', blockId });
  }

  spotAt(clientX: number, clientY: number): Spot | null {
    return this.places.spotAt(clientX, clientY);
  }

  show(spot: Spot | null): void {
    this.drop.set(spot && this.places.seamOf(spot));
  }

  scrollAt(clientY: number): void {
    this.places.scrollAt(clientY);
  }

  private update({ blocks }: PageDocument, links: RenderWorld): void {
    if (!blocks.some(({ id }) => id === this.text.blockId)) this.text.end();
    if (!this.content.lay(blocks, links, this.text.element)) return;
    this.text.take(blocks);
    this.placeHandle();
  }

  private mark(chosen: string | null, all: ReadonlySet<string>): void {
    const { page } = this.content;
    for (const section of this.places.sections()) {
      const id = section.id.slice(2);
      const isChosen = id === chosen || all.has(id);
      if (isChosen !== section.classList.contains('is-chosen')) section.classList.toggle('is-chosen', isChosen);
      if (!section.className) section.removeAttribute('class');
    }
    const section = chosen ? page?.getElementById(`b-${chosen}`) : null;
    if (this.text.blockId !== chosen) this.text.end();
    const view = page?.defaultView;
    if (section && view) {
      const { top, bottom } = section.getBoundingClientRect();
      if (bottom < LEAST_SEEN || top > view.innerHeight - LEAST_SEEN) section.scrollIntoView({ block: 'nearest' });
    }
    this.placeHandle();
  }
}
