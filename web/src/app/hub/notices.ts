import { ChangeDetectionStrategy, Component, inject, Injectable, signal } from '@angular/core';
import { say } from '@domatium/core/words/hub';

/** Something that happened, with what can be done about it. */
export interface Notice {
  readonly id: number;
  readonly text: string;
  readonly kind: 'done' | 'trouble';
  readonly action?: { readonly label: string; run(): void };
  readonly link?: { readonly label: string; readonly href: string };
}

const SHOWN = 9_000;

@Injectable({ providedIn: 'root' })
export class NoticeService {
  readonly notices = signal<readonly Notice[]>([]);
  private last = 0;

  say(notice: Omit<Notice, 'id'>): void {
    const id = ++this.last;
    this.notices.update((all) => [...all.slice(-2), { id, ...notice }]);
    setTimeout(() => this.dismiss(id), notice.kind === 'trouble' ? 3 * SHOWN : SHOWN);
  }

  dismiss(id: number): void {
    this.notices.update((all) => all.filter((notice) => notice.id !== id));
  }
}

@Component({
  selector: 'dm-notices',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="notices" role="status" aria-live="polite">
      @for (notice of service.notices(); track notice.id) {
        <div class="notice" [class.trouble]="notice.kind === 'trouble'">
          <i
            class="bi"
            [class.bi-check2]="notice.kind === 'done'"
            [class.bi-exclamation-triangle]="notice.kind === 'trouble'"
            aria-hidden="true"
          ></i>
          <span>{{ notice.text }}</span>
          @if (notice.link; as link) {
            <a [href]="link.href" target="_blank" rel="noopener">{{ link.label }}</a>
          }
          @if (notice.action; as action) {
            <button type="button" class="btn-link-plain" (click)="action.run(); service.dismiss(notice.id)">
              {{ action.label }}
            </button>
          }
          <button type="button" class="btn-link-plain quiet" [attr.aria-label]="say.dismiss" (click)="service.dismiss(notice.id)">
            <i class="bi bi-x-lg" aria-hidden="true"></i>
          </button>
        </div>
      }
    </div>
  `,
  styles: `
    /* Beside a sheet, never on the buttons at its foot; where a sheet fills the width, over its head. */
    .notices {
      position: fixed;
      left: 16px;
      bottom: 68px;
      display: grid;
      justify-items: start;
      gap: 8px;
      z-index: 1200;
      max-width: min(640px, calc(100vw - var(--wide-sheet-width) - 32px));
    }
    @media (max-width: 1000px) {
      .notices {
        right: 16px;
        top: 56px;
        bottom: auto;
        max-width: none;
      }
    }
    .notice {
      display: flex;
      align-items: baseline;
      gap: 12px;
      background: var(--ink);
      color: var(--ground);
      border-radius: var(--corner);
      padding: 8px 14px;
      box-shadow: var(--shadow);
    }
    .notice.trouble {
      background: var(--ember-tint);
      color: var(--ink);
      border: 1px solid var(--ember);
    }
    a,
    .btn-link-plain,
    .btn-link-plain.quiet {
      color: inherit;
      flex: none;
    }
    a {
      text-underline-offset: 2px;
    }
  `,
})
export class Notices {
  protected readonly say = say;
  protected readonly service = inject(NoticeService);
}
