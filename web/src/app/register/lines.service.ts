import { inject, Injectable, Injector, effect, untracked } from '@angular/core';
import { bufferTime, filter, Subject } from 'rxjs';
import { api, Api, Refusal } from '../hub/api';
import { RegisterService } from '../hub/register.service';

const GATHERED = 60;
/** As many as one request may ask for. */
const MOST = 200;

/** Daily visits of the pages in view, fetched when they come into view and kept until something changes. */
@Injectable({ providedIn: 'root' })
export class LinesService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly wanted = new Subject<number>();
  private readonly lines = new Map<number, readonly number[]>();
  private readonly asked = new Set<number>();
  /** Pages whose lines have come. */
  readonly arrived = new Subject<readonly number[]>();

  constructor() {
    this.wanted
      .pipe(
        bufferTime(GATHERED),
        filter((ids) => ids.length > 0),
      )
      .subscribe((ids) => {
        for (let at = 0; at < ids.length; at += MOST) void this.fetch(ids.slice(at, at + MOST));
      });
    effect(
      () => {
        this.register.portfolioId();
        untracked(() => {
          this.lines.clear();
          this.asked.clear();
        });
      },
      { injector: inject(Injector) },
    );
  }

  /** The line of a page, `null` while it is not here; it is then on its way. */
  of(id: number): readonly number[] | null {
    if (!this.asked.has(id)) {
      this.asked.add(id);
      this.wanted.next(id);
    }
    return this.lines.get(id) ?? null;
  }

  private async fetch(ids: readonly number[]): Promise<void> {
    try {
      const params = { portfolioId: this.register.portfolioId() };
      const lines = await this.client.call(api.registerLines, { params, query: { pages: ids.join(',') } });
      for (const id of ids) this.lines.set(id, []);
      for (const [id, daily] of lines) this.lines.set(id, daily);
      this.arrived.next(ids);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      // Asked for again when the row is drawn again.
      for (const id of ids) this.asked.delete(id);
    }
  }
}
