import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MOST_SNIPPET, type Robots } from '@domatium/core/document';
import { DESCRIPTION_SHOWN } from '@domatium/core/metadata';
import { instantOfWall, wallOf, type Instant } from '@domatium/core/time';
import { say } from '@domatium/core/words/metadata';
import { RegisterService } from '../hub/register.service';
import { MomentField } from '../shared/moment-field';

const FLAGS = [
  { key: 'noindex', label: say.keepOutOfSearchResults },
  { key: 'nofollow', label: say.dontFollowItsLinks },
  { key: 'noarchive', label: say.showNoCopyOfIt },
] as const;

/** What is asked of search engines. */
@Component({
  selector: 'dm-robots-fields',
  imports: [MomentField],
  template: `
    @for (flag of flags; track flag.key) {
      <label class="flag">
        <input
          type="checkbox"
          class="form-check-input"
          [checked]="robots()[flag.key] === true"
          (change)="set(flag.key, $any($event.target).checked || undefined)"
        />
        {{ flag.label }}
      </label>
    }
    <label class="form-label" for="snippet">{{ say.textBelowAResult }}</label>
    <div class="row-of-two">
      <select id="snippet" class="form-select" (change)="chooseSnippet($any($event.target).value)">
        <option value="" [selected]="snippet() === ''">{{ say.asTheyLike }}</option>
        <option value="none" [selected]="snippet() === 'none'">{{ say.noText }}</option>
        <option value="most" [selected]="snippet() === 'most'">{{ say.atMost }}</option>
      </select>
      @if (snippet() === 'most') {
        <input
          type="number"
          class="form-control number"
          min="1"
          [max]="mostSnippet"
          [attr.aria-label]="say.mostCharacters"
          [value]="robots().maxSnippet"
          (change)="setSnippet($any($event.target).value)"
        />
        <span>{{ say.charactersWord }}</span>
      }
    </div>
    @if (isSnippetWrong()) {
      <span class="field-error" role="alert">{{ say.enterANumberUpTo(mostSnippet.toLocaleString('en-GB')) }}</span>
    }
    <label class="form-label" for="previews">{{ say.picturesBesideAResult }}</label>
    <select id="previews" class="form-select" (change)="set('maxImagePreview', $any($event.target).value || undefined)">
      <option value="" [selected]="!robots().maxImagePreview">{{ say.asTheyLike }}</option>
      <option value="none" [selected]="robots().maxImagePreview === 'none'">{{ say.noPictures }}</option>
      <option value="standard" [selected]="robots().maxImagePreview === 'standard'">{{ say.smallOnes }}</option>
      <option value="large" [selected]="robots().maxImagePreview === 'large'">{{ say.largeOnes }}</option>
    </select>
    <span class="form-label">{{ say.outOfSearchFrom }}</span>
    <dm-moment-field [label]="say.outOfSearchFrom" [value]="until()" (changed)="setUntil($event)" />
  `,
  styles: `
    :host {
      display: block;
    }
    .form-label {
      display: block;
      margin-top: 6px;
    }
    .flag {
      display: flex;
      align-items: center;
      gap: 8px;
      min-height: 26px;
    }
    .flag .form-check-input {
      margin: 0;
    }
    .row-of-two {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    .row-of-two .form-control {
      width: 84px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RobotsFields {
  protected readonly say = say;
  readonly robots = input.required<Robots>();
  readonly changed = output<Robots>();
  private readonly register = inject(RegisterService);
  protected readonly flags = FLAGS;
  protected readonly mostSnippet = MOST_SNIPPET;
  protected readonly snippet = computed(() => {
    const { maxSnippet } = this.robots();
    return maxSnippet === undefined ? '' : maxSnippet === 0 ? 'none' : 'most';
  });
  protected readonly isSnippetWrong = signal(false);
  protected readonly until = computed(() => {
    const { unavailableAfter } = this.robots();
    return unavailableAfter ? wallOf(unavailableAfter.at as Instant, unavailableAfter.zone) : null;
  });

  protected chooseSnippet(choice: string): void {
    this.isSnippetWrong.set(false);
    this.set('maxSnippet', choice === 'none' ? 0 : choice === 'most' ? DESCRIPTION_SHOWN : undefined);
  }

  /** What is no number of characters is said beside it, and leaves what was there. */
  protected setSnippet(typed: string): void {
    const most = Math.round(Number(typed));
    const isRight = most > 0 && most <= MOST_SNIPPET;
    this.isSnippetWrong.set(!isRight);
    if (isRight) this.set('maxSnippet', most);
  }

  protected setUntil(local: string | null): void {
    const zone = this.register.zone();
    const at = local === null ? null : instantOfWall({ local, zone });
    if (local === null) this.set('unavailableAfter', undefined);
    else if (at !== null) this.set('unavailableAfter', { at, zone });
  }

  /** What is as usual is not kept. */
  protected set<Key extends keyof Robots>(key: Key, value: Robots[Key] | undefined): void {
    const { [key]: _, ...rest } = this.robots();
    this.changed.emit((value === undefined ? rest : { ...rest, [key]: value }) as Robots);
  }
}
