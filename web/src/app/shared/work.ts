import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import type { Observable, Subscription } from 'rxjs';
import { say } from '@domatium/core/words/shared';

/** Long work somebody waits for: how far it has come, and a way to cancel it. */
export class Work {
  readonly work = crypto.randomUUID();
  readonly share = signal(0);
  readonly isCancelled = signal(false);
  private readonly abort = new AbortController();
  readonly signal = this.abort.signal;
  private readonly heard: Subscription;

  constructor(events: Observable<{ readonly work?: string; readonly share?: number }>) {
    this.heard = events.subscribe(({ work, share }) => {
      if (work === this.work) this.share.set(share ?? 0);
    });
  }

  cancel(): void {
    this.isCancelled.set(true);
    this.abort.abort();
  }

  end(): void {
    this.heard.unsubscribe();
  }
}

/** How far long work has come, with a number, and its cancel. */
@Component({
  selector: 'dm-work-bar',
  template: `
    <div
      class="track"
      role="progressbar"
      [attr.aria-label]="label()"
      [attr.aria-valuenow]="percent()"
      aria-valuemin="0"
      aria-valuemax="100"
    >
      <div class="done" [style.width.%]="percent()"></div>
    </div>
    <span class="quiet number">{{ label() }} {{ percent() }} %</span>
    <button type="button" class="btn-link-plain" [disabled]="work().isCancelled()" (click)="work().cancel()">
      {{ work().isCancelled() ? say.cancelling : say.cancel }}
    </button>
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 10px;
      flex: 1;
    }
    .track {
      flex: 1;
      height: 6px;
      border-radius: 3px;
      background: var(--rule-soft);
      overflow: hidden;
    }
    .done {
      height: 100%;
      background: var(--moss);
      transition: width 0.15s linear;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WorkBar {
  protected readonly say = say;
  readonly work = input.required<Work>();
  readonly label = input.required<string>();
  protected readonly percent = computed(() => Math.round(this.work().share() * 100));
}
