import type { IHeaderComp, IHeaderParams } from 'ag-grid-community';
import { fraction, ticksOn, type Scale } from '../shared/scale';
import { say as common } from '@domatium/core/words/common';

interface WhenHeaderParams extends IHeaderParams {
  readonly scaleOf: () => Scale;
  readonly zoneOf: () => string;
}

/** The head of the when column: its name, and the months where they begin on the rail's scale. */
export class WhenHeader implements IHeaderComp {
  private readonly root = document.createElement('div');
  private readonly ticks = document.createElement('div');

  init(params: WhenHeaderParams): void {
    const { progressSort, column } = params;
    this.root.className = 'when-header';
    const name = document.createElement('button');
    name.type = 'button';
    name.textContent = common.when;
    name.onclick = (event) => progressSort(event.shiftKey);
    this.root.append(name);
    const show = () => this.root.setAttribute('data-sort', column.getSort() ?? '');
    column.addEventListener('sortChanged', show);
    show();
    this.root.append(this.ticks);
    this.draw(params);
  }

  private draw({ scaleOf, zoneOf }: WhenHeaderParams): void {
    const scale = scaleOf();
    this.ticks.replaceChildren(
      ...ticksOn(scale, zoneOf()).flatMap(({ at, label }) => {
        const left = fraction(scale, at);
        if (left < 0.2 || left > 0.9) return [];
        const tick = document.createElement('span');
        tick.textContent = label;
        tick.style.left = `${left * 100}%`;
        return [tick];
      }),
    );
  }

  getGui(): HTMLElement {
    return this.root;
  }

  refresh(params: WhenHeaderParams): boolean {
    this.draw(params);
    return true;
  }
}
