import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { STATE_FILTERS, type StateFilter } from '@domatium/core/register';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import type { ColDef } from 'ag-grid-community';
import type { Item } from '../hub/desk';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { ViewService } from '../hub/view.service';
import { ViewMenu } from '../views/view-menu';
import { AsOfBar } from './as-of-bar';
import { Filters } from './filters';
import { say } from '@domatium/core/words/register';
import { say as common } from '@domatium/core/words/common';

const LABELS: Record<StateFilter, string> = {
  all: say.all,
  live: say.live,
  coming: say.coming,
  ending: say.endingSoon,
  ended: say.ended,
  draft: say.drafts,
};

/** Over the register: what is listed, how much of it is live, what is under way, and what the list is narrowed to. */
@Component({
  selector: 'dm-register-head',
  imports: [AsOfBar, Filters, NgbDropdownModule, ViewMenu],
  templateUrl: './register-head.html',
  styleUrl: './register-head.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RegisterHead {
  protected readonly say = say;
  protected readonly common = common;
  /** Columns one can show or hide, those that are hidden, and one that shall be the other. */
  readonly columns = input.required<readonly ColDef<Item>[]>();
  readonly hidden = input.required<ReadonlySet<string>>();
  readonly toggled = output<string>();
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly view = inject(ViewService);
  protected readonly hasSheet = computed(() => this.place.pageId() !== null);

  protected readonly chips = computed(() => {
    const counts = this.view.summary()?.counts.states;
    return STATE_FILTERS.map((state) => ({
      state,
      title: state === 'ending' ? say.offWithinTwoWeeks : '',
      label: state === 'all' ? say.all : `${LABELS[state]} ${(counts?.[state] ?? 0).toLocaleString('en-GB')}`,
    }));
  });
  protected readonly isBin = computed(() => this.place.scopeKey() === 'bin');
  protected readonly headline = computed(() => {
    const counts = this.view.summary()?.counts;
    if (!counts) return '';
    if (this.isBin())
      return counts.scope === 1 ? say.onePage : say.pagesWithScope(counts.scope.toLocaleString('en-GB'));
    const n = (value: number) => value.toLocaleString('en-GB');
    return say.liveNowGoLiveWithin7Days(n(counts.scope), n(counts.live), n(counts.comingSoon));
  });
  protected readonly waiting = computed(() => this.service.waiting().filter(({ failure }) => failure === null));
  protected readonly unverified = computed(() => {
    const found = this.service.unverified();
    if (!found) return null;
    const where = found.count === 1 ? say.onePlace : say.places(found.count.toLocaleString('en-GB'));
    return { ...found, words: say.visitorsMayNotGetWhatIs(where) };
  });
}
