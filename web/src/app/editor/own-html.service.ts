import { inject, Injectable } from '@angular/core';
import { api, Api, Refusal } from '../hub/api';
import { RegisterService } from '../hub/register.service';

/** Keeps own HTML on the server for as long as it is looked at, and says where it is served. */
@Injectable({ providedIn: 'root' })
export class OwnHtmlService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);

  /** `null` where it can’t be kept now. */
  async addressOf(markup: string): Promise<string | null> {
    const portfolioId = this.register.portfolioId();
    try {
      const { key } = await this.client.call(api.showOwnHtml, { params: { portfolioId }, body: { markup } });
      return `/api/portfolios/${portfolioId}/own-html/${key}`;
    } catch (error) {
      if (error instanceof Refusal) return null;
      throw error;
    }
  }
}
