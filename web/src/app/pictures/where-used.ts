import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Uses } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { say } from '@domatium/core/words/pictures';

/** The pages and pieces that show something, and what else does. */
@Component({
  selector: 'dm-where-used',
  template: `
    <h2>{{ say.whereItIsUsed }}</h2>
    @for (page of uses()?.pages; track page.pageId) {
      <p>
        <a [href]="'/portfolios/' + service.portfolioId() + '/pages/' + page.pageId + '/edit'">{{ page.name }}</a>
        &ngsp;<span class="quiet">{{ page.where.includes('plan') ? say.liveOrPlanned : say.inItsDraft }}</span>
      </p>
    }
    @if (more(); as count) {
      <p class="quiet">{{ say.andMoreWithCount(count.toLocaleString('en')) }}</p>
    }
    @for (piece of uses()?.pieces; track piece.id) {
      <p>{{ piece.name }} <span class="quiet">{{ kinds[piece.kind] }}</span></p>
    }
    @for (other of others(); track other.what + other.name) {
      <p>
        {{ other.name }} <span class="quiet">{{ other.what }}</span>
      </p>
    }
    @if (uses() && !uses()?.count && !uses()?.pieces?.length && !others().length) {
      <p class="quiet">{{ say.nowhere }}</p>
    }
    <ng-content />
  `,
  styles: `
    p {
      margin: 0 0 3px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WhereUsed {
  protected readonly say = say;
  protected readonly kinds = { piece: say.piece, header: say.header, footer: say.footer, band: say.noticeBand };
  readonly uses = input.required<Uses | null>();
  /** What uses it beside pages and pieces, each with what it is there. */
  readonly others = input<readonly { readonly name: string; readonly what: string }[]>([]);
  protected readonly service = inject(RegisterService);
  protected readonly more = computed(() => {
    const uses = this.uses();
    return uses && uses.pages.length ? Math.max(0, uses.count - uses.pages.length) : 0;
  });
}
