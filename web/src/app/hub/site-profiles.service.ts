import { inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import type { SiteProfile } from '@domatium/core/stock';
import { refusalOf } from './answer';
import { api, Api } from './api';
import { NoticeService } from './notices';
import { RegisterService } from './register.service';
import { StockService } from './stock.service';
import { say } from '@domatium/core/words/hub';
import { say as common } from '@domatium/core/words/common';

/** What a site is, changed from elsewhere: the change goes into the draft of its profile, which is opened to be released. */
@Injectable({ providedIn: 'root' })
export class SiteProfilesService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly stock = inject(StockService);
  private readonly notices = inject(NoticeService);
  private readonly router = inject(Router);

  /** Gives why not where it is refused. */
  async change(
    site: { readonly id: number; readonly name: string },
    change: Partial<SiteProfile>,
  ): Promise<string | null> {
    const portfolioId = this.register.portfolioId();
    const itemId = this.stock.items()?.find(({ kind, siteId }) => kind === 'profile' && siteId === site.id)?.id;
    if (!itemId) return say.thisSiteIsNotKnownHere;
    const params = { portfolioId, itemId };
    const keep = async (from: Partial<SiteProfile>) => {
      const { draftVersion, name, draft } = await this.client.call(api.stockItem, { params });
      const content = { ...(draft as SiteProfile), ...from };
      await this.client.call(api.saveStock, { params, body: { version: draftVersion, name, content } });
      return draft as SiteProfile;
    };
    return refusalOf(async () => {
      const before = await keep(change);
      const undo = async () => {
        const refusal = await refusalOf(() => keep(before));
        if (refusal) this.notices.say({ kind: 'trouble', text: refusal });
        else await this.open(itemId);
      };
      await this.open(itemId);
      this.notices.say({
        kind: 'done',
        text: say.theDraftOfHasChangedVisitors(site.name),
        action: { label: common.undo, run: () => void undo() },
      });
    });
  }

  /** Its desk, with the draft as it is by now. */
  private async open(item: number): Promise<void> {
    const place = ['/portfolios', this.register.portfolioId(), 'stock', 'sites'];
    await this.router.navigate(place, { queryParams: { item: null } });
    await this.router.navigate(place, { queryParams: { item } });
  }
}
