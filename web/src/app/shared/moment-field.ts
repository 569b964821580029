import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { NgbDatepickerModule, NgbDropdown, NgbDropdownModule, type NgbDateStruct } from '@ng-bootstrap/ng-bootstrap';
import { dayOf, dayOrderOf, parseDay, parseTime, writeDay } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { say } from '@domatium/core/words/shared';

/** As the browser writes days. */
const ORDER = dayOrderOf();

/**
 * A day, written out, and a time in the portfolio's zone, typed or chosen. Emits `YYYY-MM-DDTHH:mm`, what was typed
 * where it is no day or time (so that it is refused in words, and kept), or `null` where the day was cleared.
 */
@Component({
  selector: 'dm-moment-field',
  imports: [NgbDropdownModule, NgbDatepickerModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="both" [class.invalid]="!!error() || !!wrong()" ngbDropdown #calendar="ngbDropdown" container="body" autoClose="outside">
      <input
        type="text"
        class="day"
        autocomplete="off"
        [attr.aria-label]="say.day(label())"
        [attr.aria-invalid]="!!error() || !!wrong()"
        [value]="dayText()"
        (focus)="$any($event.target).select()"
        (change)="setDay($any($event.target).value)"
      />
      <button type="button" ngbDropdownToggle [attr.aria-label]="say.chooseTheDay(label())">
        <i class="bi bi-calendar3" aria-hidden="true"></i>
      </button>
      <input
        type="text"
        class="time number"
        inputmode="numeric"
        autocomplete="off"
        [attr.aria-label]="say.time(label())"
        [attr.aria-invalid]="!!error() || !!wrong()"
        [value]="time()"
        (focus)="$any($event.target).select()"
        (change)="setTime($any($event.target).value)"
      />
      <div ngbDropdownMenu class="calendar">
        @if (calendar.isOpen()) {
          <ngb-datepicker [startDate]="start()" (dateSelect)="pick($event, calendar)" />
        }
      </div>
    </span>
    @if (wrong(); as text) {
      <span class="field-error" role="alert">{{ text }}</span>
    }
  `,
  styles: `
    .both {
      display: inline-flex;
      align-items: center;
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
      outline-offset: -2px;
    }
    .day {
      width: 128px;
      padding-right: 0;
    }
    .time {
      width: 54px;
      font-weight: 620;
    }
    button {
      border: 0;
      background: none;
      color: var(--quiet);
      padding: 0 6px;
      font-size: 0.75rem;
      min-height: 24px;
    }
    button::after {
      display: none;
    }
    .calendar {
      padding: 4px;
    }
  `,
})
export class MomentField {
  protected readonly say = say;
  readonly label = input.required<string>();
  readonly value = input.required<string | null>();
  readonly error = input<string | null>(null);
  readonly changed = output<string | null>();
  private readonly register = inject(RegisterService);
  private readonly today = computed(() => dayOf(this.register.now(), this.register.zone()));

  /** What was typed and is no day or time stands as it was typed, beside what is wrong with it. */
  private readonly typed = signal<{ readonly value: string; readonly day: string; readonly time: string } | null>(null);
  private readonly parts = computed(() => {
    const [value, typed] = [this.value() ?? '', this.typed()];
    if (typed?.value === value) return typed;
    const [, day = value, time = ''] = /^(\d{4}-\d\d-\d\d)T(.*)$/.exec(value) ?? [];
    return { day, time };
  });
  protected readonly wrong = computed(() => {
    const { day, time } = this.parts();
    if (!this.value()) return null;
    if (parseDay(day, this.today()) !== day) return say.thatIsNoDay(day);
    return parseTime(time) === time ? null : say.thatIsNoTime(time);
  });
  protected readonly dayText = computed(() => writeDay(this.parts().day));
  protected readonly time = computed(() => this.parts().time);
  protected readonly start = computed<NgbDateStruct>(() => {
    const [year = 1970, month = 1, day = 1] = (parseDay(this.parts().day, this.today()) ?? this.today())
      .split('-')
      .map(Number);
    return { year, month, day };
  });

  protected setDay(typed: string): void {
    if (!typed.trim()) this.changed.emit(null);
    else this.take(parseDay(typed, this.today(), ORDER) ?? typed, this.time() || '00:00');
  }

  protected setTime(typed: string): void {
    this.take(this.parts().day || this.today(), parseTime(typed) ?? typed);
  }

  private take(day: string, time: string): void {
    const value = `${day}T${time}`;
    this.typed.set({ value, day, time });
    this.changed.emit(value);
  }

  protected pick({ year, month, day }: NgbDateStruct, calendar: NgbDropdown): void {
    calendar.close();
    this.setDay(`${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`);
  }
}
