import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { AgGridAngular } from 'ag-grid-angular';
import {
  CellStyleModule,
  ClientSideRowModelModule,
  ColumnApiModule,
  colorSchemeLight,
  ModuleRegistry,
  RenderApiModule,
  RowApiModule,
  RowStyleModule,
  ScrollApiModule,
  themeQuartz,
  TooltipModule,
  type ColDef,
  type GetRowIdParams,
  type GridApi,
  type GridReadyEvent,
  type ICellRendererParams,
  type RowClassParams,
} from 'ag-grid-community';
import type { RegisterPage } from '@domatium/contracts';
import { readablePath } from '@domatium/core/address';
import {
  found,
  hasState,
  isInScope,
  rowState,
  stateCounts,
  STATE_FILTERS,
  type StateFilter,
} from '@domatium/core/register';
import { DAY, writeDistance, writeInstant, type Instant } from '@domatium/core/time';
import { compareDays, writeChange } from '@domatium/core/traffic';
import { defaultScale, fraction } from '../rail/scale';
import { PlaceService } from '../shell/place.service';
import { RegisterService } from './register.service';
import { drawLine, drawWhen } from './when-drawing';
import { WhenHeader } from './when-header';

ModuleRegistry.registerModules([
  ClientSideRowModelModule,
  ColumnApiModule,
  RowApiModule,
  RowStyleModule,
  RenderApiModule,
  ScrollApiModule,
  TooltipModule,
  CellStyleModule,
]);

const LABELS: Record<StateFilter, string> = {
  all: 'All',
  live: 'Live',
  coming: 'Coming',
  ending: 'Ending soon',
  ended: 'Ended',
  draft: 'Drafts',
};
const WIDTHS_KEY = 'domatium.register.columns';

const visitsOf = (page: RegisterPage) => page.daily.reduce((sum, count) => sum + count, 0);
/** How the when column sorts: what is live first by its end, then what comes, then what is over, then drafts. */
const whenOrder = (page: RegisterPage, now: Instant): number => {
  const state = rowState(page, now);
  const last = page.periods.at(-1);
  const at =
    state === 'live' || state === 'ended'
      ? (last?.until ?? 9e12)
      : (page.periods.find(({ from }) => from > now)?.from ?? 0);
  return { live: 0, coming: 1, ended: 2, draft: 3 }[state] * 1e13 + (state === 'ended' ? -at : at);
};

/** The register: every page of the scope, over time. */
@Component({
  selector: 'dm-register-view',
  imports: [AgGridAngular],
  templateUrl: './register-view.html',
  styleUrl: './register-view.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RegisterView {
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly frame = viewChild<ElementRef<HTMLElement>>('frame');
  private grid: GridApi<RegisterPage> | null = null;
  private readonly geometry = signal<{ left: number; width: number; top: number; visible: boolean }>({
    left: 0,
    width: 0,
    top: 0,
    visible: false,
  });

  protected readonly scale = computed(() =>
    defaultScale((Math.floor(this.service.now() / 60_000) * 60_000) as Instant),
  );
  private readonly inScope = computed(() => {
    const domains = new Map((this.service.register()?.sites ?? []).map(({ id, domain, host }) => [id, domain ?? host]));
    return this.service.pages().filter((page) => isInScope(page, this.place.scope(), domains));
  });
  private readonly matching = computed(() => found(this.inScope(), this.place.find()));
  protected readonly rows = computed(
    () => this.matching().filter((page) => hasState(page, this.place.state(), this.service.now())) as RegisterPage[],
  );
  protected readonly chips = computed(() => {
    const counts = stateCounts(this.matching(), this.service.now());
    return STATE_FILTERS.map((state) => ({
      state,
      label: state === 'all' ? 'All' : `${LABELS[state]} ${counts[state]}`,
    }));
  });
  protected readonly headline = computed(() => {
    const now = this.service.now();
    const live = this.inScope().filter((page) => rowState(page, now) === 'live').length;
    const coming = this.inScope().filter((page) =>
      page.periods.some(
        ({ from }, index) => from > now && from <= now + 7 * DAY && page.periods[index - 1]?.until !== from,
      ),
    ).length;
    return `${this.inScope().length} · ${live} live now · ${coming} go live within 7 days`;
  });
  protected readonly waiting = computed(() =>
    (this.service.register()?.waiting ?? []).filter(({ failure }) => failure === null),
  );
  /** The line of now, drawn once over all rows. */
  protected readonly moment = computed(() => {
    const { left, width, top, visible } = this.geometry();
    return visible ? { left: left + 8 + (width - 16) * fraction(this.scale(), this.service.now()), top } : null;
  });

  protected readonly theme = themeQuartz.withPart(colorSchemeLight).withParams({
    backgroundColor: '#ffffff',
    foregroundColor: '#22302b',
    borderColor: '#e9e5da',
    headerBackgroundColor: '#f6f4ee',
    headerTextColor: '#5c6963',
    headerFontWeight: 560,
    headerFontSize: 12.5,
    fontFamily: 'inherit',
    fontSize: 13,
    rowHeight: 34,
    headerHeight: 30,
    wrapperBorder: false,
    wrapperBorderRadius: 0,
    rowHoverColor: '#faf8f3',
    selectedRowBackgroundColor: '#e4efe8',
    headerColumnResizeHandleColor: '#dcd7ca',
    cellHorizontalPadding: 8,
    spacing: 6,
    columnBorder: false,
    focusShadow: 'none',
    accentColor: '#2e6a50',
  });

  protected readonly columns: ColDef<RegisterPage>[] = [
    {
      colId: 'name',
      headerName: 'Page',
      field: 'name',
      flex: 3,
      minWidth: 130,
      cellClass: 'name',
      tooltipField: 'name',
      cellClassRules: { 'is-live': ({ data }) => !!data && rowState(data, this.service.now()) === 'live' },
    },
    {
      colId: 'address',
      headerName: 'Address',
      flex: 3,
      minWidth: 150,
      valueGetter: ({ data }) =>
        data ? (data.role === 'not-found' ? `${data.host} · not found` : data.host + readablePath(data.path)) : '',
      cellClass: 'mono',
      tooltipValueGetter: ({ value }) => value as string,
    },
    {
      colId: 'when',
      headerName: 'When',
      width: 244,
      minWidth: 150,
      cellClass: 'when-cell',
      headerComponent: WhenHeader,
      headerComponentParams: { scaleOf: () => this.scale(), zoneOf: () => this.service.zone() },
      valueGetter: ({ data }) => (data ? whenOrder(data, this.service.now()) : 0),
      cellRenderer: ({ data }: ICellRendererParams<RegisterPage>) =>
        data ? drawWhen(data, this.scale(), this.service.now(), this.service.zone()) : '',
    },
    {
      colId: 'visits',
      headerName: 'Visits',
      width: 92,
      type: 'rightAligned',
      cellClass: 'number ag-right-aligned-cell',
      headerTooltip: 'Visits of the last 30 days',
      valueGetter: ({ data }) => (data ? visitsOf(data) : 0),
      valueFormatter: ({ value }) => ((value as number) ? (value as number).toLocaleString('en-GB') : '–'),
    },
    {
      colId: 'change',
      headerName: 'Change',
      width: 76,
      type: 'rightAligned',
      cellClass: 'number quiet ag-right-aligned-cell',
      headerTooltip: 'Against the 30 days before',
      valueGetter: ({ data }) => (data ? compareDays([data.visitsBefore, visitsOf(data)], 1).change : null),
      valueFormatter: ({ value }) => writeChange(value as number | null) ?? '–',
    },
    {
      colId: 'line',
      headerName: '30 days',
      width: 84,
      sortable: false,
      cellRenderer: ({ data }: ICellRendererParams<RegisterPage>) => drawLine(data?.daily ?? []),
    },
    {
      colId: 'changed',
      headerName: 'Changed',
      width: 122,
      field: 'changedAt',
      cellClass: 'quiet',
      valueFormatter: ({ value }) => writeDistance(value as Instant, this.service.now()),
      tooltipValueGetter: ({ data }) =>
        data
          ? `${writeInstant(data.changedAt as Instant, this.service.zone(), this.service.now())}${data.changedBy ? ` by ${data.changedBy}` : ''}`
          : '',
    },
  ];
  protected readonly defaults: ColDef = {
    sortable: true,
    resizable: true,
    suppressHeaderMenuButton: true,
    suppressMovable: false,
  };
  protected readonly rowId = ({ data }: GetRowIdParams<RegisterPage>) => String(data.id);
  protected readonly rowClass = ({ data }: RowClassParams<RegisterPage>) =>
    data?.id === this.place.pageId() ? 'is-open' : undefined;

  constructor() {
    // Contents that stay the same row are drawn again when time or the open page moves on.
    effect(() => {
      this.rows();
      this.scale();
      queueMicrotask(() => this.grid?.refreshCells({ columns: ['when', 'name'], force: true }));
    });
    effect(() => {
      const open = this.place.pageId();
      queueMicrotask(() => {
        this.grid?.setGridOption('rowClassRules', {});
        this.grid?.redrawRows();
        this.fit(open !== null);
      });
    });
  }

  protected ready({ api }: GridReadyEvent<RegisterPage>): void {
    this.grid = api;
    const kept = localStorage.getItem(WIDTHS_KEY);
    // What changed last stands first, until somebody sorts.
    const [column, direction] = (this.place.sort() || 'changed:desc').split(':');
    if (kept) api.applyColumnState({ state: JSON.parse(kept) as { colId: string; width: number }[], applyOrder: true });
    if (column)
      api.applyColumnState({
        state: [{ colId: column, sort: direction === 'desc' ? 'desc' : 'asc' }],
        defaultState: { sort: null },
      });
    this.fit(this.place.pageId() !== null);
  }

  protected sorted(): void {
    const sorted = this.grid?.getColumnState().find(({ sort }) => sort);
    this.place.go({ sort: sorted ? `${sorted.colId}:${sorted.sort}` : null }, true);
  }

  protected columnsChanged(source: string): void {
    this.measure();
    if (source !== 'uiColumnResized' && source !== 'uiColumnMoved') return;
    const state = (this.grid?.getColumnState() ?? []).map(({ colId, width }) => ({ colId, width }));
    localStorage.setItem(WIDTHS_KEY, JSON.stringify(state));
  }

  protected open(page: RegisterPage | undefined): void {
    if (page) this.place.go({ page: page.id, panel: null });
  }

  /** Beside a sheet only what tells pages apart is kept. */
  private fit(hasSheet: boolean): void {
    this.grid?.setColumnsVisible(['address', 'change', 'line', 'changed'], !hasSheet);
    setTimeout(() => this.measure());
  }

  protected measure(): void {
    const column = this.grid?.getColumn('when');
    const frame = this.frame()?.nativeElement;
    if (!column || !frame || !column.isVisible())
      return this.geometry.set({ left: 0, width: 0, top: 0, visible: false });
    const scrolled = this.grid?.getHorizontalPixelRange().left ?? 0;
    this.geometry.set({
      left: (column.getLeft() ?? 0) - scrolled,
      width: column.getActualWidth(),
      top: 30,
      visible: true,
    });
  }
}
