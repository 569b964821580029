import type { ICellRendererComp, ICellRendererParams } from 'ag-grid-community';
import { say } from '@domatium/core/words/grid';

/** What stands in a cell: its own words, or quieter those that are taken over, and how long they are. */
export interface Shown {
  readonly text: string;
  readonly isOwn: boolean;
  readonly isChanged: boolean;
  /** `null` where there is nothing to measure. */
  readonly length: { readonly is: number; readonly shown: number } | null;
}

export interface TextCellParams<Row> {
  readonly shownOf: (row: Row) => Shown;
}

/** A text of a page in the grid. */
export class TextCell<Row> implements ICellRendererComp<Row> {
  private readonly root = document.createElement('span');
  private readonly words = document.createElement('span');
  private readonly mark = document.createElement('span');
  private readonly length = document.createElement('span');

  init(params: ICellRendererParams<Row> & TextCellParams<Row>): void {
    this.root.className = 'text-cell';
    this.words.className = 'words';
    this.mark.className = 'visually-hidden';
    this.length.classList.add('number', 'length');
    this.root.append(this.words, this.mark, this.length);
    this.refresh(params);
  }

  getGui(): HTMLElement {
    return this.root;
  }

  refresh({ data, shownOf }: ICellRendererParams<Row> & TextCellParams<Row>): boolean {
    if (!data) return false;
    const { text, isOwn, isChanged, length } = shownOf(data);
    this.words.textContent = text;
    this.words.classList.toggle('taken-over', !isOwn);
    this.root.classList.toggle('is-changed', isChanged);
    this.mark.textContent = [isOwn ? '' : say.takenOver, isChanged ? say.changed : ''].filter(Boolean).join(', ');
    const isLong = length !== null && length.is > length.shown;
    this.length.textContent = length && (isLong || isChanged) ? say.lengthOf(length.is, length.shown) : '';
    this.length.classList.toggle('is-long', isLong);
    return true;
  }
}
