import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';
import { PlaceService } from '../hub/place.service';

/** How many pages are chosen, and what can be done with all of them at once. */
@Component({
  selector: 'dm-bulk-bar',
  template: `
    <strong class="number">{{ selection.size().toLocaleString('en-GB') }} chosen</strong>
    @if (place.scopeKey() === 'bin') {
      @if (service.mayRelease()) {
        <button type="button" class="btn btn-plain" (click)="open('many-restore')">Restore</button>
        <button type="button" class="btn btn-plain" (click)="open('delete')">Delete for ever</button>
      }
    } @else {
    @if (service.mayRelease()) {
      <span class="group">
        <button type="button" class="btn btn-plain" (click)="open('many-release')">Release</button>
        <button type="button" class="btn btn-plain" (click)="open('many-take-off')">Take off</button>
        <button type="button" class="btn btn-plain" (click)="open('many-shift')">Shift dates</button>
        <button type="button" class="btn btn-plain" (click)="open('many-afterwards')">Afterwards</button>
        <button type="button" class="btn btn-plain" (click)="open('many-move')">Move</button>
      </span>
    }
    @if (service.mayWrite()) {
      <button type="button" class="btn btn-plain" (click)="open('arrange')">Campaign, owner, labels</button>
      <button type="button" class="btn btn-plain" (click)="open('copy')">Copy</button>
      <button type="button" class="btn btn-plain" (click)="open('share')">Share</button>
    }
    @if (service.mayRelease()) {
      <button type="button" class="btn btn-plain" (click)="open('many-bin')">Bin</button>
    }
    }
    <span class="spacer"></span>
    <button type="button" class="btn-link-plain quiet" (click)="selection.clear()">Choose none</button>
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
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BulkBar {
  protected readonly service = inject(RegisterService);
  protected readonly selection = inject(SelectionService);
  protected readonly place = inject(PlaceService);

  protected open(panel: string): void {
    this.place.go({ page: null, panel });
  }
}
