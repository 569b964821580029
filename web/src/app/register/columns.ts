import type { ColDef, ICellRendererParams } from 'ag-grid-community';
import { readablePath } from '@domatium/core/address';
import { rowState, rowUnfound, type RegisterRow } from '@domatium/core/register';
import { DAY, dayOf, writeDistance, writeInstant, type Instant } from '@domatium/core/time';
import { writeChange } from '@domatium/core/traffic';
import type { Scale } from '../shared/scale';
import { CheckHeader } from './check-header';
import { ChooseCell, type ChooseCellParams } from './choose-cell';
import type { Item } from '../hub/desk';
import { drawLine, drawWhen } from '../shared/when-drawing';
import { pageOf } from './page-of';
import { WhenHeader } from './when-header';
import { SEARCH_WORDS } from '@domatium/core/words';
import { say } from '@domatium/core/words/register';
import { say as common } from '@domatium/core/words/common';

/** What columns need to know while they draw; read anew with every cell. */
export interface ColumnContext extends ChooseCellParams {
  readonly shown: () => Instant;
  readonly now: () => Instant;
  readonly zone: () => string;
  readonly scale: () => Scale;
  /** Told which page's periods are drawn. */
  readonly drew: (page: RegisterRow) => void;
  readonly lineOf: (id: number) => readonly number[] | null;
  readonly toggleAll: () => void;
  readonly isAll: () => boolean;
}

const addressWords = ({ role, host, path }: RegisterRow) =>
  role === 'not-found' ? say.notFound(host) : host + readablePath(path);
const number = (value: number) => (value ? value.toLocaleString('en-GB') : '–');

/** Shapes beside the numbers, so that nothing is told by colour alone. */
const fixesWords = ({ findings }: RegisterRow): string =>
  findings
    ? [
        ...(findings.blocks ? [`■ ${findings.blocks}`] : []),
        ...(findings.worthFixing ? [`▲ ${findings.worthFixing}`] : []),
      ].join(' ')
    : '–';
const findingsInWords = ({ blocks, worthFixing }: NonNullable<RegisterRow['findings']>): string =>
  [...(blocks ? [say.wouldBlockARelease(blocks)] : []), ...(worthFixing ? [say.worthFixing(worthFixing)] : [])].join(
    ', ',
  );

/** Shown beside a sheet: only what tells pages apart. */
export const BESIDE_A_SHEET = ['choose', 'name', 'when', 'visits'];
/** Shown on a phone. */
export const ON_A_PHONE = ['choose', 'name', 'when'];
/** The columns of the register. */
export function columnsFor(context: ColumnContext): ColDef<Item>[] {
  const text = (
    colId: string,
    headerName: string,
    width: number,
    read: (page: RegisterRow) => string,
  ): ColDef<Item> => ({
    colId,
    headerName,
    width,
    sortable: colId === 'owner',
    cellClass: 'quiet',
    valueGetter: ({ data }) => textOf(data, read),
    tooltipValueGetter: ({ value }) => value as string,
  });
  return [
    chooseColumn(context),
    {
      colId: 'name',
      // It may be live now and was not before: then it is drawn anew, though it is called the same.
      equals: () => false,
      headerName: common.page,
      flex: 3,
      minWidth: 130,
      cellClass: 'name',
      valueGetter: ({ data }) => textOf(data, ({ name }) => name),
      cellClassRules: { 'is-live': ({ data }) => isLive(data, context) },
      cellRenderer: drawn((data) => drawName(data, context)),
    },
    {
      ...text('address', say.address, 200, addressWords),
      flex: 4,
      minWidth: 150,
      sortable: true,
      cellClass: 'mono',
      cellRenderer: drawn(drawAddress),
    },
    {
      colId: 'when',
      equals: () => false,
      headerName: common.when,
      width: 226,
      minWidth: 150,
      cellClass: 'when-cell',
      headerComponent: WhenHeader,
      headerComponentParams: { scaleOf: context.scale, zoneOf: context.zone },
      cellRenderer: drawn((data) => {
        const page = pageOf(data);
        if (!page) return null;
        context.drew(page);
        return drawWhen(page, context.scale(), context.shown(), context.zone());
      }),
    },
    {
      colId: 'visits',
      headerName: say.visits,
      width: 84,
      type: 'rightAligned',
      cellClass: 'number ag-right-aligned-cell',
      headerTooltip: say.visitsOfTheLast30Days,
      valueGetter: ({ data }) => textOf(data, ({ visits }) => number(visits)),
    },
    {
      colId: 'change',
      headerName: common.change,
      width: 68,
      type: 'rightAligned',
      cellClass: 'number quiet ag-right-aligned-cell',
      headerTooltip: say.againstThe30DaysBefore,
      valueGetter: ({ data }) =>
        textOf(
          data,
          ({ visits, visitsBefore: before }) => (before ? writeChange((visits - before) / before) : null) ?? '–',
        ),
    },
    {
      colId: 'line',
      headerName: say.n30Days,
      width: 82,
      sortable: false,
      cellRenderer: drawn((data) => drawLine(lineOf(data, context))),
    },
    {
      colId: 'fixes',
      headerName: say.toFix,
      width: 74,
      cellClass: 'number',
      headerTooltip: say.whatChecksFoundWouldBlockA,
      valueGetter: ({ data }) => {
        const page = pageOf(data);
        return page && rowState(page, context.shown()) !== 'ended' ? fixesWords(page) : '';
      },
      tooltipValueGetter: ({ data }) => textOf(data, ({ findings }) => (findings ? findingsInWords(findings) : '')),
    },
    text('owner', common.owner, 110, ({ owner }) => owner ?? '–'),
    text('labels', say.labels, 120, ({ labels }) => labels.join(', ')),
    text('todo', common.toDo, 84, ({ tasks }) => (tasks ? say.open(tasks.open) : '–')),
    text('campaign', common.campaign, 120, ({ campaign }) => campaign ?? '–'),
    text('site', common.site, 110, ({ siteName }) => siteName),
    {
      ...text('search', say.search, 150, (page) => SEARCH_WORDS[rowUnfound(page, context.shown()) ?? 'found']),
      headerTooltip: say.whetherSearchEnginesCanFindIt,
    },
    {
      colId: 'changed',
      headerName: say.changed,
      // The scroll bar takes some of the last column.
      width: 120,
      cellClass: 'quiet',
      valueGetter: ({ data }) => textOf(data, ({ changedAt }) => writeDistance(changedAt as Instant, context.now())),
      tooltipValueGetter: ({ data }) =>
        textOf(data, ({ changedAt, changedBy }) =>
          [
            writeInstant(changedAt as Instant, context.zone(), context.now()),
            ...(changedBy ? [say.by(changedBy)] : []),
          ].join(' '),
        ),
    },
  ];
}

function chooseColumn({ isChosen, toggle, toggleAll, isAll }: ColumnContext): ColDef<Item> {
  return {
    colId: 'choose',
    headerName: '',
    width: 38,
    resizable: false,
    sortable: false,
    suppressMovable: true,
    cellClass: 'choose',
    headerComponent: CheckHeader,
    headerComponentParams: { toggleAll, isAll },
    // Space chooses, as it does in every list; the box itself is not a stop of its own.
    suppressKeyboardEvent: ({ event }) => event.key === ' ',
    cellRenderer: ChooseCell,
    cellRendererParams: { isChosen, toggle } satisfies ChooseCellParams,
  };
}

/** What a cell shows, as elements: the grid takes a text that a renderer gives it for HTML. */
function drawn(
  draw: (item: Item | undefined) => HTMLElement | null,
): (params: ICellRendererParams<Item>) => HTMLElement {
  return ({ data }: ICellRendererParams<Item>) => draw(data) ?? document.createElement('span');
}

function textOf(item: Item | undefined, read: (page: RegisterRow) => string): string {
  const page = pageOf(item);
  return page ? read(page) : '';
}

function isLive(item: Item | undefined, { shown }: ColumnContext): boolean {
  const page = pageOf(item);
  return page !== null && rowState(page, shown()) === 'live';
}

/** An address of which the host gives way first: by their paths pages are told apart. */
function drawAddress(item: Item | undefined): HTMLElement | null {
  const page = pageOf(item);
  if (!page) return null;
  const element = document.createElement('span');
  element.className = 'address';
  const parts = page.role === 'not-found' ? [addressWords(page)] : [page.host, readablePath(page.path)];
  for (const [n, words] of parts.entries()) {
    const part = document.createElement('span');
    part.className = n ? 'path' : 'host';
    part.textContent = words;
    element.append(part);
  }
  return element;
}

/** The name, and a word where something on the page is overdue. */
function drawName(item: Item | undefined, { now, zone }: ColumnContext): HTMLElement | null {
  const page = pageOf(item);
  if (!page) return null;
  const today = Date.parse(`${dayOf(now(), zone())}T00:00Z`) / DAY;
  const root = document.createElement('span');
  if (!page.tasks?.due || page.tasks.due >= today) {
    root.textContent = page.name;
    return root;
  }
  // A long name is cut, never what is said of it.
  root.className = 'name-and-tag';
  const name = document.createElement('span');
  name.textContent = page.name;
  const tag = document.createElement('span');
  tag.className = 'tag ember';
  tag.textContent = 'overdue';
  root.append(name, tag);
  return root;
}

function lineOf(item: Item | undefined, context: ColumnContext): readonly number[] {
  const page = pageOf(item);
  return page ? (context.lineOf(page.id) ?? []) : [];
}
