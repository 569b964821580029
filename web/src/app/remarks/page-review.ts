import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Router } from '@angular/router';
import type { RemarkKind, RemarkView, ReviewView } from '@domatium/contracts';
import { writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { RemarkAnswers } from './remark-answers';
import { ReviewsService } from './reviews.service';
import { say } from '@domatium/core/words/reviews';

const SAID: Record<RemarkKind, { words: string; icon: string; tone: string }> = {
  fine: { words: say.fine, icon: 'bi-check-lg', tone: 'moss' },
  change: { words: say.pleaseChangeSmall, icon: 'bi-pencil', tone: '' },
  remark: { words: say.aRemark, icon: 'bi-chat-left', tone: 'dusk' },
};

/** Who said what of a page through private links, on which revision, and what changed since. */
@Component({
  selector: 'dm-page-review',
  imports: [RemarkAnswers],
  template: `
    @if (remarks().length || settled().length) {
      <section>
        <h3 class="section-label">{{ say.comments }}</h3>
        @for (remark of remarks(); track remark.id) {
          <div class="remark">
            <div>
              <span class="tag" [class]="said(remark).tone">
                <i class="bi" [class]="said(remark).icon" aria-hidden="true"></i> {{ said(remark).words }}
              </span>
              <strong>{{ remark.name }}</strong>
              <span class="quiet number"> {{ say.onRevision(remark.revision, written(remark.at)) }}</span>
            </div>
            @if (remark.text) {
              <p class="text">{{ remark.text }}</p>
            }
            @if (remark.block) {
              <p class="quiet">
                {{ say.onToo }}
                @if (!isBrief() && blockId() === undefined && service.mayWrite()) {
                  <button type="button" class="btn-link-plain" (click)="goTo(remark)">{{ remark.block }}</button>
                } @else {
                  {{ remark.block }}
                }
              </p>
            }
            <dm-remark-answers
              [answers]="remark.answers"
              [mayAnswer]="!isBrief() && service.mayWrite()"
              [write]="write"
              (answered)="answer(remark, $event)"
            />
            <p class="quiet number">
              {{ sinceWords(remark) }}
              @if (!isBrief() && remark.kind !== 'fine' && service.mayWrite()) {
                · <button type="button" class="btn-link-plain" (click)="settle(remark)">{{ say.settled }}</button>
              }
            </p>
          </div>
        }
        @if (settled().length) {
          <details>
            <summary class="quiet number">
              {{ settled().length === 1 ? say.oneRemarkIsSettled : say.remarksAreSettled(settled().length) }}
            </summary>
            @for (remark of settled(); track remark.id) {
              <div class="remark">
                <strong>{{ remark.name }}</strong> <span class="quiet number"> {{ written(remark.at) }}</span>
                <p class="text">{{ remark.text || said(remark).words }}</p>
                <dm-remark-answers [answers]="remark.answers" [write]="write" />
                <p class="quiet number">{{ say.settledBy(remark.settledBy ?? say.somebody, written(remark.settledAt ?? 0)) }}</p>
              </div>
            }
          </details>
        }
      </section>
    }
  `,
  styles: `
    section {
      border-top: 1px solid var(--rule-soft);
      padding: 12px 0 10px;
    }
    .remark {
      margin-bottom: 10px;
    }
    .tag {
      margin-right: 6px;
    }
    p {
      margin: 0;
      overflow-wrap: anywhere;
    }
    .text {
      white-space: pre-line;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageReview {
  protected readonly say = say;
  readonly pageId = input.required<number>();
  /** In sheets that release: only to be read. */
  readonly isBrief = input(false);
  /** Only what was said of this block, or of the whole page for `page`; of all where it is left out. */
  readonly blockId = input<string>();
  protected readonly service = inject(RegisterService);
  private readonly reviews = inject(ReviewsService);
  private readonly router = inject(Router);
  private readonly view = signal<ReviewView | null>(null);
  private readonly here = computed(() => {
    const [all, blockId] = [this.view()?.remarks ?? [], this.blockId()];
    return blockId === undefined ? all : all.filter((remark) => (remark.blockId ?? 'page') === blockId);
  });
  protected readonly remarks = computed(() => {
    return this.here().filter(({ settledAt }) => settledAt === null);
  });
  protected readonly settled = computed(() => this.here().filter(({ settledAt }) => settledAt !== null));
  protected readonly write = (at: number) => this.written(at);

  constructor() {
    effect(() => {
      const pageId = this.pageId();
      this.service.version();
      untracked(() => void this.load(pageId));
    });
  }

  protected said({ kind }: RemarkView) {
    return SAID[kind];
  }

  protected written(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }

  protected sinceWords({ revision }: RemarkView): string {
    const [, changes = []] = this.view()?.since.find(([number]) => number === revision) ?? [];
    return changes.length ? say.sinceThen(changes.join('; ')) : say.theDraftIsUnchangedSince;
  }

  protected goTo({ blockId }: RemarkView): void {
    void this.router.navigate(['/portfolios', this.service.portfolioId(), 'pages', this.pageId(), 'edit'], {
      queryParams: { block: blockId ?? 'page' },
    });
  }

  protected async answer({ id }: RemarkView, text: string): Promise<void> {
    await this.reviews.answer(id, text);
    await this.load(this.pageId());
  }

  protected async settle({ id }: RemarkView): Promise<void> {
    await this.reviews.settle(id);
    await this.load(this.pageId());
  }

  private async load(pageId: number): Promise<void> {
    const answer = await this.reviews.review(pageId);
    if (pageId === this.pageId()) this.view.set('value' in answer ? answer.value : null);
  }
}
