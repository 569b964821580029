import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { PlaceService } from './place.service';
import { RegisterService } from './register.service';
import { ViewService } from './view.service';

/**
 * The pages one has chosen, for acts on many at once. A choice outlives filters and sorting, not the portfolio, and ends
 * where its page leaves the list: into the bin, or out of it.
 */
@Injectable({ providedIn: 'root' })
export class SelectionService {
  private readonly service = inject(RegisterService);
  private readonly view = inject(ViewService);
  private readonly place = inject(PlaceService);
  private readonly isBin = computed(() => this.place.scopeKey() === 'bin');
  private anchor: number | null = null;
  readonly ids = signal<ReadonlySet<number>>(new Set());
  readonly size = computed(() => this.ids().size);
  /** Whether every page of the list is chosen, whatever else is. */
  readonly isAll = signal(false);

  constructor() {
    effect(() => {
      const portfolioId = this.service.portfolioId();
      untracked(() => {
        this.anchor = null;
        this.ids.set(new Set(keptFor(portfolioId, this.isBin())));
      });
    });
    // A choice outlives a reload, as it outlives the editor: in the list it was made in, since its pages may be elsewhere now.
    effect(() => {
      const ids = [...this.ids()];
      const portfolioId = untracked(this.service.portfolioId);
      if (portfolioId)
        sessionStorage.setItem(keyFor(portfolioId), JSON.stringify({ ids, isBin: untracked(this.isBin) }));
    });
    effect(() => {
      const ids = this.ids();
      this.view.answer();
      const pages = this.view.summary()?.pages ?? 0;
      if (!pages || ids.size < pages) return this.isAll.set(false);
      void this.service.desk.ids().then((list) => {
        if (this.ids() === ids) this.isAll.set(list.length > 0 && list.every((id) => ids.has(id)));
      });
    });
    effect(() => {
      if (!this.service.version()) return;
      const isBin = this.isBin();
      untracked(() => void this.dropOthers(isBin));
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

  /** Chooses every page of the list beside what is chosen, or leaves those of the list out. */
  async toggleAll(): Promise<void> {
    const list = await this.service.desk.ids();
    const isAll = list.every((id) => this.ids().has(id));
    this.ids.update((all) => {
      const rest = [...all].filter((id) => !list.includes(id));
      return new Set(isAll ? rest : [...all, ...list]);
    });
  }

  private async dropOthers(isBin: boolean): Promise<void> {
    const chosen = [...this.ids()];
    if (!chosen.length) return;
    const rows = await this.service.rowsOf(chosen);
    const here = new Set(rows.filter(({ binnedSince }) => (binnedSince !== null) === isBin).map(({ id }) => id));
    const gone = new Set(chosen.filter((id) => !here.has(id)));
    if (gone.size) this.ids.update((all) => new Set([...all].filter((id) => !gone.has(id))));
  }

  clear(): void {
    this.anchor = null;
    this.ids.set(new Set());
  }
}

const keyFor = (portfolioId: number) => `domatium.chosen.${portfolioId}`;

function keptFor(portfolioId: number, isBin: boolean): number[] {
  try {
    const kept = JSON.parse(sessionStorage.getItem(keyFor(portfolioId)) ?? '{}') as { ids?: unknown; isBin?: unknown };
    return Array.isArray(kept.ids) && kept.isBin === isBin ? kept.ids.filter((id) => typeof id === 'number') : [];
  } catch {
    return [];
  }
}
