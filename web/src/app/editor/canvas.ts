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
import { blockTypes } from '@domatium/core/blocks';
import {
  fieldAt,
  pictureFieldOf,
  textFieldAt,
  type FieldValue,
  type LinkTarget,
  type PageDocument,
  type RichText,
} from '@domatium/core/document';
import { BARE_FRAME, contextOf, pageHtml, type RenderWorld } from '@domatium/core/render';
import type { Theme } from '@domatium/core/theme';
import { filesPlace, ownCssOf } from '../shared/preview-frame';
import { RegisterService } from '../hub/register.service';
import { CanvasPlaces } from './canvas-places';
import { sheetsOf, type Seen, type Sheets } from './canvas-sheets';
import { BlockDrag, type DropPlace } from './block-drag';
import { FormatBar } from './format-bar';
import { InPlace } from './in-place';
import { BlockRenders, layBlocks } from './lay-blocks';
import { LinkField } from './link-field';
import { formatsOf, toggleFormat, type Format } from './rich-text';
import { inertMarkup } from '../shared/trusted';

/** Room the formats need above the text, and their width. */
const BAR_ROOM = 44;
const BAR_WIDTH = 220;
/** A chosen block of which less is in view is scrolled into it, in pixels of the page. */
const LEAST_SEEN = 100;

export const WIDTHS = { wide: 1160, narrow: 390 } as const;
export type CanvasWidth = keyof typeof WIDTHS;

/** Files dropped on a picture field of a block, or before the block that is at `at` now. */
export interface DroppedPictures {
  readonly files: readonly File[];
  readonly blockId: string | null;
  readonly field: string | null;
  readonly at: number;
}

interface Bar {
  readonly x: number;
  readonly y: number;
  readonly label: string;
  readonly active: ReturnType<typeof formatsOf>;
  readonly mayLink: boolean;
}

/**
 * The true page from the true renderer, in a frame of the same origin without scripts, changed block by block. Text is
 * typed on it: the element that shows a field is taken over by an editor that is mounted from here.
 */
@Component({
  selector: 'dm-canvas',
  imports: [FormatBar, LinkField],
  templateUrl: './canvas.html',
  styleUrl: './canvas.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Canvas implements AfterViewInit, OnDestroy, DropPlace {
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
  private readonly frame = viewChild.required<ElementRef<HTMLIFrameElement>>('frame');
  private readonly field = viewChild.required<ElementRef<HTMLElement>>('field');
  private readonly room = signal({ width: 700, height: 600 });
  private readonly isReady = signal(false);
  private shown = new Map<string, string>();
  private readonly renders = new BlockRenders();
  private inPlace: InPlace | null = null;
  private written = { rules: '', properties: '' };
  protected readonly bar = signal<Bar | null>(null);
  protected readonly linking = signal<{ target: LinkTarget | null } | null>(null);
  protected readonly handle = signal<{ x: number; y: number } | null>(null);
  protected readonly levels = signal<readonly { id: string; x: number; y: number; severity: string }[]>([]);
  protected readonly drop = signal<{ x: number; y: number; width: number } | null>(null);
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
      const brand = this.brand();
      this.styled();
      if (this.isReady()) untracked(() => this.write(brand));
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
      if (!this.mayEdit()) untracked(() => this.endTyping());
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
    frame.srcdoc = inertMarkup(this.pageFor(this.brand()));
  }

  ngOnDestroy(): void {
    this.endTyping();
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

  private get page(): Document | null {
    return this.frame().nativeElement.contentDocument;
  }

  private pageFor(brand: string): string {
    this.shown = new Map(this.document().blocks.map((block) => [block.id, '']));
    return pageHtml(
      this.document(),
      { ...BARE_FRAME, siteName: brand, isIndexable: true, inlineStyle: Object.values(this.sheets()).join('') },
      contextOf(this.links(), true),
    );
  }

  /** The rules are read anew only where they differ: a colour that is changed is one property. */
  private write(brand: string): void {
    const page = this.page;
    const name = page?.querySelector('.masthead span');
    if (name && name.textContent !== brand) name.textContent = brand;
    const [rules, properties] = page?.querySelectorAll('style') ?? [];
    if (!rules || !properties) return;
    const next = this.sheets();
    if (next.rules !== this.written.rules) rules.textContent = next.rules;
    if (next.properties !== this.written.properties) properties.textContent = next.properties;
    this.written = next;
  }

  private loaded(): void {
    const page = this.page;
    if (!page) return;
    page.head.append(page.createElement('style'));
    page.addEventListener('pointerdown', (event) => this.pressed(event), true);
    page.addEventListener('click', (event) => event.preventDefault());
    page.addEventListener('keydown', (event) => this.keyInFrame(event));
    for (const type of ['copy', 'cut', 'paste'] as const)
      page.addEventListener(type, (event) => this.clipboard.emit(event));
    page.addEventListener('dragover', (event) => this.filesOver(event));
    page.addEventListener('dragleave', () => this.markDrop(null));
    page.addEventListener('drop', (event) => this.filesDropped(event));
    page.addEventListener('scroll', () => this.followScroll(), { passive: true });
    this.isReady.set(true);
  }

  /** Chooses the block that was pressed, and begins to type where the press was on a text. */
  private pressed(event: PointerEvent): void {
    const target = event.target as Element;
    const section = target.closest<HTMLElement>('main > section');
    if (!section || this.inPlace?.element.contains(target)) return;
    const blockId = section.id.slice(2);
    this.endTyping();
    this.choose.emit(blockId);
    const element = target.closest<HTMLElement>('[data-field]');
    if (element && this.mayEdit()) this.type(blockId, element);
  }

  /** Where files over the page would go: into a picture field of the block under them, or before it. */
  private dropPlace(event: DragEvent): Omit<DroppedPictures, 'files'> {
    const section = (event.target as Element).closest<HTMLElement>('main > section');
    const block = this.document().blocks.find(({ id }) => id === section?.id.slice(2));
    const field = block ? pictureFieldOf(block) : null;
    const index = this.places.sections().findIndex((one) => one === section);
    const at = index < 0 ? this.places.sections().length : index;
    return { blockId: block?.id ?? null, field, at };
  }

  private filesOver(event: DragEvent): void {
    if (!this.mayEdit() || !event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    const { blockId, field, at } = this.dropPlace(event);
    if (field) this.markDrop(blockId);
    else this.show(at);
  }

  private filesDropped(event: DragEvent): void {
    event.preventDefault();
    const files = [...(event.dataTransfer?.files ?? [])];
    this.markDrop(null);
    this.show(null);
    if (this.mayEdit() && files.length) this.pictures.emit({ files, ...this.dropPlace(event) });
  }

  private markDrop(blockId: string | null): void {
    for (const section of this.places.sections())
      section.classList.toggle('takes-picture', section.id === `b-${blockId}`);
    if (blockId) this.drop.set(null);
  }

  /** Begins to type in the first text of a block, from the keyboard. */
  startTyping(blockId: string, end: 'first' | 'last' = 'first'): void {
    const texts = [...(this.page?.querySelectorAll<HTMLElement>(`#b-${blockId} [data-field]`) ?? [])];
    const element = end === 'first' ? texts[0] : texts.at(-1);
    if (!element || !this.mayEdit()) return;
    this.endTyping();
    this.type(blockId, element);
    this.frame().nativeElement.focus();
    this.inPlace?.focusAt(null);
  }

  private type(blockId: string, element: HTMLElement): void {
    const path = element.dataset['field'] ?? '';
    const block = this.document().blocks.find(({ id }) => id === blockId);
    const field = block && textFieldAt(blockTypes[block.type].fields, path);
    const value = block && fieldAt(block, path);
    if (!field || value === undefined) return;
    this.inPlace = new InPlace(element, { ...field, blockId, path }, value as string | RichText, {
      changed: (typed) => this.edit.emit({ blockId, field: path, value: typed }),
      moved: () => this.placeBar(),
      left: (by) => this.goOn(by),
    });
  }

  private endTyping(): void {
    const { inPlace } = this;
    if (!inPlace) return;
    this.inPlace = null;
    this.bar.set(null);
    this.linking.set(null);
    inPlace.end();
    this.shown.delete(inPlace.field.blockId);
    this.update(this.document(), this.links());
  }

  /** From one text to the next or the one before. */
  private goOn(by: 1 | -1): void {
    const from = this.inPlace;
    const main = this.page?.querySelector('main');
    if (!from || !main) return;
    const texts = [...main.querySelectorAll<HTMLElement>('[data-field]')].filter((element) => this.isText(element));
    const next = texts[texts.indexOf(from.element) + by];
    if (!next) return;
    const [blockId, path] = [next.closest('main > section')?.id.slice(2) ?? '', next.dataset['field']];
    this.endTyping();
    const element = this.page?.querySelector<HTMLElement>(`#b-${blockId} [data-field="${path}"]`);
    if (!element) return;
    if (blockId !== from.field.blockId) this.choose.emit(blockId);
    this.type(blockId, element);
    if (by === 1) this.inPlace?.focusOn(0);
    else this.inPlace?.focusAt(null);
  }

  private isText(element: HTMLElement): boolean {
    const id = element.closest('main > section')?.id.slice(2);
    const block = this.document().blocks.find((one) => one.id === id);
    return !!block && textFieldAt(blockTypes[block.type].fields, element.dataset['field'] ?? '') !== null;
  }

  private keyInFrame(event: KeyboardEvent): void {
    if (event.key === 'Escape' && this.inPlace) {
      const { blockId } = this.inPlace.field;
      this.endTyping();
      this.typed.emit(blockId);
    } else this.key.emit(event);
  }

  protected toggle(format: Format): void {
    if (this.inPlace) toggleFormat(this.inPlace.editor, format);
  }

  protected startLink(): void {
    const target = this.inPlace?.editor.getAttributes('link')['target'] as LinkTarget | null | undefined;
    this.linking.set({ target: target ?? null });
  }

  protected link(target: LinkTarget | null): void {
    const chain = this.inPlace?.editor.chain().focus().extendMarkRange('link');
    (target ? chain?.setMark('link', { target }) : chain?.unsetMark('link'))?.run();
    this.linking.set(null);
  }

  /** The formats float above the cursor, or below it where there is no room. */
  private placeBar(): void {
    const { inPlace } = this;
    if (inPlace?.field.kind !== 'rich') return this.bar.set(null);
    const { editor } = inPlace;
    const { from, empty } = editor.state.selection;
    const { left, top, bottom } = editor.view.coordsAtPos(from);
    const above = this.places.placeOf(left, top);
    const y = above.y > BAR_ROOM ? above.y - BAR_ROOM : this.places.placeOf(left, bottom).y + 8;
    const active = formatsOf(editor);
    this.bar.set({
      x: Math.max(8, Math.min(above.x, this.room().width - BAR_WIDTH)),
      y,
      label: inPlace.field.label,
      active,
      mayLink: !empty || active.link,
    });
  }

  /** Marks of findings level with their blocks, and the handle of the chosen one. */
  private placeHandle(): void {
    this.levels.set(this.places.levelsOf(this.marks()));
    this.handle.set(this.mayEdit() ? this.places.cornerOf(this.chosen()) : null);
  }

  private followScroll(): void {
    if (this.bar()) this.placeBar();
    this.placeHandle();
  }

  protected startDrag(event: PointerEvent): void {
    const blockId = this.chosen();
    if (blockId) this.drag?.start(event, { kind: 'block', blockId });
  }

  indexAt(clientX: number, clientY: number): number | null {
    return this.places.indexAt(clientX, clientY);
  }

  show(index: number | null): void {
    this.drop.set(index === null ? null : { ...this.places.edgeOf(index), width: this.pageWidth() * this.scale() });
  }

  scrollAt(clientY: number): void {
    this.places.scrollAt(clientY);
  }

  private update({ blocks }: PageDocument, links: RenderWorld): void {
    const main = this.page?.querySelector('main');
    if (!main) return;
    if (this.inPlace && !blocks.some(({ id }) => id === this.inPlace?.field.blockId)) this.endTyping();
    const next = this.renders.of(blocks, links);
    layBlocks(main, next, this.shown, this.inPlace?.element ?? null);
    this.shown = next;
    this.takeTyped(blocks);
    this.placeHandle();
  }

  private takeTyped(blocks: PageDocument['blocks']): void {
    const { inPlace } = this;
    if (!inPlace) return;
    const block = blocks.find(({ id }) => id === inPlace.field.blockId);
    const value = block && fieldAt(block, inPlace.field.path);
    if (value === undefined || value === null) this.endTyping();
    else inPlace.take(value as string | RichText);
  }

  private mark(chosen: string | null, all: ReadonlySet<string>): void {
    const page = this.page;
    for (const section of this.places.sections()) {
      const id = section.id.slice(2);
      const isChosen = id === chosen || all.has(id);
      if (isChosen !== section.classList.contains('is-chosen')) section.classList.toggle('is-chosen', isChosen);
      if (!section.className) section.removeAttribute('class');
    }
    const section = chosen ? page?.getElementById(`b-${chosen}`) : null;
    if (this.inPlace && this.inPlace.field.blockId !== chosen) this.endTyping();
    const view = page?.defaultView;
    if (section && view) {
      const { top, bottom } = section.getBoundingClientRect();
      if (bottom < LEAST_SEEN || top > view.innerHeight - LEAST_SEEN) section.scrollIntoView({ block: 'nearest' });
    }
    this.placeHandle();
  }
}
