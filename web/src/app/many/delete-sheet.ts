import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import type { RegisterRow } from '@domatium/core/register';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';
import { api, Api, Cancelled, Refusal } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { WideSheet } from '../shared/wide-sheet';
import { Work, WorkBar } from '../shared/work';
import { PlaceService } from '../hub/place.service';
import { spreadWords } from './spread';
import { say } from '@domatium/core/words/many';

/** Deletes pages of the bin for ever: asks with the name, or with the number where they are several. */
@Component({
  selector: 'dm-delete-sheet',
  imports: [WideSheet, WorkBar],
  template: `
    <dm-wide-sheet [heading]="say.deleteForEverWithWhat(what())" [lead]="lead()" (closed)="place.go({ panel: null })">
      <p>
        {{ say.draftsRevisionsAndLabelsAreDeleted }} <strong>{{ say.thisCantBeUndone }}</strong>
      </p>
      @if (staying(); as count) {
        <p role="status">{{ say.notInTheBin(count) }}</p>
      }
      <label class="section-label" for="confirmation"
        >{{ say.toConfirmType(one() ? say.itsName : say.howManyTheyAre) }}
        <strong>{{ expected() }}</strong></label
      >
      <input
        id="confirmation"
        class="form-control"
        autocomplete="off"
        [class.is-invalid]="!!error()"
        [value]="typed()"
        (input)="typed.set($any($event.target).value)"
        (keydown.enter)="go()"
      />
      @if (error(); as text) {
        <div class="field-error" role="alert">{{ text }}</div>
      }
      <ng-container foot>
        @if (work(); as running) {
          <dm-work-bar [work]="running" [label]="say.deleting" />
        } @else {
          <button type="button" class="btn btn-danger" [disabled]="!pages().length || typed().trim() !== expected()" (click)="go()">
            {{ say.deleteForEverWithWhat(what()) }}
          </button>
        }
      </ng-container>
    </dm-wide-sheet>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeleteSheet {
  protected readonly say = say;
  private readonly service = inject(RegisterService);
  private readonly selection = inject(SelectionService);
  private readonly client = inject(Api);
  private readonly notices = inject(NoticeService);
  protected readonly place = inject(PlaceService);
  private readonly chosen = signal<readonly RegisterRow[]>([]);
  /** Of the chosen pages those in the bin: others stay. */
  protected readonly pages = computed(() => this.chosen().filter(({ binnedSince }) => binnedSince !== null));
  protected readonly staying = computed(() => this.chosen().length - this.pages().length);
  protected readonly typed = signal('');
  protected readonly error = signal<string | null>(null);
  protected readonly work = signal<Work | null>(null);
  protected readonly one = computed(() => (this.pages().length === 1 ? (this.pages()[0]?.name ?? null) : null));
  protected readonly what = computed(() => this.one() ?? say.pages(this.pages().length.toLocaleString('en-GB')));
  protected readonly expected = computed(() => this.one() ?? String(this.pages().length));
  protected readonly lead = computed(() => say.allOfThemInTheBin(spreadWords(this.pages())));

  constructor() {
    const open = this.place.pageId();
    const ids = open === null ? [...this.selection.ids()] : [open];
    effect(() => {
      // Somebody restores one of them meanwhile.
      this.service.version();
      if (!untracked(this.work)) void this.service.rowsOf(ids).then((rows) => this.chosen.set(rows));
    });
  }

  protected async go(): Promise<void> {
    if (this.work() || !this.pages().length || this.typed().trim() !== this.expected()) return;
    const work = new Work(this.service.events);
    this.work.set(work);
    this.error.set(null);
    try {
      const { deleted } = await this.client.call(
        api.deletePages,
        {
          params: { portfolioId: this.service.portfolioId() },
          body: { pages: this.pages().map(({ id }) => id), confirmation: this.typed().trim() },
        },
        work,
      );
      this.notices.say({
        kind: 'done',
        text: deleted === 1 ? say.isDeleted(this.what()) : say.pagesAreDeleted(deleted),
      });
      this.selection.clear();
      this.place.go({ panel: null, page: null });
    } catch (error) {
      if (error instanceof Cancelled) {
        this.notices.say({
          kind: 'done',
          text: say.stoppedPagesDeletedSoFarAre,
        });
        this.selection.clear();
        this.place.go({ panel: null, page: null });
      } else if (error instanceof Refusal)
        this.error.set(error.at('confirmation') ?? error.at('pages') ?? error.message);
      else throw error;
    } finally {
      work.end();
      this.work.set(null);
    }
  }
}
