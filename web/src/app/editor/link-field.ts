import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { checkOutsideAddress } from '@domatium/core/address';
import type { LinkTarget } from '@domatium/core/document';
import type { PageId } from '@domatium/core/plan';
import { PagePicker } from '../shared/page-picker';

/** Where a link leads: a page by reference, or an outside address. */
@Component({
  selector: 'dm-link-field',
  imports: [PagePicker],
  template: `
    <div class="kinds" role="group" [attr.aria-label]="label()">
      <button type="button" class="chip" [attr.aria-pressed]="kind() === 'page'" (click)="asked.set('page')">
        A page
      </button>
      <button type="button" class="chip" [attr.aria-pressed]="kind() === 'outside'" (click)="asked.set('outside')">
        Outside
      </button>
    </div>
    @if (kind() === 'page') {
      <dm-page-picker
        [label]="label()"
        [pageId]="pageId()"
        (picked)="changed.emit({ kind: 'page', pageId: $any($event) })"
      />
    } @else {
      <input
        type="url"
        class="form-control"
        [attr.aria-label]="label() + ', outside address'"
        placeholder="https://"
        [value]="url()"
        [class.is-invalid]="!!error()"
        (change)="outside($any($event.target).value)"
      />
      <div class="field-error">{{ error() }}</div>
    }
  `,
  styles: `
    .kinds {
      display: flex;
      gap: 6px;
      margin-bottom: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LinkField {
  readonly label = input.required<string>();
  readonly value = input.required<LinkTarget | null>();
  readonly changed = output<LinkTarget>();
  protected readonly asked = signal<LinkTarget['kind'] | null>(null);
  protected readonly error = signal<string | null>(null);
  protected readonly kind = computed(() => this.asked() ?? this.value()?.kind ?? 'page');
  protected readonly pageId = computed<PageId | null>(() => {
    const value = this.value();
    return value?.kind === 'page' ? value.pageId : null;
  });
  protected readonly url = computed(() => {
    const value = this.value();
    return value?.kind === 'outside' ? value.url : '';
  });

  protected outside(typed: string): void {
    const checked = checkOutsideAddress(typed);
    this.error.set(checked.ok ? null : checked.why);
    if (checked.ok) this.changed.emit({ kind: 'outside', url: checked.url });
  }
}
