import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { TemplateView } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { refusalOf } from '../hub/answer';
import { api, Api, Refusal } from '../hub/api';

/** Templates of the portfolio, read anew whenever something changed. */
@Injectable({ providedIn: 'root' })
export class TemplatesService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  readonly all = signal<readonly TemplateView[]>([]);

  constructor() {
    effect(() => {
      if (this.register.version()) untracked(() => void this.load());
    });
  }

  private async load(): Promise<void> {
    try {
      const params = { portfolioId: this.register.portfolioId() };
      this.all.set(await this.client.call(api.templates, { params }));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  /** Makes a page a template, changes its notes, or makes it none; gives why that was refused, or `null`. */
  async set(pageId: number, version: number, isTemplate: boolean, notes: string): Promise<string | null> {
    const params = { portfolioId: this.register.portfolioId(), pageId };
    const body = { version, isTemplate, notes };
    const refusal = await refusalOf(() => this.client.call(api.setTemplate, { params, body }));
    if (!refusal) void this.load();
    return refusal;
  }
}
