import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { SEARCH_FILTERS, UNVISITED_DAYS } from '@domatium/core/register';
import { ChoiceChip, type Choice } from '../shared/choice-chip';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { ViewService } from '../hub/view.service';
import { say } from '@domatium/core/words/register';
import { SEARCH_WORDS } from '@domatium/core/words';
import { say as common } from '@domatium/core/words/common';

const ANY: Choice = { value: '', label: common.any };
const GROUPINGS: readonly Choice[] = [
  { value: '', label: common.noneOfThem },
  { value: 'domain', label: say.byDomain },
  { value: 'site', label: say.bySite },
  { value: 'campaign', label: say.byCampaign },
  { value: 'owner', label: say.byOwner },
  { value: 'search', label: say.bySearch },
];

/** Filters beside the states, each with what it would leave, and how the list is grouped. */
@Component({
  selector: 'dm-filters',
  imports: [ChoiceChip],
  template: `
    <dm-choice-chip [label]="common.campaign" [value]="place.campaign()" [choices]="campaigns()" (picked)="place.go({ campaign: $event })" />
    <dm-choice-chip [label]="common.owner" [value]="place.owner()" [choices]="owners()" (picked)="place.go({ owner: $event })" />
    @if (labels().length > 2) {
      <dm-choice-chip [label]="say.label" [value]="place.label()" [choices]="labels()" (picked)="place.go({ label: $event })" />
    }
    @if (templates().length > 2) {
      <dm-choice-chip [label]="say.template" [value]="place.template()" [choices]="templates()" (picked)="place.go({ template: $event })" />
    }
    <dm-choice-chip [label]="say.toFix" [value]="place.findings() ?? ''" [choices]="findings()" (picked)="place.go({ findings: $event })" />
    <dm-choice-chip [label]="say.visits" [value]="place.visits() ?? ''" [choices]="visits()" (picked)="place.go({ visits: $event })" />
    <dm-choice-chip [label]="say.ways" [value]="place.ways() ?? ''" [choices]="ways()" (picked)="place.go({ ways: $event })" />
    <dm-choice-chip [label]="say.search" [value]="place.search() ?? ''" [choices]="search()" (picked)="place.go({ search: $event })" />
    <dm-choice-chip [label]="say.group" [value]="place.group() ?? ''" [choices]="groupings" (picked)="place.go({ group: $event })" />
  `,
  styles: `
    :host {
      display: flex;
      gap: 6px;
      flex-wrap: wrap;
    }
    @media (max-width: 700px) {
      :host {
        flex-wrap: nowrap;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Filters {
  protected readonly common = common;
  protected readonly say = say;
  protected readonly place = inject(PlaceService);
  private readonly service = inject(RegisterService);
  private readonly view = inject(ViewService);
  protected readonly groupings = GROUPINGS;

  protected readonly campaigns = computed(() =>
    this.choices(this.service.head()?.campaigns ?? [], this.view.summary()?.counts.campaigns),
  );
  protected readonly owners = computed(() =>
    this.choices(this.service.head()?.people ?? [], this.view.summary()?.counts.owners),
  );
  protected readonly labels = computed(() =>
    this.choices(
      this.service.head()?.labels.map((name) => ({ id: name, name })) ?? [],
      this.view.summary()?.counts.labels,
    ),
  );
  protected readonly templates = computed(() =>
    this.choices(this.service.head()?.templates ?? [], this.view.summary()?.counts.templates),
  );
  protected readonly findings = computed<Choice[]>(() => {
    const counts = this.view.summary()?.counts.findings;
    return [
      ANY,
      { value: 'some', label: say.something, count: counts?.some ?? 0 },
      { value: 'blocks', label: say.blocksARelease, count: counts?.blocks ?? 0 },
      { value: 'none', label: say.nothing, count: counts?.none ?? 0 },
    ];
  });
  protected readonly visits = computed<Choice[]>(() => {
    const counts = this.view.summary()?.counts.visits;
    return [
      ANY,
      { value: 'rising', label: say.rising, count: counts?.rising ?? 0 },
      { value: 'falling', label: say.falling, count: counts?.falling ?? 0 },
      { value: 'unvisited', label: say.liveNoneForDays(UNVISITED_DAYS), count: counts?.unvisited ?? 0 },
    ];
  });

  protected readonly ways = computed<Choice[]>(() => {
    const counts = this.view.summary()?.counts.ways;
    return [
      ANY,
      { value: 'no-menu', label: say.inNoMenu, count: counts?.['no-menu'] ?? 0 },
      { value: 'unlinked', label: say.linkedFromNowhere, count: counts?.unlinked ?? 0 },
    ];
  });

  protected readonly search = computed<Choice[]>(() => {
    const counts = this.view.summary()?.counts.search;
    return [ANY, ...SEARCH_FILTERS.map((one) => ({ value: one, label: SEARCH_WORDS[one], count: counts?.[one] ?? 0 }))];
  });

  /** What can be chosen, by identity: a view stays what it is when something gets another name. */
  private choices(
    items: readonly { readonly id: number | string; readonly name: string }[],
    counts: ReadonlyMap<number, number> | undefined,
  ): Choice[] {
    return [
      ANY,
      ...items.map(({ id, name }, index) => ({ value: String(id), label: name, count: counts?.get(index) ?? 0 })),
      { value: '-', label: common.noneOfThem, count: counts?.get(-1) ?? 0 },
    ];
  }
}
