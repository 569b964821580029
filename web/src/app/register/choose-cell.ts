import type { ICellRendererComp, ICellRendererParams } from 'ag-grid-community';
import { say } from '@domatium/core/words/register';
import type { Item } from '../hub/desk';
import { pageOf } from './page-of';

export interface ChooseCellParams {
  readonly isChosen: (id: number) => boolean;
  readonly toggle: (id: number, isRange: boolean) => void;
}

/**
 * The box by which a page is chosen. It stays the same element for as long as its row is there, whatever is drawn anew
 * meanwhile: else a press that is on its way finds nothing to end on, and is lost. The whole cell takes presses, since a
 * row that is cut at the edge of the list is moved into view between a press and its end.
 */
export class ChooseCell implements ICellRendererComp<Item> {
  private readonly root = document.createElement('span');
  private readonly box = document.createElement('input');
  private params: (ICellRendererParams<Item> & ChooseCellParams) | null = null;

  init(params: ICellRendererParams<Item> & ChooseCellParams): void {
    this.box.type = 'checkbox';
    this.box.tabIndex = -1;
    params.eGridCell.addEventListener('click', this.choose);
    this.refresh(params);
  }

  private readonly choose = (event: MouseEvent): void => {
    event.stopPropagation();
    const page = pageOf(this.params?.data);
    if (page) this.params?.toggle(page.id, event.shiftKey);
  };

  destroy(): void {
    this.params?.eGridCell.removeEventListener('click', this.choose);
  }

  getGui(): HTMLElement {
    return this.root;
  }

  refresh(params: ICellRendererParams<Item> & ChooseCellParams): boolean {
    this.params = params;
    const page = pageOf(params.data);
    if (!page) this.box.remove();
    else {
      this.box.checked = params.isChosen(page.id);
      this.box.setAttribute('aria-label', say.choosePage(page.name));
      if (!this.box.parentNode) this.root.append(this.box);
    }
    return true;
  }
}
