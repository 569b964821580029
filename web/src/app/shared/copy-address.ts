import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { readablePath } from '@domatium/core/address';
import { SessionService } from '../hub/session.service';
import { say } from '@domatium/core/words/shared';

interface QrFiles {
  readonly svg: string;
  readonly png: string;
}

/** An address: whole, copied in one click, opened in one; as a QR code to look at or to take along. */
@Component({
  selector: 'dm-address',
  imports: [NgbDropdownModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="mono address" [title]="shown()">{{ shown() }}</span>
    <span class="acts">
      <button type="button" class="btn-link-plain quiet" (click)="copy()" aria-live="polite">
        {{ isCopied() ? say.copied : say.copy }}
      </button>
      ·
      <a class="btn-link-plain quiet" [href]="href()" target="_blank" rel="noopener">{{ say.open }}</a>
      ·
      <span ngbDropdown placement="bottom-end" container="body" (openChange)="$event && draw()">
        <button type="button" class="btn-link-plain quiet" ngbDropdownToggle>{{ say.qr }}</button>
        <span ngbDropdownMenu class="qr-menu">
          @if (code(); as files) {
            <img [src]="files.svg" [alt]="say.qRCodeOf(href())" width="180" height="180" />
            <a ngbDropdownItem [href]="files.svg" [download]="fileName() + '.svg'">{{ say.asSVG }}</a>
            <a ngbDropdownItem [href]="files.png" [download]="fileName() + '.png'">{{ say.asPNG }}</a>
          }
        </span>
      </span>
      <ng-content />
    </span>
  `,
  styles: `
    /* Its acts go below it before anything of it is cut. */
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 0 8px;
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
    [ngbDropdownToggle]::after {
      display: none;
    }
  `,
})
export class AddressView {
  protected readonly say = say;
  readonly host = input.required<string>();
  readonly path = input.required<string>();
  private readonly session = inject(SessionService);
  protected readonly isCopied = signal(false);
  protected readonly code = signal<QrFiles | null>(null);
  protected readonly shown = computed(() => this.host() + readablePath(this.path()));
  protected readonly href = computed(() => this.session.openHref(this.host(), this.path()));
  protected readonly fileName = computed(() =>
    this.shown()
      .replace(/[^\p{L}\p{N}.-]+/gu, '-')
      .replace(/-+$/, ''),
  );

  protected async copy(): Promise<void> {
    await navigator.clipboard.writeText(this.href());
    this.isCopied.set(true);
    setTimeout(() => this.isCopied.set(false), 1500);
  }

  /** Drawn when it is asked for: few look at it, and the library is fetched then only. */
  protected async draw(): Promise<void> {
    const { default: qrcode } = await import('qrcode');
    const { toDataURL, toString } = qrcode;
    const svg = await toString(this.href(), { type: 'svg', margin: 2, errorCorrectionLevel: 'M' });
    const png = await toDataURL(this.href(), { margin: 2, width: 1024, errorCorrectionLevel: 'M' });
    this.code.set({ svg: `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`, png });
  }
}
