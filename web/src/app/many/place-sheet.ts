import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import type { PlacingView } from '@domatium/contracts';
import { blockTypes, OFFERED_TYPES, type BlockType } from '@domatium/core/blocks';
import type { PiecePlacing } from '@domatium/core/document';
import { api, Api } from '../hub/api';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { StockService } from '../hub/stock.service';
import { WideSheet } from '../shared/wide-sheet';
import { DraftLines } from './draft-lines';
import { ManyDrafts, type AskOfDrafts } from './many-drafts';
import { MoreInDrafts } from './more-in-drafts';
import { say } from '@domatium/core/words/many';

/**
 * A piece put on the drafts of all chosen pages, or taken off: what becomes of each is said before. What was written is
 * then released as any other drafts are, in one release.
 */
@Component({
  selector: 'dm-place-sheet',
  imports: [DraftLines, MoreInDrafts, WideSheet],
  providers: [ManyDrafts],
  templateUrl: './place-sheet.html',
  styleUrl: './place-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlaceSheet {
  protected readonly say = say;
  protected readonly place = inject(PlaceService);
  protected readonly stock = inject(StockService);
  protected readonly drafts = inject<ManyDrafts<PlacingView>>(ManyDrafts);
  private readonly service = inject(RegisterService);
  private readonly client = inject(Api);

  protected readonly act = signal<PiecePlacing['act']>('insert');
  protected readonly pieceId = signal<number | null>(null);
  protected readonly where = signal<PiecePlacing['where']>('last');
  /** `type:contact` or `piece:12`. */
  protected readonly by = signal('');
  protected readonly types = OFFERED_TYPES.map((type) => ({ key: `type:${type}`, label: blockTypes[type].label }));
  protected readonly others = computed(() => this.stock.pieces().filter(({ id }) => id !== this.pieceId()));
  protected readonly isBeside = computed(() => this.act() === 'insert' && !/^(first|last)$/.test(this.where()));

  protected readonly ask = computed<AskOfDrafts<PlacingView> | null>(() => {
    const pieceId = this.pieceId();
    if (pieceId === null || (this.isBeside() && !this.by())) return null;
    const [kind, value] = this.by().split(':');
    const placing = {
      ...{ act: this.act(), pieceId, where: this.where() },
      byType: this.isBeside() && kind === 'type' ? (value as BlockType) : null,
      byPieceId: this.isBeside() && kind === 'piece' ? Number(value) : null,
    };
    const params = { portfolioId: this.service.portfolioId() };
    return (pageIds, seen) =>
      this.client.call(api.placePiece, {
        params,
        body: { ...placing, pageIds: [...pageIds], seen: seen && [...seen] },
      });
  });

  constructor() {
    void this.stock.open(this.service.portfolioId());
    effect(() => {
      const ask = this.ask();
      untracked(() => void this.drafts.look(ask));
    });
  }

  protected choose(value: string): void {
    this.pieceId.set(Number(value) || null);
  }
}
