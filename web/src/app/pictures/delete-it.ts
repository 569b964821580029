import { ChangeDetectionStrategy, Component, input, linkedSignal, output } from '@angular/core';
import { say } from '@domatium/core/words/pictures';

/** Deletes what nothing uses, after asking once; what is used is not asked about: whoever deletes says by what. */
@Component({
  selector: 'dm-delete-it',
  template: `
    @if (isAsking()) {
      <p class="field-note" role="status">{{ words() }}</p>
      <p class="acts">
        <button type="button" class="btn btn-plain" (click)="confirmed.emit()">{{ say.deleteForEver }}</button>
        <button type="button" class="btn-link-plain quiet" (click)="isAsking.set(false)">{{ say.keepIt }}</button>
      </p>
    } @else {
      <button type="button" class="btn-link-plain quiet" (click)="ask()">{{ say.deleteIt }}</button>
    }
  `,
  styles: `
    :host {
      display: block;
      margin-top: 10px;
    }
    p {
      margin: 0 0 6px;
    }
    .acts {
      display: flex;
      gap: 12px;
      align-items: center;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeleteIt {
  protected readonly say = say;
  /** What it is about, by its number: another one is asked about anew. */
  readonly subject = input.required<number>();
  /** Looked up when it is to be deleted, not before: it may have changed since. */
  readonly isUsed = input.required<() => Promise<boolean>>();
  /** What goes with it. */
  readonly words = input.required<string>();
  readonly confirmed = output();
  protected readonly isAsking = linkedSignal({ source: this.subject, computation: () => false });

  protected async ask(): Promise<void> {
    const subject = this.subject();
    const isUsed = await this.isUsed()();
    if (subject !== this.subject()) return;
    if (isUsed) this.confirmed.emit();
    else this.isAsking.set(true);
  }
}
