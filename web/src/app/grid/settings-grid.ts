import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { MOST_SIDE_BY_SIDE, type SettingsRow } from '@domatium/contracts';
import { MAX_DESCRIPTION, MAX_TITLE, METADATA_TEXTS, type MetadataText } from '@domatium/core/document';
import {
  cellNow,
  changedRows,
  laidOver,
  noEdits,
  redone,
  replaced,
  undone,
  withChanges,
  type CellChange,
  type GridEdits,
} from '@domatium/core/exchange';
import { DESCRIPTION_SHOWN, TITLE_SHOWN, wholeTitle } from '@domatium/core/metadata';
import { fillText, lengthOf } from '@domatium/core/text';
import { METADATA_LABELS } from '@domatium/core/words';
import { say } from '@domatium/core/words/grid';
import { say as common } from '@domatium/core/words/common';
import { AgGridAngular } from 'ag-grid-angular';
import {
  CellStyleModule,
  ClientSideRowModelModule,
  ModuleRegistry,
  RenderApiModule,
  RowApiModule,
  ScrollApiModule,
  TextEditorModule,
  type CellFocusedEvent,
  type CellKeyDownEvent,
  type ColDef,
  type GetRowIdParams,
  type GridApi,
  type GridReadyEvent,
} from 'ag-grid-community';
import { parse } from 'csv-parse/browser/esm/sync';
import { api, Api, Refusal } from '../hub/api';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';
import { WrittenDrafts } from '../many/written-drafts';
import { gridTheme } from '../register/grid-theme';
import { isTyping, onKeys } from '../shared/keys';
import { TextCell, type Shown } from './text-cell';

ModuleRegistry.registerModules([
  ClientSideRowModelModule,
  TextEditorModule,
  CellStyleModule,
  RenderApiModule,
  RowApiModule,
  ScrollApiModule,
]);

const isTitle = (key: MetadataText) => key === 'title' || key === 'shareTitle';
const roomOf = (key: MetadataText) => (isTitle(key) ? MAX_TITLE : MAX_DESCRIPTION);

/** On a phone there is room for what tells pages apart. */
const isNarrow = () => matchMedia('(max-width: 700px)').matches;

/** What tells pages of one host apart stands first. */
const pathFirst = (address: string) => {
  const at = address.indexOf('/');
  return at < 0 ? address : `${address.slice(at)} · ${address.slice(0, at)}`;
};

const isOurs = ({ key, shiftKey, ctrlKey, metaKey }: KeyboardEvent) =>
  key === 'Delete' ||
  key === 'Backspace' ||
  (shiftKey && (key === 'ArrowUp' || key === 'ArrowDown')) ||
  ((ctrlKey || metaKey) && key.toLowerCase() === 'd');

/** Where the hand is in the grid: one cell, or those of a column from it to another row. */
interface Chosen {
  readonly row: number;
  readonly until: number;
  readonly key: MetadataText;
}

/** The titles and descriptions of many pages side by side: typed, pasted, filled down and replaced, then written at once. */
@Component({
  selector: 'dm-settings-grid',
  imports: [AgGridAngular],
  templateUrl: './settings-grid.html',
  styleUrl: './settings-grid.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SettingsGrid {
  protected readonly say = say;
  protected readonly common = common;
  readonly portfolioId = input.required<string>();
  protected readonly service = inject(RegisterService);
  private readonly selection = inject(SelectionService);
  private readonly place = inject(PlaceService);
  private readonly client = inject(Api);
  private readonly written = inject(WrittenDrafts);
  private grid: GridApi<SettingsRow> | null = null;

  protected readonly rows = signal<readonly SettingsRow[] | null>(null);
  protected readonly trouble = signal<string | null>(null);
  protected readonly notice = signal<string | null>(null);
  protected readonly isBusy = signal(false);
  protected readonly edits = signal<GridEdits<MetadataText>>(noEdits());
  protected readonly chosen = signal<Chosen | null>(null);
  protected readonly find = signal('');
  protected readonly by = signal('');
  protected readonly isCased = signal(false);
  /** Asks before what was typed is left behind; holds whoever waits for the answer. */
  protected readonly leaving = signal<((goes: boolean) => void) | null>(null);

  private readonly byId = computed(() => new Map((this.rows() ?? []).map((row) => [row.pageId, row])));
  private readonly order = computed(() => (this.rows() ?? []).map(({ pageId }) => pageId));
  private readonly textOf = (row: number, key: MetadataText): string => this.byId().get(row)?.texts[key] ?? '';
  protected readonly changed = computed(() => changedRows(this.edits()));
  protected readonly isCut = computed(() => this.selection.size() > MOST_SIDE_BY_SIDE);
  protected readonly most = MOST_SIDE_BY_SIDE.toLocaleString('en-GB');
  protected readonly label = computed(() =>
    this.service.mayRelease() ? say.draftsAndRelease(this.changed().size) : say.drafts(this.changed().size),
  );
  protected readonly finding = computed(() => {
    const { changes, count } = replaced(this.cells(), this.find(), this.by(), this.isCased());
    const cells = new Set(replaced(this.cells(), this.find(), '\u0000', this.isCased()).changes).size;
    return { changes, count, words: this.find() ? say.foundIn(count, cells) : '' };
  });

  protected readonly theme = gridTheme;
  protected readonly columns: ColDef<SettingsRow>[] = [
    {
      colId: 'name',
      headerName: say.page,
      pinned: 'left',
      width: isNarrow() ? 130 : 220,
      valueGetter: ({ data }) => data?.name,
    },
    {
      colId: 'address',
      headerName: say.address,
      width: 170,
      hide: isNarrow(),
      cellClass: 'address',
      valueGetter: ({ data }) => (data ? pathFirst(data.address) : ''),
    },
    ...METADATA_TEXTS.map((key): ColDef<SettingsRow> => ({
      colId: key,
      headerName: METADATA_LABELS[key],
      flex: isTitle(key) ? 2 : 3,
      minWidth: 190,
      editable: true,
      // Keys that mean something here are nothing to the grid.
      suppressKeyboardEvent: ({ event, editing }) => !editing && isOurs(event),
      cellEditor: 'agTextCellEditor',
      cellEditorParams: { maxLength: roomOf(key) },
      valueGetter: ({ data }) => (data ? this.now(data.pageId, key) : ''),
      valueSetter: ({ data, newValue }) => this.change([{ row: data.pageId, key, value: String(newValue ?? '') }]),
      cellRenderer: TextCell,
      cellRendererParams: { shownOf: (row: SettingsRow) => this.shownOf(row, key) },
      cellClassRules: { 'in-range': ({ rowIndex }) => this.isChosen(rowIndex, key) },
    })),
  ];
  protected readonly defaults: ColDef = { resizable: true, sortable: false, suppressHeaderMenuButton: true };
  protected readonly rowId = ({ data }: GetRowIdParams<SettingsRow>) => String(data.pageId);

  constructor() {
    effect(() => {
      const portfolioId = Number(this.portfolioId());
      untracked(() => this.service.open(portfolioId));
    });
    effect(() => {
      const [portfolioId, ids] = [this.service.portfolioId(), this.selection.ids()];
      if (portfolioId === Number(this.portfolioId())) untracked(() => void this.load([...ids]));
    });
    effect(() => {
      this.edits();
      this.chosen();
      // What is taken over from a cell beside is drawn anew too, though its own value is the same.
      this.grid?.refreshCells({ columns: [...METADATA_TEXTS], force: true });
    });
  }

  private async load(ids: readonly number[]): Promise<void> {
    this.trouble.set(null);
    if (!ids.length) return this.rows.set([]);
    try {
      const params = { portfolioId: this.service.portfolioId() };
      const body = { pageIds: ids.slice(0, MOST_SIDE_BY_SIDE) };
      const { pages } = await this.client.call(api.draftSettings, { params, body });
      this.rows.set(pages);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
    }
  }

  protected ready({ api: grid }: GridReadyEvent<SettingsRow>): void {
    this.grid = grid;
  }

  private now(row: number, key: MetadataText): string {
    return cellNow(this.edits(), this.textOf, row, key);
  }

  private *cells(): Iterable<CellChange<MetadataText>> {
    for (const row of this.order()) for (const key of METADATA_TEXTS) yield { row, key, value: this.now(row, key) };
  }

  /** What visitors and search engines would get of a cell, measured as that. */
  private shownOf(row: SettingsRow, key: MetadataText): Shown {
    const own = this.now(row.pageId, key);
    const text = own || this.takenOver(row, key);
    const filled = fillText(own, new Map(Object.entries(row.values)));
    const whole = key === 'title' && !row.titleAlone ? wholeTitle(filled, row.said) : filled;
    const length = own ? { is: lengthOf(whole), shown: isTitle(key) ? TITLE_SHOWN : DESCRIPTION_SHOWN } : null;
    return { text, isOwn: own !== '', isChanged: this.edits().values.has(`${row.pageId} ${key}`), length };
  }

  private takenOver({ pageId, said }: SettingsRow, key: MetadataText): string {
    switch (key) {
      case 'title':
        return '';
      case 'description':
        return said.description;
      case 'shareTitle':
        return this.now(pageId, 'title');
      case 'shareDescription':
        return this.now(pageId, 'description') || said.description;
    }
  }

  /** Takes changes over as one step; what no page can hold is cut, and said. */
  private change(changes: readonly CellChange<MetadataText>[]): boolean {
    const oneLine = changes.map((one) => ({ ...one, value: one.value.replace(/\s*[\r\n]+\s*/g, ' ') }));
    const cut = oneLine.filter(({ key, value }) => value.length > roomOf(key)).length;
    this.notice.set(cut ? say.tooLong(cut) : null);
    const whole = oneLine.map((one) => ({ ...one, value: one.value.slice(0, roomOf(one.key)) }));
    this.edits.set(withChanges(this.edits(), this.textOf, whole));
    return true;
  }

  protected undo(): void {
    this.edits.set(undone(this.edits(), this.textOf));
  }
  protected redo(): void {
    this.edits.set(redone(this.edits(), this.textOf));
  }
  protected replaceAll(): void {
    this.change(this.finding().changes);
  }

  protected focused({ rowIndex, column }: CellFocusedEvent<SettingsRow>): void {
    const id = typeof column === 'object' ? column?.getColId() : column;
    const key = METADATA_TEXTS.find((one) => one === id);
    this.chosen.set(rowIndex !== null && key ? { row: rowIndex, until: rowIndex, key } : null);
  }

  private isChosen(row: number, key: MetadataText): boolean {
    const chosen = this.chosen();
    if (!chosen || chosen.key !== key || chosen.row === chosen.until) return false;
    return Math.min(chosen.row, chosen.until) <= row && row <= Math.max(chosen.row, chosen.until);
  }

  /** The pages of the chosen cells, from the top. */
  private chosenRows({ row, until }: Chosen): number[] {
    return this.order().slice(Math.min(row, until), Math.max(row, until) + 1);
  }

  protected onCellKey({ event }: CellKeyDownEvent<SettingsRow>): void {
    const chosen = this.chosen();
    if (!(event instanceof KeyboardEvent) || !chosen || isTyping(event)) return;
    const { key, shiftKey, ctrlKey, metaKey } = event;
    const isCommand = ctrlKey || metaKey;
    if (shiftKey && (key === 'ArrowDown' || key === 'ArrowUp')) {
      const until = chosen.until + (key === 'ArrowDown' ? 1 : -1);
      if (until < 0 || until >= this.order().length) return;
      this.chosen.set({ ...chosen, until });
      this.grid?.ensureIndexVisible(until);
    } else if (isCommand && key.toLowerCase() === 'd') this.fillDown(chosen);
    else if (key === 'Delete' || key === 'Backspace')
      this.change(this.chosenRows(chosen).map((row) => ({ row, key: chosen.key, value: '' })));
    else return;
    event.preventDefault();
  }

  protected stretch(event: MouseEvent): void {
    const chosen = this.chosen();
    const index = Number((event.target as HTMLElement).closest('[row-index]')?.getAttribute('row-index') ?? NaN);
    if (!event.shiftKey || !chosen || Number.isNaN(index)) return;
    event.preventDefault();
    event.stopPropagation();
    this.chosen.set({ ...chosen, until: index });
  }

  /** The first of the chosen cells into the others; of one alone what stands above it. */
  private fillDown(chosen: Chosen): void {
    const rows = this.chosenRows(chosen);
    const from = rows.length > 1 ? rows[0] : this.order()[chosen.row - 1];
    if (from === undefined) return;
    const value = this.now(from, chosen.key);
    this.change((rows.length > 1 ? rows.slice(1) : rows).map((row) => ({ row, key: chosen.key, value })));
  }

  private readonly keys = onKeys({ undo: () => this.undo(), redo: () => this.redo() });

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    if (!isTyping(event)) this.keys(event);
  }

  @HostListener('document:paste', ['$event'])
  protected onPaste(event: ClipboardEvent): void {
    const chosen = this.chosen();
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!chosen || !text || isTyping(event)) return;
    event.preventDefault();
    const copied: string[][] = parse(text, { delimiter: '\t', relax_quotes: true, relax_column_count: true });
    const rows = this.order().slice(Math.min(chosen.row, chosen.until));
    const keys = METADATA_TEXTS.slice(METADATA_TEXTS.indexOf(chosen.key));
    const { changes, left } = laidOver(copied, rows, keys, this.chosenRows(chosen).length);
    this.change(changes);
    if (left) this.notice.update((said) => [said, say.leftOut(left)].filter(Boolean).join(' '));
  }

  @HostListener('document:copy', ['$event'])
  protected onCopy(event: ClipboardEvent): void {
    const chosen = this.chosen();
    if (!chosen || isTyping(event) || document.getSelection()?.toString()) return;
    // Texts are of one line each, and hold no tabs.
    const cells = this.chosenRows(chosen).map((row) => this.now(row, chosen.key).replace(/\t/g, ' '));
    event.clipboardData?.setData('text/plain', cells.join('\n'));
    event.preventDefault();
  }

  /** Writes the drafts of all changed pages, as they were seen, or none of them; then on to their release. */
  protected async go(): Promise<void> {
    this.grid?.stopEditing();
    const pages = [...this.changed()].flatMap(([pageId, texts]) => {
      const version = this.byId().get(pageId)?.version;
      return version ? [{ pageId, version, texts }] : [];
    });
    if (!pages.length) return;
    this.isBusy.set(true);
    this.trouble.set(null);
    try {
      const params = { portfolioId: this.service.portfolioId() };
      const { pages: drafts } = await this.client.call(api.setDrafts, { params, body: { pages } });
      this.edits.set(noEdits());
      this.written.say(drafts);
      const panel = this.service.mayRelease() && drafts.length ? { panel: 'many-release' } : {};
      await this.place.toPages(this.service.portfolioId(), panel);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
      // What was typed stays, over the drafts as they are now.
      await this.load(this.order());
      this.trouble.set(error.message);
    } finally {
      this.isBusy.set(false);
    }
  }

  protected back(): void {
    void this.place.toPages(this.portfolioId());
  }

  /** Whoever leaves is asked where something would be lost. */
  leave(): boolean | Promise<boolean> {
    this.grid?.stopEditing();
    if (!this.changed().size) return true;
    this.leaving()?.(false);
    return new Promise((resolve) => this.leaving.set(resolve));
  }

  protected answer(goes: boolean): void {
    this.leaving()?.(goes);
    this.leaving.set(null);
  }

  @HostListener('window:beforeunload', ['$event'])
  protected onUnload(event: BeforeUnloadEvent): void {
    if (this.changed().size) event.preventDefault();
  }
}
