import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { instantOfWall, parseDay } from '@domatium/core/time';
import type { FindingCode } from '@domatium/core/words';
import { say } from '@domatium/core/words/shared';
import { AcceptedService } from '../hub/accepted.service';
import type { FieldErrors } from '../hub/forms';
import { RegisterService } from '../hub/register.service';
import { DayField } from './day-field';

/** Why something that was found is let be in its place, and until when. */
@Component({
  selector: 'dm-accept-finding',
  imports: [DayField],
  template: `
    <form (submit)="$event.preventDefault(); accept(reason.value)" (keydown.escape)="$event.stopPropagation(); done.emit()">
      <label>
        <span class="section-label">{{ say.whyItIsAccepted }}</span>
        <input #reason class="form-control" [attr.maxlength]="500" autocomplete="off" [attr.aria-invalid]="!!errors()['reason']" />
      </label>
      @if (errors()['reason'] ?? errors()['whole']; as text) {
        <div class="field-error" role="alert">{{ text }}</div>
      }
      <div class="parts">
        <span class="section-label">{{ say.acceptedUntil }}</span>
        <dm-day-field [label]="say.acceptedUntil" [value]="day()" [error]="errors()['until'] ?? null" (changed)="day.set($event)" />
        <span class="quiet">{{ say.openWhereEmpty }}</span>
      </div>
      @if (errors()['until']; as text) {
        <div class="field-error" role="alert">{{ text }}</div>
      }
      <div class="parts">
        <button type="submit" class="btn btn-primary">{{ say.accept }}</button>
        <button type="button" class="btn btn-plain" (click)="done.emit()">{{ say.cancel }}</button>
      </div>
    </form>
  `,
  styles: `
    form {
      padding: 4px 0 8px;
    }
    label {
      display: block;
    }
    .parts {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px;
      margin-top: 8px;
    }
    .parts .section-label {
      margin: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AcceptFinding {
  protected readonly say = say;
  readonly pageId = input.required<number>();
  readonly code = input.required<string>();
  readonly blockId = input.required<string | null>();
  private readonly reason = viewChild.required<ElementRef<HTMLInputElement>>('reason');
  /** It was accepted, or was left as it is. */
  readonly done = output();
  private readonly accepted = inject(AcceptedService);
  private readonly register = inject(RegisterService);
  protected readonly day = signal<string | null>(null);
  protected readonly errors = signal<FieldErrors>({});

  constructor() {
    afterNextRender(() => this.reason().nativeElement.focus());
  }

  protected async accept(reason: string): Promise<void> {
    const day = this.day();
    if (day && !parseDay(day, day)) return this.errors.set({ until: say.thatIsNoDay(day) });
    const until = day ? instantOfWall({ local: `${day}T23:59`, zone: this.register.zone() }) : null;
    const place = { pageId: this.pageId(), code: this.code() as FindingCode, blockId: this.blockId() };
    const answer = await this.accepted.accept({ ...place, reason: reason.trim(), until });
    if ('errors' in answer) this.errors.set(answer.errors);
    else this.done.emit();
  }
}
