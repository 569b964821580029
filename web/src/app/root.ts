import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Notices } from './hub/notices';

@Component({
  selector: 'dm-root',
  imports: [RouterOutlet, Notices],
  template: '<router-outlet /><dm-notices />',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Root {}
