import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { writeInstant } from '@domatium/core/time';
import { PlaceService } from '../hub/place.service';
import type { DifferenceView } from '../hub/desk';
import { RegisterService } from '../hub/register.service';
import { ViewService } from '../hub/view.service';
import { say } from '@domatium/core/words/register';

/** Names the moment the application shows, what comes and goes until then, and the way back. */
@Component({
  selector: 'dm-as-of-bar',
  template: `
    <h1>
      {{ say.seenAsOf }} <span class="number">{{ moment() }}</span>
    </h1>
    <span class="quiet number">{{ words() }}</span>
    <span class="spacer"></span>
    <button type="button" class="btn btn-plain" (click)="place.go({ panel: 'difference' })">{{ say.compareWithNow }}</button>
    <button type="button" class="btn btn-primary" (click)="place.go({ at: null, since: null, panel: null })">{{ say.backToNow }}</button>
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 10px;
      flex: 1;
      min-width: 0;
    }
    h1 {
      font-size: 1.125rem;
      font-weight: 700;
      margin: 0;
      flex: none;
    }
    .quiet {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .spacer {
      flex: 1;
    }
    button {
      flex: none;
    }
    @media (max-width: 700px) {
      :host {
        flex-wrap: wrap;
        gap: 6px;
      }
      .quiet {
        flex: 1 1 100%;
      }
      .spacer {
        display: none;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AsOfBar {
  protected readonly say = say;
  private readonly service = inject(RegisterService);
  private readonly view = inject(ViewService);
  protected readonly place = inject(PlaceService);
  private readonly difference = signal<DifferenceView | null>(null);
  protected readonly moment = computed(() =>
    writeInstant(this.service.shown(), this.service.zone(), this.service.now()),
  );
  protected readonly words = computed(() => {
    const [live, counts] = [this.view.summary()?.counts.live ?? 0, this.difference()?.counts];
    if (!counts) return '';
    const isAhead = this.service.shown() > this.service.now();
    const between = isAhead ? say.betweenNowAndThen : say.betweenThenAndNow;
    return say.liveThenComeGoReadOnly(live.toLocaleString('en-GB'), counts.comes, counts.goes, between);
  });

  constructor() {
    effect(() => {
      const [scope, shown, now] = [this.place.scope(), this.service.shown(), this.service.now()];
      if (!this.service.version()) return;
      const between = shown > now ? ([now, shown] as const) : ([shown, now] as const);
      void this.service.desk.differences(scope, between, 0).then((view) => this.difference.set(view));
    });
  }
}
