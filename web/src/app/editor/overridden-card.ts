import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { OverriddenText } from '@domatium/contracts';
import { blockWords, EMPTY_DOCUMENT, METADATA_TEXTS, textsOf, type PageDocument } from '@domatium/core/document';
import { writeInstant, type Instant } from '@domatium/core/time';
import { METADATA_LABELS } from '@domatium/core/words';
import { say } from '@domatium/core/words/editor';
import { api, Api } from '../hub/api';
import { RegisterService } from '../hub/register.service';
import { DraftService } from './draft.service';

/** What one wrote and somebody else’s text took the place of: one is told, reads it, and can put it back. */
@Component({
  selector: 'dm-overridden-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (one of told(); track one.id) {
      <section class="card" role="status" [attr.aria-label]="say.yourTextWasReplaced">
        <h2>{{ one.heading }}</h2>
        <p class="quiet">{{ say.thisIsWhatYouHadWritten(one.what) }}</p>
        @for (text of one.texts; track $index) {
          <blockquote><span class="quiet">{{ text.label }}</span> {{ text.value }}</blockquote>
        } @empty {
          <p class="quiet">{{ say.noTextOfItDiffers }}</p>
        }
        <button type="button" class="btn btn-plain" (click)="putBack(one.id)">{{ say.putMineBack }}</button>
        <button type="button" class="btn btn-plain" (click)="dismiss(one.id)">{{ say.leaveItSo }}</button>
      </section>
    }
  `,
  styles: `
    section {
      border-color: var(--ochre);
    }
    h2 {
      font-size: 0.875rem;
      font-weight: 680;
      margin: 0;
    }
    p {
      margin: 2px 0 6px;
    }
    blockquote {
      margin: 0 0 6px;
      padding-inline-start: 8px;
      border-inline-start: 2px solid var(--rule);
      font-size: 0.8125rem;
      overflow-wrap: anywhere;
      max-height: 9rem;
      overflow-y: auto;
    }
    .btn + .btn {
      margin-left: 8px;
    }
  `,
})
export class OverriddenCard {
  protected readonly say = say;
  private readonly client = inject(Api);
  private readonly draft = inject(DraftService);
  private readonly register = inject(RegisterService);
  protected readonly told = computed(() => {
    const document = this.draft.document();
    const [zone, now] = [this.register.zone(), this.register.now()];
    return this.draft.overridden().map((one) => ({
      id: one.id,
      heading: say.keptTheirTextOverYours(one.by ?? say.someoneElseToo, writeInstant(one.at as Instant, zone, now)),
      what: one.block ? blockWords(one.block) : say.theTitleOrDescription,
      texts: document ? textsLost(document, one) : [],
    }));
  });

  protected putBack(id: number): void {
    const [document, one] = [this.draft.document(), this.draft.overridden().find((each) => each.id === id)];
    if (!document || !one) return;
    this.draft.edit({ kind: 'whole', document: withMine(document, one) });
    this.dismiss(id);
  }

  protected dismiss(id: number): void {
    this.draft.seen(id);
    const params = { portfolioId: this.register.portfolioId(), pageId: this.draft.pageId(), overriddenId: id };
    void this.client.call(api.dismissOverridden, { params });
  }
}

/** The texts of what was replaced that the page does not say in that place now. */
function textsLost(document: PageDocument, { block, metadata }: OverriddenText) {
  if (metadata)
    return METADATA_TEXTS.flatMap((key) => {
      const value = metadata[key];
      return value && value !== document.metadata[key] ? [{ label: METADATA_LABELS[key], value }] : [];
    });
  if (!block) return [];
  const now = new Map(textsOf(document).map(({ blockId, field, value }) => [`${blockId} ${field}`, value]));
  return textsOf({ ...EMPTY_DOCUMENT, blocks: [block] }).filter(
    ({ blockId, field, value }) => now.get(`${blockId} ${field}`) !== value,
  );
}

/** The page with what was replaced in its place again; a block that is gone comes at the end. */
function withMine(document: PageDocument, { block, metadata }: OverriddenText): PageDocument {
  if (metadata) return { ...document, metadata };
  if (!block) return document;
  const { blocks, tray = [] } = document;
  const isThere = blocks.some(({ id }) => id === block.id);
  const next = isThere ? blocks.map((one) => (one.id === block.id ? block : one)) : [...blocks, block];
  const rest = tray.filter(({ id }) => id !== block.id);
  return { metadata: document.metadata, blocks: next, ...(rest.length ? { tray: rest } : {}) };
}
