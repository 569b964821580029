import { ChangeDetectionStrategy, Component, computed, inject, model } from '@angular/core';
import { differenceWords } from '@domatium/core/document';
import { conflictWords } from './conflict-words';
import { DraftService } from './draft.service';
import { say } from '@domatium/core/words/editor';

const HOW = { changed: say.differs, 'only-in-first': say.onlyInMine, 'only-in-second': say.onlyInTheOther };

/** Two people have changed the same: what differs, and which of the two it shall be. */
@Component({
  selector: 'dm-conflict-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (draft.other(); as other) {
      <section class="card" role="alertdialog" [attr.aria-label]="say.twoTexts">
        <h2>{{ say.changedByMeanwhile(other.changedBy ?? say.someoneElse) }}</h2>
        <p>{{ say.bothVersionsAreKeptUntilYou }}</p>
        @for (conflict of draft.conflicts(); track conflict.blockId) {
          <div class="choice">
            <p>{{ words(conflict) }}</p>
            <button type="button" class="btn-link-plain" (click)="draft.decide(conflict, 'mine')">{{ say.keepMine }}</button> ·
            <button type="button" class="btn-link-plain" (click)="draft.decide(conflict, 'theirs')">{{ say.takeTheirs }}</button>
          </div>
        } @empty {
          <ul>
            @for (difference of differences(); track difference) {
              <li>{{ difference }}</li>
            }
          </ul>
        }
        <div class="choices" role="group" [attr.aria-label]="say.textOnTheCanvas">
          <button type="button" [attr.aria-pressed]="look() === 'mine'" (click)="look.set('mine')">{{ say.showMine }}</button>
          <button type="button" [attr.aria-pressed]="look() === 'theirs'" (click)="look.set('theirs')">
            {{ say.showTheirs }}
          </button>
        </div>
        <button type="button" class="btn btn-primary" (click)="choose('mine')">{{ say.keepMine }}</button>
        <button type="button" class="btn btn-plain" (click)="choose('theirs')">{{ say.useTheirs }}</button>
      </section>
    }
  `,
  styles: `
    section {
      border-color: var(--ochre);
      background: var(--ochre-tint);
      .btn + .btn {
        margin-left: 8px;
      }
    }
    h2 {
      font-size: 0.875rem;
      font-weight: 680;
      margin: 0;
    }
    .choice {
      border-top: 1px solid var(--rule-soft);
      padding: 6px 0;
      p {
        margin: 0;
      }
    }
  `,
})
export class ConflictBar {
  protected readonly say = say;
  protected readonly draft = inject(DraftService);
  /** Which of the two texts is on the canvas meanwhile. */
  readonly look = model<'mine' | 'theirs'>('mine');
  protected readonly words = conflictWords;
  protected readonly differences = computed(() => {
    const [mine, theirs] = [this.draft.document(), this.draft.other()?.document];
    return mine && theirs ? differenceWords(mine, theirs, HOW) : [];
  });

  protected choose(which: 'mine' | 'theirs'): void {
    this.look.set('mine');
    this.draft.choose(which);
  }
}
