import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
  viewChild,
  type OnDestroy,
} from '@angular/core';
import { AgGridAngular } from 'ag-grid-angular';
import {
  CellStyleModule,
  ColumnApiModule,
  InfiniteRowModelModule,
  ModuleRegistry,
  RenderApiModule,
  RowApiModule,
  RowStyleModule,
  ScrollApiModule,
  TooltipModule,
  type CellFocusedEvent,
  type CellKeyDownEvent,
  type CellMouseOverEvent,
  type ColDef,
  type GetRowIdParams,
  type GridApi,
  type GridReadyEvent,
  type ICellRendererParams,
  type IDatasource,
  type IRowNode,
  type RowClassParams,
} from 'ag-grid-community';
import { dayOf } from '@domatium/core/time';
import { fraction } from '../shared/scale';
import { PlaceService } from '../hub/place.service';
import { BulkBar } from '../many/bulk-bar';
import { BESIDE_A_SHEET, columnsFor, ON_A_PHONE } from './columns';
import { FIRST_ROWS, type Item } from '../hub/desk';
import { Glance } from './glance';
import { gridTheme } from './grid-theme';
import { KeptColumns } from './kept-columns';
import { LinesService } from './lines.service';
import { pageOf } from './page-of';
import { RegisterHead } from './register-head';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';
import { ThumbnailCard } from '../thumbnails/thumbnail-card';
import { ViewService } from '../hub/view.service';
import { momentKey } from '../shared/when-drawing';
import { say } from '@domatium/core/words/register';

ModuleRegistry.registerModules([
  InfiniteRowModelModule,
  ColumnApiModule,
  RowApiModule,
  RowStyleModule,
  RenderApiModule,
  ScrollApiModule,
  TooltipModule,
  CellStyleModule,
]);

/** The register: every page of the scope, over time. The list shows a window of what the desk holds. */
@Component({
  selector: 'dm-register-view',
  imports: [ThumbnailCard, AgGridAngular, BulkBar, RegisterHead],
  templateUrl: './register-view.html',
  styleUrl: './register-view.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RegisterView implements OnDestroy {
  protected readonly say = say;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  protected readonly view = inject(ViewService);
  protected readonly selection = inject(SelectionService);
  private readonly lines = inject(LinesService);
  /** What the drawings of pages took from the moment they were drawn at, by page. */
  private readonly drawn = new Map<number, string>();
  private drawnList = 0;
  private drawnNow = 0;
  private openRow: number | null = null;
  private readonly frame = viewChild<ElementRef<HTMLElement>>('frame');
  protected readonly kept = inject(KeptColumns);
  protected readonly glance = new Glance(
    () => this.frame()?.nativeElement,
    () => this.hasSheet(),
  );
  private readonly lineArrivals = this.lines.arrived.subscribe((ids) => this.redraw(['line'], new Set(ids)));
  private readonly narrow = matchMedia('(max-width: 700px)');
  /** On a phone there is room for what tells pages apart. */
  private readonly isNarrow = signal(this.narrow.matches);
  private readonly onNarrow = () => this.isNarrow.set(this.narrow.matches);
  private grid: GridApi<Item> | null = null;
  private readonly geometry = signal<{ left: number; width: number; visible: boolean }>({
    left: 0,
    width: 0,
    visible: false,
  });
  protected readonly isBin = computed(() => this.place.scopeKey() === 'bin');
  protected readonly hasSheet = computed(() => this.place.pageId() !== null);
  protected readonly isEmpty = computed(() => (this.service.head()?.size ?? 1) === 0);
  /** Lines through all rows: the shown moment, and now where that is another. */
  protected readonly moments = computed(() => {
    const { left, width, visible } = this.geometry();
    const [scale, shown, now] = [this.service.scale(), this.service.handle(), this.service.now()];
    if (!visible) return [];
    return [
      ...(this.service.isNow() ? [] : [{ at: now, isNow: true }]),
      { at: shown, isNow: this.service.isNow() },
    ].flatMap(({ at, isNow }) => {
      const share = fraction(scale, at);
      return share < 0 || share > 1 ? [] : [{ x: left + 8 + (width - 16) * share, isNow }];
    });
  });

  /** Where the shown moment is on the scale: drafts are drawn from there on. */
  protected readonly momentShare = computed(() => fraction(this.service.scale(), this.service.shown()));
  private readonly year = computed(() => dayOf(this.service.shown(), this.service.zone()).slice(0, 4));
  protected readonly theme = gridTheme;
  protected readonly block = FIRST_ROWS;
  protected readonly columns: ColDef<Item>[] = columnsFor({
    shown: this.service.shown,
    now: this.service.now,
    zone: this.service.zone,
    scale: this.service.scale,
    drew: (page) => this.drawn.set(page.id, momentKey(page, this.service.shown(), this.year())),
    lineOf: (id) => this.lines.of(id),
    isChosen: (id) => this.selection.ids().has(id),
    toggle: (id, isRange) => void this.selection.toggle(id, isRange),
    toggleAll: () => void this.selection.toggleAll(),
    isAll: () => this.selection.isAll(),
  });
  protected readonly choosable = this.columns.filter(({ colId }) => colId !== 'choose' && colId !== 'name');
  protected readonly defaults: ColDef = { sortable: true, resizable: true, suppressHeaderMenuButton: true };
  protected readonly rowId = ({ data }: GetRowIdParams<Item>) => data.key;
  protected readonly rowClass = ({ data }: RowClassParams<Item>) => {
    const page = pageOf(data);
    return page && page.id === this.place.pageId() ? 'is-open' : undefined;
  };
  protected readonly isGroup = ({ rowNode }: { rowNode: IRowNode<Item> }) => rowNode.data?.kind === 'group';
  protected readonly groupHead = ({ data }: ICellRendererParams<Item>) => this.drawGroup(data);

  private readonly source: IDatasource = {
    getRows: (rows) => {
      const summary = this.view.summary();
      // The first rows came with the answer.
      if (summary && rows.startRow === 0 && summary.first.length >= Math.min(rows.endRow, summary.lines))
        return rows.successCallback([...summary.first], summary.lines);
      this.service.desk.window(rows.startRow, rows.endRow).then(
        (items) => rows.successCallback(items, this.view.summary()?.lines ?? 0),
        () => rows.failCallback(),
      );
    },
  };

  constructor() {
    this.narrow.addEventListener('change', this.onNarrow);
    effect(() => {
      if (this.view.answer()) queueMicrotask(() => this.refresh());
    });
    effect(() => {
      if (this.view.listWanted()) queueMicrotask(() => this.focusList());
    });
    effect(() => {
      this.service.scale();
      queueMicrotask(() => {
        this.grid?.refreshHeader();
        this.redraw(['when']);
      });
    });
    effect(() => {
      this.selection.ids();
      this.selection.isAll();
      queueMicrotask(() => {
        this.grid?.refreshHeader();
        this.redraw(['choose']);
      });
    });
    effect(() => this.markOpen(this.place.pageId()));
    effect(() => {
      const [open, hidden] = [this.hasSheet(), this.kept.hidden()];
      this.kept.shown();
      this.isNarrow();
      this.service.isNow();
      queueMicrotask(() => {
        if (this.grid) this.kept.apply(this.grid);
        this.showColumns(open, hidden);
      });
    });
  }

  /** Makes the two rows anew whose look it changes which page is open: no other row is taken from under a press. */
  private markOpen(pageId: number | null): void {
    const turned = new Set([this.openRow, pageId]);
    this.openRow = pageId;
    queueMicrotask(() => {
      const rowNodes = this.grid?.getRenderedNodes().filter(({ data }) => {
        const page = pageOf(data);
        return page !== null && turned.has(page.id);
      });
      if (rowNodes?.length) this.grid?.redrawRows({ rowNodes });
    });
  }

  /** To the row of the open page, or the first. */
  private focusList(): void {
    const rows = this.grid?.getRenderedNodes() ?? [];
    const open = rows.find(({ data }) => pageOf(data)?.id === this.place.pageId());
    const index = open?.rowIndex ?? 0;
    this.grid?.ensureIndexVisible(index);
    this.grid?.setFocusedCell(index, 'name');
  }

  ngOnDestroy(): void {
    this.narrow.removeEventListener('change', this.onNarrow);
    this.glance.end();
    this.lineArrivals.unsubscribe();
  }

  protected ready({ api }: GridReadyEvent<Item>): void {
    this.grid = api;
    if (this.place.columns() === null) this.kept.say();
    this.kept.apply(api);
    const [column, direction] = (this.place.sort() || 'changed:desc').split(':');
    if (column)
      api.applyColumnState({
        state: [{ colId: column, sort: direction === 'desc' ? 'desc' : 'asc' }],
        defaultState: { sort: null },
      });
    this.showColumns(this.hasSheet(), this.kept.hidden());
    if (this.view.answer()) this.refresh();
  }

  /** Shows the newest answer: reads the window once more where lines changed, and draws anew what the moment changes. */
  private refresh(): void {
    const summary = this.view.summary();
    if (!this.grid || !summary) return;
    if (!this.grid.getGridOption('datasource')) this.grid.setGridOption('datasource', this.source);
    else if (summary.list !== this.drawnList) {
      this.grid.setRowCount(summary.lines, true);
      this.grid.refreshInfiniteCache();
    }
    this.drawnList = summary.list;
    const [at, year] = [this.service.shown(), this.year()];
    const changed = new Set<number>();
    for (const { data } of this.grid.getRenderedNodes()) {
      const page = pageOf(data);
      if (page && this.drawn.get(page.id) !== momentKey(page, at, year)) changed.add(page.id);
    }
    if (changed.size) this.redraw(['when', 'name', 'fixes', 'search'], changed);
    if (this.service.now() !== this.drawnNow) this.grid.refreshCells({ columns: ['changed'] });
    this.drawnNow = this.service.now();
  }

  private redraw(columns: string[], only?: ReadonlySet<number>): void {
    const rowNodes = only
      ? this.grid?.getRenderedNodes().filter(({ data }) => data?.kind === 'page' && only.has(data.page.id))
      : undefined;
    this.grid?.refreshCells({ columns, force: true, ...(rowNodes ? { rowNodes } : {}) });
  }

  private drawGroup(item: Item | undefined): HTMLElement {
    // A row holds cells, also where one cell takes all of it.
    const cell = document.createElement('div');
    cell.setAttribute('role', 'gridcell');
    cell.className = 'group-cell';
    const head = document.createElement('button');
    head.type = 'button';
    head.className = 'group-head';
    cell.append(head);
    if (item?.kind !== 'group') return cell;
    head.setAttribute('aria-expanded', String(item.isOpen));
    head.textContent = `${item.isOpen ? '▾' : '▸'} ${item.label || say.none}`;
    const count = document.createElement('span');
    count.className = 'quiet number';
    count.textContent = item.count.toLocaleString('en-GB');
    head.append(count);
    head.onclick = () => this.view.fold(item.label);
    return cell;
  }

  protected sorted(): void {
    const sorted = this.grid?.getColumnState().find(({ sort }) => sort);
    this.place.go({ sort: sorted ? `${sorted.colId}:${sorted.sort}` : null }, true);
  }

  protected columnsChanged(source: string): void {
    this.measure();
    if (source === 'uiColumnResized' || source === 'uiColumnMoved') this.kept.keep(this.grid);
  }

  protected toggleColumn(colId: string): void {
    this.kept.toggle(colId);
  }

  protected open(item: Item | undefined): void {
    const page = pageOf(item);
    if (page) this.place.go({ page: page.id, panel: null });
    else if (item?.kind === 'group') this.view.fold(item.label);
  }

  protected onCellKey({ data, event }: CellKeyDownEvent<Item>): void {
    const { key, shiftKey } = event as KeyboardEvent;
    const page = pageOf(data);
    if (key === 'Enter') this.open(data);
    else if (key === ' ' && page) {
      event?.preventDefault();
      void this.selection.toggle(page.id, shiftKey);
    }
  }

  /** Shows a page small where one rests on its name, and as soon as its row has the focus of the keyboard. */
  protected pointed({ data, column, event }: CellMouseOverEvent<Item>): void {
    const row = (event?.target as HTMLElement | undefined)?.closest<HTMLElement>('.ag-row') ?? null;
    this.glance.rest(column.getColId() === 'name' ? pageOf(data) : null, () => row);
  }

  protected focused({ rowIndex, column }: CellFocusedEvent<Item>): void {
    const node = rowIndex === null ? undefined : this.grid?.getDisplayedRowAtIndex(rowIndex);
    const colId = typeof column === 'object' ? column?.getColId() : column;
    // A pointer that pressed is about to open the sheet.
    const isByKeys = document.activeElement?.matches(':focus-visible') ?? false;
    const row = this.frame()?.nativeElement.querySelector<HTMLElement>(`.ag-row[row-index="${rowIndex}"]`) ?? null;
    this.glance.rest(colId === 'name' && isByKeys ? pageOf(node?.data) : null, () => row);
  }

  private showColumns(hasSheet: boolean, hidden: ReadonlySet<string>): void {
    const ids = this.columns.map(({ colId }) => colId as string);
    const isShown = (id: string) =>
      (id !== 'choose' || this.service.isNow()) &&
      !hidden.has(id) &&
      (!hasSheet || BESIDE_A_SHEET.includes(id)) &&
      (!this.isNarrow() || ON_A_PHONE.includes(id));
    this.grid?.setColumnsVisible(
      ids.filter((id) => isShown(id)),
      true,
    );
    this.grid?.setColumnsVisible(
      ids.filter((id) => !isShown(id)),
      false,
    );
    setTimeout(() => this.measure());
  }

  protected measure(): void {
    const column = this.grid?.getColumn('when');
    if (!column?.isVisible() || !this.frame()) return this.geometry.set({ left: 0, width: 0, visible: false });
    const scrolled = this.grid?.getHorizontalPixelRange().left ?? 0;
    this.geometry.set({ left: (column.getLeft() ?? 0) - scrolled, width: column.getActualWidth(), visible: true });
  }
}
