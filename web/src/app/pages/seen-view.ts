import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { DomSanitizer } from '@angular/platform-browser';
import type { SeenView } from '@domatium/contracts';
import { isoInstant, writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { api, Api, Refusal } from '../hub/api';
import { PlaceService } from '../hub/place.service';
import { say } from '@domatium/core/words/pages';
import { say as common } from '@domatium/core/words/common';

/** The page itself as visitors got it, or will get it, at the shown moment: the stored page over the whole view. */
@Component({
  selector: 'dm-seen-view',
  template: `
    <section role="dialog" [attr.aria-label]="heading()" tabindex="-1">
      <div class="sheet-head">
        <div>
          <h2>{{ heading() }}</h2>
          <p class="quiet">
            <span class="mono">{{ view()?.host }}{{ view()?.path }}</span> {{ verb() }} {{ view()?.words }}
          </p>
          @if (view()?.isLate) {
            <p class="late">
              <i class="bi bi-triangle-fill" aria-hidden="true"></i>
              {{ say.lateAReleaseHadBeenDecided(outWords() ? say.untilWithOutWords(outWords()) : '') }}
            </p>
          }
        </div>
        <span class="spacer"></span>
        <div class="widths" role="group" [attr.aria-label]="say.width">
          <button type="button" class="chip" [attr.aria-pressed]="!isNarrow()" (click)="isNarrow.set(false)">{{ common.wide }}</button>
          <button type="button" class="chip" [attr.aria-pressed]="isNarrow()" (click)="isNarrow.set(true)">{{ common.narrow }}</button>
        </div>
        <button type="button" class="btn btn-plain" (click)="place.go({ panel: null })">{{ common.close }}</button>
      </div>
      <div class="field">
        @if (src(); as address) {
          <iframe [src]="address" sandbox="allow-popups" [class.narrow]="isNarrow()" [title]="heading()"></iframe>
        } @else if (view()) {
          <p class="nothing">{{ say.thereWasNoPageToShow(verb(), view()?.words ?? '') }}</p>
        } @else if (trouble(); as text) {
          <p class="nothing" role="alert">{{ text }}</p>
        }
      </div>
    </section>
  `,
  styles: `
    section {
      position: absolute;
      inset: 0 3px;
      background: var(--ground);
      z-index: 21;
      display: flex;
      flex-direction: column;
      outline: 0;
    }
    .sheet-head {
      display: flex;
      align-items: center;
      gap: 12px;
      padding: 10px 18px;
      background: var(--ochre-tint);
      border-bottom: 1px solid var(--ochre);
    }
    h2 {
      font-size: 1rem;
      font-weight: 700;
      margin: 0;
    }
    p {
      margin: 0;
    }
    .late {
      color: var(--ochre);
      font-weight: 560;
    }
    .late i {
      font-size: 9px;
    }
    .spacer {
      flex: 1;
    }
    .widths {
      display: flex;
      gap: 6px;
    }
    .field {
      flex: 1;
      min-height: 0;
      padding: 16px;
      display: flex;
      justify-content: center;
    }
    iframe {
      width: 100%;
      height: 100%;
      border: 1px solid var(--rule);
      background: var(--surface);
      box-shadow: var(--shadow);
    }
    .narrow {
      width: 390px;
    }
    .nothing {
      margin-top: 15vh;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SeenPage {
  protected readonly say = say;
  protected readonly common = common;
  readonly pageId = input.required<number>();
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly client = inject(Api);
  private readonly sanitizer = inject(DomSanitizer);
  protected readonly view = signal<SeenView | null>(null);
  protected readonly trouble = signal<string | null>(null);
  protected readonly isNarrow = signal(false);
  private readonly at = computed<Instant>(() => this.place.asOf() ?? this.service.now());
  protected readonly verb = computed(() => (this.at() < this.service.now() ? say.gave : say.willGive));
  protected readonly heading = computed(() =>
    say.asOf(
      this.service.page(this.pageId())?.name ?? say.thePage,
      writeInstant(this.at(), this.service.zone(), this.service.now()),
    ),
  );
  protected readonly outWords = computed(() => {
    const out = this.view()?.outAt ?? null;
    return out === null ? '' : writeInstant(out as Instant, this.service.zone(), this.service.now());
  });
  protected readonly src = computed(() =>
    this.view()?.isPage
      ? // Our own address, made of numbers and an instant; the page in it is shown without scripts or rights.
        this.sanitizer.bypassSecurityTrustResourceUrl(
          `/api/portfolios/${this.service.portfolioId()}/pages/${this.pageId()}/seen.html?at=${encodeURIComponent(isoInstant(this.at()))}`,
        )
      : null,
  );

  constructor() {
    effect(() => {
      const [pageId, at] = [this.pageId(), this.place.asOf()];
      if (at === null || this.place.dragged() !== null) return;
      void this.load(pageId, at);
    });
  }

  private async load(pageId: number, at: Instant): Promise<void> {
    try {
      const params = { portfolioId: this.service.portfolioId(), pageId };
      this.view.set(await this.client.call(api.seen, { params, query: { at: isoInstant(at) } }));
      this.trouble.set(null);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.view.set(null);
      this.trouble.set(error.code === 'not-found' ? say.thisPageDidNotExistThen : error.message);
    }
  }
}
