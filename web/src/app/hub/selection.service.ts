import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { RegisterService } from './register.service';
import { ViewService } from './view.service';

/** The pages one has chosen, for acts on many at once. A choice outlives filters and sorting, not the portfolio. */
@Injectable({ providedIn: 'root' })
export class SelectionService {
  private readonly service = inject(RegisterService);
  private readonly view = inject(ViewService);
  private anchor: number | null = null;
  readonly ids = signal<ReadonlySet<number>>(new Set());
  readonly size = computed(() => this.ids().size);
  readonly isAll = computed(() => this.size() > 0 && this.size() === (this.view.summary()?.pages ?? 0));

  constructor() {
    effect(() => {
      this.service.portfolioId();
      untracked(() => this.clear());
    });
  }

  /** Chooses or leaves out a page; with a range, all from the last one that was touched to this. */
  async toggle(id: number, isRange: boolean): Promise<void> {
    const isChosen = !this.ids().has(id);
    const range = isRange && this.anchor !== null ? await this.service.desk.ids([this.anchor, id]) : [];
    const changed = range.length ? range : [id];
    this.anchor = id;
    this.ids.update((all) => {
      const next = new Set(all);
      for (const one of changed)
        if (isChosen) next.add(one);
        else next.delete(one);
      return next;
    });
  }

  /** Chooses every page of the filter, or none. */
  async toggleAll(): Promise<void> {
    if (this.isAll()) this.clear();
    else this.ids.set(new Set(await this.service.desk.ids()));
  }

  clear(): void {
    this.anchor = null;
    this.ids.set(new Set());
  }
}
