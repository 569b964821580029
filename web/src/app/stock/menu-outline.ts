import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, output } from '@angular/core';
import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { endOfRow, indentRow, moveRow, stepRow, withoutRow, type MenuRow } from '@domatium/core/stock';
import { rowState } from '@domatium/core/register';
import { say } from '@domatium/core/words/menus';
import { RegisterService } from '../hub/register.service';
import { whenWords } from '../shared/when-drawing';

/** How far an entry is dragged aside for a level, in pixels. */
const LEVEL_WIDTH = 22;

interface Shown {
  readonly level: number;
  readonly name: string;
  readonly note: string;
  readonly isLeftOut: boolean;
  readonly marks: readonly string[];
}

/** The entries of a menu, those below others behind them. Moved by dragging and by keys. */
@Component({
  selector: 'dm-menu-outline',
  imports: [CdkDrag, CdkDropList],
  template: `
    <ol cdkDropList role="tree" [attr.aria-label]="say.menus" (cdkDropListDropped)="dropped($event)">
      @for (row of shown(); track $index) {
        <li cdkDrag role="none" [cdkDragDisabled]="!mayEdit()" [style.padding-left.px]="(row.level - 1) * step">
          <button
            type="button"
            class="entry"
            role="treeitem"
            [attr.aria-selected]="chosen() === $index"
            [attr.aria-level]="row.level"
            (click)="choose.emit($index)"
            (focus)="choose.emit($index)"
            (keydown)="onKey($event, $index)"
          >
            <span class="words"
              ><strong>{{ row.name }}</strong
              ><span class="quiet" [class.left-out]="row.isLeftOut">{{ row.note }}</span></span
            >
            @for (mark of row.marks; track mark) {
              <span class="chip">{{ mark }}</span>
            }
          </button>
        </li>
      }
    </ol>
  `,
  styles: `
    ol {
      list-style: none;
      margin: 0 0 12px;
      padding: 0;
      max-width: 720px;
    }
    .entry {
      display: flex;
      gap: 8px;
      align-items: center;
      width: 100%;
      border: 0;
      border-bottom: 1px solid var(--rule-soft);
      background: none;
      text-align: left;
      padding: 5px 8px;
    }
    .entry[aria-selected='true'] {
      background: var(--moss-tint);
    }
    .words {
      flex: 1;
      display: grid;
      min-width: 0;
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
    .left-out {
      font-style: italic;
    }
    li.cdk-drag-preview {
      list-style: none;
      background: var(--surface);
      box-shadow: 0 2px 10px rgb(34 48 43 / 16%);
    }
    li.cdk-drag-placeholder {
      opacity: 0.35;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MenuOutline {
  protected readonly say = say;
  readonly rows = input.required<readonly MenuRow[]>();
  readonly chosen = input<number | null>(null);
  readonly mayEdit = input(true);
  readonly changed = output<readonly MenuRow[]>();
  readonly choose = output<number>();
  private readonly register = inject(RegisterService);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly step = LEVEL_WIDTH;
  protected readonly shown = computed(() => this.rows().map((row) => this.shownOf(row)));

  private shownOf({ level, entry }: MenuRow): Shown {
    const marks = [
      ...(entry.isHidden ? [say.hidden] : []),
      ...(entry.shownAt ? [entry.shownAt === 'wide' ? say.onlyWide : say.onlyNarrow] : []),
    ];
    if (entry.kind !== 'page')
      return { level, name: entry.label, note: entry.kind === 'outside' ? entry.url : '', isLeftOut: false, marks };
    const page = this.register.page(entry.pageId);
    const [now, zone] = [this.register.now(), this.register.zone()];
    if (!page)
      return { level, name: entry.label, note: page === null ? say.deletedPage : '', isLeftOut: page === null, marks };
    const when = whenWords(page, now, zone);
    const isLive = page.binnedSince === null && rowState(page, now) === 'live';
    const note = isLive ? `${page.host}${page.path} · ${when}` : say.leftOut(when);
    return { level, name: entry.label || page.name, note, isLeftOut: !isLive, marks };
  }

  protected dropped({ previousIndex, currentIndex, distance, item }: CdkDragDrop<unknown>): void {
    item.reset();
    const rows = this.rows();
    const level = (rows[previousIndex]?.level ?? 1) + Math.round(distance.x / LEVEL_WIDTH);
    // What is below it goes along: those rows count no more where it goes down.
    const below = endOfRow(rows, previousIndex) - previousIndex - 1;
    const to = currentIndex > previousIndex ? Math.max(previousIndex, currentIndex - below) : currentIndex;
    const next = moveRow(rows, previousIndex, to, level);
    this.take(next, next ? this.placeOf(next, previousIndex) : previousIndex);
  }

  protected onKey(event: KeyboardEvent, index: number): void {
    const { key, altKey } = event;
    const steps: Record<string, () => readonly MenuRow[] | null> = {
      ArrowUp: () => stepRow(this.rows(), index, -1),
      ArrowDown: () => stepRow(this.rows(), index, 1),
      ArrowRight: () => indentRow(this.rows(), index, 1),
      ArrowLeft: () => indentRow(this.rows(), index, -1),
    };
    const step = steps[key];
    if (altKey && step) {
      const next = this.mayEdit() ? step() : null;
      this.take(next, next ? this.placeOf(next, index) : index);
    } else if (key === 'ArrowUp' || key === 'ArrowDown') this.focus(index + (key === 'ArrowUp' ? -1 : 1));
    else if ((key === 'Delete' || key === 'Backspace') && this.mayEdit())
      this.take(withoutRow(this.rows(), index), Math.max(0, index - 1));
    else return;
    event.preventDefault();
  }

  /** Where an entry went: entries stay the same objects. */
  private placeOf(next: readonly MenuRow[], index: number): number {
    const { entry } = this.rows()[index] ?? {};
    return next.findIndex((row) => row.entry === entry);
  }

  private take(next: readonly MenuRow[] | null, focused: number): void {
    if (!next) return;
    this.changed.emit(next);
    setTimeout(() => this.focus(focused));
  }

  private focus(index: number): void {
    this.element.nativeElement.querySelectorAll<HTMLElement>('.entry')[index]?.focus();
  }
}
