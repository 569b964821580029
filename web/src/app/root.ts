import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Notices } from './hub/notices';
import { WholePaste } from './hub/whole-paste';

@Component({
  selector: 'dm-root',
  imports: [RouterOutlet, Notices],
  template: '<router-outlet /><dm-notices />',
  host: { '(document:paste)': 'paste.take($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Root {
  protected readonly paste = inject(WholePaste);
}
