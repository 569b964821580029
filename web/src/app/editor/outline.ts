import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { blockTypes, OFFERED_TYPES, type BlockType } from '@domatium/core/blocks';
import { blockWords, placesInRows } from '@domatium/core/document';
import type { Block, FieldValues, PageDocument, Reference } from '@domatium/core/document';
import { groupBy } from '@domatium/core/plan';
import { StockService } from '../hub/stock.service';
import { BlockDrag } from './block-drag';
import type { Choosing } from './chosen-blocks';
import { BlockGlyph } from './block-glyph';
import { say } from '@domatium/core/words/editor';
import { say as common } from '@domatium/core/words/common';

/** The blocks of a page in order. Arrows go through them, Alt and arrows move one, Delete removes it. */
@Component({
  selector: 'dm-outline',
  imports: [BlockGlyph, CdkDrag, CdkDropList, NgbDropdownModule],
  template: `
    <div class="top">
      <span class="section-label">{{ say.outline }}</span><span class="quiet number">{{ document().blocks.length }}</span>
    </div>
    <button
      type="button"
      class="entry page"
      [attr.aria-current]="chosen() === 'page' ? 'true' : null"
      (click)="choose.emit({ id: 'page', how: 'alone' })"
    >
      <i class="bi bi-file-earmark-text" aria-hidden="true"></i
      ><span class="words"><strong>{{ common.page }}</strong><span class="quiet">{{ say.titleAndDescription }}</span></span>
    </button>
    <ol cdkDropList (cdkDropListDropped)="dropped($event)">
      @for (row of rows(); track row.id) {
        <li [class.in-row]="row.place" cdkDrag cdkDragLockAxis="y" [cdkDragData]="row.id">
          <button
            type="button"
            class="entry"
            [attr.data-block]="row.id"
            [attr.aria-current]="chosen() === row.id ? 'true' : null"
            [class.also]="all().has(row.id)"
            (click)="click($event, row.id)"
            (keydown)="onKey($event, row.id, $index)"
          >
            <dm-block-glyph [type]="row.type" /><span class="words"
              ><strong>{{ row.label }}</strong
              ><span class="quiet">{{ row.summary }}</span></span
            >
            @if (row.place; as place) {
              <span class="quiet number" [title]="say.columnOf(place.column, place.of)" [attr.aria-label]="say.columnOf(place.column, place.of)"
                >{{ place.column }}/{{ place.of }}</span
              >
            }
            @if (others().get(row.id); as name) {
              <span class="other" [title]="say.isHere(name)" [attr.aria-label]="say.isHere(name)">{{ initialsOf(name) }}</span>
            }
            @if (marks().get(row.id); as severity) {
              <i
                class="bi mark"
                [class]="severity === 'blocks' ? 'bi-square-fill blocks' : 'bi-triangle-fill'"
                role="img"
                [attr.aria-label]="severity === 'blocks' ? say.blocksReleaseSmall : say.worthFixingSmall"
              ></i>
            }
          </button>
        </li>
      }
    </ol>
    <div ngbDropdown class="insert" container="body" placement="top-start bottom-start right">
      <button type="button" class="btn btn-plain" ngbDropdownToggle (keydown.arrowDown)="enter($event, list)">{{ say.insert }}</button>
      <div #list ngbDropdownMenu class="insert-list" [class.is-behind]="drag.dragged()" (keydown)="goThrough($event, list)">
        @for (group of groups; track group.name) {
          <div class="insert-group">
            <h6 class="dropdown-header">{{ group.name }}</h6>
            @for (type of group.types; track type) {
              <button ngbDropdownItem (click)="insert.emit(type)" (pointerdown)="startDrag($event, type)">
                <dm-block-glyph [type]="type" />{{ label(type) }}
              </button>
            }
          </div>
        }
        @if (stock.pieces().length) {
          <div class="insert-group">
            <h6 class="dropdown-header">{{ say.piecesLinked }}</h6>
            @for (piece of stock.pieces(); track piece.id) {
              <div class="piece">
                <button ngbDropdownItem (click)="insertPiece.emit({ id: piece.id, how: 'linked' })">
                  <dm-block-glyph type="piece" />{{ piece.name }}
                </button>
                @if (piece.blocks?.length) {
                  <button
                    ngbDropdownItem
                    class="quiet"
                    [attr.aria-label]="say.loose(piece.name)"
                    [title]="say.aCopyOfItsBlocksWith"
                    (click)="insertPiece.emit({ id: piece.id, how: 'loose' })"
                  >
                    {{ say.looseSmall }}
                  </button>
                }
              </div>
            }
          </div>
        }
      </div>
    </div>
    @if (tray().length) {
      <div class="tray">
        <span class="section-label">{{ say.inTheTray }}</span>
        @for (one of tray(); track $index) {
          <button type="button" class="entry" [title]="say.putItOnThePageBehind" (click)="untray.emit(one.block)">
            <dm-block-glyph [type]="one.block.type" /><span class="words"><span class="quiet">{{ one.words }}</span></span>
          </button>
        }
      </div>
    }
    <p class="quiet hint">{{ say.enterToEditOnThePage }}</p>
  `,
  styles: `
    :host {
      display: block;
      overflow-y: auto;
      padding: 12px 12px 24px;
      border-right: 1px solid var(--rule);
    }
    .top {
      display: flex;
      justify-content: space-between;
      padding: 0 4px;
    }
    ol {
      list-style: none;
      padding: 0;
      margin: 0;
    }
    .entry {
      display: flex;
      gap: 9px;
      align-items: center;
      width: 100%;
      border: 0;
      background: none;
      padding: 5px 6px;
      border-radius: var(--corner);
      text-align: left;
    }
    .in-row {
      border-left: 2px solid var(--moss);
      margin-left: 5px;
    }
    .entry:hover {
      background: color-mix(in srgb, var(--ink) 4%, transparent);
    }
    .entry.also,
    .entry[aria-current] {
      background: var(--moss-tint);
    }
    .page i {
      width: 42px;
      text-align: center;
      color: var(--quiet);
    }
    li.cdk-drag-preview {
      list-style: none;
      background: var(--surface);
      border-radius: var(--corner);
      box-shadow: 0 2px 10px rgb(34 48 43 / 16%);
    }
    li.cdk-drag-placeholder {
      opacity: 0.35;
    }
    .words {
      display: grid;
      min-width: 0;
      line-height: 18px;
    }
    .words > * {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .words strong {
      font-weight: 580;
    }
    .words .quiet {
      font-size: 0.78rem;
    }
    .words {
      flex: 1;
    }
    .other {
      flex: none;
      font-size: 0.6875rem;
      font-weight: 640;
      background: var(--dusk);
      color: var(--surface);
      border-radius: 9px;
      padding: 0 6px;
    }
    .mark {
      flex: none;
      font-size: 9px;
      color: var(--ochre);
    }
    .mark.blocks {
      color: var(--ember);
    }
    .tray {
      border-top: 1px solid var(--rule);
      margin: 12px 4px 0;
      padding-top: 8px;
    }
    .insert {
      border-top: 1px solid var(--rule);
      margin: 12px 4px 0;
      padding-top: 12px;
    }
    .piece {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
    }
    .piece .quiet {
      padding-inline: 6px;
    }
    .insert .btn {
      width: 100%;
    }
    .hint {
      font-size: 0.78rem;
      padding: 8px 4px;
      margin: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Outline {
  protected readonly say = say;
  protected readonly common = common;
  readonly document = input.required<PageDocument>();
  readonly chosen = input.required<string>();
  /** All that are chosen. */
  readonly all = input.required<ReadonlySet<string>>();
  readonly choose = output<{ readonly id: string; readonly how: Choosing }>();
  readonly insert = output<BlockType>();
  readonly insertPiece = output<{ readonly id: number; readonly how: 'linked' | 'loose' }>();
  /** Who else is at which block. */
  readonly others = input<ReadonlyMap<string, string>>(new Map());
  /** Blocks with findings, by the worse of them. */
  readonly marks = input<ReadonlyMap<string, 'blocks' | 'worth-fixing'>>(new Map());
  /** A block of the tray is wanted on the page. */
  readonly untray = output<Block>();
  protected readonly tray = computed(() =>
    (this.document().tray ?? []).map((block) => ({ block, words: blockWords(block) })),
  );
  readonly move = output<{ blockId: string; by: number }>();
  readonly remove = output<string>();
  /** The person wants to type in this block, on the page. */
  readonly type = output<string>();
  protected readonly drag = inject(BlockDrag);
  protected readonly stock = inject(StockService);
  private readonly places = computed(() => placesInRows(this.document().blocks));
  protected readonly rows = computed(() =>
    this.document().blocks.map(({ id, type, fields }) => ({
      id,
      place: this.places().get(id) ?? null,
      type,
      label: blockTypes[type].label,
      summary: type === 'piece' ? this.pieceName(fields) : blockTypes[type].summary(fields),
    })),
  );
  protected readonly groups = [...groupBy(OFFERED_TYPES, (type) => blockTypes[type].group)].map(([name, types]) => ({
    name,
    types,
  }));

  protected dropped({ item, previousIndex, currentIndex }: CdkDragDrop<unknown, unknown, string>): void {
    if (currentIndex !== previousIndex) this.move.emit({ blockId: item.data, by: currentIndex - previousIndex });
  }

  protected click({ shiftKey, ctrlKey, metaKey }: MouseEvent, id: string): void {
    this.choose.emit({ id, how: shiftKey ? 'range' : ctrlKey || metaKey ? 'beside' : 'alone' });
  }

  protected startDrag(event: PointerEvent, type: BlockType): void {
    this.drag.start(event, { kind: 'new', type });
  }

  /** Down from the button goes into the list: what it offers stands in groups, where the menu itself does not look. */
  protected enter(event: Event, list: HTMLElement): void {
    event.preventDefault();
    setTimeout(() => list.querySelector('button')?.focus());
  }

  protected goThrough(event: KeyboardEvent, list: HTMLElement): void {
    const all = [...list.querySelectorAll('button')];
    const at = all.indexOf(document.activeElement as HTMLButtonElement);
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: all.length - 1 }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    all[Math.max(0, Math.min(to, all.length - 1))]?.focus();
  }

  private pieceName({ piece }: FieldValues): string {
    const id = (piece as Reference | null)?.id;
    return say.linked(this.stock.pieces().find((one) => one.id === id)?.name ?? say.noneChosen);
  }

  protected initialsOf(name: string): string {
    return name
      .split(' ')
      .map((part) => part.slice(0, 1))
      .join('');
  }

  protected label(type: BlockType): string {
    return blockTypes[type].label;
  }

  protected onKey(event: KeyboardEvent, blockId: string, index: number): void {
    const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0;
    if (event.key === 'Delete') this.remove.emit(blockId);
    else if (event.key === 'Enter' && this.chosen() === blockId) this.type.emit(blockId);
    else if (by && event.altKey) this.move.emit({ blockId, by });
    else if (by) {
      const next = this.rows()[index + by];
      if (next) {
        this.choose.emit({ id: next.id, how: event.shiftKey ? 'range' : 'alone' });
        (event.currentTarget as HTMLElement)
          .closest('ol')
          ?.querySelector<HTMLElement>(`[data-block="${next.id}"]`)
          ?.focus();
      }
    } else return;
    event.preventDefault();
  }
}
