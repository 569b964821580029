import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { RegisterService } from '../hub/register.service';
import { PlaceService } from '../hub/place.service';
import { ViewsService } from './views.service';

/** Named views, and what can be taken out of the one that is shown. */
@Component({
  selector: 'dm-view-menu',
  imports: [NgbDropdownModule],
  template: `
    <div ngbDropdown #menu="ngbDropdown" placement="bottom-end" autoClose="outside" container="body">
      <button type="button" class="btn btn-plain" ngbDropdownToggle>
        View{{ views.current() ? ': ' + views.current()?.name : '' }}
      </button>
      <div ngbDropdownMenu class="view-menu">
        @if (menu.isOpen()) {
          @for (view of views.named(); track view.id) {
            <div class="named">
              <button
                type="button"
                class="dropdown-item"
                [attr.aria-current]="views.current()?.id === view.id ? 'true' : null"
                (click)="views.show(view); menu.close()"
              >
                {{ view.name }} <span class="quiet">{{ view.isShared ? 'team, by ' + view.by : 'mine' }}</span>
              </button>
              @if (view.isOwn) {
                <button
                  type="button"
                  class="btn-link-plain quiet"
                  [attr.aria-label]="'Remove the view ' + view.name"
                  (click)="views.remove(view)"
                >
                  <i class="bi bi-x-lg" aria-hidden="true"></i>
                </button>
              }
            </div>
          } @empty {
            <p class="quiet none">No named views yet.</p>
          }
          <form (submit)="$event.preventDefault(); keep(field)">
            <input
              #field
              class="form-control"
              aria-label="Name for this view"
              placeholder="Name for this view"
              maxlength="100"
              [class.is-invalid]="!!error()"
            />
            <label class="form-check-label">
              <input
                type="checkbox"
                class="form-check-input"
                [checked]="isShared()"
                (change)="isShared.set($any($event.target).checked)"
              />
              for the team
            </label>
            <button type="submit" class="btn btn-plain">Keep</button>
          </form>
          @if (error(); as text) {
            <p class="field-error none" role="alert">{{ text }}</p>
          }
          <hr class="dropdown-divider" />
          <a class="dropdown-item" [href]="views.fileOf('csv')" (click)="menu.close()">This view as CSV</a>
          <a class="dropdown-item" [href]="views.fileOf('json')" (click)="menu.close()">This view as JSON</a>
          <button type="button" class="dropdown-item" (click)="place.go({ panel: 'feeds' }); menu.close()">
            Calendar feeds…
          </button>
          @if (service.mayWrite() && place.scope()?.kind === 'site') {
            <button type="button" class="dropdown-item" (click)="place.go({ panel: 'copy' }); menu.close()">
              Copy the whole site…
            </button>
            <button type="button" class="dropdown-item" (click)="place.go({ panel: 'share' }); menu.close()">
              Share the site by a private link…
            </button>
          }
          @if (service.mayWrite()) {
            <button type="button" class="dropdown-item" (click)="place.go({ panel: 'import' }); menu.close()">
              Import pages from a CSV file…
            </button>
          }
        }
      </div>
    </div>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ViewMenu {
  protected readonly views = inject(ViewsService);
  protected readonly place = inject(PlaceService);
  protected readonly service = inject(RegisterService);
  protected readonly isShared = signal(false);
  protected readonly error = signal<string | null>(null);

  protected async keep(field: HTMLInputElement): Promise<void> {
    const name = field.value.trim();
    if (!name) return this.error.set('A view needs a name.');
    this.error.set(await this.views.keep(name, this.isShared()));
    if (!this.error()) field.value = '';
  }
}
