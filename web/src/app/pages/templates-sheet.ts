import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RegisterService } from '../hub/register.service';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { TemplatesService } from './templates.service';
import { say } from '@domatium/core/words/pages';
import { say as common } from '@domatium/core/words/common';

/** All templates, with their notes and how many pages were made from each. */
@Component({
  selector: 'dm-templates-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet
      [heading]="say.templates"
      [lead]="say.pagesOthersAreMadeFromChoose"
      (closed)="place.go({ panel: null })"
    >
      @for (one of templates.all(); track one.id) {
        <section>
          @if (one.picture) {
            <img [src]="one.picture" alt="" width="96" height="64" />
          } @else {
            <span class="blank" aria-hidden="true"></span>
          }
          <div>
            <button type="button" class="btn-link-plain name" (click)="place.go({ page: one.id, panel: 'template' })">
              {{ one.name }}
            </button>
            <p>{{ one.notes || say.noNotes }}</p>
            <p class="quiet number">
              {{ say.madeFromItWithSiteName(one.siteName, one.pages.length === 1 ? common.onePage : say.pages(one.pages.length)) }}
            </p>
          </div>
        </section>
      } @empty {
        <p>{{ say.noTemplatesYetOpenAPage }}</p>
      }
    </dm-wide-sheet>
  `,
  styles: `
    section {
      display: flex;
      gap: 14px;
      padding: 10px 0;
      border-bottom: 1px solid var(--rule-soft);
    }
    img,
    .blank {
      width: 96px;
      height: 64px;
      object-fit: cover;
      border-radius: 4px;
      background: var(--rule-soft);
      flex: none;
    }
    .name {
      font-weight: 620;
    }
    p {
      margin: 2px 0 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TemplatesSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  protected readonly templates = inject(TemplatesService);
}
