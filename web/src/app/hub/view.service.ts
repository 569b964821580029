import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { questionOf, type Question } from '@domatium/core/register';
import { api, Api, Refusal } from './api';
import { PlaceService } from './place.service';
import { RegisterService } from './register.service';
import type { Summary } from './desk';

/** Shorter words stand in too many texts to say anything. */
const SHORTEST = 3;
const PAUSE = 200;

/** What the register shows: the question the address bar asks, and its answer. A newer question waits for the older answer only. */
@Injectable({ providedIn: 'root' })
export class ViewService {
  private readonly service = inject(RegisterService);
  private readonly place = inject(PlaceService);
  private readonly client = inject(Api);
  private isAsking = false;
  private isStale = false;
  /** Groups that are folded away, by their label. */
  readonly folded = signal<readonly string[]>([]);
  readonly summary = signal<Summary | null>(null);
  /** Rises with every answer: what the list shows has to be read again. */
  readonly answer = signal(0);
  /** Rises whenever somebody wants to be in the list, by keys. */
  readonly listWanted = signal(0);

  /** Pages whose text holds what is typed, as the server found them; they join when they arrive. */
  private readonly inText = signal<{ readonly find: string; readonly pages: readonly number[] }>({
    find: '',
    pages: [],
  });

  readonly question = computed<Question>(() => ({
    ...questionOf(this.place.view(), this.service.head() ?? { campaigns: [], people: [], labels: [], templates: [] }, {
      at: this.service.shown(),
      now: this.service.now(),
    }),
    inText: this.inText().find === this.place.find() ? this.inText().pages : [],
  }));

  constructor() {
    effect((cleanUp) => {
      const find = this.place.find();
      this.service.version();
      if (find.trim().length < SHORTEST) return;
      const timer = setTimeout(() => void this.findInText(find), PAUSE);
      cleanUp(() => clearTimeout(timer));
    });
    effect(() => {
      this.question();
      this.folded();
      if (this.service.version()) untracked(() => void this.ask());
      else this.summary.set(null);
    });
  }

  wantList(): void {
    this.listWanted.update((n) => n + 1);
  }

  private async findInText(find: string): Promise<void> {
    try {
      const params = { portfolioId: this.service.portfolioId() };
      const { pages } = await this.client.call(api.registerFound, { params, query: { text: find.slice(0, 200) } });
      if (find === this.place.find()) this.inText.set({ find, pages });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  fold(label: string): void {
    this.folded.update((all) => (all.includes(label) ? all.filter((one) => one !== label) : [...all, label]));
  }

  private async ask(): Promise<void> {
    this.isStale = true;
    if (this.isAsking) return;
    this.isAsking = true;
    try {
      while (this.isStale) {
        this.isStale = false;
        this.summary.set(await this.service.desk.ask(this.question(), this.folded()));
        this.answer.update((n) => n + 1);
      }
    } finally {
      this.isAsking = false;
    }
  }
}
