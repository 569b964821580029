import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  HostListener,
  inject,
  input,
  output,
  type AfterViewInit,
} from '@angular/core';
import { say as common } from '@domatium/core/words/common';

/** A panel over the columns of the editor: for what needs more room than the margin. Escape closes it. */
@Component({
  selector: 'dm-panel',
  template: `
    <section role="dialog" [attr.aria-label]="heading()" tabindex="-1">
      <div class="head">
        <h2>{{ heading() }}</h2>
        <span class="quiet">{{ lead() }}</span>
        <button type="button" class="btn-link-plain quiet" (click)="closed.emit()">{{ common.close }}</button>
      </div>
      <div class="body"><ng-content /></div>
      <div class="foot"><ng-content select="[foot]" /></div>
    </section>
  `,
  styles: `
    :host {
      position: fixed;
      inset: var(--bar-height) 0 60px;
      z-index: 30;
      background: var(--ground);
    }
    section {
      height: 100%;
      display: grid;
      grid-template-rows: auto minmax(0, 1fr) auto;
      outline: 0;
    }
    .head {
      display: flex;
      align-items: baseline;
      gap: 14px;
      padding: 12px 20px 10px;
      border-bottom: 1px solid var(--rule);
    }
    h2 {
      font-size: 1rem;
      font-weight: 700;
      margin: 0;
    }
    .head .quiet:nth-child(2) {
      flex: 1;
    }
    .body {
      min-height: 0;
      display: grid;
    }
    .foot {
      display: flex;
      align-items: center;
      gap: 12px;
      padding: 10px 20px;
      border-top: 1px solid var(--rule);
      background: var(--surface);
    }
    .foot:empty {
      display: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Panel implements AfterViewInit {
  protected readonly common = common;
  readonly heading = input.required<string>();
  readonly lead = input('');
  readonly closed = output();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  ngAfterViewInit(): void {
    this.host.nativeElement.querySelector('section')?.focus();
  }

  @HostListener('keydown.escape', ['$event'])
  protected onEscape(event: Event): void {
    event.stopPropagation();
    this.closed.emit();
  }
}
