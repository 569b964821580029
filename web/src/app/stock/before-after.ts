import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from '@angular/core';
import { EMPTY_DOCUMENT } from '@domatium/core/document';
import { partsAt } from '@domatium/core/stock';
import type { PartsAround } from '@domatium/core/render';
import { say } from '@domatium/core/words/stock';
import { profileOf, StockService, themeOf } from '../hub/stock.service';
import { PreviewFrame } from '../shared/preview-frame';
import { PageBeside } from './page-beside';

/** What holds with a draft: parts and what is said of where they stand, and the part that is being changed. */
export interface Drafted {
  readonly parts: Parameters<typeof partsAt>[0]['parts'];
  readonly standings: Parameters<typeof partsAt>[0]['standings'];
  readonly own: Partial<PartsAround>;
}

/** The top of a page as visitors get it and as they would with a draft, one beside the other. */
@Component({
  selector: 'dm-before-after',
  imports: [PreviewFrame],
  providers: [PageBeside],
  template: `
    @if (shown(); as page) {
      <figure>
        <figcaption class="quiet">{{ say.nowWithoutIt }}</figcaption>
        <dm-preview-frame
          [document]="page"
          [theme]="theme()"
          [brand]="profile().brand"
          [world]="beside.world()"
          [siteCss]="beside.siteCss()"
          [width]="width()"
          [shownWidth]="shownWidth()"
          [shownHeight]="230"
        />
      </figure>
      <figure>
        <figcaption class="quiet">{{ say.withTheDraft }}</figcaption>
        <dm-preview-frame
          [document]="page"
          [theme]="theme()"
          [brand]="profile().brand"
          [world]="after()"
          [siteCss]="beside.siteCss()"
          [width]="width()"
          [shownWidth]="shownWidth()"
          [shownHeight]="230"
        />
      </figure>
    } @else {
      <div class="skeleton" style="width: 60%" aria-busy="true"></div>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 12px;
    }
    figure {
      margin: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BeforeAfter {
  protected readonly say = say;
  readonly pageId = input.required<number>();
  readonly siteId = input.required<number>();
  readonly width = input.required<number>();
  readonly drafted = input.required<Drafted>();
  private readonly stock = inject(StockService);
  protected readonly beside = inject(PageBeside);
  protected readonly profile = computed(() => profileOf(this.stock.held(), this.siteId()));
  protected readonly theme = computed(() => themeOf(this.stock.held(), this.profile().theme));
  protected readonly shownWidth = computed(() => (this.width() < 600 ? 150 : 300));
  /** Its first block alone, so that what stands below comes into sight as well. */
  protected readonly shown = computed(() => {
    const page = this.beside.document();
    return page && { ...EMPTY_DOCUMENT, metadata: page.metadata, blocks: page.blocks.slice(0, 1) };
  });
  protected readonly after = computed(() => {
    const { own, ...held } = this.drafted();
    const around = partsAt(held, this.beside.place(), this.beside.document()?.metadata.frame);
    return { ...this.beside.world(), parts: { ...around, ...own } };
  });

  constructor() {
    effect(() => {
      const pageId = this.pageId();
      untracked(() => void this.beside.show(pageId));
    });
  }
}
