import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { readablePath } from '@domatium/core/address';
import { SessionService } from '../session/session.service';

/** An address: whole, copied in one click, opened in one. */
@Component({
  selector: 'dm-address',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="mono address" [title]="shown()">{{ shown() }}</span>
    <span class="acts">
      <button type="button" class="btn-link-plain quiet" (click)="copy()" aria-live="polite">
        {{ isCopied() ? 'copied' : 'copy' }}
      </button>
      ·
      <a class="btn-link-plain quiet" [href]="href()" target="_blank" rel="noopener">open</a>
    </span>
  `,
  styles: `
    :host {
      display: flex;
      gap: 8px;
      align-items: baseline;
      min-width: 0;
    }
    .address {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .acts {
      flex: none;
      font-size: 0.8125rem;
      color: var(--quiet);
    }
  `,
})
export class AddressView {
  readonly host = input.required<string>();
  readonly path = input.required<string>();
  private readonly session = inject(SessionService);
  protected readonly isCopied = signal(false);
  protected readonly shown = computed(() => this.host() + readablePath(this.path()));
  protected readonly href = computed(() => this.session.openHref(this.host(), this.path()));

  protected async copy(): Promise<void> {
    await navigator.clipboard.writeText(this.href());
    this.isCopied.set(true);
    setTimeout(() => this.isCopied.set(false), 1500);
  }
}
