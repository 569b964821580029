import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import type { HistoryEntry, RecordEntry } from '@domatium/contracts';
import { writeDistance, writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { ReleasingService } from '../releases/releasing.service';
import { refusalOf } from '../hub/answer';
import { api, Api, Refusal } from '../hub/api';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { say } from '@domatium/core/words/pages';
import { say as common } from '@domatium/core/words/common';

/** What was released of a page, by whom and when; each can be undone where nothing later stands on it. */
@Component({
  selector: 'dm-history-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet
      [heading]="say.historyOf((page()?.name ?? ''))"
      [lead]="say.everyReleaseAndEveryUndoStays"
      (closed)="place.go({ panel: null })"
    >
      @if (entries(); as all) {
        @if (lines().length === 0) {
          <p class="quiet">
            {{ say.thisPageHasntBeenReleasedYet }}
          </p>
        }
        <ol>
          @for (line of lines(); track line.key) {
            @if (line.act; as act) {
              <li>
                <div class="when">
                  <span class="number">{{ write(act.at) }}</span><span class="quiet">{{ distance(act.at) }}</span>
                </div>
                <div class="what">
                  <div>{{ act.words }}@if (act.count > 1) { <span class="quiet">{{ say.withOthers(act.count - 1) }}</span> }</div>
                  <div class="quiet">{{ act.by ?? common.theSystem }}</div>
                  @if (refused()?.key === line.key) {
                    <div class="field-error" role="alert">{{ refused()?.words }}</div>
                  }
                </div>
                @if (service.mayWrite() && act.canUndo) {
                  <button
                    type="button"
                    class="btn btn-plain"
                    [disabled]="isBusy()"
                    [attr.aria-label]="say.undo(act.words)"
                    (click)="undoAct(act)"
                  >
                    {{ common.undo }}
                  </button>
                }
              </li>
            }
            @if (line.entry; as entry) {
            <li [class.is-undone]="entry.undoneBy !== null">
              <div class="when">
                <span class="number">{{ write(entry.at) }}</span><span class="quiet">{{ distance(entry.at) }}</span>
              </div>
              <div class="what">
                <div>{{ entry.summary }}</div>
                <div class="quiet">
                  {{ entry.by ?? common.theSystem }} ·
                  @if (entry.failure) {
                    <span class="tag ember">{{ say.failed(entry.failure) }}</span>
                  } @else if (entry.undoneBy !== null) {
                    <span class="tag dusk">{{ say.undone }}</span>
                  } @else if (entry.outAt === null) {
                    <span class="tag">{{ say.onItsWay }}</span>
                  } @else {
                    {{ say.out }}
                  }
                </div>
                @if (refused()?.key === line.key) {
                  <div class="field-error" role="alert">{{ refused()?.words }}</div>
                }
              </div>
              @if (service.mayRelease() && entry.undoneBy === null) {
                <button
                  type="button"
                  class="btn btn-plain"
                  [disabled]="isBusy()"
                  [attr.aria-label]="say.undo(entry.summary)"
                  (click)="undo(entry)"
                >
                  {{ common.undo }}
                </button>
              }
            </li>
            }
          }
        </ol>
      } @else {
        <div class="skeleton" style="width: 70%"></div>
      }
      <ng-container foot
        ><span class="quiet"
          >{{ say.undoIsAReleaseTooVisitors }}</span
        ></ng-container
      >
    </dm-wide-sheet>
  `,
  styles: `
    ol {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: 132px 1fr auto;
      gap: 14px;
      padding: 10px 0;
      border-bottom: 1px solid var(--rule-soft);
      align-items: start;
    }
    .when {
      display: grid;
    }
    .is-undone .what > div:first-child {
      text-decoration: line-through;
      text-decoration-color: var(--stone);
      color: var(--quiet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HistorySheet {
  protected readonly say = say;
  protected readonly common = common;
  readonly pageId = input.required<number>();
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly client = inject(Api);
  private readonly releasing = inject(ReleasingService);
  protected readonly page = computed(() => this.service.page(this.pageId()) ?? null);
  protected readonly entries = signal<readonly HistoryEntry[] | null>(null);
  /** What was done to it besides releases: what it is called, whose it is, and the like. */
  private readonly acts = signal<readonly RecordEntry[]>([]);
  /** Releases and what else was done, the newest first. */
  protected readonly lines = computed(() =>
    [
      ...(this.entries() ?? []).map((entry) => ({ key: `release ${entry.releaseId}`, at: entry.at, entry, act: null })),
      ...this.acts().map((act) => ({ key: `act ${act.id}`, at: act.at, entry: null, act })),
    ].sort((a, b) => b.at - a.at),
  );
  /** The line that can't be undone, and why. */
  protected readonly refused = signal<{ readonly key: string; readonly words: string } | null>(null);
  protected readonly isBusy = signal(false);

  constructor() {
    effect(() => {
      this.service.version();
      void this.load(this.pageId());
    });
  }

  protected async undo(entry: HistoryEntry): Promise<void> {
    const { undoRefusal: words, releaseId } = entry;
    if (words) return this.refused.set({ key: `release ${releaseId}`, words });
    this.isBusy.set(true);
    await this.releasing.undo(entry.releaseId).finally(() => this.isBusy.set(false));
    await this.load(this.pageId());
  }

  /** Gives the pages of an act back what they had before it. */
  protected async undoAct(act: RecordEntry): Promise<void> {
    const params = { portfolioId: this.service.portfolioId(), entryId: act.id };
    this.isBusy.set(true);
    const words = await refusalOf(() => this.client.call(api.undoRecorded, { params })).finally(() =>
      this.isBusy.set(false),
    );
    this.refused.set(words === null ? null : { key: `act ${act.id}`, words });
    if (words === null) await this.service.load();
    await this.load(this.pageId());
  }

  private async load(pageId: number): Promise<void> {
    const portfolioId = this.service.portfolioId();
    try {
      const [entries, { entries: acts }] = await Promise.all([
        this.client.call(api.history, { params: { portfolioId, pageId } }),
        this.client.call(api.record, { params: { portfolioId }, query: { page: pageId, kind: 'pages' } }),
      ]);
      this.acts.set(acts);
      this.entries.set(entries);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  protected write(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }

  protected distance(at: number): string {
    return writeDistance(at as Instant, this.service.now());
  }
}
