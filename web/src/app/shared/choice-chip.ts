import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { say as common } from '@domatium/core/words/common';

export interface Choice {
  /** Empty for any. */
  readonly value: string;
  readonly label: string;
  readonly count?: number;
}

/** A filter or an arrangement as a chip: its name and what is chosen, with the others and their counts in its menu. */
@Component({
  selector: 'dm-choice-chip',
  imports: [NgbDropdownModule],
  template: `
    <div ngbDropdown #menu="ngbDropdown" placement="bottom-end" container="body">
      <button type="button" class="chip" ngbDropdownToggle [class.is-set]="value() !== ''">
        {{ label() }}{{ value() === '' ? '' : ': ' + chosen() }} <i class="bi bi-chevron-down" aria-hidden="true"></i>
      </button>
      <div ngbDropdownMenu class="choice-menu">
        @for (choice of menu.isOpen() ? choices() : []; track choice.value) {
          <button ngbDropdownItem [attr.aria-current]="choice.value === value() ? 'true' : null" (click)="picked.emit(choice.value)">
            <span>{{ choice.label }}</span>
            @if (choice.count !== undefined) {
              <span class="quiet number">{{ choice.count.toLocaleString('en-GB') }}</span>
            }
          </button>
        }
      </div>
    </div>
  `,
  styles: `
    .chip::after {
      display: none;
    }
    .bi-chevron-down {
      font-size: 0.625rem;
      color: var(--quiet);
    }
    .is-set {
      background: var(--moss-tint);
      border-color: var(--moss);
      font-weight: 560;
    }
    ::ng-deep .choice-menu {
      max-height: 60vh;
      overflow-y: auto;
    }
    ::ng-deep .choice-menu .dropdown-item {
      display: flex;
      justify-content: space-between;
      gap: 24px;
    }
    ::ng-deep .choice-menu [aria-current='true'] {
      font-weight: 620;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChoiceChip {
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  readonly choices = input.required<readonly Choice[]>();
  readonly picked = output<string>();
  protected readonly chosen = computed(
    () => this.choices().find(({ value }) => value === this.value())?.label ?? (this.value() || common.any),
  );
}
