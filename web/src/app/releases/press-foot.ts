import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { say } from '@domatium/core/words/releases';
import { say as common } from '@domatium/core/words/common';

/** The foot of every sheet that changes what visitors get: press it, or write it down for somebody else to press or approve. */
@Component({
  selector: 'dm-press-foot',
  template: `
    @if (!wantsApproval()) {
      <button
        type="button"
        class="btn"
        [class.btn-primary]="!isEnding()"
        [class.btn-danger]="isEnding()"
        [disabled]="!mayPress()"
        (click)="pressed.emit()"
      >
        {{ label() }}
      </button>
    }
    <button
      type="button"
      class="btn"
      [class.btn-primary]="wantsApproval()"
      [class.btn-plain]="!wantsApproval()"
      [disabled]="!mayPrepare()"
      (click)="prepared.emit()"
    >
      {{ wantsApproval() ? say.prepareItForApproval : common.prepareInstead }}
    </button>
    @if (blocking() && !wantsApproval()) {
      <span class="quiet">{{ blocking() === 1 ? say.oneThingBlocksThis : say.thingsBlockThis(blocking()) }}</span>
    }
  `,
  styles: `
    :host {
      display: contents;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PressFoot {
  protected readonly say = say;
  protected readonly common = common;
  readonly label = input.required<string>();
  readonly mayPress = input.required<boolean>();
  readonly mayPrepare = input.required<boolean>();
  /** A site of it wants somebody else to approve: it can only be prepared. */
  readonly wantsApproval = input(false);
  /** It ends something. */
  readonly isEnding = input(false);
  /** How many things hold it back. */
  readonly blocking = input(0);
  readonly pressed = output();
  readonly prepared = output();
}
