import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { DAY, instantOfWall, later, wallOf, writeInstant } from '@domatium/core/time';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { RegisterService } from '../hub/register.service';
import { MomentField } from '../shared/moment-field';
import { WAYS } from './canvas-sheets';
import { PageWorld } from './page-world';
import { say } from '@domatium/core/words/editor';

/** How the page is looked at: as most see it or as some do, now or at another moment. */
@Component({
  selector: 'dm-seen-at',
  imports: [NgbDropdownModule, MomentField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div ngbDropdown container="body" placement="bottom-end">
      <button
        type="button"
        class="btn btn-plain"
        ngbDropdownToggle
        [class.is-other]="world.seen() !== 'plain' || world.at() !== null"
      >
        {{ way() }}{{ atWords() }}
      </button>
      <div ngbDropdownMenu>
        @for (way of ways; track way.seen) {
          <button ngbDropdownItem [attr.aria-pressed]="world.seen() === way.seen" (click)="world.seen.set(way.seen)">
            {{ way.label }}
          </button>
        }
        <div class="another" (keydown)="$event.stopPropagation()">
          <span class="quiet">{{ say.asAVisitorSeesIt }}</span>
          @if (thenLocal(); as local) {
            <dm-moment-field [label]="say.seenAt" [value]="local" (changed)="seeAt($event)" />
            <button type="button" class="btn-link-plain" (click)="seeAt(null)">{{ say.now }}</button>
          } @else {
            <button type="button" class="btn-link-plain" (click)="seeAt('start')">{{ say.atAnotherTime }}</button>
          }
        </div>
      </div>
    </div>
  `,
  styles: `
    .is-other {
      background: var(--ochre-tint);
    }
    .another {
      padding: 6px 16px 4px;
      border-top: 1px solid var(--rule);
      margin-top: 4px;
      display: grid;
      gap: 4px;
      justify-items: start;
    }
  `,
})
export class SeenAt {
  protected readonly say = say;
  private readonly service = inject(RegisterService);
  protected readonly world = inject(PageWorld);
  protected readonly ways = WAYS;
  protected readonly way = computed(() => WAYS.find(({ seen }) => seen === this.world.seen())?.label ?? '');
  protected readonly thenLocal = computed(() => {
    const at = this.world.at();
    return at === null ? null : wallOf(at, this.service.zone());
  });
  protected readonly atWords = computed(() => {
    const at = this.world.at();
    return at === null ? '' : `, ${writeInstant(at, this.service.zone(), this.service.now())}`;
  });

  protected seeAt(local: string | null): void {
    if (local === 'start') return this.world.at.set(later(this.service.now(), 7 * DAY));
    const at = local === null ? null : instantOfWall({ local, zone: this.service.zone() });
    if (local === null || at !== null) this.world.at.set(at);
  }
}
