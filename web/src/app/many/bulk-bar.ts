import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';
import { PlaceService } from '../hub/place.service';
import { say } from '@domatium/core/words/many';
import { say as common } from '@domatium/core/words/common';

/** How many pages are chosen, and what can be done with all of them at once. */
@Component({
  selector: 'dm-bulk-bar',
  imports: [NgbDropdownModule],
  template: `
    <strong class="number">{{ say.chosen(selection.size().toLocaleString('en-GB')) }}</strong>
    @if (place.scopeKey() === 'bin') {
      @if (service.mayRelease()) {
        <button type="button" class="btn btn-plain" (click)="open('many-restore')">{{ say.restore }}</button>
        <button type="button" class="btn btn-plain" (click)="open('delete')">{{ say.deleteForEver }}</button>
      }
    } @else {
    @if (service.mayRelease()) {
      <span class="group">
        <button type="button" class="btn btn-plain" (click)="open('many-release')">{{ say.release }}</button>
        <button type="button" class="btn btn-plain" (click)="open('many-take-off')">{{ say.takeOff }}</button>
        <button type="button" class="btn btn-plain" (click)="open('many-shift')">{{ say.shiftDates }}</button>
        <button type="button" class="btn btn-plain" (click)="open('many-afterwards')">{{ say.afterwards }}</button>
        <button type="button" class="btn btn-plain" (click)="open('many-move')">{{ say.move }}</button>
      </span>
    }
    @if (service.mayWrite()) {
      <button type="button" class="btn btn-plain" (click)="open('arrange')">{{ say.campaignOwnerLabels }}</button>
      <div ngbDropdown placement="top-start" container="body">
        <button type="button" class="btn btn-plain" ngbDropdownToggle>{{ say.moreActs }}</button>
        <div ngbDropdownMenu>
          <button type="button" ngbDropdownItem (click)="place.toGrid(service.portfolioId())">
            {{ say.settingsGrid }}
          </button>
          @for (act of further; track act.panel) {
            <button type="button" ngbDropdownItem (click)="open(act.panel)">{{ act.label }}</button>
          }
        </div>
      </div>
    }
    @if (service.mayRelease()) {
      <button type="button" class="btn btn-plain" (click)="open('many-bin')">{{ common.bin }}</button>
    }
    }
    <span class="spacer"></span>
    <button type="button" class="btn-link-plain quiet" (click)="selection.clear()">{{ say.chooseNone }}</button>
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 8px;
      padding: 8px 16px;
      background: var(--surface);
      border-top: 1px solid var(--rule);
      box-shadow: var(--shadow);
      white-space: nowrap;
    }
    strong {
      min-width: 84px;
    }
    .group {
      display: flex;
      gap: 6px;
    }
    .spacer {
      flex: 1;
    }
    @media (max-width: 700px) {
      :host {
        overflow-x: auto;
        padding: 8px 12px;
      }
      .btn {
        flex: none;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BulkBar {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly service = inject(RegisterService);
  protected readonly selection = inject(SelectionService);
  protected readonly place = inject(PlaceService);

  protected readonly further = [
    { panel: 'fill', label: say.textsAndSearch },
    { panel: 'place', label: say.pieceDots },
    { panel: 'copy', label: say.copy },
    { panel: 'share', label: say.share },
  ];

  protected open(panel: string): void {
    this.place.go({ page: null, panel });
  }
}
