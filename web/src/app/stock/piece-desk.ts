import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { OFFERED_TYPES } from '@domatium/core/blocks';
import { documentFindingsOf } from '@domatium/core/checks';
import {
  applyEdit,
  exampleBlock,
  type Block,
  type Edit,
  type FieldValue,
  type PageDocument,
} from '@domatium/core/document';
import { worldOf } from '@domatium/core/render';
import { Canvas, type CanvasWidth } from '../editor/canvas';
import { newId } from '../editor/chosen-blocks';
import { onKeys } from '../shared/keys';
import { PicturesService } from '../pictures/pictures.service';
import { RegisterService } from '../hub/register.service';
import { DeskTrouble } from './desk-trouble';
import { StockBlocks } from './stock-blocks';
import { StockDesk } from './stock-desk.service';
import { StockRelease } from './stock-release';
import { profileOf, siteCssOf, StockService, themeOf, valuesOf } from '../hub/stock.service';
import { say } from '@domatium/core/words/stock';
import { say as common } from '@domatium/core/words/common';

/** Findings of a page as a whole: a piece is a part of one. */
const OF_PAGES = new Set(['title', 'first-heading']);

/** Pieces that many pages use linked: changed here, once, and put on all of them. */
@Component({
  selector: 'dm-piece-desk',
  imports: [DeskTrouble, Canvas, StockBlocks, StockRelease],
  templateUrl: './piece-desk.html',
  styleUrl: './desk.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PieceDesk {
  protected readonly say = say;
  protected readonly common = common;
  readonly item = input.required<string | null>();
  readonly go = output<number | null>();
  protected readonly desk = inject(StockDesk);
  protected readonly stock = inject(StockService);
  protected readonly service = inject(RegisterService);
  private readonly pictures = inject(PicturesService);
  protected readonly types = OFFERED_TYPES;
  protected readonly width = signal<CanvasWidth>('wide');
  protected readonly chosen = signal<string | null>(null);
  protected readonly siteId = signal<number | null>(null);
  protected readonly pieces = computed(() => (this.stock.items() ?? []).filter(({ kind }) => kind === 'piece'));
  protected readonly sites = computed(() => this.service.head()?.sites ?? []);
  protected readonly site = computed(
    () => this.sites().find(({ id }) => id === this.siteId()) ?? this.sites()[0] ?? null,
  );
  protected readonly profile = computed(() => profileOf(this.stock.held(), this.site()?.id));
  protected readonly theme = computed(() => themeOf(this.stock.held(), this.profile().theme));
  protected readonly siteCss = computed(() => siteCssOf(this.stock.held(), this.site()?.id));
  protected readonly document = computed<PageDocument | null>(() => {
    const draft = this.desk.draft();
    return draft && this.desk.item()?.kind === 'piece'
      ? { metadata: { title: '', description: '' }, blocks: draft as readonly Block[] }
      : null;
  });
  protected readonly findings = computed(() => {
    const document = this.document();
    return document ? documentFindingsOf(document).filter(({ check }) => !OF_PAGES.has(check)) : [];
  });
  protected readonly world = computed(() => {
    const byId = this.pictures.byId();
    return worldOf({
      pageHref: (id) => this.service.page(id)?.path ?? null,
      pictureOf: (id) => byId.get(id) ?? null,
      values: valuesOf(this.stock.held(), this.site()?.id ?? null, this.service.now(), this.service.zone()),
      language: this.profile().language,
    });
  });

  constructor() {
    effect(() => {
      this.item();
      untracked(() => this.chosen.set(null));
    });
  }

  private edit(edit: Edit): void {
    const document = this.document();
    const edited = document && applyEdit(document, edit);
    if (edited) this.desk.change(edited.document.blocks);
  }

  protected set(blockId: string, field: string, value: FieldValue): void {
    this.edit({ kind: 'set', blockId, field, value });
  }

  protected async makeNew(): Promise<void> {
    const id = await this.desk.make({
      kind: 'piece',
      name: say.newPieceToo,
      content: [exampleBlock('callToAction', newId())],
    });
    if (id) this.go.emit(id);
  }

  protected async removePiece(): Promise<void> {
    if (await this.desk.remove()) this.go.emit(null);
  }

  private readonly keys = onKeys({ undo: () => this.desk.undo(), redo: () => this.desk.redo() });

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    this.keys(event);
  }
}
