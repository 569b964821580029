import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { api, type TroubleView } from '@domatium/contracts';
import { timer } from 'rxjs';
import { RegisterService } from '../hub/register.service';
import { Api, Refusal } from '../hub/api';
import { say } from '@domatium/core/words/troubles';

const LOOK = 20_000;

/** What goes wrong just now: heard of as it happens, and asked for now and then, since nothing is heard without a database. */
@Injectable({ providedIn: 'root' })
export class TroublesService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly told = signal<readonly TroubleView[]>([]);
  private readonly refusal = signal<TroubleView | null>(null);
  readonly all = computed(() => {
    const refusal = this.refusal();
    return refusal ? [refusal, ...this.told()] : this.told();
  });

  constructor() {
    effect(() => {
      this.register.portfolioId();
      void this.look();
    });
    timer(LOOK, LOOK)
      .pipe(takeUntilDestroyed())
      .subscribe(() => void this.look());
    this.register.events.pipe(takeUntilDestroyed()).subscribe(({ kind }) => {
      if (kind === 'trouble' || kind === 'again') void this.look();
    });
  }

  private async look(): Promise<void> {
    const portfolioId = this.register.portfolioId();
    if (!portfolioId) return;
    try {
      this.told.set(await this.client.call(api.troubles, { params: { portfolioId } }));
      this.refusal.set(null);
    } catch (error) {
      const { status, title, detail } = error instanceof Refusal ? error.problem : { status: 0, title: '', detail: '' };
      const isAway = status === 503 || status === 0;
      const words = title ? `${title}. ${detail}` : say.theServerCantBeReached;
      this.refusal.set(isAway ? { words, since: this.refusal()?.since ?? Date.now() } : null);
      // It comes back by itself: seen soon, not at the next look.
      if (isAway) setTimeout(() => void this.look(), 2_000);
    }
  }
}
