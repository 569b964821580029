import type { IHeaderComp, IHeaderParams } from 'ag-grid-community';
import { fraction, monthsOn, type Scale } from '../rail/scale';

interface WhenHeaderParams extends IHeaderParams {
  readonly scaleOf: () => Scale;
  readonly zoneOf: () => string;
}

/** The head of the when column: its name, and the months where they begin on the rail's scale. */
export class WhenHeader implements IHeaderComp {
  private readonly root = document.createElement('div');

  init({ scaleOf, zoneOf, progressSort, column }: WhenHeaderParams): void {
    this.root.className = 'when-header';
    const name = document.createElement('button');
    name.type = 'button';
    name.textContent = 'When';
    name.onclick = (event) => progressSort(event.shiftKey);
    this.root.append(name);
    const show = () => this.root.setAttribute('data-sort', column.getSort() ?? '');
    column.addEventListener('sortChanged', show);
    show();
    const scale = scaleOf();
    for (const { at, label } of monthsOn(scale, zoneOf())) {
      const left = fraction(scale, at);
      if (left < 0.2 || left > 0.94) continue;
      const month = document.createElement('span');
      month.textContent = label;
      month.style.left = `${left * 100}%`;
      this.root.append(month);
    }
  }

  getGui(): HTMLElement {
    return this.root;
  }

  refresh(): boolean {
    return false;
  }
}
