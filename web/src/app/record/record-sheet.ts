import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import type { RecordEntry } from '@domatium/contracts';
import { dayOf, parseDay, wallOf, writeDay, type Instant } from '@domatium/core/time';
import { RECORD_KINDS, type RecordKind } from '@domatium/core/words';
import { refusalOf } from '../hub/answer';
import { api, Api, Refusal } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { DayField } from '../shared/day-field';
import { WideSheet } from '../shared/wide-sheet';
import { say } from '@domatium/core/words/record';
import { say as common } from '@domatium/core/words/common';

interface Day {
  readonly day: string;
  readonly entries: readonly (RecordEntry & { readonly time: string })[];
}

/** Who did what in the portfolio, filtered, day by day, and as a file. */
@Component({
  selector: 'dm-record-sheet',
  imports: [WideSheet, DayField],
  template: `
    <dm-wide-sheet [heading]="say.record" [lead]="say.whoDidWhat" (closed)="place.go({ panel: null })">
      <div class="filters">
        <select class="form-select" [attr.aria-label]="say.who" (change)="by.set(+$any($event.target).value || null)">
          <option value="">{{ say.everybody }}</option>
          @for (person of people(); track person.id) {
            <option [value]="person.id" [selected]="person.id === by()">{{ person.name }}</option>
          }
        </select>
        <select class="form-select" [attr.aria-label]="say.what" (change)="kind.set($any($event.target).value || null)">
          <option value="">{{ say.everything }}</option>
          @for (one of kinds(); track one) {
            <option [value]="one" [selected]="one === kind()">{{ say.kinds[one] }}</option>
          }
        </select>
        <span class="days">
          <span class="quiet">{{ say.from }}</span>
          <dm-day-field [label]="say.fromDay" [value]="from()" [error]="wrong(from())" (changed)="from.set($event)" />
        </span>
        <span class="days">
          <span class="quiet">{{ say.to }}</span>
          <dm-day-field [label]="say.toDay" [value]="until()" [error]="wrong(until())" (changed)="until.set($event)" />
        </span>
        <a class="btn btn-plain" [href]="file()">{{ say.asCsv }}</a>
      </div>
      @for (text of [wrong(from()), wrong(until()), trouble()]; track $index) {
        @if (text) {
          <p class="field-error" role="alert">{{ text }}</p>
        }
      }
      @for (day of days(); track day.day) {
        <h3 class="section-label">{{ day.day }}</h3>
        <ol>
          @for (entry of day.entries; track entry.id) {
            <li>
              <span class="number quiet">{{ entry.time }}</span>
              <span class="who">{{ entry.by ?? say.theSystem }}</span>
              <span class="of" [title]="entry.subject ?? ''">
                @if (entry.pageId; as pageId) {
                  <button type="button" class="btn-link-plain" (click)="place.go({ page: pageId, panel: null })">
                    {{ entry.subject }}
                  </button>
                } @else {
                  {{ entry.subject }}
                }
              </span>
              <span class="what">{{ entry.words }}</span>
              @if (entry.canUndo && service.mayWrite()) {
                <button type="button" class="btn-link-plain" [attr.aria-label]="common.undo + ': ' + entry.words" (click)="undo(entry)">
                  {{ common.undo }}
                </button>
              }
            </li>
          }
        </ol>
      } @empty {
        @if (isLoading()) {
          <div class="skeleton" style="width: 70%" aria-busy="true"></div>
        } @else {
          <p class="quiet">{{ say.nothingWasDone }}</p>
        }
      }
      @if (earlier()) {
        <button type="button" class="btn btn-plain" [disabled]="isLoading()" (click)="load(earlier())">
          {{ say.showEarlier }}
        </button>
      }
    </dm-wide-sheet>
  `,
  styles: `
    .filters {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px;
      margin-bottom: 12px;
    }
    .filters select {
      width: 190px;
    }
    ol {
      list-style: none;
      margin: 0 0 14px;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: 40px 84px 130px 1fr auto;
      gap: 10px;
      padding: 4px 0;
      border-bottom: 1px solid var(--rule-soft);
      align-items: baseline;
    }
    .days {
      display: inline-flex;
      align-items: center;
      gap: 8px;
    }
    .who,
    .of {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .of button {
      max-width: 100%;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .what {
      overflow-wrap: anywhere;
    }
    @media (max-width: 700px) {
      li {
        grid-template-columns: 40px 84px 1fr auto;
      }
      .what {
        grid-column: 2 / -1;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RecordSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly client = inject(Api);
  private readonly notices = inject(NoticeService);
  protected readonly by = signal<number | null>(null);
  protected readonly kind = signal<RecordKind | null>(null);
  protected readonly from = signal<string | null>(null);
  protected readonly until = signal<string | null>(null);
  private readonly entries = signal<readonly RecordEntry[]>([]);
  protected readonly earlier = signal<number | null>(null);
  protected readonly isLoading = signal(true);
  protected readonly trouble = signal<string | null>(null);
  private asked = 0;

  protected readonly people = computed(() => this.service.head()?.people ?? []);
  /** What concerns people is told to owners only. */
  protected readonly kinds = computed(() =>
    RECORD_KINDS.filter((kind) => kind !== 'people' || this.service.mayManage()),
  );
  protected readonly days = computed<Day[]>(() => {
    const zone = this.service.zone();
    const days: { day: string; entries: (RecordEntry & { time: string })[] }[] = [];
    for (const entry of this.entries()) {
      const [date = '', time = ''] = wallOf(entry.at as Instant, zone).split('T');
      const day = writeDay(date);
      if (days.at(-1)?.day !== day) days.push({ day, entries: [] });
      days.at(-1)?.entries.push({ ...entry, time });
    }
    return days;
  });
  /** The filters as a query; `null` while a day is none. */
  private readonly query = computed(() => {
    const [from, until] = [this.from(), this.until()];
    if (this.wrong(from) || this.wrong(until)) return null;
    const [by, kind] = [this.by(), this.kind()];
    return {
      ...(by === null ? {} : { by }),
      ...(kind === null ? {} : { kind }),
      ...(from === null ? {} : { from }),
      ...(until === null ? {} : { until }),
    };
  });
  protected readonly file = computed(() => {
    const query = new URLSearchParams(Object.entries(this.query() ?? {}).map(([name, value]) => [name, String(value)]));
    return `/api/portfolios/${this.service.portfolioId()}/record.csv?${query.toString()}`;
  });

  constructor() {
    effect(() => {
      if (this.query() && this.service.version()) void this.load(null);
    });
  }

  protected wrong(day: string | null): string | null {
    if (day === null) return null;
    return parseDay(day, dayOf(this.service.now(), this.service.zone())) === day ? null : say.thatIsNoDay(day);
  }

  /** What was done before an entry, behind what is shown; `null` for the newest, in its place. */
  protected async load(before: number | null): Promise<void> {
    const query = this.query();
    if (!query) return;
    const question = ++this.asked;
    this.isLoading.set(true);
    try {
      const params = { portfolioId: this.service.portfolioId() };
      const answer = await this.client.call(api.record, {
        params,
        query: before === null ? query : { ...query, before },
      });
      if (question !== this.asked) return;
      this.entries.update((shown) => (before === null ? answer.entries : [...shown, ...answer.entries]));
      this.earlier.set(answer.earlier);
      this.trouble.set(null);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
    } finally {
      if (question === this.asked) this.isLoading.set(false);
    }
  }

  protected async undo({ id }: RecordEntry): Promise<void> {
    const params = { portfolioId: this.service.portfolioId(), entryId: id };
    const refusal = await refusalOf(() => this.client.call(api.undoRecorded, { params }));
    this.notices.say(refusal ? { kind: 'trouble', text: refusal } : { kind: 'done', text: say.done });
    if (!refusal) await this.service.load();
  }
}
