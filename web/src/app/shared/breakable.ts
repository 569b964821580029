import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

/** A text with addresses in it: it breaks before a slash, not inside of a word. */
@Component({
  selector: 'dm-breakable',
  template: `@for (part of parts(); track $index) {
    <wbr /><span>{{ part }}</span>
  }`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Breakable {
  readonly text = input.required<string>();
  protected readonly parts = computed(() => this.text().split(/(?=\/[^\s,])/));
}
