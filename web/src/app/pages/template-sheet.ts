import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { RegisterService } from '../hub/register.service';
import { NoticeService } from '../hub/notices';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { TemplatesService } from './templates.service';

const MOST = 2000;

/** Makes a page a template, with notes for whoever makes a page from it. */
@Component({
  selector: 'dm-template-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet
      [heading]="(known() ? 'Template ' : 'Make a template of ') + (page()?.name ?? '')"
      lead="Offered where pages are made. A page made from it begins with its draft, and remembers where it came from."
      (closed)="place.go({ panel: null })"
    >
      <label class="section-label" for="notes">Notes for people who use it</label>
      <textarea
        id="notes"
        class="form-control"
        rows="6"
        [value]="notes()"
        [class.is-invalid]="notes().length > 2000"
        (input)="notes.set($any($event.target).value)"
      ></textarea>
      <p class="field-note number">{{ notes().length.toLocaleString('en-GB') }} of 2,000</p>
      @if (known()?.pages; as pages) {
        <h3 class="section-label">Made from it</h3>
        @for (one of pages; track one.id) {
          <p>
            <button type="button" class="btn-link-plain" (click)="place.go({ page: one.id, panel: null })">
              {{ one.name }}
            </button>
          </p>
        } @empty {
          <p class="quiet">No page yet.</p>
        }
      }
      @if (refusal(); as text) {
        <p class="field-error" role="alert">{{ text }}</p>
      }
      <ng-container foot>
        <button type="button" class="btn btn-primary" [disabled]="notes().length > 2000" (click)="save(true)">
          {{ known() ? 'Keep the notes' : 'Make a template' }}
        </button>
        @if (known()) {
          <button type="button" class="btn btn-plain" (click)="save(false)">Remove as template</button>
        }
      </ng-container>
    </dm-wide-sheet>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TemplateSheet {
  readonly pageId = input.required<number>();
  private readonly service = inject(RegisterService);
  private readonly templates = inject(TemplatesService);
  private readonly notices = inject(NoticeService);
  protected readonly place = inject(PlaceService);
  protected readonly page = computed(() => this.service.page(this.pageId()) ?? null);
  protected readonly known = computed(() => this.templates.all().find(({ id }) => id === this.pageId()) ?? null);
  protected readonly notes = linkedSignal(() => this.known()?.notes ?? '');
  protected readonly refusal = signal<string | null>(null);

  protected async save(isTemplate: boolean): Promise<void> {
    const page = this.page();
    if (!page || this.notes().length > MOST) return;
    const was = this.known();
    const refusal = await this.templates.set(page.id, page.version, isTemplate, this.notes());
    this.refusal.set(refusal);
    if (refusal) return;
    const back = () => void this.templates.set(page.id, page.version + 1, !!was, was?.notes ?? '');
    this.notices.say({
      kind: 'done',
      text: isTemplate ? `${page.name} is a template.` : `${page.name} is no template any more.`,
      action: { label: 'Undo', run: back },
    });
    this.place.go({ panel: null });
  }
}
