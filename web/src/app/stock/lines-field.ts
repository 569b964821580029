import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal, untracked } from '@angular/core';
import { say } from '@domatium/core/words/codes';

/** What a text of lines comes to, or what is wrong with one of them. */
export type ReadLines<Value> = (lines: readonly string[]) => { readonly value: Value } | { readonly wrong: string };

/** Several short values, one a line: told as soon as all of them are right. What is typed stays until then. */
@Component({
  selector: 'dm-lines-field',
  template: `
    <textarea
      class="form-control mono"
      spellcheck="false"
      [id]="fieldId()"
      [rows]="rows()"
      [class.is-invalid]="!!wrong()"
      [attr.aria-invalid]="wrong() ? 'true' : null"
      [value]="text()"
      (input)="type($any($event.target).value)"
    ></textarea>
    @if (wrong(); as why) {
      <div class="field-error" role="alert">{{ why }} {{ say.notKeptYet }}</div>
    }
  `,
  styles: `
    .mono {
      font-size: 0.8125rem;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LinesField<Value> {
  protected readonly say = say;
  readonly fieldId = input.required<string>();
  /** As they are kept. */
  readonly lines = input.required<readonly string[]>();
  readonly read = input.required<ReadLines<Value>>();
  readonly changed = output<Value>();
  protected readonly text = signal('');
  private readonly typed = computed(() =>
    this.text()
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean),
  );
  private readonly result = computed(() => this.read()(this.typed()));
  protected readonly wrong = computed(() => {
    const result = this.result();
    return 'wrong' in result ? result.wrong : null;
  });
  protected readonly rows = computed(() => Math.min(8, Math.max(2, this.text().split('\n').length)));
  /** What was last told, in its lines. */
  private sent = '';

  constructor() {
    // What comes from elsewhere, by undo or another thing that is opened, takes the place of what is typed.
    effect(() => {
      const kept = this.lines().join('\n');
      untracked(() => {
        if (kept !== this.sent) this.text.set(kept);
        this.sent = kept;
      });
    });
  }

  protected type(text: string): void {
    this.text.set(text);
    const result = this.result();
    if ('wrong' in result) return;
    this.sent = this.typed().join('\n');
    this.changed.emit(result.value);
  }
}
