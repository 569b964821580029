import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { AlikePage } from '@domatium/core/metadata';
import { api, Api, Refusal } from '../hub/api';
import { RegisterService } from '../hub/register.service';
import { DraftService } from './draft.service';

/** After so long without a key. */
const PAUSE = 500;

/** What other pages are compared with. */
interface Compared {
  readonly title: string;
  readonly description: string;
  /** One a line. */
  readonly phrases: string;
}
const isSame = (a: Compared, b: Compared) =>
  a.title === b.title && a.description === b.description && a.phrases === b.phrases;

/** Other pages with the title or description of the one that is edited, or nearly: asked for as one types. */
@Injectable()
export class AlikePages {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  protected readonly draft = inject(DraftService);
  readonly all = signal<readonly AlikePage[]>([]);
  private readonly compared = computed(() => this.read(), { equal: isSame });

  constructor() {
    effect((tidy) => {
      const compared = this.compared();
      const page = this.draft.pageId();
      const timer = setTimeout(() => void untracked(() => this.ask(page, compared)), PAUSE);
      tidy(() => clearTimeout(timer));
    });
  }

  protected read(): Compared {
    const { title = '', description = '' } = this.draft.document()?.metadata ?? {};
    return { title, description, phrases: '' };
  }

  private async ask(page: number, compared: Compared): Promise<void> {
    if (!page || !(compared.title + compared.description + compared.phrases).trim()) return this.all.set([]);
    try {
      const params = { portfolioId: this.register.portfolioId() };
      const all = await this.client.call(api.alike, { params, query: { page, ...compared } });
      if (isSame(this.compared(), compared)) this.all.set(all);
    } catch (error) {
      // It is asked again with the next word.
      if (!(error instanceof Refusal)) throw error;
    }
  }
}

/** Other pages that aim at the phrases of the one that is edited. */
@Injectable()
export class AlikePhrases extends AlikePages {
  protected override read(): Compared {
    return { title: '', description: '', phrases: (this.draft.document()?.metadata.phrases ?? []).join('\n') };
  }
}
