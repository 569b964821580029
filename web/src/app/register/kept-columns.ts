import { computed, inject, Injectable, signal } from '@angular/core';
import { LIST_COLUMNS, USUAL_COLUMNS } from '@domatium/core/register';
import type { GridApi } from 'ag-grid-community';
import type { Item } from '../hub/desk';
import { PlaceService } from '../hub/place.service';

const KEY = 'domatium.register.columns';
/** Always there: the choice, and what the row is. */
const FIXED = ['choose', 'name'];
const COLUMN_IDS: readonly string[] = LIST_COLUMNS;

interface Liked {
  readonly shown: readonly string[];
  readonly widths: Readonly<Record<string, number>>;
}

/**
 * Which columns are shown, in which order: as the address says, so that links and named views carry them, else as one
 * likes them on this machine. Their widths are only kept here.
 */
@Injectable({ providedIn: 'root' })
export class KeptColumns {
  private readonly place = inject(PlaceService);
  private readonly liked = signal<Liked>(likedHere());
  readonly shown = computed<readonly string[]>(() => {
    const said = this.place.columns()?.filter((id) => COLUMN_IDS.includes(id)) ?? this.liked().shown;
    return [...FIXED, ...said.filter((id) => !FIXED.includes(id))];
  });
  /** Columns one chose not to see, or never chose to. */
  readonly hidden = computed<ReadonlySet<string>>(() => new Set(COLUMN_IDS.filter((id) => !this.shown().includes(id))));
  /** Shows a column, behind those that usually stand before it, or hides it. */
  toggle(colId: string): void {
    const shown = this.shown().filter((id) => id !== colId);
    if (shown.length === this.shown().length) {
      const place = COLUMN_IDS.indexOf(colId);
      const after = shown.findLastIndex((id) => COLUMN_IDS.indexOf(id) < place);
      shown.splice(after + 1, 0, colId);
    }
    this.like({ ...this.liked(), shown });
    this.say();
  }

  /** Brings a grid to the order that is shown, with the widths that are kept here. */
  apply(grid: GridApi<Item>): void {
    const { widths } = this.liked();
    const order = [...this.shown(), ...this.hidden()];
    grid.applyColumnState({
      state: order.map((colId) => ({ colId, ...(widths[colId] ? { width: widths[colId] } : {}) })),
      applyOrder: true,
    });
  }

  /** Takes over what was moved or drawn wider in a grid. */
  keep(grid: GridApi<Item> | null): void {
    const state = grid?.getColumnState() ?? [];
    const hidden = this.hidden();
    this.like({
      shown: state.map(({ colId }) => colId).filter((id) => !hidden.has(id)),
      widths: Object.fromEntries(state.map(({ colId, width }) => [colId, width ?? 0])),
    });
    this.say();
  }

  /** Says in the address what is liked here, where the address says nothing: a link then shows others the same. */
  say(): void {
    const { shown } = this.liked();
    const said = isSame([...FIXED, ...shown.filter((id) => !FIXED.includes(id))], USUAL_COLUMNS)
      ? null
      : shown.join('.');
    if (said !== (this.place.columns()?.join('.') ?? null)) this.place.go({ columns: said }, true);
  }

  private like(liked: Liked): void {
    this.liked.set(liked);
    localStorage.setItem(KEY, JSON.stringify(liked));
  }
}

const isSame = (a: readonly string[], b: readonly string[]) => a.join('.') === b.join('.');

function likedHere(): Liked {
  const none = { shown: USUAL_COLUMNS, widths: {} };
  try {
    const stored = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Partial<Liked> | null;
    return Array.isArray(stored?.shown) ? { ...none, ...stored } : none;
  } catch {
    return none;
  }
}
