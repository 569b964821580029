import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { RegisterService } from '../hub/register.service';
import { PlaceService } from '../hub/place.service';
import { ViewsService } from './views.service';
import { say } from '@domatium/core/words/views';

/** Named views, and what can be taken out of the one that is shown. */
@Component({
  selector: 'dm-view-menu',
  imports: [NgbDropdownModule],
  template: `
    <div ngbDropdown #menu="ngbDropdown" placement="bottom-end" autoClose="outside" container="body">
      <button type="button" class="btn btn-plain" ngbDropdownToggle>
        {{ say.view(views.current() ? ': ' + views.current()?.name : '') }}
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
                {{ view.name }} <span class="quiet">{{ view.isShared ? say.teamBy(view.by) : say.mine }}</span>
              </button>
              @if (view.isOwn) {
                <button
                  type="button"
                  class="btn-link-plain quiet"
                  [attr.aria-label]="say.removeTheView(view.name)"
                  (click)="views.remove(view)"
                >
                  <i class="bi bi-x-lg" aria-hidden="true"></i>
                </button>
              }
            </div>
          } @empty {
            <p class="quiet none">{{ say.noNamedViewsYet }}</p>
          }
          <form (submit)="$event.preventDefault(); keep(field)">
            <input
              #field
              class="form-control"
              [attr.aria-label]="say.nameForThisView"
              [placeholder]="say.nameForThisView"
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
              {{ say.forTheTeam }}
            </label>
            <button type="submit" class="btn btn-plain">{{ say.keep }}</button>
          </form>
          @if (error(); as text) {
            <p class="field-error none" role="alert">{{ text }}</p>
          }
          <hr class="dropdown-divider" />
          <a class="dropdown-item" [href]="views.fileOf('csv')" (click)="menu.close()">{{ say.thisViewAsCSV }}</a>
          <a class="dropdown-item" [href]="views.fileOf('json')" (click)="menu.close()">{{ say.thisViewAsJSON }}</a>
          <button type="button" class="dropdown-item" (click)="place.go({ panel: 'feeds' }); menu.close()">
            {{ say.calendarFeedsToo }}
          </button>
          @if (place.scope()?.kind === 'site') {
            <button type="button" class="dropdown-item" (click)="place.go({ page: null, panel: 'site' }); menu.close()">
              {{ say.thisSite }}
            </button>
          }
          @if (service.mayWrite() && place.scope()?.kind === 'site') {
            <button type="button" class="dropdown-item" (click)="place.go({ panel: 'copy' }); menu.close()">
              {{ say.copyTheWholeSite }}
            </button>
            <button type="button" class="dropdown-item" (click)="place.go({ panel: 'share' }); menu.close()">
              {{ say.shareTheSiteByAPrivate }}
            </button>
          }
          @if (service.mayWrite()) {
            <button type="button" class="dropdown-item" (click)="place.go({ panel: 'import' }); menu.close()">
              {{ say.importPagesFromACSV }}
            </button>
          }
        }
      </div>
    </div>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ViewMenu {
  protected readonly say = say;
  protected readonly views = inject(ViewsService);
  protected readonly place = inject(PlaceService);
  protected readonly service = inject(RegisterService);
  protected readonly isShared = signal(false);
  protected readonly error = signal<string | null>(null);

  protected async keep(field: HTMLInputElement): Promise<void> {
    const name = field.value.trim();
    if (!name) return this.error.set(say.aViewNeedsAName);
    this.error.set(await this.views.keep(name, this.isShared()));
    if (!this.error()) field.value = '';
  }
}
