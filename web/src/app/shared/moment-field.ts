import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';

/** A day and a time in the portfolio's zone. Emits `YYYY-MM-DDTHH:mm`, or `null` while one of them is missing. */
@Component({
  selector: 'dm-moment-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="both" [class.invalid]="!!error()">
      <input
        type="date"
        [attr.aria-label]="label() + ', day'"
        [value]="day()"
        (change)="set($any($event.target).value, time())"
        [attr.aria-invalid]="!!error()"
      />
      <input
        type="time"
        [attr.aria-label]="label() + ', time'"
        [value]="time()"
        (change)="set(day(), $any($event.target).value)"
        [attr.aria-invalid]="!!error()"
      />
    </span>
  `,
  styles: `
    .both {
      display: inline-flex;
      border: 1px solid var(--rule);
      border-radius: var(--corner);
      background: var(--surface);
    }
    .both:focus-within {
      border-color: var(--moss);
    }
    .invalid {
      border-color: var(--ember);
    }
    input {
      border: 0;
      background: none;
      padding: 3px 8px;
      font-variant-numeric: tabular-nums;
      outline-offset: -2px;
    }
    input[type='time'] {
      font-weight: 620;
      padding-left: 0;
    }
  `,
})
export class MomentField {
  readonly label = input.required<string>();
  readonly value = input.required<string | null>();
  readonly error = input<string | null>(null);
  readonly changed = output<string | null>();
  protected readonly day = computed(() => this.value()?.slice(0, 10) ?? '');
  protected readonly time = computed(() => this.value()?.slice(11) ?? '');

  protected set(day: string, time: string): void {
    this.changed.emit(day ? `${day}T${time || '00:00'}` : null);
  }
}
