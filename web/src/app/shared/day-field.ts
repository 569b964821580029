import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { NgbDatepickerModule, NgbDropdown, NgbDropdownModule, type NgbDateStruct } from '@ng-bootstrap/ng-bootstrap';
import { dayOf, dayOrderOf, parseDay, writeDay } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { say } from '@domatium/core/words/shared';

/** As the browser writes days. */
const ORDER = dayOrderOf();

/** A day, written out, typed or chosen. Emits `YYYY-MM-DD`, what was typed where it is no day, or `null` where it was cleared. */
@Component({
  selector: 'dm-day-field',
  imports: [NgbDropdownModule, NgbDatepickerModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="both" [class.invalid]="!!error()" ngbDropdown #calendar="ngbDropdown" container="body" autoClose="outside">
      <input
        type="text"
        autocomplete="off"
        [attr.aria-label]="label()"
        [attr.aria-invalid]="!!error()"
        [value]="text()"
        (focus)="$any($event.target).select()"
        (change)="set($any($event.target).value)"
      />
      <button type="button" ngbDropdownToggle [attr.aria-label]="say.chooseTheDay(label())">
        <i class="bi bi-calendar3" aria-hidden="true"></i>
      </button>
      <div ngbDropdownMenu class="calendar">
        @if (calendar.isOpen()) {
          <ngb-datepicker [startDate]="start()" (dateSelect)="pick($event, calendar)" />
        }
      </div>
    </span>
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
      padding: 4px 0 4px 8px;
      width: 128px;
      outline-offset: -2px;
    }
    button {
      border: 0;
      background: none;
      color: var(--quiet);
      padding: 0 8px;
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
export class DayField {
  protected readonly say = say;
  readonly label = input.required<string>();
  readonly value = input.required<string | null>();
  readonly error = input<string | null>(null);
  readonly changed = output<string | null>();
  private readonly register = inject(RegisterService);
  private readonly today = computed(() => dayOf(this.register.now(), this.register.zone()));
  protected readonly text = computed(() => writeDay(this.value() ?? ''));
  protected readonly start = computed<NgbDateStruct>(() => {
    const day = parseDay(this.value() ?? '', this.today()) ?? this.today();
    const [year = 1970, month = 1, date = 1] = day.split('-').map(Number);
    return { year, month, day: date };
  });

  protected set(typed: string): void {
    this.changed.emit(typed.trim() ? (parseDay(typed, this.today(), ORDER) ?? typed) : null);
  }

  protected pick({ year, month, day }: NgbDateStruct, calendar: NgbDropdown): void {
    calendar.close();
    this.set(`${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`);
  }
}
