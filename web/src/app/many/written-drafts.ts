import { inject, Injectable } from '@angular/core';
import { say } from '@domatium/core/words/many';
import { say as common } from '@domatium/core/words/common';
import { api, Api, Refusal } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';

/** A draft as it was seen, or written. */
export interface DraftSeen {
  readonly pageId: number;
  readonly version: number;
}

/** What follows once many drafts were written: their pages are chosen, and one press gives the drafts back what they were. */
@Injectable({ providedIn: 'root' })
export class WrittenDrafts {
  private readonly client = inject(Api);
  private readonly notices = inject(NoticeService);
  private readonly selection = inject(SelectionService);
  private readonly service = inject(RegisterService);

  say(drafts: readonly DraftSeen[]): void {
    this.selection.ids.set(new Set(drafts.map(({ pageId }) => pageId)));
    this.notices.say({
      kind: 'done',
      text: say.placedInDrafts(drafts.length),
      action: { label: common.undo, run: () => void this.back(drafts) },
    });
  }

  private async back(drafts: readonly DraftSeen[]): Promise<void> {
    try {
      const seen = drafts.map(({ pageId, version }) => ({ pageId, version }));
      const params = { portfolioId: this.service.portfolioId() };
      const { count } = await this.client.call(api.draftsBack, { params, body: { seen } });
      this.notices.say({ kind: 'done', text: say.placedBack(count, drafts.length) });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.notices.say({ kind: 'trouble', text: error.message });
    }
  }
}
