import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  ElementRef,
  input,
  output,
  viewChild,
} from '@angular/core';
import type { PageDocument } from '@domatium/core/document';
import { RegisterService } from '../hub/register.service';
import { BARE_FRAME, contextOf, pageHtml, worldOf, type RenderWorld } from '@domatium/core/render';
import { scopedCss, stylesheetOf, type Theme } from '@domatium/core/theme';
import { inertMarkup } from './trusted';
import { say } from '@domatium/core/words/shared';

/** Where the application finds a font: those that ship beside it, those that were brought in among the portfolio’s files. */
export const fontHref = (file: string, files: string) =>
  /^[0-9a-f]{64}\.woff2$/.test(file) ? `${files}/${file}` : `/fonts/${file}`;

/** Where the application finds the files of a portfolio. */
export const filesPlace = (portfolioId: number) => `/api/portfolios/${portfolioId}/files`;

/** What a page adds to its theme by hand: its site’s CSS, then its own. */
export const ownCssOf = (siteCss: string, { metadata }: PageDocument) =>
  scopedCss(siteCss) + scopedCss(metadata.css ?? '');

/** A page from the true renderer, made small; it only shows. */
@Component({
  selector: 'dm-preview-frame',
  template: `
    <div class="paper" [style.width.px]="shownWidth()" [style.height.px]="shownHeight()">
      <iframe
        #frame
        sandbox="allow-same-origin"
        tabindex="-1"
        aria-hidden="true"
        [title]="say.previewPixelsWide(width())"
        [style.width.px]="width()"
        [style.height.px]="shownHeight() / scale()"
        [style.transform]="'scale(' + scale() + ')'"
        (load)="loaded()"
      ></iframe>
    </div>
  `,
  styles: `
    .paper {
      overflow: hidden;
      background: var(--surface);
      border: 1px solid var(--rule);
      border-radius: 4px;
    }
    iframe {
      border: 0;
      transform-origin: 0 0;
      pointer-events: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PreviewFrame {
  protected readonly say = say;
  readonly document = input.required<PageDocument>();
  readonly theme = input.required<Theme>();
  /** What it is shown in; links only look as they will. */
  readonly world = input<RenderWorld>(worldOf({ pageHref: () => '#' }));
  readonly brand = input.required<string>();
  /** Width of the page, and the width and height it is shown in, in pixels. */
  readonly width = input.required<number>();
  readonly shownWidth = input.required<number>();
  readonly shownHeight = input.required<number>();
  /** Own CSS of the site. */
  readonly siteCss = input('');
  /** The page once it is drawn, and once more with its fonts. */
  readonly drawn = output<Document>();
  private readonly files = filesPlace(inject(RegisterService).portfolioId());
  private readonly frame = viewChild.required<ElementRef<HTMLIFrameElement>>('frame');
  protected readonly scale = computed(() => this.shownWidth() / this.width());

  constructor() {
    afterRenderEffect(() => {
      this.frame().nativeElement.srcdoc = inertMarkup(
        pageHtml(
          this.document(),
          {
            ...BARE_FRAME,
            siteName: this.brand(),
            language: this.world().language,
            isIndexable: true,
            inlineStyle:
              stylesheetOf(this.theme(), (file) => fontHref(file, this.files)) +
              ownCssOf(this.siteCss(), this.document()),
          },
          contextOf(this.world()),
        ),
      );
    });
  }

  protected loaded(): void {
    const page = this.frame().nativeElement.contentDocument;
    if (!page) return;
    this.drawn.emit(page);
    void page.fonts?.ready.then(() => this.drawn.emit(page));
  }
}
