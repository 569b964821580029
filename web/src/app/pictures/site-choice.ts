import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { say } from '@domatium/core/words/pictures';

/** One of several sites, whose draft changes: what that means is said before it is done. */
@Component({
  selector: 'dm-site-choice',
  template: `
    <select class="form-select" [attr.aria-label]="label()" (change)="chosen.set(+$any($event.target).value)">
      <option value="0" [selected]="!site()">{{ label() }}…</option>
      @for (one of sites(); track one.id) {
        <option [value]="one.id" [selected]="one.id === chosen()">{{ one.name }}</option>
      }
    </select>
    @if (site(); as one) {
      <p class="field-note">{{ say.itGoesIntoTheDraftOf(one.name) }}</p>
      <button type="button" class="btn btn-plain" (click)="given.emit(one); chosen.set(0)">{{ act() }} {{ one.name }}</button>
    }
  `,
  styles: `
    :host {
      display: block;
      margin-top: 6px;
    }
    p {
      margin: 6px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SiteChoice {
  protected readonly say = say;
  readonly label = input.required<string>();
  /** What the button does, before the name of the site. */
  readonly act = input.required<string>();
  readonly sites = input.required<readonly { readonly id: number; readonly name: string }[]>();
  readonly given = output<{ readonly id: number; readonly name: string }>();
  protected readonly chosen = signal(0);
  protected readonly site = computed(() => this.sites().find(({ id }) => id === this.chosen()) ?? null);
}
