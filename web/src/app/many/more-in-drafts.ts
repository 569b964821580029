import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { ManyDrafts } from './many-drafts';
import { say } from '@domatium/core/words/many';

/** That drafts have more in them than visitors get, which would go out too; they can be left out. */
@Component({
  selector: 'dm-more-in-drafts',
  template: `
    @if (drafts.withMore(); as count) {
      <p>
        <i class="bi bi-triangle-fill" aria-hidden="true"></i> {{ say.draftsHaveMore(count) }}
        <button type="button" class="btn-link-plain" (click)="drafts.leavesOut.set(!drafts.leavesOut())">
          {{ drafts.leavesOut() ? say.takeThemIn : say.leaveThemOut }}
        </button>
      </p>
    }
  `,
  styles: `
    i {
      color: var(--ochre);
      font-size: 9px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoreInDrafts {
  protected readonly say = say;
  protected readonly drafts = inject<ManyDrafts<never>>(ManyDrafts);
}
