import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import type { AnswerInput, PageSheet, ReleaseChange } from '@domatium/contracts';
import { instantOfWall, isoInstant, wallOf, writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import { MomentField } from '../shared/moment-field';
import { PlanDrawing, type MovedEnd } from '../shared/plan-drawing';
import { WideSheet } from '../shared/wide-sheet';
import { ZONES } from '../shared/zones';
import { AnswerField } from './answer-field';
import { api, Api, Refusal } from '../hub/api';
import { ChangeForm } from './change-form';
import { PressFoot } from './press-foot';
import { PreviewView } from './preview-view';
import { say } from '@domatium/core/words/releases';
import { say as common } from '@domatium/core/words/common';

/** Other times for a period of a page, and what follows it: nothing is released anew. */
@Component({
  selector: 'dm-period-sheet',
  imports: [WideSheet, MomentField, PlanDrawing, AnswerField, PreviewView, PressFoot],
  template: `
    <dm-wide-sheet
      [heading]="say.changeThePeriodOf(page()?.name ?? '')"
      [lead]="say.theRevisionStaysNothingIsReleased"
      (closed)="place.go({ panel: null })"
    >
      @if (period(); as shown) {
        @if (choices().length > 1) {
          <h3 class="section-label">{{ say.whichPeriod }}</h3>
          <div class="choices" role="group" [attr.aria-label]="say.whichPeriod">
            @for (one of choices(); track one.from) {
              <button type="button" [attr.aria-pressed]="one.from === shown.from" (click)="chosen.set(one.from)">
                {{ one.words }}
              </button>
            }
          </div>
        }
        <h3 class="section-label spaced">{{ common.when }}</h3>
        <div class="times">
          <span class="quiet">{{ common.from }}</span>
          <div class="when-row">
            @if (hasBegun()) {
              <span>{{ say.itHasBegun(written(shown.from)) }}</span>
            } @else {
              <dm-moment-field
                [label]="common.fromToo"
                [value]="from()"
                [error]="errorOf('from')"
                (changed)="from.set($event ?? from())"
              />
            }
          </div>
          <span class="quiet">{{ common.until }}</span>
          <div class="when-row">
            @if (until() !== null) {
              <dm-moment-field
                [label]="common.untilToo"
                [value]="until()"
                [error]="errorOf('until')"
                (changed)="until.set($event)"
              />
            }
            <button type="button" class="chip" [attr.aria-pressed]="until() === null" (click)="until.set(null)">
              {{ common.openEnd }}
            </button>
            @if (until() === null) {
              <button type="button" class="chip" (click)="endAt(nextHour())">{{ say.withAnEnd }}</button>
            }
          </div>
          <span class="quiet">{{ say.inZone }}</span>
          <div class="when-row">
            <select class="form-select zone" [attr.aria-label]="say.timesIn" (change)="chooseZone($any($event.target).value)">
              @for (one of zones; track one) {
                <option [value]="one" [selected]="one === zone()">{{ one }}</option>
              }
            </select>
            <span class="quiet">{{ elsewhere() }}</span>
          </div>
        </div>
        @for (field of ['from', 'until', 'start']; track field) {
          @if (errorOf(field); as text) {
            <div class="field-error" role="alert">{{ text }}</div>
          }
        }
        @if (page(); as page) {
          <dm-plan-drawing [periods]="others()" [planned]="drawn()" [isMovable]="true" (moved)="take($event)" />
        }
        @if (cutsPlanned()) {
          <label class="form-check">
            <input
              type="checkbox"
              class="form-check-input"
              [checked]="cutsLater()"
              (change)="cutsLater.set($any($event.target).checked)"
            />
            <span class="form-check-label">{{ say.cutThePeriodsThatArePlanned }}</span>
          </label>
        }
        @if (until() !== null) {
          <h3 class="section-label spaced">{{ say.afterwardsVisitorsOfThisAddressGet }}</h3>
          @if (afterwards(); as answer) {
            <dm-answer-field
              [label]="say.afterwards"
              [value]="answer"
              [except]="pageId()"
              [errorAt]="errorAt('afterwards')"
              (changed)="afterwards.set($event)"
            />
            <button type="button" class="btn-link-plain" (click)="afterwards.set(null)">{{ say.whatItLeavesStays }}</button>
          } @else {
            <p>
              {{ say.whatWasPlannedForItsEnd }}
              <button type="button" class="btn-link-plain" (click)="afterwards.set({ kind: 'not-found' })">
                {{ say.somethingElse }}
              </button>
            </p>
            @if (errorOf('afterwards'); as text) {
              <div class="field-error" role="alert">{{ text }}</div>
            }
          }
        }
        @if (change()) {
        <dm-preview-view
          [isJudging]="isJudging()"
          [meanwhile]="meanwhile()"
          (seen)="acknowledge()"
          [preview]="preview()"
          [faults]="faults()"
          [shownElsewhere]="shownElsewhere"
        />
        }
      } @else {
        <p>{{ say.nothingIsLiveOrPlanned }}</p>
      }
      <ng-container foot>
        <dm-press-foot
          [label]="say.changeThePeriod"
          [mayPress]="mayPress()"
          [mayPrepare]="mayPrepare()"
          [wantsApproval]="wantsApproval()"
          [blocking]="blocking()"
          (pressed)="go()"
          (prepared)="prepare(page()?.name ?? '')"
        />
      </ng-container>
    </dm-wide-sheet>
  `,
  styleUrl: './release-form.scss',
  styles: `
    .zone {
      width: 220px;
    }
    .choices {
      display: grid;
    }
    h3.spaced {
      margin-top: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PeriodSheet extends ChangeForm {
  protected readonly say = say;
  protected readonly common = common;
  readonly pageId = input.required<number>();
  private readonly client = inject(Api);
  protected readonly zones = ZONES;
  protected readonly page = computed(() => this.service.page(this.pageId()) ?? null);
  /** Periods that are not over: only they have times to change. */
  private readonly open = computed(() => {
    const now = this.service.now();
    return (this.page()?.periods ?? []).filter(({ until }) => until === null || until > now);
  });
  protected readonly chosen = signal<number | null>(null);
  protected readonly period = computed(() => {
    const [all, chosen] = [this.open(), this.chosen()];
    return all.find(({ from }) => from === chosen) ?? all[0] ?? null;
  });
  protected readonly choices = computed(() =>
    this.open().map(({ from, until, revision }) => ({
      from,
      words: say.revisionFromTo(revision, this.written(from), until === null ? say.on('…') : this.end(until)),
    })),
  );
  /** On whose clock its moments were chosen, where that is not the portfolio's. */
  private readonly kept = signal<PageSheet['zones']>([]);
  /** The zone in which the times are chosen. */
  protected readonly zone = signal(this.service.zone());
  protected readonly from = linkedSignal(() => this.localOf(this.period()?.from ?? null) ?? '');
  protected readonly until = linkedSignal(() => this.localOf(this.period()?.until ?? null));
  /** `null`: what came after it before. */
  protected readonly afterwards = signal<AnswerInput | null>(null);
  protected readonly cutsLater = signal(false);
  protected readonly hasBegun = computed(() => (this.period()?.from ?? Infinity) <= this.service.now());
  protected readonly change = computed<ReleaseChange | null>(() => {
    const period = this.period();
    if (!period) return null;
    const until = this.until();
    const isSame = this.from() === this.localOf(period.from) && until === this.localOf(period.until);
    if (isSame && this.afterwards() === null) return null;
    return {
      act: 'retime',
      pageId: this.pageId(),
      start: isoInstant(period.from as Instant),
      from: this.hasBegun() || this.from() === this.localOf(period.from) ? null : this.inZone(this.from()),
      until: until === null ? null : this.inZone(until),
      afterwards: until === null ? null : this.afterwards(),
      cutsLater: this.cutsLater(),
    };
  });
  protected readonly cutsPlanned = computed(
    () => this.cutsLater() || (this.preview()?.cuts.some(({ isLater }) => isLater) ?? false),
  );
  protected readonly drawn = computed(() => {
    const period = this.period();
    if (!period) return null;
    const from = this.hasBegun() ? (period.from as Instant) : instantOfWall(this.inZone(this.from()));
    const until = this.until();
    return from === null
      ? null
      : { from, until: until === null ? null : instantOfWall(this.inZone(until)), revision: period.revision };
  });
  protected readonly others = computed(() => (this.page()?.periods ?? []).filter((one) => one !== this.period()));
  /** In the portfolio's own zone, where another one is chosen. */
  protected readonly elsewhere = computed(() => {
    const drawn = this.drawn();
    if (!drawn || this.zone() === this.service.zone()) return '';
    const end = drawn.until === null ? '' : say.to(this.end(drawn.until));
    return say.thatIsIn(`${this.written(drawn.from)} ${end}`, this.service.zone());
  });
  protected readonly shownElsewhere = ['start', 'from', 'until', 'afterwards', 'cutsLater'].map(
    (field) => `changes[0].${field}`,
  );

  constructor() {
    super();
    this.watch();
    // Times are read on the clock they were chosen on.
    effect(() => {
      const period = this.period();
      const of = (at: number | null) => this.kept().find((one) => one.at === at)?.zone;
      const zone = period && (of(period.until) ?? of(period.from));
      if (zone) untracked(() => this.chooseZone(zone));
    });
    effect(() => {
      const params = { portfolioId: this.service.portfolioId(), pageId: this.pageId() };
      this.client.call(api.sheet, { params, query: {} }).then(
        ({ zones }) => this.kept.set(zones),
        (error: unknown) => {
          // Without it the times are in the portfolio's zone, and say so.
          if (!(error instanceof Refusal)) throw error;
        },
      );
    });
    // An end that was dragged in the page's sheet.
    effect(() => {
      const moved = this.place.movedEnd();
      if (!moved || !this.page()) return;
      untracked(() => {
        this.place.movedEnd.set(null);
        this.chosen.set(moved.start);
        this.take(moved);
      });
    });
  }

  /** The same instants, written in another zone. */
  protected chooseZone(zone: string): void {
    const moved = (local: string) => {
      const at = instantOfWall(this.inZone(local));
      return at === null ? local : wallOf(at, zone);
    };
    const until = this.until();
    const [from, end] = [moved(this.from()), until === null ? null : moved(until)];
    this.zone.set(zone);
    this.from.set(from);
    this.until.set(end);
  }

  /** An end that was dragged on the bar. */
  protected take({ end, at }: MovedEnd): void {
    const local = wallOf(at as Instant, this.zone());
    if (end === 'from') this.from.set(local);
    else this.endAt(local);
  }

  /** An end. One that had none before leaves nothing yet: what comes then is asked for, beginning with nothing. */
  protected endAt(local: string): void {
    this.until.set(local);
    if (this.period()?.until === null && this.afterwards() === null) this.afterwards.set({ kind: 'not-found' });
  }

  private inZone(local: string) {
    return { local, zone: this.zone() };
  }

  private localOf(at: number | null): string | null {
    return at === null ? null : wallOf(at as Instant, this.zone());
  }

  protected written(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }

  private end(at: number): string {
    return writeEnd(at as Instant, this.service.zone(), this.service.now());
  }

  protected go(): void {
    void this.press(say.thePeriodIsChanged(this.page()?.name ?? ''));
  }
}
