import { computed, inject, Injectable, signal } from '@angular/core';
import {
  blockWords,
  MAX_BLOCKS,
  blocksFromText,
  blocksToText,
  insertSeveral,
  aloneEdit,
  besideEdit,
  moveSeveral,
  stepEdit,
  removeSeveral,
  newBlock,
  type Block,
  type Edit,
  type Reference,
} from '@domatium/core/document';
import type { HeldPiece } from '@domatium/contracts';
import { api, Api, Refusal } from '../hub/api';
import { blocksOf } from '../hub/stock.service';
import { NoticeService } from '../hub/notices';
import { DraftService } from './draft.service';
import { say } from '@domatium/core/words/editor';

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
  private readonly client = inject(Api);
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
    if (!document) return false;
    const ids = this.ids();
    const [only] = ids;
    const edit = ids.size === 1 && only ? stepEdit(document, only, by) : moveSeveral(document, ids, by);
    return !!edit && this.draft.edit(edit);
  }

  /** The chosen block beside the one before it, or out of its row; says whether anything changed. */
  stand(how: 'beside' | 'alone'): boolean {
    const document = this.draft.document();
    const edit = document && (how === 'beside' ? besideEdit : aloneEdit)(document, this.main());
    return !!edit && this.draft.edit(edit);
  }

  /** Twins of the chosen, behind the last of them. */
  double(): void {
    this.put(this.blocks().map((block) => ({ ...block, id: newId() })));
  }

  /** The piece that the chosen block shows, where it is one. */
  readonly pieceId = computed(() => {
    const block = this.blocks().find(({ id }) => id === this.main());
    return block?.type === 'piece' ? ((block.fields['piece'] as Reference | null)?.id ?? null) : null;
  });

  /** Puts the chosen blocks into the stock and a link to them in their place; says whether it was done. */
  async keepPiece(name: string, portfolioId: number): Promise<boolean> {
    const blocks = this.blocks().filter(({ type }) => type !== 'piece');
    const at = (this.draft.document()?.blocks ?? []).findIndex(({ id }) => id === blocks[0]?.id);
    if (!blocks.length || at < 0) return false;
    try {
      const content = blocks.map((block) => ({ ...block, id: newId() }));
      const body = { kind: 'piece' as const, name, content };
      const { id } = await this.client.call(api.newStock, { params: { portfolioId }, body });
      const linked = newBlock('piece', newId(), { piece: { id } });
      const removes: Edit[] = blocks.map(({ id: blockId }) => ({ kind: 'remove', blockId }));
      this.draft.edit({ kind: 'several', edits: [...removes, { kind: 'insert', at, block: linked }] });
      this.choose(linked.id);
      this.notices.say({
        kind: 'done',
        text: say.isInStockReleaseItThere(name),
      });
      return true;
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.notices.say({ kind: 'trouble', text: error.message });
      return false;
    }
  }

  /** The blocks of a linked piece in its place, as a copy with a life of its own. */
  part(pieces: readonly HeldPiece[]): void {
    const all = this.draft.document()?.blocks ?? [];
    const at = all.findIndex(({ id }) => id === this.main());
    const piece = pieces.find(({ id }) => id === this.pieceId());
    const held = piece && blocksOf(piece);
    const linked = all[at];
    if (!held?.length || !linked) return;
    const loose = held.map((block) => ({ ...block, id: newId() }));
    const inserts = loose.map((block, n): Edit => ({ kind: 'insert', at: at + n, block }));
    if (this.draft.edit({ kind: 'several', edits: [{ kind: 'remove', blockId: linked.id }, ...inserts] }))
      this.choose(loose[0]?.id ?? 'page');
  }

  /** A block of the tray onto the page, behind the chosen ones. */
  untray(block: Block): void {
    const document = this.draft.document();
    if (!document) return;
    const { tray: all, ...rest } = document;
    const tray = all?.filter((one) => one !== block) ?? [];
    const back = document.blocks.some(({ id }) => id === block.id) ? { ...block, id: newId() } : block;
    const at = document.blocks.findLastIndex(({ id }) => this.ids().has(id)) + 1;
    const blocks = document.blocks.toSpliced(at, 0, back);
    const next = { ...rest, blocks, ...(tray.length ? { tray } : {}) };
    if (this.draft.edit({ kind: 'whole', document: next })) this.choose(back.id);
  }

  copyTo(clipboard: DataTransfer | null, portfolioId: number): void {
    const text = blocksToText(this.blocks(), portfolioId);
    clipboard?.setData(TYPE, text);
    clipboard?.setData('text/plain', text);
    const [first] = this.blocks();
    const words = this.blocks().length === 1 && first ? blockWords(first) : say.blocks(this.blocks().length);
    this.notices.say({ kind: 'done', text: say.copiedPasteOnThisPageOr(words) });
  }

  /** Says whether the clipboard held blocks. */
  pasteFrom(clipboard: DataTransfer | null, portfolioId: number): boolean {
    const text = clipboard?.getData(TYPE) || clipboard?.getData('text/plain') || '';
    const pasted = blocksFromText(text, portfolioId, newId);
    if (!pasted) return false;
    this.put(pasted.blocks);
    if (pasted.isForeign)
      this.notices.say({
        kind: 'done',
        text: say.pastedFromAnotherPortfolioIts,
      });
    return true;
  }

  /** New blocks behind the chosen ones; they are chosen then. */
  put(blocks: readonly Block[]): void {
    const all = this.draft.document()?.blocks ?? [];
    const last = all.findLastIndex(({ id }) => this.ids().has(id));
    if (all.length + blocks.length > MAX_BLOCKS) {
      const text = say.aPageHasAtMostBlocks(
        MAX_BLOCKS,
        blocks.length === 1 ? say.oneMoreFinds : say.moreFind(blocks.length),
      );
      return this.notices.say({ kind: 'trouble', text });
    }
    if (!blocks.length || !this.draft.edit(insertSeveral(blocks, last < 0 ? all.length : last + 1))) return;
    this.main.set(blocks[0]?.id ?? 'page');
    this.others.set(new Set(blocks.map(({ id }) => id)));
  }
}
