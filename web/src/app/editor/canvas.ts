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
  textFieldAt,
  type FieldValue,
  type LinkTarget,
  type PageDocument,
  type RichText,
} from '@domatium/core/document';
import { contextOf, pageHtml, type RenderWorld } from '@domatium/core/render';
import { stylesheetOf, THEMES, type ThemeKey } from '@domatium/core/theme';
import { BlockDrag, type DropPlace } from './block-drag';
import { FormatBar } from './format-bar';
import { InPlace } from './in-place';
import { layBlocks } from './lay-blocks';
import { LinkField } from './link-field';
import { formatsOf, toggleFormat, type Format } from './rich-text';

/** Room the formats need above the text, their width, and how near the edge something held scrolls the page. */
const BAR_ROOM = 44;
const BAR_WIDTH = 220;
const EDGE = 48;

/** What the editing layer adds to the page: the chosen block's outline. Nothing of it is published. */
const LAYER = `main>section{cursor:default;position:relative}main>section:hover::after,main>section.is-chosen::after{content:"";position:absolute;inset:0;pointer-events:none;outline:2px solid #2E6A50;outline-offset:-2px;z-index:5}main>section:hover:not(.is-chosen)::after{outline:1px dashed #2E6A50}main>section:empty,main>section>:only-child:empty{min-height:64px}a{cursor:default}.ProseMirror{white-space:pre-wrap;outline:0;min-width:1em}.ProseMirror:focus{box-shadow:0 0 0 2px rgb(46 106 80/35%)}.ProseMirror .reference{color:var(--accent)}`;

const TYPING = '[data-field]{cursor:text}';

export const WIDTHS = { wide: 1160, narrow: 390 } as const;
export type CanvasWidth = keyof typeof WIDTHS;

/** As most see it, with text twice as large, without pictures, or read aloud. */
export type Seen = 'plain' | 'large' | 'no-pictures' | 'aloud';
const LARGE = 'html{font-size:200%}';

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
  readonly theme = input.required<ThemeKey>();
  readonly brand = input.required<string>();
  readonly chosen = input<string | null>(null);
  /** All that are chosen, that one among them. */
  readonly all = input<ReadonlySet<string>>(new Set());
  readonly width = input<CanvasWidth>('wide');
  readonly links = input.required<RenderWorld>();
  /** Whether what is shown may be changed here. */
  readonly mayEdit = input(false);
  readonly seen = input<Seen>('plain');
  readonly choose = output<string>();
  readonly edit = output<{ readonly blockId: string; readonly field: string; readonly value: FieldValue }>();
  /** The person has done typing and is back at the block. */
  readonly typed = output<string>();
  /** Keys pressed in the frame are heard by nobody else. */
  readonly key = output<KeyboardEvent>();
  readonly clipboard = output<ClipboardEvent>();

  protected readonly drag = inject(BlockDrag, { optional: true });
  private readonly frame = viewChild.required<ElementRef<HTMLIFrameElement>>('frame');
  private readonly field = viewChild.required<ElementRef<HTMLElement>>('field');
  private readonly room = signal({ width: 700, height: 600 });
  private readonly isReady = signal(false);
  private shown = new Map<string, string>();
  private inPlace: InPlace | null = null;
  protected readonly bar = signal<Bar | null>(null);
  protected readonly linking = signal<{ target: LinkTarget | null } | null>(null);
  protected readonly handle = signal<{ x: number; y: number } | null>(null);
  protected readonly drop = signal<{ x: number; y: number; width: number } | null>(null);
  private readonly observer = new ResizeObserver(
    ([entry]) => entry && this.room.set({ width: entry.contentRect.width, height: entry.contentRect.height }),
  );

  protected readonly pageWidth = computed(() => WIDTHS[this.width()]);
  protected readonly scale = computed(() => Math.min(1, this.room().width / this.pageWidth()));
  protected readonly height = computed(() => this.room().height);

  constructor() {
    effect(() => {
      const [theme, brand] = [this.theme(), this.brand()];
      if (this.isReady()) this.write(theme, brand);
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
    frame.srcdoc = this.pageFor(this.theme(), this.brand());
  }

  ngOnDestroy(): void {
    this.endTyping();
    this.drag?.unregister(this);
    this.observer.disconnect();
  }

  private layer(): string {
    return LAYER + (this.mayEdit() ? TYPING : '') + (this.seen() === 'large' ? LARGE : '');
  }

  private get page(): Document | null {
    return this.frame().nativeElement.contentDocument;
  }

  private pageFor(theme: ThemeKey, brand: string): string {
    this.shown = new Map(this.document().blocks.map((block) => [block.id, '']));
    return pageHtml(
      this.document(),
      {
        language: 'en',
        siteName: brand,
        homeHref: null,
        stylesheetHref: null,
        fontHrefs: [],
        canonical: null,
        isIndexable: true,
        shareImage: null,
        inlineStyle: stylesheetOf(THEMES[theme], (file) => `/fonts/${file}`) + this.layer(),
      },
      contextOf(this.links(), true),
    );
  }

  private write(theme: ThemeKey, brand: string): void {
    const name = this.page?.querySelector('.masthead span');
    const style = this.page?.querySelector('style');
    if (name) name.textContent = brand;
    if (style) style.textContent = stylesheetOf(THEMES[theme], (file) => `/fonts/${file}`) + this.layer();
  }

  private loaded(): void {
    const page = this.page;
    if (!page) return;
    page.addEventListener('pointerdown', (event) => this.pressed(event), true);
    page.addEventListener('click', (event) => event.preventDefault());
    page.addEventListener('keydown', (event) => this.keyInFrame(event));
    for (const type of ['copy', 'cut', 'paste'] as const)
      page.addEventListener(type, (event) => this.clipboard.emit(event));
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
    if (by === 1) this.inPlace?.editor.commands.focus('start');
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

  /** A point of the frame as a point of the field around it. */
  private placeOf(left: number, top: number): { x: number; y: number } {
    const frame = this.frame().nativeElement.getBoundingClientRect();
    const field = this.field().nativeElement.getBoundingClientRect();
    return { x: frame.left - field.left + left * this.scale(), y: frame.top - field.top + top * this.scale() };
  }

  /** The formats float above the cursor, or below it where there is no room. */
  private placeBar(): void {
    const { inPlace } = this;
    if (inPlace?.field.kind !== 'rich') return this.bar.set(null);
    const { editor } = inPlace;
    const { from, empty } = editor.state.selection;
    const { left, top, bottom } = editor.view.coordsAtPos(from);
    const above = this.placeOf(left, top);
    const y = above.y > BAR_ROOM ? above.y - BAR_ROOM : this.placeOf(left, bottom).y + 8;
    const active = formatsOf(editor);
    this.bar.set({
      x: Math.max(8, Math.min(above.x, this.room().width - BAR_WIDTH)),
      y,
      label: inPlace.field.label,
      active,
      mayLink: !empty || active.link,
    });
  }

  private followScroll(): void {
    if (this.bar()) this.placeBar();
    this.placeHandle();
  }

  private placeHandle(): void {
    const chosen = this.chosen();
    const section = chosen ? this.page?.getElementById(`b-${chosen}`) : null;
    if (!section || !this.mayEdit()) return this.handle.set(null);
    const { left, top, bottom } = section.getBoundingClientRect();
    const place = this.placeOf(left, Math.max(top, 0));
    this.handle.set(bottom > 0 && place.y < this.room().height ? place : null);
  }

  protected startDrag(event: PointerEvent): void {
    const blockId = this.chosen();
    if (blockId) this.drag?.start(event, { kind: 'block', blockId });
  }

  /** Before which block something dropped at a point of the window would stand; `null` beside the page. */
  indexAt(clientX: number, clientY: number): number | null {
    const frame = this.frame().nativeElement.getBoundingClientRect();
    if (clientX < frame.left || clientX > frame.right || clientY < frame.top || clientY > frame.bottom) return null;
    const y = (clientY - frame.top) / this.scale();
    const index = this.sections().findIndex((section) => {
      const { top, bottom } = section.getBoundingClientRect();
      return y < (top + bottom) / 2;
    });
    return index < 0 ? this.sections().length : index;
  }

  show(index: number | null): void {
    const sections = this.sections();
    if (index === null || !this.page) return this.drop.set(null);
    const at = sections[index]?.getBoundingClientRect().top ?? sections.at(-1)?.getBoundingClientRect().bottom ?? 0;
    const { x, y } = this.placeOf(0, at);
    this.drop.set({ x, y, width: this.pageWidth() * this.scale() });
  }

  /** Scrolls while something is held near the upper or lower end. */
  scrollAt(clientY: number): void {
    const { top, bottom } = this.frame().nativeElement.getBoundingClientRect();
    const by = clientY < top + EDGE ? clientY - top - EDGE : clientY > bottom - EDGE ? clientY - bottom + EDGE : 0;
    if (by) this.page?.defaultView?.scrollBy(0, by / 3);
  }

  private sections(): HTMLElement[] {
    return [...(this.page?.querySelectorAll<HTMLElement>('main > section') ?? [])];
  }

  private update({ blocks }: PageDocument, links: RenderWorld): void {
    const main = this.page?.querySelector('main');
    if (!main) return;
    if (this.inPlace && !blocks.some(({ id }) => id === this.inPlace?.field.blockId)) this.endTyping();
    this.shown = layBlocks(main, blocks, contextOf(links, true), this.shown, this.inPlace?.element ?? null);
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
    for (const section of this.sections()) {
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
      if (bottom < 40 || top > view.innerHeight - 40) section.scrollIntoView({ block: 'nearest' });
    }
    this.placeHandle();
  }
}
