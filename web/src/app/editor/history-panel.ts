import { ChangeDetectionStrategy, Component, computed, effect, inject, output, signal, untracked } from '@angular/core';
import type { PageState } from '@domatium/contracts';
import { blockWords, differencesOf, textsOf, type Block, type PageDocument } from '@domatium/core/document';
import { writeDistance, writeInstant, type Instant } from '@domatium/core/time';
import { diffWords } from 'diff';
import { RegisterService } from '../hub/register.service';
import { PreviewFrame } from '../shared/preview-frame';
import { api, Api, Refusal } from '../hub/api';
import { DraftService } from './draft.service';
import { PageWorld } from './page-world';
import { Panel } from './panel';
import { say } from '@domatium/core/words/editor';
import { say as common } from '@domatium/core/words/common';

const DRAFT = 'draft';

/** Every kept state of the page: named, compared side by side and as marked text, restored whole or block by block. */
@Component({
  selector: 'dm-history-panel',
  imports: [Panel, PreviewFrame],
  templateUrl: './history-panel.html',
  styleUrl: './history-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HistoryPanel {
  protected readonly say = say;
  protected readonly common = common;
  readonly closed = output();
  protected readonly draft = inject(DraftService);
  protected readonly world = inject(PageWorld);
  protected readonly service = inject(RegisterService);
  private readonly client = inject(Api);
  protected readonly states = signal<readonly PageState[] | null>(null);
  protected readonly trouble = signal<string | null>(null);
  protected readonly way = signal<'pages' | 'text'>('pages');
  /** The two states that are compared: an older one, and another or the draft. */
  protected readonly left = signal<string | null>(null);
  protected readonly right = signal<string>(DRAFT);
  private readonly loaded = signal<ReadonlyMap<string, PageDocument>>(new Map());
  protected readonly documents = computed(() => ({
    left: this.documentOf(this.left()),
    right: this.documentOf(this.right()),
  }));
  protected readonly differences = computed(() => {
    const { left, right } = this.documents();
    if (!left || !right) return null;
    const { blocks, isMetadataChanged, isReordered } = differencesOf(left, right);
    const others = new Map(right.blocks.map((block) => [block.id, block]));
    return {
      isMetadataChanged,
      isReordered,
      blocks: blocks.map(({ block, how }) => ({
        block,
        how,
        words: blockWords(block),
        parts: partsOf(
          how === 'only-in-second' ? null : block,
          how === 'only-in-first' ? null : (others.get(block.id) ?? block),
        ),
      })),
    };
  });

  constructor() {
    void this.load();
    effect(() => {
      const keys = [this.left(), this.right()];
      untracked(() => keys.forEach((key) => key && key !== DRAFT && void this.fetch(key)));
    });
  }

  private params() {
    return { portfolioId: this.service.portfolioId(), pageId: this.draft.pageId() };
  }

  private documentOf(key: string | null): PageDocument | null {
    return key === DRAFT ? this.draft.document() : key ? (this.loaded().get(key) ?? null) : null;
  }

  private async load(): Promise<void> {
    try {
      await this.draft.keep();
      const states = await this.client.call(api.pageStates, { params: this.params() });
      this.states.set(states);
      this.left.update((key) => key ?? states.find(({ isLive }) => isLive)?.key ?? states[0]?.key ?? null);
    } catch (error) {
      this.refused(error);
    }
  }

  private async fetch(key: string): Promise<void> {
    if (this.loaded().has(key)) return;
    try {
      const { document } = await this.client.call(api.pageState, { params: { ...this.params(), key } });
      this.loaded.update((all) => new Map([...all, [key, document]]));
    } catch (error) {
      this.refused(error);
    }
  }

  private refused(error: unknown): void {
    if (!(error instanceof Refusal)) throw error;
    this.trouble.set(error.message);
  }

  protected write(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }
  protected ago(at: number): string {
    return writeDistance(at as Instant, this.service.now());
  }
  protected titleOf({ revision, name }: PageState): string {
    return revision === null ? say.draftAsLeft : say.revisionWithRevision(revision, name ? `: ${name}` : '');
  }
  protected labelOf(key: string | null): string {
    const state = this.states()?.find((one) => one.key === key);
    return state ? this.titleOf(state) : say.theDraftNow;
  }

  protected async name(text: string): Promise<void> {
    if (!text.trim()) return;
    await this.draft.keep();
    try {
      const body = { name: text.trim(), draftVersion: this.draft.keptVersion() };
      await this.client.call(api.nameRevision, { params: this.params(), body });
      await this.load();
    } catch (error) {
      this.refused(error);
    }
  }

  /** The whole page as it was; one step to undo. */
  protected restore(): void {
    const { left } = this.documents();
    if (left && this.draft.edit({ kind: 'whole', document: left })) this.closed.emit();
  }

  /** One block as it was: put back in its place, or where it stood. */
  protected restoreBlock(block: Block): void {
    const { left } = this.documents();
    const now = this.draft.document();
    if (!left || !now) return;
    const at = now.blocks.findIndex(({ id }) => id === block.id);
    if (at >= 0)
      return void this.draft.edit({
        kind: 'several',
        edits: [
          { kind: 'remove', blockId: block.id },
          { kind: 'insert', at, block },
        ],
      });
    const before = left.blocks.slice(
      0,
      left.blocks.findIndex(({ id }) => id === block.id),
    );
    const behind = before.findLast(({ id }) => now.blocks.some((one) => one.id === id));
    this.draft.edit({ kind: 'insert', at: behind ? now.blocks.findIndex(({ id }) => id === behind.id) + 1 : 0, block });
  }
}

/** The words of a block before and after, in parts that are the same, gone or new. */
function partsOf(before: Block | null, after: Block | null) {
  const textOf = (block: Block | null) =>
    block
      ? textsOf({ metadata: { title: '', description: '' }, blocks: [block] })
          .map(({ value }) => value)
          .join('\n')
      : '';
  const parts = diffWords(textOf(before), textOf(after));
  return parts.some(({ added, removed }) => added || removed) ? parts : [];
}
