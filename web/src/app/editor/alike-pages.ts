import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { AlikePage } from '@domatium/core/metadata';
import { api, Api, Refusal } from '../hub/api';
import { RegisterService } from '../hub/register.service';
import { DraftService } from './draft.service';

/** After so long without a key. */
const PAUSE = 500;

/** Other pages with the title or description of the one that is edited, or nearly: asked for as one types. */
@Injectable()
export class AlikePages {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly draft = inject(DraftService);
  readonly all = signal<readonly AlikePage[]>([]);

  constructor() {
    effect((tidy) => {
      const { title = '', description = '', phrases = [] } = this.draft.document()?.metadata ?? {};
      const page = this.draft.pageId();
      const timer = setTimeout(
        () => void untracked(() => this.ask({ page, title, description, phrases: phrases.join('\n') })),
        PAUSE,
      );
      tidy(() => clearTimeout(timer));
    });
  }

  private async ask(query: { page: number; title: string; description: string; phrases: string }): Promise<void> {
    if (!query.page || !(query.title + query.description + query.phrases).trim()) return this.all.set([]);
    try {
      const all = await this.client.call(api.alike, { params: { portfolioId: this.register.portfolioId() }, query });
      const { title, description } = this.draft.document()?.metadata ?? {};
      if (title === query.title && description === query.description) this.all.set(all);
    } catch (error) {
      // It is asked again with the next word.
      if (!(error instanceof Refusal)) throw error;
    }
  }
}
