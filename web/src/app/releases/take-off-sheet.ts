import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import type { AnswerInput, ReleaseChange } from '@domatium/contracts';
import { MomentField } from '../shared/moment-field';
import { WideSheet } from '../shared/wide-sheet';
import { AnswerField } from './answer-field';
import { ChangeForm } from './change-form';
import { PressFoot } from './press-foot';
import { PreviewView } from './preview-view';
import { say } from '@domatium/core/words/releases';
import { say as common } from '@domatium/core/words/common';

/** Takes a page off, now or later, and says what visitors get instead. */
@Component({
  selector: 'dm-take-off-sheet',
  imports: [WideSheet, MomentField, AnswerField, PreviewView, PressFoot],
  template: `
    <dm-wide-sheet
      [heading]="say.takeOffWithName((page()?.name ?? ''))"
      [lead]="say.nobodyReachesItAnyMoreNot"
      (closed)="place.go({ panel: null })"
    >
      <h3 class="section-label">{{ common.when }}</h3>
      <div class="when-row">
        <span>{{ common.from }}</span>
        @if (from() === 'now') {
          <strong>{{ say.now }}</strong>
        } @else {
          <dm-moment-field
            [label]="common.fromToo"
            [value]="from()"
            [error]="errorOf('from')"
            (changed)="from.set($event ?? 'now')"
          />
        }
        <span>{{ say.onSmall }}</span><span class="quiet">{{ service.zone() }}</span>
      </div>
      @if (errorOf('from'); as text) {
        <div class="field-error" role="alert">{{ text }}</div>
      }
      <div class="suggestions">
        <button type="button" class="chip" [attr.aria-pressed]="from() === 'now'" (click)="from.set('now')">{{ common.now }}</button>
        <button type="button" class="chip" [attr.aria-pressed]="from() === tomorrow()" (click)="from.set(tomorrow())">
          {{ say.tomorrow0900 }}
        </button>
        <button type="button" class="chip" (click)="from.set(nextHour())">{{ say.anotherTime }}</button>
      </div>
      <h3 class="section-label spaced">{{ say.fromThenOnVisitorsOfThis }}</h3>
      <dm-answer-field
        [label]="say.afterwards"
        [value]="afterwards()"
        [except]="pageId()"
        [errorAt]="errorAt('afterwards')"
        (changed)="$event && afterwards.set($event)"
      />
      <dm-preview-view
        [isJudging]="isJudging()"
        [meanwhile]="meanwhile()"
        (seen)="acknowledge()"
        [preview]="preview()"
        [faults]="faults()"
        [shownElsewhere]="['changes[0].from', 'changes[0].afterwards']"
      />
      <ng-container foot>
        <dm-press-foot
          [label]="label()"
          [mayPress]="mayPress()"
          [mayPrepare]="mayPrepare()"
          [wantsApproval]="wantsApproval()"
          [blocking]="blocking()"
          [isEnding]="true"
          (pressed)="go()"
          (prepared)="prepare(page()?.name ?? '')"
        />
      </ng-container>
    </dm-wide-sheet>
  `,
  styleUrl: './release-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TakeOffSheet extends ChangeForm {
  protected readonly say = say;
  protected readonly common = common;
  readonly pageId = input.required<number>();
  protected readonly page = computed(() => this.service.page(this.pageId()) ?? null);
  protected readonly from = signal<string>('now');
  protected readonly afterwards = signal<AnswerInput>({ kind: 'not-found' });
  protected readonly change = computed<ReleaseChange | null>(() => ({
    act: 'take-off',
    pageId: this.pageId(),
    from: this.from() === 'now' ? 'now' : this.wall(this.from()),
    until: null,
    afterwards: this.afterwards(),
  }));
  protected readonly label = computed(() =>
    say.takeOff(this.page()?.name ?? common.it, this.from() === 'now' ? say.now : say.on(this.words(this.from()))),
  );

  constructor() {
    super();
    this.watch();
  }

  protected go(): void {
    void this.press(
      this.from() === 'now'
        ? say.isBeingTakenOff(this.page()?.name ?? '')
        : say.comesOffOn(this.page()?.name ?? '', this.words(this.from())),
    );
  }
}
