import { ChangeDetectionStrategy, Component, computed, HostBinding, input, model, output } from '@angular/core';
import { APPEARANCE, blockTypes, type BlockType } from '@domatium/core/blocks';
import {
  applyEdit,
  EMPTY_DOCUMENT,
  exampleBlock,
  newBlock,
  type Block,
  type Edit,
  type FieldValue,
  type Reference,
} from '@domatium/core/document';
import { say } from '@domatium/core/words/stock';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { BlockFields } from '../editor/block-fields';
import { BlockGlyph } from '../editor/block-glyph';
import { newId } from '../editor/chosen-blocks';

/** Of how a block stands on a page, what counts within something in the stock too. */
const SHOWN_AT = APPEARANCE.filter(({ key }) => key === 'shownAt');

/** The blocks of something in the stock: which there are, in which order, and what the chosen one holds. */
@Component({
  selector: 'dm-stock-blocks',
  imports: [BlockFields, BlockGlyph, NgbDropdownModule],
  template: `
    <section class="card">
      <ng-content />
      <span class="form-label">{{ say.itsBlocks }}</span>
      @for (one of blocks(); track one.id) {
        <button
          type="button"
          class="entry block"
          [attr.aria-current]="chosen() === one.id ? 'true' : null"
          (click)="chosen.set(one.id)"
        >
          <dm-block-glyph [type]="one.type" />
          <span>{{ labelOf(one.type) }} <small>{{ summaryOf(one) }}</small></span>
        </button>
      }
      <div ngbDropdown container="body">
        <button type="button" class="btn btn-plain" ngbDropdownToggle>{{ say.addABlock }}</button>
        <div ngbDropdownMenu class="insert-list">
          @for (type of types(); track type) {
            <button ngbDropdownItem (click)="insert(type)"><dm-block-glyph [type]="type" /> {{ labelOf(type) }}</button>
          }
          @for (piece of pieces(); track piece.id) {
            <button ngbDropdownItem (click)="insertPiece(piece.id)">
              <dm-block-glyph type="piece" /> {{ say.thePiece(piece.name) }}
            </button>
          }
        </div>
      </div>
    </section>
    @if (block(); as block) {
      <section class="card">
        <h2>{{ labelOf(block.type) }}</h2>
        <button type="button" class="btn-link-plain quiet" (click)="move(block.id, -1)">{{ say.up }}</button> ·
        <button type="button" class="btn-link-plain quiet" (click)="move(block.id, 1)">{{ say.down }}</button> ·
        <button type="button" class="btn-link-plain quiet" [disabled]="blocks().length === 1" (click)="remove(block.id)">
          {{ say.remove }}
        </button>
        @for (id of [block.id]; track id) {
          <dm-block-fields
            [fields]="fieldsOf(block)"
            [values]="block.fields"
            (changed)="set(id, $event.field, $event.value)"
          />
        }
      </section>
    }
  `,
  styleUrl: './desk.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StockBlocks {
  protected readonly say = say;
  readonly blocks = input.required<readonly Block[]>();
  readonly types = input.required<readonly BlockType[]>();
  /** Pieces that can stand among them. */
  readonly pieces = input<readonly { readonly id: number; readonly name: string }[]>([]);
  readonly chosen = model<string | null>(null);
  readonly changed = output<readonly Block[]>();
  /** Within the margin of a desk. */
  @HostBinding('style.display') protected readonly display = 'contents';
  protected readonly block = computed(() => this.blocks().find(({ id }) => id === this.chosen()) ?? null);

  protected labelOf(type: BlockType): string {
    return blockTypes[type].label;
  }
  protected summaryOf({ type, fields }: Block): string {
    const piece = fields['piece'] as Reference | null | undefined;
    if (type === 'piece') return this.pieces().find(({ id }) => id === piece?.id)?.name ?? '';
    return blockTypes[type].summary(fields);
  }
  protected fieldsOf({ type }: Block) {
    return [...blockTypes[type].fields, ...SHOWN_AT];
  }

  private edit(edit: Edit): void {
    const edited = applyEdit({ ...EMPTY_DOCUMENT, blocks: this.blocks() }, edit);
    if (edited) this.changed.emit(edited.document.blocks);
  }

  set(blockId: string, field: string, value: FieldValue): void {
    this.edit({ kind: 'set', blockId, field, value });
  }

  protected insert(type: BlockType): void {
    this.add(exampleBlock(type, newId()));
  }
  insertPiece(id: number): void {
    this.add(newBlock('piece', newId(), { piece: { id } }));
  }
  private add(block: Block): void {
    this.edit({ kind: 'insert', at: this.blocks().length, block });
    this.chosen.set(block.id);
  }

  protected move(blockId: string, by: number): void {
    const at = this.blocks().findIndex(({ id }) => id === blockId);
    if (at >= 0 && at + by >= 0) this.edit({ kind: 'move', blockId, to: at + by });
  }

  protected remove(blockId: string): void {
    if (this.blocks().length > 1) this.edit({ kind: 'remove', blockId });
  }
}
