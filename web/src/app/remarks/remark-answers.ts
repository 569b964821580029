import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import type { RemarkAnswer } from '@domatium/contracts';
import { say } from '@domatium/core/words/reviews';

/** What was answered to a remark, and a field for one more answer. */
@Component({
  selector: 'dm-remark-answers',
  template: `
    @for (one of answers(); track one.id) {
      <p class="answer">
        <strong>{{ one.name }}</strong> <span class="quiet number"> {{ write()(one.at) }}</span><br />{{ one.text }}
      </p>
    }
    @if (mayAnswer()) {
      @if (isOpen()) {
        <form (submit)="$event.preventDefault(); send(field.value)">
          <textarea #field class="form-control" rows="2" maxlength="2000" [attr.aria-label]="say.yourAnswer"></textarea>
          <div class="acts">
            <button type="submit" class="btn btn-plain">{{ say.answer }}</button>
            <button type="button" class="btn-link-plain quiet" (click)="isOpen.set(false)">{{ say.notNow }}</button>
          </div>
        </form>
      } @else {
        <button type="button" class="btn-link-plain" (click)="isOpen.set(true)">{{ say.answer }}</button>
      }
    }
  `,
  styles: `
    .answer {
      margin: 4px 0 4px;
      padding-inline-start: 10px;
      border-inline-start: 2px solid var(--rule);
      white-space: pre-line;
      overflow-wrap: anywhere;
    }
    .acts {
      display: flex;
      gap: 10px;
      align-items: center;
      margin: 6px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RemarkAnswers {
  protected readonly say = say;
  readonly answers = input.required<readonly RemarkAnswer[]>();
  readonly mayAnswer = input(false);
  /** How an instant is written here. */
  readonly write = input.required<(at: number) => string>();
  readonly answered = output<string>();
  protected readonly isOpen = signal(false);

  protected send(text: string): void {
    if (!text.trim()) return;
    this.isOpen.set(false);
    this.answered.emit(text.trim());
  }
}
