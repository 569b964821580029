import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { EMPTY_DOCUMENT } from '@domatium/core/document';
import { PART_STARTS, type Part, type PartKind, type PartSeeds } from '@domatium/core/stock';
import { say } from '@domatium/core/words/stock';
import { newId } from '../editor/chosen-blocks';
import { profileOf, StockService, themeOf } from '../hub/stock.service';
import { PreviewFrame } from '../shared/preview-frame';
import { PageBeside } from './page-beside';

/** What a new part can begin with, each seen in the theme of a site before it is chosen. */
@Component({
  selector: 'dm-part-starts',
  imports: [PreviewFrame],
  template: `
    <h2>{{ heading() }}</h2>
    <ul>
      @for (one of starts(); track one.key) {
        <li>
          <dm-preview-frame
            [document]="one.document"
            [theme]="theme()"
            [brand]="profile().brand"
            [world]="one.world"
            [siteCss]="beside.siteCss()"
            [width]="1160"
            [shownWidth]="480"
            [shownHeight]="one.height"
          />
          <button type="button" class="btn btn-plain" (click)="chosen.emit({ name: one.label, part: one.part })">
            {{ one.label }}
          </button>
          <span class="quiet">{{ one.words }}</span>
        </li>
      }
    </ul>
  `,
  styles: `
    :host {
      overflow-y: auto;
      padding: 16px 20px;
    }
    h2 {
      font-size: 1rem;
      margin: 0 0 12px;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
      display: grid;
      grid-template-columns: repeat(auto-fill, 482px);
      gap: 22px 24px;
    }
    .btn {
      margin: 8px 10px 0 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PartStarts {
  protected readonly say = say;
  readonly kind = input.required<PartKind>();
  readonly siteId = input.required<number | null>();
  readonly pages = input.required<PartSeeds['pages']>();
  readonly chosen = output<{ readonly name: string; readonly part: Part }>();
  private readonly stock = inject(StockService);
  protected readonly beside = inject(PageBeside);
  protected readonly profile = computed(() => profileOf(this.stock.held(), this.siteId()));
  protected readonly theme = computed(() => themeOf(this.stock.held(), this.profile().theme));
  protected readonly heading = computed(
    () => ({ header: say.newHeader, footer: say.newFooter, band: say.newBand })[this.kind()],
  );
  protected readonly starts = computed(() => {
    const [kind, pages] = [this.kind(), this.pages()];
    const page = this.beside.document();
    const world = this.beside.world();
    return PART_STARTS[kind].map(({ key, label, words, part: make }) => {
      const part = make({ newId, pages });
      const none = { header: 'none' as const, footer: 'none' as const, bands: [] };
      const parts = kind === 'band' ? { ...none, bands: [part] } : { ...none, [kind]: part };
      return {
        ...{ key, label, words, part },
        // Headers and bands are seen over a page, footers alone.
        document: kind !== 'footer' && page ? page : EMPTY_DOCUMENT,
        world: { ...world, isLive: () => true, parts },
        height: { header: 110, footer: 120, band: 70 }[kind],
      };
    });
  });
}
