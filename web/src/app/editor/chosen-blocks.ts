import { computed, inject, Injectable, signal } from '@angular/core';
import { blockWords } from '@domatium/core/blocks';
import {
  blocksFromText,
  blocksToText,
  insertSeveral,
  moveSeveral,
  removeSeveral,
  type Block,
} from '@domatium/core/document';
import { NoticeService } from '../shared/notices';
import { DraftService } from './draft.service';

/** How a block is chosen: alone, with all up to it, or beside those that are. */
export type Choosing = 'alone' | 'range' | 'beside';

export const newId = () => crypto.randomUUID().replace(/-/g, '').slice(0, 12);
/** What the clipboard calls our blocks; the same text stands there as plain text, for browsers that keep only that. */
const TYPE = 'application/x-domatium-blocks';

/** Which blocks are chosen, one of them the first among them, and what can be done with all at once. */
@Injectable()
export class ChosenBlocks {
  private readonly draft = inject(DraftService);
  private readonly notices = inject(NoticeService);
  /** The block whose fields stand in the margin, or `page`. */
  readonly main = signal<string>('page');
  private readonly others = signal<ReadonlySet<string>>(new Set());
  /** All that are chosen, in the order of the page. */
  readonly blocks = computed<readonly Block[]>(() =>
    (this.draft.document()?.blocks ?? []).filter(({ id }) => id === this.main() || this.others().has(id)),
  );
  readonly ids = computed(() => new Set(this.blocks().map(({ id }) => id)));

  choose(id: string, how: Choosing = 'alone'): void {
    const order = (this.draft.document()?.blocks ?? []).map((block) => block.id);
    if (how === 'range') {
      const [a, b] = [order.indexOf(this.main()), order.indexOf(id)].sort((x, y) => x - y) as [number, number];
      this.others.set(new Set(order.slice(Math.max(a, 0), b + 1)));
      return;
    }
    if (how === 'alone') this.others.set(new Set());
    else {
      const all = new Set(this.ids());
      if (all.delete(id)) {
        this.others.set(all);
        if (this.main() === id) this.main.set([...all][0] ?? 'page');
        return;
      }
      this.others.set(all);
    }
    this.main.set(id);
  }

  remove(): void {
    const all = this.draft.document()?.blocks ?? [];
    const ids = this.ids();
    const last = all.findLastIndex(({ id }) => ids.has(id));
    const next = all.slice(last + 1)[0] ?? all.findLast(({ id }, at) => at < last && !ids.has(id));
    if (ids.size && this.draft.edit(removeSeveral(ids))) this.choose(next?.id ?? 'page');
  }

  /** Says whether anything moved. */
  move(by: 1 | -1): boolean {
    const document = this.draft.document();
    const edit = document && moveSeveral(document, this.ids(), by);
    return !!edit && this.draft.edit(edit);
  }

  /** Twins of the chosen, behind the last of them. */
  double(): void {
    this.insert(this.blocks().map((block) => ({ ...block, id: newId() })));
  }

  copyTo(clipboard: DataTransfer | null, portfolioId: number): void {
    const text = blocksToText(this.blocks(), portfolioId);
    clipboard?.setData(TYPE, text);
    clipboard?.setData('text/plain', text);
    const [first] = this.blocks();
    const words = this.blocks().length === 1 && first ? blockWords(first) : `${this.blocks().length} blocks`;
    this.notices.say({ kind: 'done', text: `${words} copied. Paste on this page, or on any other.` });
  }

  /** Says whether the clipboard held blocks. */
  pasteFrom(clipboard: DataTransfer | null, portfolioId: number): boolean {
    const text = clipboard?.getData(TYPE) || clipboard?.getData('text/plain') || '';
    const pasted = blocksFromText(text, portfolioId, newId);
    if (!pasted) return false;
    this.insert(pasted.blocks);
    if (pasted.isForeign)
      this.notices.say({
        kind: 'done',
        text: 'Pasted from another portfolio: its pictures and links to its pages did not come along.',
      });
    return true;
  }

  private insert(blocks: readonly Block[]): void {
    const all = this.draft.document()?.blocks ?? [];
    const last = all.findLastIndex(({ id }) => this.ids().has(id));
    if (!blocks.length || !this.draft.edit(insertSeveral(blocks, last < 0 ? all.length : last + 1))) return;
    this.main.set(blocks[0]?.id ?? 'page');
    this.others.set(new Set(blocks.map(({ id }) => id)));
  }
}
