import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { RegisterService } from '../hub/register.service';
import { NoticeService } from '../hub/notices';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { TemplatesService } from './templates.service';
import { say } from '@domatium/core/words/pages';
import { say as common } from '@domatium/core/words/common';

const MOST = 2000;

/** Makes a page a template, with notes for whoever makes a page from it. */
@Component({
  selector: 'dm-template-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet
      [heading]="(known() ? say.templateToo : say.makeATemplateOf) + (page()?.name ?? '')"
      [lead]="say.offeredWherePagesAreMadeA"
      (closed)="place.go({ panel: null })"
    >
      <label class="section-label" for="notes">{{ say.notesForPeopleWhoUseIt }}</label>
      <textarea
        id="notes"
        class="form-control"
        rows="6"
        [value]="notes()"
        [class.is-invalid]="notes().length > 2000"
        (input)="notes.set($any($event.target).value)"
      ></textarea>
      <p class="field-note number">{{ say.of2000(notes().length.toLocaleString('en-GB')) }}</p>
      @if (known()?.pages; as pages) {
        <h3 class="section-label">{{ say.madeFromIt }}</h3>
        @for (one of pages; track one.id) {
          <p>
            <button type="button" class="btn-link-plain" (click)="place.go({ page: one.id, panel: null })">
              {{ one.name }}
            </button>
          </p>
        } @empty {
          <p class="quiet">{{ say.noPageYet }}</p>
        }
      }
      @if (refusal(); as text) {
        <p class="field-error" role="alert">{{ text }}</p>
      }
      <ng-container foot>
        <button type="button" class="btn btn-primary" [disabled]="notes().length > 2000" (click)="save(true)">
          {{ known() ? say.keepTheNotes : say.makeATemplateToo }}
        </button>
        @if (known()) {
          <button type="button" class="btn btn-plain" (click)="save(false)">{{ say.removeAsTemplate }}</button>
        }
      </ng-container>
    </dm-wide-sheet>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TemplateSheet {
  protected readonly say = say;
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
      text: isTemplate ? say.isATemplate(page.name) : say.isNoTemplateAnyMore(page.name),
      action: { label: common.undo, run: back },
    });
    this.place.go({ panel: null });
  }
}
