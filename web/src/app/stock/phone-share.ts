import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import { EMPTY_DOCUMENT } from '@domatium/core/document';
import type { RenderWorld } from '@domatium/core/render';
import type { Theme } from '@domatium/core/theme';
import { say } from '@domatium/core/words/stock';
import { PreviewFrame } from '../shared/preview-frame';

/** Of a common phone, in pixels of CSS. */
const PHONE = { width: 390, height: 844 };
/** What stays in view takes at most so much of its height, in per cent. */
const MOST = 25;

/** How much of a phone’s height is taken by what stays in view, header, footer and bands together: measured, not guessed. */
@Component({
  selector: 'dm-phone-share',
  imports: [PreviewFrame],
  template: `
    <div class="visually-hidden">
      <dm-preview-frame
        [document]="bare"
        [theme]="theme()"
        [brand]="brand()"
        [world]="world()"
        [siteCss]="siteCss()"
        [width]="PHONE.width"
        [shownWidth]="PHONE.width"
        [shownHeight]="PHONE.height"
        (drawn)="measure($event)"
      />
    </div>
    @if (share() > MOST) {
      <p role="status">
        <i role="img" class="bi bi-triangle-fill warning" [attr.aria-label]="say.worthFixing"></i>
        {{ say.takesTooMuchOfAPhone(share()) }}
      </p>
    } @else if (share()) {
      <p class="field-note">{{ say.takesOfAPhone(share()) }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .warning {
      color: var(--ochre);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PhoneShare {
  protected readonly say = say;
  protected readonly PHONE = PHONE;
  protected readonly MOST = MOST;
  protected readonly bare = EMPTY_DOCUMENT;
  readonly theme = input.required<Theme>();
  readonly brand = input.required<string>();
  readonly world = input.required<RenderWorld>();
  readonly siteCss = input('');
  private readonly height = signal(0);
  protected readonly share = computed(() => Math.round((100 * this.height()) / PHONE.height));

  protected measure(page: Document): void {
    const boxes = [...page.querySelectorAll<HTMLElement>('.stays,.stays-below')];
    this.height.set(boxes.reduce((sum, box) => sum + box.offsetHeight, 0));
  }
}
