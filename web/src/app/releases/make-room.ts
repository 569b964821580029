import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { say } from '@domatium/core/words/releases';

/** A page that has the wanted address. */
export interface Holder {
  readonly pageId: number;
  readonly name: string;
}

/** How it makes room for this one, at the same moment. */
export interface Room extends Holder {
  readonly by: 'taking-off' | 'swapping';
}

/** Where another page has the address: the ways to have it all the same, each one act together with the rest. */
@Component({
  selector: 'dm-make-room',
  template: `
    @for (one of holders(); track one.pageId) {
      <div class="suggestions" role="group" [attr.aria-label]="say.makeRoom(one.name)">
        <button type="button" class="chip" (click)="chosen.emit([{ pageId: one.pageId, name: one.name, by: 'taking-off' }])">
          {{ say.takeTheAddressOver(one.name) }}
        </button>
        @if (maySwap()) {
          <button type="button" class="chip" (click)="chosen.emit([{ pageId: one.pageId, name: one.name, by: 'swapping' }])">
            {{ say.swapAddressesWith(one.name) }}
          </button>
        }
      </div>
    }
    @for (one of rooms(); track one.pageId) {
      <p class="field-note">
        {{ one.by === 'swapping' ? say.getsTheAddressOfThis(one.name) : say.comesOffThen(one.name) }}
        <button type="button" class="btn-link-plain" (click)="chosen.emit([])">{{ say.leaveItThere }}</button>
      </p>
    }
  `,
  styleUrl: './release-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MakeRoom {
  protected readonly say = say;
  readonly holders = input.required<readonly Holder[]>();
  readonly rooms = input.required<readonly Room[]>();
  /** Whether the other page can have the address of this one. */
  readonly maySwap = input(false);
  readonly chosen = output<readonly Room[]>();
}
