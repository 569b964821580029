import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { TroublesService } from './troubles.service';
import { say } from '@domatium/core/words/troubles';

/** Stands over everything while something goes wrong; gone when it is over. */
@Component({
  selector: 'dm-trouble-bar',
  template: `
    <div role="status" aria-live="polite">
      @if (first(); as trouble) {
        <div class="bar">
          <span class="tag ember"><i class="bi bi-exclamation-triangle" aria-hidden="true"></i> {{ say.trouble }}</span>
          <ul>
            @for (one of shown(); track one.words) {
              <li>
                {{ one.words }}
                @if (one.since !== null) {
                  <span class="quiet number">{{ say.since(time(one.since)) }}</span>
                }
              </li>
            }
          </ul>
          @if (service.all().length > 1) {
            <button type="button" class="btn-link-plain" [attr.aria-expanded]="isOpen()" (click)="isOpen.set(!isOpen())">
              {{ isOpen() ? say.onlyTheFirst : say.more(service.all().length - 1) }}
            </button>
          }
        </div>
      }
    </div>
  `,
  styles: `
    .bar {
      display: flex;
      align-items: baseline;
      gap: 10px;
      padding: 6px 16px;
      background: var(--ember-tint);
      border-bottom: 1px solid var(--rule);
    }
    ul {
      flex: 1;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    .tag {
      white-space: nowrap;
    }
    button {
      white-space: nowrap;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TroubleBar {
  protected readonly say = say;
  protected readonly service = inject(TroublesService);
  private readonly register = inject(RegisterService);
  protected readonly isOpen = signal(false);
  protected readonly first = computed(() => this.service.all()[0]);
  protected readonly shown = computed(() => (this.isOpen() ? this.service.all() : this.service.all().slice(0, 1)));

  protected time(at: number): string {
    return writeInstant(at as Instant, this.register.portfolio()?.zone ?? 'UTC', this.register.now());
  }
}
