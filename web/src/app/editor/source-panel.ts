import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { blockTypes } from '@domatium/core/blocks';
import type { Block, PageDocument } from '@domatium/core/document';
import { blockHtml, contextOf } from '@domatium/core/render';
import { blockToHtml, changesFromHtml, type SourceFault } from '@domatium/core/source';
import { scopedCss, stylesheetOf } from '@domatium/core/theme';
import { RegisterService } from '../hub/register.service';
import { StockService } from '../hub/stock.service';
import { CodeField, type CodeFault } from '../source/code-field';
import { OwnCssField } from '../source/own-css-field';
import { treeOfHtml } from '../source/html-tree';
import { ChosenBlocks } from './chosen-blocks';
import { PreviewFrame } from '../shared/preview-frame';
import { DraftService } from './draft.service';
import { PageWorld } from './page-world';
import { Panel } from './panel';
import { say } from '@domatium/core/words/editor';

/** The chosen block as HTML, and the page's own CSS: checked as one types, with what it overrides. */
@Component({
  selector: 'dm-source-panel',
  imports: [Panel, CodeField, OwnCssField, PreviewFrame, RouterLink],
  templateUrl: './source-panel.html',
  styles: `
    .columns {
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
      gap: 20px;
      min-height: 0;
      padding: 14px 20px;
      --code-height: calc(100vh - 330px);
    }
    .columns > div {
      min-width: 0;
      overflow-y: auto;
    }
    h3 {
      font-size: 0.875rem;
      font-weight: 680;
      margin: 0 0 6px;
    }
    pre {
      white-space: pre-wrap;
      overflow-wrap: anywhere;
      background: var(--surface);
      border: 1px solid var(--rule);
      border-radius: var(--corner);
      padding: 10px;
      font-size: 0.8125rem;
      max-height: var(--code-height);
      overflow-y: auto;
    }
    p {
      margin: 6px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SourcePanel {
  protected readonly say = say;
  readonly closed = output();
  protected readonly draft = inject(DraftService);
  protected readonly service = inject(RegisterService);
  private readonly choice = inject(ChosenBlocks);
  protected readonly world = inject(PageWorld);
  protected readonly theme = this.world.theme;
  private readonly stock = inject(StockService);
  protected readonly block = computed(
    () => this.draft.document()?.blocks.find(({ id }) => id === this.choice.main()) ?? null,
  );
  protected readonly label = computed(() => {
    const block = this.block();
    return block ? blockTypes[block.type].label : '';
  });
  /** What was typed last of which block: it stands as it was typed for as long as it says what the block holds. */
  private readonly typed = signal<{ readonly blockId: string; readonly source: string } | null>(null);
  protected readonly source = computed(() => {
    const [block, typed] = [this.block(), this.typed()];
    if (!block) return '';
    if (typed?.blockId !== block.id) return blockToHtml(block);
    const { changes, faults } = this.readSource(block, typed.source);
    return changes.length && !isBlocked(faults) ? blockToHtml(block) : typed.source;
  });
  /** The block alone, with the CSS of its page. */
  protected readonly alone = computed<PageDocument | null>(() => {
    const [document, block] = [this.draft.document(), this.block()];
    return document && block && { ...document, blocks: [block] };
  });
  protected readonly checkHtml = (source: string): readonly CodeFault[] => {
    const block = this.block();
    return block ? [...this.readSource(block, source).faults, ...this.refused(block, source)] : [];
  };
  protected readonly faults = computed(() => this.checkHtml(this.source()));
  protected readonly html = computed(() => {
    const block = this.block();
    const { markup } = block ? blockHtml(block, contextOf(this.world.world())) : { markup: '' };
    // As visitors get it: the application has the files at another place.
    return markup
      .replace(/\/api\/portfolios\/\d+\/files\//g, '/-/')
      .replace(/\n\s*/g, '\n')
      .replace(/\n+/g, '\n');
  });
  protected readonly css = computed(() => this.draft.document()?.metadata.css ?? '');
  protected readonly below = computed(
    () => stylesheetOf(this.world.theme(), (file) => file) + scopedCss(this.world.siteCss()),
  );
  protected readonly site = this.world.site;
  protected readonly brand = computed(() => this.world.profile().brand);
  protected readonly siteItem = computed(
    () =>
      (this.stock.items() ?? []).find(({ kind, siteId }) => kind === 'css' && siteId === this.world.site()?.id)?.id ??
      null,
  );
  protected readonly themeItem = computed(() => {
    const key = this.world.profile().theme;
    return this.stock.themes().find((one) => one.key === key)?.id ?? key;
  });

  /** What the server doesn't take of the block, at the line of its field. */
  private refused({ id }: Block, source: string): CodeFault[] {
    return this.draft.refusals().flatMap(({ blockId, field, message }): CodeFault[] => {
      if (blockId !== id) return [];
      const [key = ''] = /^\w*/.exec(field) ?? [];
      const before = source.slice(0, Math.max(0, source.indexOf(`data-field="${key}"`)));
      const line = before.split('\n').length;
      return [{ line, column: 1, severity: 'blocks', message }];
    });
  }

  private readSource(block: Block, source: string) {
    return changesFromHtml(block, treeOfHtml(source), source);
  }

  protected setSource(source: string): void {
    const block = this.block();
    if (!block) return;
    this.typed.set({ blockId: block.id, source });
    for (const { field, value } of this.readSource(block, source).changes)
      this.draft.edit({ kind: 'set', blockId: block.id, field, value });
  }

  protected setCss(value: string): void {
    if (value !== this.css()) this.draft.edit({ kind: 'css', value: value || null });
  }
}

const isBlocked = (faults: readonly SourceFault[]) => faults.some(({ severity }) => severity === 'blocks');
