import { inject, Injectable } from '@angular/core';
import type { SiteFace } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import { refusalOf } from '../hub/answer';
import { api, Api } from '../hub/api';
import { NoticeService } from '../hub/notices';

/** Theme, icon and share picture of sites: given at once, with the way back offered. */
@Injectable({ providedIn: 'root' })
export class SiteFacesService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly notices = inject(NoticeService);

  /** Changes the face of a site and says so in these words; gives why not where it is refused. */
  async give(siteId: number, change: Partial<Omit<SiteFace, 'version'>>, words: string): Promise<string | null> {
    const params = { portfolioId: this.register.portfolioId(), siteId };
    return refusalOf(async () => {
      const before = await this.client.call(api.siteFace, { params });
      await this.client.call(api.setSiteFace, { params, body: { ...before, ...change } });
      await this.register.load();
      const { version: _, ...former } = before;
      const undo = async () => {
        const refusal = await this.give(siteId, former, 'The site’s look is restored.');
        if (refusal) this.notices.say({ kind: 'trouble', text: refusal });
      };
      this.notices.say({ kind: 'done', text: words, action: { label: 'Undo', run: () => void undo() } });
    });
  }
}
