import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { campaignBody, type CampaignBody, type CampaignVisits } from '@domatium/contracts';
import { uncovered, type Uncovered } from '@domatium/core/plan';
import type { RegisterRow } from '@domatium/core/register';
import { DAY, instantOfWall, writeDay, writeEnd, writeInstant, type Instant, type Interval } from '@domatium/core/time';
import { writeChange } from '@domatium/core/traffic';
import { RegisterService } from '../hub/register.service';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { NoticeService } from '../hub/notices';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { CampaignForm, EMPTY_CAMPAIGN } from './campaign-form';
import { CampaignsService } from './campaigns.service';
import { WhenBar } from './when-bar';
import { say } from '@domatium/core/words/campaigns';
import { say as common } from '@domatium/core/words/common';

const MARGIN = 7 * DAY;

/** A campaign: what it is for, all of its pages over time on one axis, visits added up, and what is missing. */
@Component({
  selector: 'dm-campaign-sheet',
  imports: [WideSheet, CampaignForm, WhenBar],
  templateUrl: './campaign-sheet.html',
  styleUrl: './campaign-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CampaignSheet {
  protected readonly say = say;
  protected readonly common = common;
  readonly campaignId = input.required<number>();
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly campaigns = inject(CampaignsService);
  private readonly notices = inject(NoticeService);
  protected readonly pages = signal<readonly RegisterRow[]>([]);
  protected readonly visits = signal<CampaignVisits | null>(null);
  protected readonly edited = signal<CampaignBody | null>(null);
  protected readonly errors = signal<FieldErrors>({});

  protected readonly campaign = computed(() => this.campaigns.all().find(({ id }) => id === this.campaignId()) ?? null);
  protected readonly span = computed(() => {
    const { fromDay, untilDay } = this.campaign() ?? {};
    const zone = this.service.zone();
    const from = fromDay ? instantOfWall({ local: `${fromDay}T00:00`, zone }) : null;
    const last = untilDay ? instantOfWall({ local: `${untilDay}T23:59`, zone }) : null;
    return from !== null && last !== null ? { from, until: (last + 60_000) as Instant } : null;
  });
  /** The axis: the campaign's days and a week around, or all that its pages have. */
  protected readonly scale = computed(() => {
    const span = this.span();
    if (span) return { from: span.from - MARGIN, until: span.until + MARGIN };
    const now = this.service.now();
    const edges = this.pages().flatMap(({ periods }) => periods.flatMap(({ from, until }) => [from, until ?? now]));
    return { from: Math.min(now, ...edges) - MARGIN, until: Math.max(now, ...edges) + MARGIN };
  });
  protected readonly days = computed(() => {
    const { fromDay, untilDay } = this.campaign() ?? {};
    return fromDay && untilDay ? say.toWithFromDay(writeDay(fromDay), writeDay(untilDay)) : say.noDaysChosenYet;
  });
  protected readonly problems = computed(() => {
    const span = this.span();
    if (!span) return [];
    return this.pages().flatMap((page) => {
      const periods = page.periods.map(({ from, until }): Interval => ({
        from: from as Instant,
        until: until as Instant | null,
      }));
      // An event may be shorter than its campaign; what is missing is a page that never comes, or one that leaves nothing.
      return uncovered(periods, span)
        .filter(({ kind }) => kind === 'never' || kind === 'gap' || (kind === 'early' && !page.redirectsAfter))
        .map((gap) => ({ page, words: this.gapWords(gap) }));
    });
  });
  protected readonly change = computed(() => {
    const visits = this.visits();
    return visits?.before30 ? writeChange((visits.last30 - visits.before30) / visits.before30) : null;
  });

  constructor() {
    effect(() => {
      const id = this.campaignId();
      const [at, version] = [this.service.shown(), this.service.version()];
      if (!version) return;
      void this.service.desk.ofCampaign(id, at).then((pages) => this.pages.set(pages));
    });
    effect(() => {
      const id = this.campaignId();
      this.service.version();
      untracked(() => void this.campaigns.visits(id).then((visits) => this.visits.set(visits)));
    });
  }

  private gapWords({ kind, from, until }: Uncovered): string {
    const [zone, now] = [this.service.zone(), this.service.now()];
    switch (kind) {
      case 'never':
        return say.isNeverLiveDuringIt;
      case 'late':
        return say.beginsOnlyOn(writeInstant(until, zone, now));
      case 'early':
        return say.endsWithAndItsAddressGives(writeEnd(from, zone, now));
      case 'gap':
        return say.isOffFromTo(writeInstant(from, zone, now), writeInstant(until, zone, now));
    }
  }

  protected edit(): void {
    const campaign = this.campaign();
    if (!campaign) return;
    const { name, purpose, fromDay, untilDay, ownerId } = campaign;
    this.errors.set({});
    this.edited.set({ name, purpose, fromDay, untilDay, ownerId });
  }

  protected async save(): Promise<void> {
    const [campaign, edited] = [this.campaign(), this.edited()];
    if (!campaign || !edited) return;
    const errors = errorsOf(campaignBody, edited);
    this.errors.set(errors);
    if (Object.keys(errors).length) return;
    const answer = await this.campaigns.change(campaign.id, campaign.version, edited);
    if ('errors' in answer) return this.errors.set(answer.errors);
    const { name, purpose, fromDay, untilDay, ownerId } = campaign;
    this.edited.set(null);
    this.notices.say({
      kind: 'done',
      text: say.isChanged(edited.name),
      action: {
        label: common.undo,
        run: () =>
          void this.campaigns.change(campaign.id, campaign.version + 1, { name, purpose, fromDay, untilDay, ownerId }),
      },
    });
  }

  protected async remove(): Promise<void> {
    const campaign = this.campaign();
    if (!campaign) return;
    const answer = await this.campaigns.remove(campaign.id, campaign.version);
    if ('errors' in answer) {
      this.edit();
      return this.errors.set(answer.errors);
    }
    const { name, purpose, fromDay, untilDay, ownerId } = campaign;
    this.notices.say({
      kind: 'done',
      text: say.isRemoved(name),
      action: {
        label: common.undo,
        run: () => void this.campaigns.make({ name, purpose, fromDay, untilDay, ownerId }),
      },
    });
    this.place.go({ scope: null, panel: null });
  }
}

/** A new campaign. */
@Component({
  selector: 'dm-new-campaign-sheet',
  imports: [WideSheet, CampaignForm],
  template: `
    <dm-wide-sheet
      [heading]="say.newCampaign"
      [lead]="say.aPurposeWithDaysThatPages"
      (closed)="place.go({ panel: null })"
    >
      <dm-campaign-form [value]="body()" [errors]="errors()" (changed)="body.set($event)" />
      <ng-container foot>
        <button type="button" class="btn btn-primary" (click)="make()">{{ say.makeTheCampaign }}</button>
      </ng-container>
    </dm-wide-sheet>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewCampaignSheet {
  protected readonly say = say;
  private readonly campaigns = inject(CampaignsService);
  protected readonly place = inject(PlaceService);
  protected readonly body = signal<CampaignBody>(EMPTY_CAMPAIGN);
  protected readonly errors = signal<FieldErrors>({});

  protected async make(): Promise<void> {
    const errors = errorsOf(campaignBody, this.body());
    this.errors.set(errors);
    if (Object.keys(errors).length) return;
    const answer = await this.campaigns.make(this.body());
    if ('errors' in answer) return this.errors.set(answer.errors);
    this.place.go({ scope: `campaign:${answer.value.id}`, panel: 'campaign' });
  }
}
