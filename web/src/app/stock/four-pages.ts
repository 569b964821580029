import { ChangeDetectionStrategy, Component, effect, inject, input, signal, untracked } from '@angular/core';
import type { RegisterRow } from '@domatium/core/register';
import { rowState } from '@domatium/core/register';
import { say } from '@domatium/core/words/stock';
import { api, Api, Refusal } from '../hub/api';
import { RegisterService } from '../hub/register.service';
import { BeforeAfter, type Drafted } from './before-after';

/** Drafts that are looked into for an opening over a picture. */
const LOOKED_INTO = 12;
const [WIDE, NARROW] = [1160, 390];

interface Chosen {
  readonly page: RegisterRow;
  readonly why: string;
  readonly width: number;
}

/** The pages on which a change matters most, before and after: most visited, longest name, opening over a picture, narrow. */
@Component({
  selector: 'dm-four-pages',
  host: { tabindex: '0' },
  imports: [BeforeAfter],
  template: `
    @for (one of chosen(); track one.why) {
      <section>
        <h2>
          {{ one.why }} <span class="quiet">{{ one.page.name }}</span>
        </h2>
        <dm-before-after
          [pageId]="one.page.id"
          [siteId]="one.page.siteId"
          [width]="one.width"
          [drafted]="drafted()"
        />
      </section>
    } @empty {
      <p class="quiet">{{ isLooking() ? say.lookingForPages : say.onNoLivePage }}</p>
    }
  `,
  styles: `
    :host {
      overflow-y: auto;
      padding: 14px;
    }
    section {
      margin-bottom: 18px;
    }
    h2 {
      font-size: 0.875rem;
      margin: 0 0 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FourPages {
  protected readonly say = say;
  readonly pageIds = input.required<readonly number[]>();
  readonly drafted = input.required<Drafted>();
  private readonly register = inject(RegisterService);
  private readonly client = inject(Api);
  protected readonly chosen = signal<readonly Chosen[]>([]);
  protected readonly isLooking = signal(true);

  constructor() {
    effect(() => {
      const ids = this.pageIds();
      untracked(() => void this.look(ids));
    });
  }

  private async look(ids: readonly number[]): Promise<void> {
    this.isLooking.set(true);
    const now = this.register.now();
    const rows = (await this.register.rowsOf(ids))
      .filter((row) => rowState(row, now) === 'live' && row.role !== 'not-found')
      .sort((a, b) => b.visits - a.visits);
    const [most, second] = rows;
    const longest = rows.reduce<RegisterRow | undefined>(
      (best, row) => (row.name.length > (best?.name.length ?? 0) ? row : best),
      undefined,
    );
    const over = await this.overAPicture(rows.slice(0, LOOKED_INTO));
    if (ids !== this.pageIds()) return;
    const found = (page: RegisterRow | null | undefined, why: string, width: number): Chosen[] =>
      page ? [{ page, why, width }] : [];
    this.chosen.set([
      ...found(most, say.mostVisited, WIDE),
      ...found(longest, say.longestName, WIDE),
      ...found(over, say.openingOverAPicture, WIDE),
      ...found(second ?? most, say.onAPhone, NARROW),
    ]);
    this.isLooking.set(false);
  }

  /** The first whose opening lies over a picture. */
  private async overAPicture(rows: readonly RegisterRow[]): Promise<RegisterRow | null> {
    const portfolioId = this.register.portfolioId();
    for (const row of rows)
      try {
        const { document } = await this.client.call(api.draft, { params: { portfolioId, pageId: row.id } });
        const [first] = document.blocks;
        if (first?.type === 'opening' && first.fields['layout'] === 'over') return row;
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
      }
    return null;
  }
}
