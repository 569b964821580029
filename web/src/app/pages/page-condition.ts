import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import type { WeightView } from '@domatium/contracts';
import type { Evidence, SpeaksFor } from '@domatium/core/retirement';
import { RegisterService } from '../hub/register.service';
import { api, Api, Refusal } from '../hub/api';
import { say } from '@domatium/core/words/pages';

const VERDICT: Record<SpeaksFor, { word: string; tone: string }> = {
  keeping: { word: say.keep, tone: 'moss' },
  'taking-off': { word: say.takeOffSmall, tone: 'stone' },
  mending: { word: say.fix, tone: '' },
};

const kilobytes = (bytes: number) => say.kb(Math.max(1, Math.round(bytes / 1000)).toLocaleString('en-GB'));

/** How a page does: what it weighs against its budget, and what speaks for keeping it or taking it off. */
@Component({
  selector: 'dm-page-condition',
  template: `
    @if (words(); as words) {
      <section>
        <h3 class="section-label">{{ say.weight }}</h3>
        <p class="number">
          <strong>{{ words.total }}</strong>
          <span class="quiet"> {{ say.ofOnAPhone(words.budget, words.seconds) }}</span>
          @if (words.isOver) {
            <span class="tag">{{ say.overBudget }}</span>
          }
        </p>
        <p class="quiet number">{{ words.parts }}</p>
      </section>
    }
    @if (evidence().length) {
      <section>
        <h3 class="section-label">{{ say.stillNeeded }}</h3>
        @for (statement of evidence(); track statement.words) {
          <p class="statement">
            <span class="tag" [class]="verdict(statement).tone">{{ verdict(statement).word }}</span>
            {{ statement.words }}
          </p>
        }
      </section>
    }
  `,
  styles: `
    section {
      border-top: 1px solid var(--rule-soft);
      padding: 12px 0 10px;
    }
    p {
      margin: 0 0 2px;
    }
    .statement {
      display: grid;
      grid-template-columns: 62px 1fr;
      align-items: baseline;
    }
    .tag {
      justify-self: start;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageCondition {
  protected readonly say = say;
  readonly pageId = input.required<number>();
  private readonly register = inject(RegisterService);
  private readonly client = inject(Api);
  private readonly weight = signal<WeightView | null>(null);
  protected readonly evidence = signal<readonly Evidence[]>([]);
  protected readonly words = computed(() => {
    const view = this.weight();
    if (!view) return null;
    const { page, style, fonts, pictures } = view.weight;
    return {
      total: kilobytes(view.total),
      budget: kilobytes(view.budget),
      isOver: view.total > view.budget,
      seconds: say.sOfSOnASlow(view.seconds.toFixed(1), view.patience),
      parts: [
        say.pictures(kilobytes(pictures)),
        say.fonts(kilobytes(fonts)),
        say.textAndStyle(kilobytes(page + style)),
      ].join(' · '),
    };
  });

  constructor() {
    effect(() => {
      const pageId = this.pageId();
      // Read anew whenever the register was: something in the portfolio changed.
      this.register.version();
      void this.load(pageId);
    });
  }

  protected verdict({ speaksFor }: Evidence) {
    return VERDICT[speaksFor];
  }

  private async load(pageId: number): Promise<void> {
    const params = { portfolioId: this.register.portfolioId(), pageId };
    try {
      const [{ view }, evidence] = await Promise.all([
        this.client.call(api.weight, { params }),
        this.client.call(api.evidence, { params }),
      ]);
      if (pageId !== this.pageId()) return;
      this.weight.set(view);
      this.evidence.set(evidence);
    } catch (error) {
      // The sheet itself says what is wrong; these sections then stay away.
      if (!(error instanceof Refusal)) throw error;
    }
  }
}
