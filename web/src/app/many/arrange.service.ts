import { inject, Injectable } from '@angular/core';
import type { ArrangeBody } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { api, Api, Refusal } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { say as common } from '@domatium/core/words/common';

export type Arranged = ArrangeBody['pages'][number];

/** Gives pages their campaign, owner and labels, and takes that back. */
@Injectable({ providedIn: 'root' })
export class ArrangeService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly notices = inject(NoticeService);

  /** Gives why it was refused, or `null` where it is done. */
  async arrange(pages: readonly Arranged[], done: string, before: readonly Arranged[]): Promise<string | null> {
    try {
      const { versions } = await this.client.call(api.arrange, {
        params: { portfolioId: this.register.portfolioId() },
        body: { pages },
      });
      const newest = new Map(versions);
      const undo = before.map((page) => ({ ...page, version: newest.get(page.id) ?? page.version }));
      this.notices.say({
        kind: 'done',
        text: done,
        action: { label: common.undo, run: () => void this.arrange(undo, 'Restored.', pages) },
      });
      return null;
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.notices.say({ kind: 'trouble', text: error.message });
      return error.message;
    }
  }
}
