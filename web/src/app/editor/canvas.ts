import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  input,
  output,
  signal,
  viewChild,
  type OnDestroy,
  type AfterViewInit,
} from '@angular/core';
import type { PageDocument } from '@domatium/core/document';
import { blockHtml, contextOf, pageHtml, type RenderContext } from '@domatium/core/render';
import { stylesheetOf, THEMES, type ThemeKey } from '@domatium/core/theme';
import morphdom from 'morphdom';

/** What the editing layer adds to the page: the chosen block's outline. Nothing of it is published. */
const LAYER = `main>section{cursor:default;position:relative}main>section:hover::after,main>section.is-chosen::after{content:"";position:absolute;inset:0;pointer-events:none;outline:2px solid #2E6A50;outline-offset:-2px;z-index:5}main>section:hover:not(.is-chosen)::after{outline:1px dashed #2E6A50}main>section:empty,main>section>:only-child:empty{min-height:64px}a{cursor:default}`;

export const WIDTHS = { wide: 1160, narrow: 390 } as const;
export type CanvasWidth = keyof typeof WIDTHS;

/** The true page from the true renderer, in a frame of the same origin without scripts, changed block by block. */
@Component({
  selector: 'dm-canvas',
  template: `
    <div class="field" #field>
      <div class="paper" [style.width.px]="pageWidth() * scale()" [style.height.px]="height()">
        <iframe
          #frame
          sandbox="allow-same-origin"
          title="The page as visitors get it"
          [style.width.px]="pageWidth()"
          [style.height.px]="height() / scale()"
          [style.transform]="'scale(' + scale() + ')'"
        ></iframe>
      </div>
    </div>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
      min-height: 0;
      background: #e9e5da;
    }
    .field {
      height: 100%;
      padding: 16px 16px 0;
      display: flex;
      justify-content: center;
      overflow: hidden;
    }
    .paper {
      box-shadow: 0 1px 5px rgb(34 48 43 / 18%);
      background: var(--surface);
      flex: none;
    }
    iframe {
      border: 0;
      transform-origin: 0 0;
      display: block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Canvas implements AfterViewInit, OnDestroy {
  readonly document = input.required<PageDocument>();
  readonly theme = input.required<ThemeKey>();
  readonly brand = input.required<string>();
  readonly chosen = input<string | null>(null);
  readonly width = input<CanvasWidth>('wide');
  readonly links = input.required<Omit<RenderContext, 'takeFirstPicture'>>();
  readonly choose = output<string>();
  /** Keys pressed in the frame are heard by nobody else. */
  readonly key = output<KeyboardEvent>();

  private readonly frame = viewChild.required<ElementRef<HTMLIFrameElement>>('frame');
  private readonly field = viewChild.required<ElementRef<HTMLElement>>('field');
  private readonly room = signal({ width: 700, height: 600 });
  private readonly isReady = signal(false);
  private shown = new Map<string, string>();
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
      if (ready) this.update(document, links);
    });
    effect(() => {
      const chosen = this.chosen();
      this.document();
      if (this.isReady()) this.mark(chosen);
    });
  }

  ngAfterViewInit(): void {
    this.observer.observe(this.field().nativeElement);
    const frame = this.frame().nativeElement;
    frame.addEventListener('load', () => this.loaded());
    frame.srcdoc = this.pageFor(this.theme(), this.brand());
  }

  ngOnDestroy(): void {
    this.observer.disconnect();
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
        inlineStyle: stylesheetOf(THEMES[theme], (file) => `/fonts/${file}`) + LAYER,
      },
      contextOf(this.links()),
    );
  }

  private write(theme: ThemeKey, brand: string): void {
    const name = this.frame().nativeElement.contentDocument?.querySelector('.masthead span');
    const style = this.frame().nativeElement.contentDocument?.querySelector('style');
    if (name) name.textContent = brand;
    if (style) style.textContent = stylesheetOf(THEMES[theme], (file) => `/fonts/${file}`) + LAYER;
  }

  private loaded(): void {
    const page = this.frame().nativeElement.contentDocument;
    if (!page) return;
    page.addEventListener('click', (event) => {
      event.preventDefault();
      const block = (event.target as Element).closest('main > section');
      if (block) this.choose.emit(block.id.slice(2));
    });
    page.addEventListener('keydown', (event) => this.key.emit(event));
    this.isReady.set(true);
  }

  /** Changes only the blocks that render differently from what is shown; a picture in one keeps its element. */
  private update({ blocks }: PageDocument, links: Omit<RenderContext, 'takeFirstPicture'>): void {
    const main = this.frame().nativeElement.contentDocument?.querySelector('main');
    if (!main) return;
    const context = contextOf(links);
    const next = new Map(blocks.map((block) => [block.id, blockHtml(block, context).markup]));
    for (const section of [...main.children]) if (!next.has(section.id.slice(2))) section.remove();
    blocks.forEach(({ id }, index) => {
      const markup = next.get(id) ?? '';
      let section = main.querySelector<HTMLElement>(`:scope > #b-${id}`);
      if (!section) {
        section = main.ownerDocument.createElement('section');
        section.id = `b-${id}`;
      }
      if (main.children[index] !== section) main.insertBefore(section, main.children[index] ?? null);
      if (this.shown.get(id) === markup) return;
      const isChosen = section.classList.contains('is-chosen');
      morphdom(section, markup, { onBeforeElUpdated: (from, to) => !from.isEqualNode(to) });
      if (isChosen) main.querySelector(`:scope > #b-${id}`)?.classList.add('is-chosen');
    });
    this.shown = next;
  }

  private mark(chosen: string | null): void {
    const page = this.frame().nativeElement.contentDocument;
    page?.querySelector('.is-chosen')?.classList.remove('is-chosen');
    const section = chosen ? page?.getElementById(`b-${chosen}`) : null;
    section?.classList.add('is-chosen');
    const view = page?.defaultView;
    if (!section || !view) return;
    const { top, bottom } = section.getBoundingClientRect();
    if (bottom < 40 || top > view.innerHeight - 40) section.scrollIntoView({ block: 'nearest' });
  }
}
