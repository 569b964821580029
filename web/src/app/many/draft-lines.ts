import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { ManyDrafts } from './many-drafts';
import { say } from '@domatium/core/words/many';

/** A page with what goes and what comes on it. */
interface Lined {
  readonly pageId: number;
  readonly version: number;
  readonly name: string;
  readonly hasMore: boolean;
  readonly lines: readonly { readonly words: string; readonly how: 'same' | 'new' | 'gone' }[];
}

/** What becomes of many drafts, page by page: what stays around it, what goes, what comes. */
@Component({
  selector: 'dm-draft-lines',
  template: `
    @if (drafts.shown().length) {
      <h3 class="section-label">{{ say.whatBecomesOfThem }}</h3>
      <ul class="pages" [class.is-old]="drafts.isLooking()">
        @for (page of drafts.shown(); track page.pageId) {
          <li [class.out-of-it]="page.hasMore && drafts.leavesOut()">
            <strong>{{ page.name }}</strong>
            @for (line of page.lines; track $index) {
              <span class="line" [class]="line.how">
                @if (line.how === 'new') {
                  <i class="bi bi-plus-lg" aria-hidden="true"></i><span class="visually-hidden">{{ say.added }}</span>
                } @else if (line.how === 'gone') {
                  <i class="bi bi-dash-lg" aria-hidden="true"></i><span class="visually-hidden">{{ say.gone }}</span>
                }
                {{ line.words }}
              </span>
            }
          </li>
        }
        @if (drafts.more() > 0) {
          <li class="quiet">{{ say.andMore(drafts.more()) }}</li>
        }
      </ul>
    }
  `,
  styleUrl: './place-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DraftLines {
  protected readonly say = say;
  protected readonly drafts = inject<ManyDrafts<{ pages: readonly Lined[]; out: readonly object[] }>>(ManyDrafts);
}
