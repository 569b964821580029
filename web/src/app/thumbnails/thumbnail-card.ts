import { ChangeDetectionStrategy, Component, effect, inject, input, signal, untracked } from '@angular/core';
import type { ThumbnailView } from '@domatium/contracts';
import type { RegisterRow } from '@domatium/core/register';
import { isoInstant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { api, Api, Refusal } from '../hub/api';
import { PlaceService } from '../hub/place.service';
import { say } from '@domatium/core/words/thumbnails';

/** While a picture is being made it is asked for again so often, and so many times. */
const AGAIN = 600;
const MOST = 30;

/** A page as it is at the shown moment, small: beside its row, on hover or focus. */
@Component({
  selector: 'dm-thumbnail-card',
  template: `
    <p class="caption"><strong>{{ page().name }}</strong></p>
    @if (view(); as view) {
      @if (src(); as address) {
        <img [src]="address" [alt]="say.asVisitorsSeeIt(page().name)" width="320" height="240" />
      } @else {
        <p class="number">
          {{ view.state === 'making' ? say.makingTheThumbnail : view.state === 'none' ? say.visitorsGet(view.words) : view.words }}
        </p>
      }
    }
  `,
  styles: `
    :host {
      position: absolute;
      z-index: 6;
      background: var(--surface);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
      box-shadow: var(--shadow);
      overflow: hidden;
      pointer-events: none;
      max-width: 322px;
    }
    .caption {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      width: 320px;
    }
    img {
      display: block;
    }
    p {
      margin: 0;
      padding: 4px 12px 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ThumbnailCard {
  protected readonly say = say;
  readonly page = input.required<RegisterRow>();
  private readonly client = inject(Api);
  private readonly service = inject(RegisterService);
  private readonly place = inject(PlaceService);
  protected readonly view = signal<ThumbnailView | null>(null);
  protected readonly src = signal<string | null>(null);

  constructor() {
    effect((onCleanup) => {
      const { id } = this.page();
      this.service.version();
      let isOver = false;
      onCleanup(() => (isOver = true));
      untracked(() => void this.look(id, () => isOver));
    });
  }

  private async look(pageId: number, isOver: () => boolean): Promise<void> {
    const at = isoInstant(this.place.asOf() ?? this.service.now());
    const params = { portfolioId: this.service.portfolioId(), pageId };
    try {
      for (let n = 0; n < MOST && !isOver(); n++) {
        const view = await this.client.call(api.thumbnail, { params, query: { at } });
        if (isOver()) return;
        const address = `/api/portfolios/${params.portfolioId}/pages/${pageId}/thumbnail.webp?at=${at}&file=${view.file}`;
        this.view.set(view);
        this.src.set(view.state === 'ready' ? address : null);
        if (view.state !== 'making') return;
        await new Promise((done) => setTimeout(done, AGAIN));
      }
    } catch (error) {
      // A picture that can't be had is not worth a word of its own: the row says all that matters.
      if (!(error instanceof Refusal)) throw error;
    }
  }
}
