import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  input,
  viewChild,
} from '@angular/core';
import type { PageDocument } from '@domatium/core/document';
import { contextOf, pageHtml } from '@domatium/core/render';
import { stylesheetOf, THEMES, type ThemeKey } from '@domatium/core/theme';

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
        [title]="'Preview, ' + width() + ' pixels wide'"
        [style.width.px]="width()"
        [style.height.px]="shownHeight() / scale()"
        [style.transform]="'scale(' + scale() + ')'"
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
  readonly document = input.required<PageDocument>();
  readonly theme = input.required<ThemeKey>();
  readonly brand = input.required<string>();
  /** Width of the page, and the width and height it is shown in, in pixels. */
  readonly width = input.required<number>();
  readonly shownWidth = input.required<number>();
  readonly shownHeight = input.required<number>();
  private readonly frame = viewChild.required<ElementRef<HTMLIFrameElement>>('frame');
  protected readonly scale = computed(() => this.shownWidth() / this.width());

  constructor() {
    afterRenderEffect(() => {
      this.frame().nativeElement.srcdoc = pageHtml(
        this.document(),
        {
          language: 'en',
          siteName: this.brand(),
          homeHref: null,
          stylesheetHref: null,
          fontHrefs: [],
          canonical: null,
          isIndexable: true,
          shareImage: null,
          inlineStyle: stylesheetOf(THEMES[this.theme()], (file) => `/fonts/${file}`),
        },
        contextOf({ hrefOf: () => '#', pictureOf: () => null }),
      );
    });
  }
}
