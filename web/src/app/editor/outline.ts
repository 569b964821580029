import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { BLOCK_TYPES, blockTypes, type BlockType } from '@domatium/core/blocks';
import type { PageDocument } from '@domatium/core/document';
import { groupBy } from '@domatium/core/plan';
import { BlockDrag } from './block-drag';
import type { Choosing } from './chosen-blocks';
import { BlockGlyph } from './block-glyph';

/** The blocks of a page in order. Arrows go through them, Alt and arrows move one, Delete removes it. */
@Component({
  selector: 'dm-outline',
  imports: [BlockGlyph, CdkDrag, CdkDropList, NgbDropdownModule],
  template: `
    <div class="top">
      <span class="section-label">Outline</span><span class="quiet number">{{ document().blocks.length }}</span>
    </div>
    <button
      type="button"
      class="entry page"
      [attr.aria-current]="chosen() === 'page' ? 'true' : null"
      (click)="choose.emit({ id: 'page', how: 'alone' })"
    >
      <i class="bi bi-file-earmark-text" aria-hidden="true"></i
      ><span class="words"><strong>Page</strong><span class="quiet">Title and description</span></span>
    </button>
    <ol cdkDropList (cdkDropListDropped)="dropped($event)">
      @for (row of rows(); track row.id) {
        <li cdkDrag cdkDragLockAxis="y" [cdkDragData]="row.id">
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
          </button>
        </li>
      }
    </ol>
    <div ngbDropdown class="insert" container="body" placement="top-start bottom-start right">
      <button type="button" class="btn btn-plain" ngbDropdownToggle>Insert…</button>
      <div ngbDropdownMenu class="insert-list" [class.is-behind]="drag.dragged()">
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
      </div>
    </div>
    <p class="quiet hint">Enter types on the page, Esc comes back. Alt+↑ ↓ moves blocks, Shift chooses several, Ctrl+C and Ctrl+V take them to any page.</p>
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
    .entry:hover {
      background: rgb(34 48 43 / 4%);
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
    .insert {
      border-top: 1px solid var(--rule);
      margin: 12px 4px 0;
      padding-top: 12px;
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
  readonly document = input.required<PageDocument>();
  readonly chosen = input.required<string>();
  /** All that are chosen. */
  readonly all = input.required<ReadonlySet<string>>();
  readonly choose = output<{ readonly id: string; readonly how: Choosing }>();
  readonly insert = output<BlockType>();
  readonly move = output<{ blockId: string; by: number }>();
  readonly remove = output<string>();
  /** The person wants to type in this block, on the page. */
  readonly type = output<string>();
  protected readonly drag = inject(BlockDrag);
  protected readonly rows = computed(() =>
    this.document().blocks.map(({ id, type, fields }) => ({
      id,
      type,
      label: blockTypes[type].label,
      summary: blockTypes[type].summary(fields),
    })),
  );
  protected readonly groups = [...groupBy(BLOCK_TYPES, (type) => blockTypes[type].group)].map(([name, types]) => ({
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
