import { signal } from '@angular/core';
import type { GridApi } from 'ag-grid-community';
import type { Item } from '../hub/desk';
import { EXTRA_COLUMNS } from './columns';

const KEY = 'domatium.register.columns';

interface KeptColumn {
  readonly colId: string;
  readonly width: number;
  readonly hide?: boolean;
}

/** How one likes the columns: their order, their widths, and which are shown; kept on this machine. */
export class KeptColumns {
  /** Columns one chose not to see, or never chose to. */
  readonly hidden = signal<ReadonlySet<string>>(hiddenAmong(kept()));

  toggle(colId: string): void {
    this.hidden.update((all) => new Set(all.has(colId) ? [...all].filter((one) => one !== colId) : [...all, colId]));
  }

  apply(grid: GridApi<Item>): void {
    const state = kept().map(({ colId, width }) => ({ colId, width }));
    if (state.length) grid.applyColumnState({ state, applyOrder: true });
  }

  keep(grid: GridApi<Item> | null): void {
    const state = (grid?.getColumnState() ?? []).map(({ colId, width }): KeptColumn => ({
      colId,
      width: width ?? 0,
      hide: this.hidden().has(colId),
    }));
    localStorage.setItem(KEY, JSON.stringify(state));
  }
}

function kept(): KeptColumn[] {
  try {
    const stored: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(stored) ? (stored as KeptColumn[]) : [];
  } catch {
    return [];
  }
}

const hiddenAmong = (columns: readonly KeptColumn[]): ReadonlySet<string> =>
  new Set(columns.length ? columns.filter(({ hide }) => hide).map(({ colId }) => colId) : EXTRA_COLUMNS);
