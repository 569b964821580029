import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { CampaignBody } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { DayField } from '../shared/day-field';
import type { FieldErrors } from '../hub/forms';
import { say as common } from '@domatium/core/words/common';
import { say } from '@domatium/core/words/campaigns';

/** What a campaign is called, is for, when it is and whose it is. */
@Component({
  selector: 'dm-campaign-form',
  imports: [DayField],
  template: `
    <label class="section-label" for="campaign-name">{{ common.name }}</label>
    <input
      id="campaign-name"
      class="form-control"
      autocomplete="off"
      [value]="value().name"
      [class.is-invalid]="!!errors()['name']"
      (change)="set({ name: $any($event.target).value })"
    />
    <div class="field-error">{{ errors()['name'] }}</div>
    <label class="section-label" for="campaign-purpose">{{ say.whatItIsFor }}</label>
    <textarea
      id="campaign-purpose"
      class="form-control"
      rows="2"
      [value]="value().purpose"
      [class.is-invalid]="!!errors()['purpose']"
      (change)="set({ purpose: $any($event.target).value })"
    ></textarea>
    <div class="field-error">{{ errors()['purpose'] }}</div>
    <div class="row-of-fields">
      <div>
        <span class="section-label">{{ say.firstDay }}</span>
        <dm-day-field
          [label]="say.firstDay"
          [value]="value().fromDay ?? null"
          [error]="errors()['fromDay'] ?? null"
          (changed)="set({ fromDay: $event })"
        />
      </div>
      <div>
        <span class="section-label">{{ say.lastDay }}</span>
        <dm-day-field
          [label]="say.lastDay"
          [value]="value().untilDay ?? null"
          [error]="errors()['untilDay'] ?? null"
          (changed)="set({ untilDay: $event })"
        />
      </div>
      <div class="grow">
        <label class="section-label" for="campaign-owner">{{ common.owner }}</label>
        <select
          id="campaign-owner"
          class="form-select"
          (change)="set({ ownerId: +$any($event.target).value || null })"
        >
          <option value="" [selected]="!value().ownerId">{{ common.nobody }}</option>
          @for (person of people(); track person.id) {
            <option [value]="person.id" [selected]="person.id === value().ownerId">{{ person.name }}</option>
          }
        </select>
      </div>
    </div>
    <div class="field-error">{{ errors()['fromDay'] ?? errors()['untilDay'] ?? errors()['ownerId'] ?? errors()['whole'] }}</div>
  `,
  styles: `
    .section-label {
      display: block;
      margin-top: 8px;
    }
    .row-of-fields {
      display: flex;
      gap: 14px;
    }
    .grow {
      flex: 1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CampaignForm {
  protected readonly common = common;
  protected readonly say = say;
  readonly value = input.required<CampaignBody>();
  readonly errors = input<FieldErrors>({});
  readonly changed = output<CampaignBody>();
  private readonly register = inject(RegisterService);
  protected readonly people = computed(() => this.register.head()?.people ?? []);

  protected set(change: Partial<CampaignBody>): void {
    this.changed.emit({ ...this.value(), ...change });
  }
}

export const EMPTY_CAMPAIGN: CampaignBody = { name: '', purpose: '', fromDay: null, untilDay: null, ownerId: null };
