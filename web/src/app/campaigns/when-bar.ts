import { ChangeDetectionStrategy, Component, effect, ElementRef, inject, input } from '@angular/core';
import type { RegisterRow } from '@domatium/core/register';
import type { Instant } from '@domatium/core/time';
import { fraction, type Scale } from '../shared/scale';
import { RegisterService } from '../hub/register.service';
import { drawWhen, MOMENT } from '../shared/when-drawing';

/** A page's periods on a scale of one's own, as the list draws them. */
@Component({
  selector: 'dm-when-bar',
  template: '',
  styles: `
    :host {
      display: block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WhenBar {
  readonly page = input.required<RegisterRow>();
  readonly scale = input.required<Scale>();
  private readonly service = inject(RegisterService);

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    effect(() => {
      const shown: Instant = this.service.shown();
      host.style.setProperty(MOMENT, String(fraction(this.scale(), shown)));
      host.replaceChildren(drawWhen(this.page(), this.scale(), shown, this.service.zone()));
    });
  }
}
