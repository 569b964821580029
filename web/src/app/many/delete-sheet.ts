import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { RegisterRow } from '@domatium/core/register';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';
import { api, Api, Cancelled, Refusal } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { WideSheet } from '../shared/wide-sheet';
import { Work, WorkBar } from '../shared/work';
import { PlaceService } from '../hub/place.service';
import { spreadWords } from './spread';

/** Deletes pages of the bin for ever: asks with the name, or with the number where they are several. */
@Component({
  selector: 'dm-delete-sheet',
  imports: [WideSheet, WorkBar],
  template: `
    <dm-wide-sheet [heading]="'Delete ' + what() + ' for ever'" [lead]="lead()" (closed)="place.go({ panel: null })">
      <p>
        Drafts, revisions and labels are deleted. Past records, redirects and visit figures stay. <strong>This can’t be undone.</strong>
      </p>
      <label class="section-label" for="confirmation"
        >To confirm, type {{ one() ? 'its name' : 'how many they are' }}:
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
          <dm-work-bar [work]="running" label="Deleting" />
        } @else {
          <button type="button" class="btn btn-danger" [disabled]="typed().trim() !== expected()" (click)="go()">
            Delete {{ what() }} for ever
          </button>
        }
      </ng-container>
    </dm-wide-sheet>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeleteSheet {
  private readonly service = inject(RegisterService);
  private readonly selection = inject(SelectionService);
  private readonly client = inject(Api);
  private readonly notices = inject(NoticeService);
  protected readonly place = inject(PlaceService);
  protected readonly pages = signal<readonly RegisterRow[]>([]);
  protected readonly typed = signal('');
  protected readonly error = signal<string | null>(null);
  protected readonly work = signal<Work | null>(null);
  protected readonly one = computed(() => (this.pages().length === 1 ? (this.pages()[0]?.name ?? null) : null));
  protected readonly what = computed(() => this.one() ?? `${this.pages().length.toLocaleString('en-GB')} pages`);
  protected readonly expected = computed(() => this.one() ?? String(this.pages().length));
  protected readonly lead = computed(() => `${spreadWords(this.pages())}, all of them in the bin.`);

  constructor() {
    const open = this.place.pageId();
    const ids = open === null ? [...this.selection.ids()] : [open];
    void this.service.rowsOf(ids).then((rows) => this.pages.set(rows));
  }

  protected async go(): Promise<void> {
    if (this.work() || this.typed().trim() !== this.expected()) return;
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
        text: deleted === 1 ? `${this.what()} is deleted.` : `${deleted} pages are deleted.`,
      });
      this.selection.clear();
      this.place.go({ panel: null, page: null });
    } catch (error) {
      if (error instanceof Cancelled) {
        this.notices.say({
          kind: 'done',
          text: 'Stopped. Pages deleted so far are gone; the rest are in the bin.',
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
