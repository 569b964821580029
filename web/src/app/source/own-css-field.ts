import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { readOwnCss } from '@domatium/core/theme';
import { CodeField } from './code-field';
import { say } from '@domatium/core/words/source';

/** Own CSS, checked as one types: what is wrong with it by its line, and what of the rules below it gives way. */
@Component({
  selector: 'dm-own-css-field',
  imports: [CodeField],
  template: `
    <dm-code-field [label]="label()" language="css" [value]="value()" [check]="check" (changed)="changed.emit($event)" />
    @for (fault of read().faults; track $index) {
      <p [class]="fault.severity === 'blocks' ? 'field-error' : 'field-note'">
        {{ say.line(fault.line, fault.message) }}
      </p>
    }
    @for (one of read().overrides; track one.selector) {
      <p class="field-note">
        {{ say.overrides }} <span class="mono">{{ one.selector }}</span
        >: {{ one.properties.join(', ') }}
      </p>
    }
  `,
  styles: `
    p {
      margin: 6px 0 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OwnCssField {
  protected readonly say = say;
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  /** The stylesheet it stands over. */
  readonly below = input.required<string>();
  readonly changed = output<string>();
  protected readonly read = computed(() => readOwnCss(this.value(), this.below()));
  protected readonly check = (text: string) => readOwnCss(text).faults;
}
