import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { OWN_VALUES, type SharedValue } from '@domatium/core/stock';
import { RegisterService } from '../hub/register.service';
import { DeskTrouble } from './desk-trouble';
import { StockDesk } from './stock-desk.service';
import { StockRelease } from './stock-release';
import { StockService } from '../hub/stock.service';
import { say } from '@domatium/core/words/stock';
import { say as common } from '@domatium/core/words/common';

/** Values that texts of many pages share: of the portfolio, or of one site. */
@Component({
  selector: 'dm-values-desk',
  imports: [DeskTrouble, StockRelease],
  templateUrl: './values-desk.html',
  styleUrls: ['./desk.scss', './values-desk.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ValuesDesk {
  protected readonly say = say;
  protected readonly common = common;
  readonly item = input.required<string | null>();
  readonly go = output<number>();
  protected readonly desk = inject(StockDesk);
  protected readonly stock = inject(StockService);
  protected readonly service = inject(RegisterService);
  protected readonly ownValues = OWN_VALUES;
  /** Whose values: the portfolio’s first, then each site’s, kept already or not. */
  protected readonly owners = computed(() => {
    // Not known yet is not none: others would be made beside them.
    const kept = this.stock.items()?.filter(({ kind }) => kind === 'values');
    if (!kept) return [];
    const of = (siteId: number | null) => kept.find((one) => one.siteId === siteId) ?? null;
    return [
      { siteId: null, name: this.service.portfolio()?.name ?? say.portfolio, words: say.forAllSites, item: of(null) },
      ...(this.service.head()?.sites ?? []).map(({ id, name }) => ({
        siteId: id,
        name,
        words: say.overThoseOfThePortfolio,
        item: of(id),
      })),
    ];
  });
  protected readonly values = computed<readonly SharedValue[] | null>(() => {
    const draft = this.desk.draft();
    return draft && this.desk.item()?.kind === 'values' ? (draft as readonly SharedValue[]) : null;
  });

  /** A price list has several lines. */
  protected rowsOf(value: string): number {
    return Math.min(8, value.split('\n').length);
  }

  protected set(index: number, change: Partial<SharedValue>): void {
    const values = this.values();
    const one = values?.[index];
    if (values && one) this.desk.change(values.with(index, { ...one, ...change }));
  }

  protected add(): void {
    const values = this.values() ?? [];
    const taken = new Set(values.map(({ name }) => name));
    let n = values.length + 1;
    while (taken.has(`value ${n}`)) n++;
    this.desk.change([...values, { name: say.value(n), value: '' }]);
  }

  protected remove(index: number): void {
    this.desk.change((this.values() ?? []).toSpliced(index, 1));
  }

  protected async open(owner: ReturnType<ValuesDesk['owners']>[number]): Promise<void> {
    const { siteId, name, item } = owner;
    const id = item?.id ?? (await this.desk.make({ kind: 'values', name, content: [], ...(siteId ? { siteId } : {}) }));
    if (id) this.go.emit(id);
  }
}
