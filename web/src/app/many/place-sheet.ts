import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import type { PlacingView } from '@domatium/contracts';
import { blockTypes, OFFERED_TYPES, type BlockType } from '@domatium/core/blocks';
import type { PiecePlacing } from '@domatium/core/document';
import { api, Api, Refusal } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';
import { StockService } from '../hub/stock.service';
import { WideSheet } from '../shared/wide-sheet';
import { say } from '@domatium/core/words/many';
import { say as common } from '@domatium/core/words/common';

/** So many pages are shown with what becomes of them. */
const SHOWN = 60;

/**
 * A piece put on the drafts of all chosen pages, or taken off: what becomes of each is said before. What was written is
 * then released as any other drafts are, in one release.
 */
@Component({
  selector: 'dm-place-sheet',
  imports: [WideSheet],
  templateUrl: './place-sheet.html',
  styleUrl: './place-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlaceSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  protected readonly stock = inject(StockService);
  private readonly selection = inject(SelectionService);
  private readonly client = inject(Api);
  private readonly notices = inject(NoticeService);
  /** The pages as they were chosen when this opened. */
  private readonly ids = [...this.selection.ids()];
  protected readonly count = this.ids.length;

  protected readonly act = signal<PiecePlacing['act']>('insert');
  protected readonly pieceId = signal<number | null>(null);
  protected readonly where = signal<PiecePlacing['where']>('last');
  /** `type:contact` or `piece:12`. */
  protected readonly by = signal('');
  protected readonly types = OFFERED_TYPES.map((type) => ({ key: `type:${type}`, label: blockTypes[type].label }));
  protected readonly others = computed(() => this.stock.pieces().filter(({ id }) => id !== this.pieceId()));
  protected readonly isBeside = computed(() => this.act() === 'insert' && !/^(first|last)$/.test(this.where()));
  protected readonly preview = signal<PlacingView | null>(null);
  protected readonly refusal = signal<string | null>(null);
  protected readonly isBusy = signal(false);
  protected readonly isLooking = signal(false);
  protected readonly shown = computed(() => this.preview()?.pages.slice(0, SHOWN) ?? []);
  protected readonly more = computed(() => (this.preview()?.pages.length ?? 0) - this.shown().length);
  protected readonly withMore = computed(() => this.preview()?.pages.filter(({ hasMore }) => hasMore).length ?? 0);
  /** What else is in those drafts would go out with it: they can be left out. */
  protected readonly leavesOut = signal(false);
  protected readonly taking = computed(
    () => this.preview()?.pages.filter(({ hasMore }) => !(hasMore && this.leavesOut())) ?? [],
  );
  protected readonly label = computed(() => {
    const count = this.taking().length;
    if (!count) return say.nothingToChangeYet;
    return this.service.mayRelease() ? say.placeAndRelease(count) : say.placeInDrafts(count);
  });
  private asked = 0;

  private readonly body = computed(() => {
    const pieceId = this.pieceId();
    if (pieceId === null || (this.isBeside() && !this.by())) return null;
    const [kind, value] = this.by().split(':');
    return {
      ...{ act: this.act(), pieceId, where: this.where(), pageIds: this.ids },
      byType: this.isBeside() && kind === 'type' ? (value as BlockType) : null,
      byPieceId: this.isBeside() && kind === 'piece' ? Number(value) : null,
    };
  });

  constructor() {
    void this.stock.open(this.service.portfolioId());
    effect(() => {
      this.body();
      untracked(() => void this.look());
    });
  }

  /** What would become of the drafts; what was asked before and comes later is not shown. */
  private async look(): Promise<void> {
    const body = this.body();
    const asked = ++this.asked;
    this.refusal.set(null);
    if (!body) return this.preview.set(null);
    this.isLooking.set(true);
    try {
      const params = { portfolioId: this.service.portfolioId() };
      const view = await this.client.call(api.placePiece, { params, body: { ...body, seen: null } });
      if (asked === this.asked) this.preview.set(view);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      if (asked === this.asked) this.refusal.set(error.message);
    }
    if (asked === this.asked) this.isLooking.set(false);
  }

  protected choose(value: string): void {
    this.pieceId.set(Number(value) || null);
  }

  protected async go(): Promise<void> {
    const [body, taking] = [this.body(), this.taking()];
    if (!body || !taking.length || this.isBusy()) return;
    this.isBusy.set(true);
    this.refusal.set(null);
    const params = { portfolioId: this.service.portfolioId() };
    try {
      const seen = taking.map(({ pageId, version }) => ({ pageId, version }));
      const written = await this.client.call(api.placePiece, { params, body: { ...body, seen } });
      this.selection.ids.set(new Set(written.pages.map(({ pageId }) => pageId)));
      this.notices.say({
        kind: 'done',
        text: say.placedInDrafts(written.pages.length),
        action: { label: common.undo, run: () => void this.back(written) },
      });
      this.place.go({ panel: this.service.mayRelease() ? 'many-release' : null });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.refusal.set(error.message);
      void this.look();
    } finally {
      this.isBusy.set(false);
    }
  }

  private async back({ pages }: PlacingView): Promise<void> {
    try {
      const seen = pages.map(({ pageId, version }) => ({ pageId, version }));
      const params = { portfolioId: this.service.portfolioId() };
      const { count } = await this.client.call(api.placeBack, { params, body: { seen } });
      this.notices.say({ kind: 'done', text: say.placedBack(count, pages.length) });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.notices.say({ kind: 'trouble', text: error.message });
    }
  }
}
