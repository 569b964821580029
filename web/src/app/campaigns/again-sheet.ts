import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import {
  campaignBody,
  copyBody,
  type CampaignBody,
  type CopyBody,
  type CopyPreview,
  type TextHit,
} from '@domatium/contracts';
import { daysBetween, nameByPattern } from '@domatium/core/copy';
import type { RegisterRow } from '@domatium/core/register';
import { dayOf, writeDay, writeInstant, writeEnd, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { DayField } from '../shared/day-field';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { NoticeService } from '../hub/notices';
import { WideSheet } from '../shared/wide-sheet';
import { Work, WorkBar } from '../shared/work';
import { PlaceService } from '../hub/place.service';
import { CampaignsService } from './campaigns.service';
import { say } from '@domatium/core/words/campaigns';
import { say as common } from '@domatium/core/words/common';

const PAUSE = 220;
const keyOf = ({ pageId, place, start }: Pick<TextHit, 'pageId' | 'place' | 'start'>) => `${pageId} ${place} ${start}`;

/** Runs a campaign again on new days: periods shift, names and addresses follow a pattern, dates in texts are decided on. */
@Component({
  selector: 'dm-again-sheet',
  imports: [WideSheet, DayField, WorkBar],
  templateUrl: './again-sheet.html',
  styleUrl: './again-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AgainSheet {
  protected readonly say = say;
  protected readonly common = common;
  readonly campaignId = input.required<number>();
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly campaigns = inject(CampaignsService);
  private readonly notices = inject(NoticeService);
  protected readonly pages = signal<readonly RegisterRow[]>([]);
  protected readonly name = signal('');
  protected readonly firstDay = signal<string | null>(null);
  protected readonly keepsWeekday = signal(true);
  protected readonly names = signal('{name}');
  protected readonly paths = signal('{path}');
  protected readonly preview = signal<CopyPreview | null>(null);
  protected readonly errors = signal<FieldErrors>({});
  protected readonly work = signal<Work | null>(null);
  /** What becomes of each hit; `null` leaves it as it is. */
  protected readonly decisions = signal<ReadonlyMap<string, string | null>>(new Map());
  private hasStarted = false;
  private asked = 0;

  protected readonly campaign = computed(() => this.campaigns.all().find(({ id }) => id === this.campaignId()) ?? null);
  /** The day the old run began: the campaign's own first day, or its pages' first start. */
  protected readonly oldFirst = computed(() => {
    const own = this.campaign()?.fromDay;
    if (own) return own;
    const starts = this.pages().flatMap(({ periods }) => periods.map(({ from }) => from));
    return starts.length ? dayOf(Math.min(...starts) as Instant, this.service.zone()) : null;
  });
  protected readonly days = computed(() => {
    const [old, next] = [this.oldFirst(), this.firstDay()];
    return old && next && errorsOf(campaignBody, { name: 'x', fromDay: next })['fromDay'] === undefined
      ? daysBetween(old, next, this.keepsWeekday())
      : null;
  });
  protected readonly shiftWords = computed(() => {
    const [days, old] = [this.days(), this.oldFirst()];
    if (days === null || !old) return '';
    const first = shifted(old, days);
    return say.everythingMovesByDaysItBegins(Math.abs(days), days < 0 ? say.back : '', writeDay(first));
  });
  private readonly replacements = computed(() => {
    const [old, days] = [this.oldFirst(), this.days()];
    if (!old || days === null) return [];
    const [from = '', to = ''] = [old.slice(0, 4), shifted(old, days).slice(0, 4)];
    const next = (year: string) => String(Number(year) + 1);
    // Next year first: what has become this year's must not move once more.
    return from === to
      ? []
      : to > from
        ? [
            { from: next(from), to: next(to) },
            { from, to },
          ]
        : [
            { from, to },
            { from: next(from), to: next(to) },
          ];
  });
  protected readonly newCampaign = computed<CampaignBody | null>(() => {
    const [campaign, days] = [this.campaign(), this.days()];
    if (!campaign || days === null) return null;
    const { purpose, fromDay, untilDay, ownerId } = campaign;
    return {
      name: this.name(),
      purpose,
      ownerId,
      fromDay: fromDay && shifted(fromDay, days),
      untilDay: untilDay && shifted(untilDay, days),
    };
  });
  private readonly question = computed(() => ({
    pages: this.pages().map(({ id }) => id),
    target: { portfolioId: this.service.portfolioId(), siteId: null },
    names: this.names(),
    paths: this.paths(),
    replacements: this.replacements(),
    withPeriods: true,
    days: this.days() ?? 0,
  }));
  protected readonly hits = computed(() => {
    const names = new Map(this.pages().map(({ id, name }) => [id, name]));
    return (this.preview()?.hits ?? []).map((hit) => {
      const decided = this.decisions().get(keyOf(hit));
      return {
        ...hit,
        key: keyOf(hit),
        page: names.get(hit.pageId) ?? '',
        by: decided === undefined ? hit.proposal : decided,
      };
    });
  });
  protected readonly changing = computed(() => this.hits().filter(({ by }) => by !== null).length);
  protected readonly rows = computed(() => this.preview()?.pages ?? []);
  /** Notice bands of its pages, put on once more for the new run. */
  protected readonly bands = computed(() => this.preview()?.bands ?? []);
  protected readonly taken = computed(() => this.rows().filter(({ isFree }) => !isFree).length);
  protected readonly faulty = computed(() => this.rows().filter(({ fault }) => fault !== null).length);
  protected readonly periods = computed(() => this.rows().reduce((sum, row) => sum + row.periods.length, 0));

  constructor() {
    effect(() => {
      const id = this.campaignId();
      if (!this.service.version()) return;
      void this.service.desk.ofCampaign(id, this.service.shown()).then((pages) => this.pages.set(pages));
    });
    effect(() => {
      const [campaign, old] = [this.campaign(), this.oldFirst()];
      if (!campaign || !old || this.hasStarted) return;
      this.hasStarted = true;
      untracked(() => {
        this.firstDay.set(`${Number(old.slice(0, 4)) + 1}${old.slice(4)}`.replace(/-02-29$/, '-02-28'));
        this.name.set(nameByPattern('{name}', { name: campaign.name, path: '/' }, this.replacements()));
        if (this.name() === campaign.name) this.name.set(`${campaign.name} ${this.firstDay()?.slice(0, 4)}`);
        // Where addresses carry no year of their own they would be the old ones.
        if (this.pages().some(({ path }) => !this.replacements().some(({ from }) => path.includes(from))))
          this.paths.set(`{path}-${this.firstDay()?.slice(0, 4)}`);
      });
    });
    effect((cleanUp) => {
      const [question, days] = [this.question(), this.days()];
      this.service.version();
      const number = ++this.asked;
      if (days === null || !question.pages.length) return void this.preview.set(null);
      const errors = errorsOf(copyBody, question);
      this.errors.set(errors);
      if (Object.keys(errors).length) return void this.preview.set(null);
      const timer = setTimeout(
        () =>
          void this.campaigns.copyPreview(question).then((answer) => {
            if (number !== this.asked) return;
            if ('errors' in answer) this.errors.set(answer.errors);
            this.preview.set('errors' in answer ? null : answer.value);
          }),
        PAUSE,
      );
      cleanUp(() => clearTimeout(timer));
    });
  }

  protected stretch({ from, until }: { readonly from: number; readonly until: number | null }): string {
    const [zone, now] = [this.service.zone(), this.service.now()];
    return `${writeInstant(from as Instant, zone, now)}${until === null ? say.openEnd : say.to(writeEnd(until as Instant, zone, now))}`;
  }

  protected decide(key: string, by: string | null): void {
    this.decisions.update((all) => new Map(all).set(key, by));
  }

  protected async go(): Promise<void> {
    const [campaign, days] = [this.newCampaign(), this.days()];
    if (!campaign || days === null || this.work()) return;
    const errors = errorsOf(campaignBody, campaign);
    this.errors.set(errors);
    if (Object.keys(errors).length) return;
    const texts = this.hits().flatMap(({ pageId, place, start, end, by }) =>
      by === null ? [] : [{ pageId, place, start, end, by }],
    );
    const copy = copyBody.cast({ ...this.question(), texts }) as CopyBody;
    const work = new Work(this.service.events);
    this.work.set(work);
    try {
      const answer = await this.campaigns.again(this.campaignId(), campaign, copy, work);
      if ('errors' in answer) return this.errors.set(answer.errors);
      const made = answer.value;
      this.notices.say({
        kind: 'done',
        text: say.draftsAndAPreparedReleaseNothing(campaign.name, made.pages.length),
        action: { label: say.seeThePreparedRelease, run: () => this.place.go({ panel: 'prepared' }) },
      });
      this.place.go({ scope: `campaign:${made.campaignId}`, panel: null });
    } catch {
      this.notices.say({ kind: 'done', text: say.cancelledNothingWasMade });
    } finally {
      work.end();
      this.work.set(null);
    }
  }
}

/** A day so many days later. */
function shifted(day: string, days: number): string {
  return new Date(Date.parse(`${day}T00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
}
