import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import type { AnswerInput, ReleaseChange } from '@domatium/contracts';
import { MomentField } from '../shared/moment-field';
import { WideSheet } from '../shared/wide-sheet';
import { AnswerField } from './answer-field';
import { ChangeForm } from './change-form';
import { PreviewView } from './preview-view';

/** Takes a page off, now or later, and says what visitors get instead. */
@Component({
  selector: 'dm-take-off-sheet',
  imports: [WideSheet, MomentField, AnswerField, PreviewView],
  template: `
    <dm-wide-sheet
      [heading]="'Take off ' + (page()?.name ?? '')"
      lead="Nobody reaches it any more, not even by its exact address. Its revisions and history stay."
      (closed)="place.go({ panel: null })"
    >
      <h3 class="section-label">When</h3>
      <div class="when-row">
        <span>from</span>
        @if (from() === 'now') {
          <strong>now</strong>
        } @else {
          <dm-moment-field
            label="From"
            [value]="from()"
            [error]="errorOf('from')"
            (changed)="from.set($event ?? 'now')"
          />
        }
        <span>on</span><span class="quiet">{{ service.zone() }}</span>
      </div>
      @if (errorOf('from'); as text) {
        <div class="field-error" role="alert">{{ text }}</div>
      }
      <div class="suggestions">
        <button type="button" class="chip" [attr.aria-pressed]="from() === 'now'" (click)="from.set('now')">Now</button>
        <button type="button" class="chip" [attr.aria-pressed]="from() === tomorrow()" (click)="from.set(tomorrow())">
          Tomorrow 09:00
        </button>
        <button type="button" class="chip" (click)="from.set(nextHour())">Another time</button>
      </div>
      <h3 class="section-label spaced">From then on, visitors of this address get</h3>
      <dm-answer-field
        label="Afterwards"
        [value]="afterwards()"
        [except]="pageId()"
        [errorAt]="errorAt('afterwards')"
        (changed)="$event && afterwards.set($event)"
      />
      <dm-preview-view
        [preview]="preview()"
        [faults]="faults()"
        [shownElsewhere]="['changes[0].from', 'changes[0].afterwards']"
      />
      <ng-container foot>
        <button
          type="button"
          class="btn btn-danger"
          [disabled]="isBusy() || blocking() > 0 || !preview()"
          (click)="go()"
        >
          {{ label() }}
        </button>
        @if (blocking()) {
          <span class="quiet">{{ blocking() === 1 ? '1 thing blocks this' : blocking() + ' things block this' }}</span>
        }
      </ng-container>
    </dm-wide-sheet>
  `,
  styleUrl: './release-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TakeOffSheet extends ChangeForm {
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
  protected readonly label = computed(
    () => `Take ${this.page()?.name ?? 'it'} off ${this.from() === 'now' ? 'now' : `on ${this.words(this.from())}`}`,
  );

  constructor() {
    super();
    this.watch();
  }

  protected go(): void {
    void this.press(
      this.from() === 'now'
        ? `${this.page()?.name} is being taken off.`
        : `${this.page()?.name} comes off on ${this.words(this.from())}.`,
    );
  }
}
