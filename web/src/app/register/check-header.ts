import type { IHeaderComp, IHeaderParams } from 'ag-grid-community';
import { say } from '@domatium/core/words/register';

interface CheckHeaderParams extends IHeaderParams {
  readonly toggleAll: () => void;
  readonly isAll: () => boolean;
}

/** The head of the column of check boxes: all of the filter, or none. */
export class CheckHeader implements IHeaderComp {
  private readonly box = document.createElement('input');
  private isAll: () => boolean = () => false;

  init({ toggleAll, isAll }: CheckHeaderParams): void {
    this.box.type = 'checkbox';
    this.box.setAttribute('aria-label', say.selectAllPagesInThisList);
    this.box.onchange = () => toggleAll();
    this.isAll = isAll;
    this.box.checked = isAll();
  }

  getGui(): HTMLElement {
    return this.box;
  }

  refresh(): boolean {
    this.box.checked = this.isAll();
    return true;
  }
}
