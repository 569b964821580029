import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { blockTypes } from '@domatium/core/blocks';
import type { PageDocument } from '@domatium/core/document';
import { blockHtml, contextOf, type RenderWorld } from '@domatium/core/render';
import { heardIn } from './reading';
import { inertMarkup } from '../shared/trusted';
import { say } from '@domatium/core/words/editor';

/** The page as a screen reader says it: block by block, in its order. */
@Component({
  selector: 'dm-read-aloud',
  template: `
    <ol [attr.aria-label]="say.thePageAsItIsRead">
      @for (block of blocks(); track block.id) {
        <li [class.chosen]="chosen() === block.id">
          <button type="button" class="btn-link-plain" (click)="choose.emit(block.id)">{{ block.label }}</button>
          <dl>
            @for (line of block.heard; track $index) {
              <div>
                <dt>{{ line.kind }}</dt>
                <dd>{{ line.words }}</dd>
              </div>
            } @empty {
              <div><dd class="quiet">{{ say.nothingIsReadAloudHere }}</dd></div>
            }
          </dl>
        </li>
      }
    </ol>
  `,
  styles: `
    :host {
      display: block;
      overflow-y: auto;
      background: var(--surface);
      padding: 16px 24px;
    }
    ol {
      list-style: none;
      padding: 0;
      margin: 0 auto;
      max-width: 640px;
    }
    li {
      padding: 8px 12px 10px;
      border-bottom: 1px solid var(--rule-soft);
    }
    .chosen {
      background: var(--moss-tint);
      border-radius: var(--corner);
    }
    button {
      font-weight: 620;
      padding-left: 0;
    }
    dl {
      margin: 0;
    }
    dl div {
      display: grid;
      grid-template-columns: 88px minmax(0, 1fr);
      gap: 12px;
    }
    dt {
      font-weight: 400;
      color: var(--quiet);
    }
    dd {
      margin: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReadAloud {
  protected readonly say = say;
  readonly document = input.required<PageDocument>();
  readonly links = input.required<RenderWorld>();
  readonly chosen = input<string | null>(null);
  readonly choose = output<string>();
  protected readonly blocks = computed(() => {
    const context = contextOf(this.links());
    return this.document().blocks.map((block) => ({
      id: block.id,
      label: blockTypes[block.type].label,
      heard: heardIn(new DOMParser().parseFromString(inertMarkup(blockHtml(block, context).markup), 'text/html').body),
    }));
  });
}
