import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { StockDesk } from './stock-desk.service';
import { say } from '@domatium/core/words/stock';

/** Why what is open can't be kept, and the way out where somebody else was faster. */
@Component({
  selector: 'dm-desk-trouble',
  template: `
    @if (desk.trouble(); as text) {
      <section role="alert">
        <p class="field-error">{{ text }}</p>
        @if (desk.isBehind()) {
          <button type="button" class="btn-link-plain" (click)="desk.takeNewest()">{{ say.loadTheNewest }}</button>
        }
      </section>
    }
  `,
  styles: `
    section {
      background: var(--surface);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
      padding: 10px 12px;
      margin-bottom: 10px;
    }
    p {
      margin: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeskTrouble {
  protected readonly say = say;
  protected readonly desk = inject(StockDesk);
}
