import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { blockTypes } from '@domatium/core/blocks';
import { blockWords } from '@domatium/core/document';
import { changeStart, STARTS, starts, type Start } from '@domatium/core/starts';
import { PreviewFrame } from '../shared/preview-frame';
import { newId } from './chosen-blocks';
import { DraftService } from './draft.service';
import { PageWorld } from './page-world';
import { Panel } from './panel';
import { say } from '@domatium/core/words/editor';

/** Another start for a page that has content: what goes where is shown first, and what finds no place goes to the tray. */
@Component({
  selector: 'dm-start-panel',
  imports: [Panel, PreviewFrame],
  template: `
    <dm-panel [heading]="say.anotherStartForThisPage" [lead]="say.contentGoesToThePlaceOf" (closed)="closed.emit()">
      <div class="columns">
        <nav [attr.aria-label]="say.starts">
          @for (one of all; track one.start) {
            <button type="button" [attr.aria-pressed]="start() === one.start" (click)="start.set(one.start)">
              <strong>{{ one.label }}</strong><span class="quiet">{{ one.words }}</span>
            </button>
          }
        </nav>
        @if (change(); as change) {
          <div class="frames" role="region" [attr.aria-label]="say.thePageWithItWideAnd" tabindex="0">
            <dm-preview-frame [document]="change.document" [theme]="world.theme()" [brand]="world.profile().brand" [world]="world.world()" [siteCss]="world.siteCss()" [width]="1160" [shownWidth]="430" [shownHeight]="560" />
            <dm-preview-frame [document]="change.document" [theme]="world.theme()" [brand]="world.profile().brand" [world]="world.world()" [siteCss]="world.siteCss()" [width]="390" [shownWidth]="180" [shownHeight]="560" />
          </div>
          <div class="where">
            <h3>{{ say.whatGoesWhere }}</h3>
            @for (one of change.moved; track one.from.id) {
              <p>
                {{ wordsOf(one.from) }}
                <span class="quiet">{{ one.from.type === one.to.type ? say.staysAsItIs : say.becomes(labelOf(one.to.type), (one.isWhole ? '' : say.inPart)) }}</span>
              </p>
            } @empty {
              <p class="quiet">{{ say.nothingOnThisPageFitsIn }}</p>
            }
            <h3>{{ say.inTheTray }} <span class="number quiet">{{ change.tray.length }}</span></h3>
            @for (block of change.tray; track $index) {
              <p>{{ wordsOf(block) }}</p>
            } @empty {
              <p class="quiet">{{ say.nothingAllContentFits }}</p>
            }
          </div>
        }
      </div>
      <ng-container foot>
        <button type="button" class="btn btn-primary" (click)="take()">{{ say.take(label()) }}</button>
        <span class="quiet">{{ say.onlyTheDraftChangesOneUndo }}</span>
      </ng-container>
    </dm-panel>
  `,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: 232px minmax(0, 1fr) 280px;
      min-height: 0;
    }
    nav,
    .where {
      overflow-y: auto;
      padding: 12px;
    }
    nav {
      border-right: 1px solid var(--rule);
    }
    nav button {
      display: block;
      width: 100%;
      border: 0;
      background: none;
      text-align: left;
      padding: 5px 8px;
      border-radius: var(--corner);
    }
    nav button[aria-pressed='true'] {
      background: var(--moss-tint);
    }
    nav strong {
      display: block;
      font-weight: 600;
    }
    nav .quiet {
      font-size: 0.78rem;
      line-height: 1.3;
      display: block;
    }
    .frames {
      display: flex;
      gap: 16px;
      padding: 16px;
      overflow: auto;
    }
    dm-preview-frame {
      border: 1px solid var(--rule);
      background: #fff;
      flex: none;
    }
    .where {
      border-left: 1px solid var(--rule);
    }
    h3 {
      font-size: 0.875rem;
      font-weight: 680;
      margin: 0 0 6px;
    }
    p {
      margin: 0 0 6px;
    }
    p + h3 {
      margin-top: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StartPanel {
  protected readonly say = say;
  readonly closed = output();
  protected readonly draft = inject(DraftService);
  protected readonly world = inject(PageWorld);
  protected readonly all = STARTS.map((start) => ({ start, label: starts[start].label, words: starts[start].words }));
  protected readonly start = signal<Start>('offer');
  protected readonly label = computed(() => starts[this.start()].label);
  protected readonly change = computed(() => {
    const document = this.draft.document();
    return document ? changeStart(document, this.start(), this.draft.draft()?.name ?? '', newId) : null;
  });

  protected readonly wordsOf = blockWords;
  protected labelOf(type: keyof typeof blockTypes): string {
    return blockTypes[type].label.toLowerCase();
  }

  protected take(): void {
    const change = this.change();
    if (change && this.draft.edit({ kind: 'whole', document: change.document })) this.closed.emit();
  }
}
