import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  inject,
  input,
  output,
  type AfterViewInit,
  type OnDestroy,
} from '@angular/core';
import { say as common } from '@domatium/core/words/common';

/** The wide sheet over the right of the view, where what visitors get is changed. */
@Component({
  selector: 'dm-wide-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section role="dialog" [attr.aria-label]="heading()" tabindex="-1">
      <div class="sheet-head">
        <h2>{{ heading() }}</h2>
        <button type="button" class="btn-link-plain quiet close" [attr.aria-label]="common.close" (click)="closed.emit()">
          <i class="bi bi-x-lg" aria-hidden="true"></i>
        </button>
      </div>
      @if (lead()) {
        <p class="quiet lead-line">{{ lead() }}</p>
      }
      <div class="content"><ng-content /></div>
      <div class="sheet-foot"><ng-content select="[foot]" /></div>
    </section>
  `,
  styles: `
    section {
      position: absolute;
      inset: 0 0 0 auto;
      width: min(var(--wide-sheet-width), 100%);
      background: var(--surface);
      border-left: 1px solid var(--rule);
      box-shadow: var(--shadow);
      z-index: 20;
      display: flex;
      flex-direction: column;
      padding: 18px 0 0 24px;
      outline: 0;
    }
    .sheet-head {
      display: flex;
      align-items: baseline;
      padding-right: 24px;
    }
    h2 {
      font-size: 1.125rem;
      font-weight: 700;
      margin: 0;
      flex: 1;
      overflow-wrap: anywhere;
    }
    .close {
      text-decoration: none;
    }
    .lead-line {
      margin: 2px 24px 0 0;
    }
    .content {
      flex: 1;
      overflow-y: auto;
      padding: 14px 24px 16px 0;
      min-height: 0;
    }
    .sheet-foot {
      border-top: 1px solid var(--rule);
      padding: 12px 24px 14px 0;
      margin-right: 24px;
      display: flex;
      gap: 12px;
      align-items: center;
    }
    @media (max-width: 700px) {
      section {
        padding: 12px 0 0 16px;
        border-left: 0;
      }
      .sheet-head,
      .lead-line,
      .content {
        padding-right: 16px;
      }
      .lead-line {
        margin-right: 0;
      }
      .close {
        min-width: 40px;
        min-height: 36px;
      }
      .sheet-foot {
        flex-wrap: wrap;
        gap: 8px;
        margin-right: 16px;
        padding-right: 0;
      }
    }
  `,
})
export class WideSheet implements AfterViewInit, OnDestroy {
  protected readonly common = common;
  readonly heading = input.required<string>();
  readonly lead = input<string>('');
  readonly closed = output();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  private readonly opener = document.activeElement;

  ngAfterViewInit(): void {
    const field = this.host.nativeElement.querySelector<HTMLElement>('input, select, textarea');
    (field ?? this.host.nativeElement.querySelector<HTMLElement>('section'))?.focus();
  }

  /** The hand goes back to where it was: to what opened the sheet, or else to the page's own sheet. */
  ngOnDestroy(): void {
    const { opener } = this;
    setTimeout(() => {
      if (document.activeElement !== document.body) return;
      const isThere = opener instanceof HTMLElement && opener.isConnected && opener.offsetParent !== null;
      (isThere ? opener : document.querySelector<HTMLElement>('dm-page-sheet aside'))?.focus({ preventScroll: true });
    });
  }
}
