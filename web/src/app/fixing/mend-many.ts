import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, untracked } from '@angular/core';
import type { FoundGroup, MendingView } from '@domatium/contracts';
import { MENDS_OF_MANY, type MendCode } from '@domatium/core/words';
import { say } from '@domatium/core/words/fixing';
import { say as many } from '@domatium/core/words/many';
import { api, Api } from '../hub/api';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { DraftLines } from '../many/draft-lines';
import { ManyDrafts, type AskOfDrafts } from '../many/many-drafts';
import { MoreInDrafts } from '../many/more-in-drafts';
import { WideSheet } from '../shared/wide-sheet';

/** Something that was found, mended on all of its pages: seen on each before, then released as one release. */
@Component({
  selector: 'dm-mend-many',
  imports: [DraftLines, MoreInDrafts, WideSheet],
  providers: [ManyDrafts],
  template: `
    <dm-wide-sheet [heading]="heading()" [lead]="many.pieceLead" (closed)="place.go({ panel: null })">
      <button type="button" class="btn-link-plain" (click)="back.emit()">
        <i class="bi bi-arrow-left" aria-hidden="true"></i> {{ say.back }}
      </button>
      @if (drafts.refusal(); as text) {
        <div class="field-error" role="alert">{{ text }}</div>
      }
      @if (drafts.isLooking()) {
        <p class="quiet number" role="status">{{ many.lookedAt(drafts.looked(), drafts.count()) }}</p>
      }
      @if (drafts.view()?.out?.length; as count) {
        <p class="quiet">{{ say.cantBe(count) }}</p>
      }
      <dm-more-in-drafts />
      <dm-draft-lines />
      <ng-container foot>
        <button type="button" class="btn btn-primary" [disabled]="!drafts.canGo()" (click)="drafts.go(ask())">
          {{ drafts.label() }}
        </button>
      </ng-container>
    </dm-wide-sheet>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MendMany {
  protected readonly say = say;
  protected readonly many = many;
  readonly group = input.required<FoundGroup>();
  readonly mend = input.required<MendCode>();
  readonly back = output();
  protected readonly place = inject(PlaceService);
  protected readonly drafts = inject<ManyDrafts<MendingView>>(ManyDrafts);
  private readonly service = inject(RegisterService);
  private readonly client = inject(Api);
  protected readonly heading = computed(() => `${this.group().title}: ${MENDS_OF_MANY[this.mend()] ?? ''}`);
  protected readonly ask = computed<AskOfDrafts<MendingView>>(() => {
    const what = { code: this.group().code, mend: this.mend() };
    const params = { portfolioId: this.service.portfolioId() };
    return (pageIds, seen) =>
      this.client.call(api.mendDrafts, { params, body: { ...what, pageIds: [...pageIds], seen: seen && [...seen] } });
  });

  constructor() {
    effect(() => {
      const [ask, { pageIds }] = [this.ask(), this.group()];
      untracked(() => {
        this.drafts.ids.set(pageIds);
        void this.drafts.look(ask);
      });
    });
  }
}
