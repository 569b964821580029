import { inject, Injectable } from '@angular/core';
import type { CodeReach } from '@domatium/core/codes';
import { say } from '@domatium/core/words/codes';
import { RegisterService } from '../hub/register.service';

/** Says on which pages a code runs. */
@Injectable({ providedIn: 'root' })
export class ReachWords {
  private readonly register = inject(RegisterService);

  words(reach: CodeReach): string {
    if ('pageId' in reach) {
      const page = this.register.page(reach.pageId);
      return say.ofPage(page === null ? say.pageGone : (page?.name ?? ''));
    }
    const site = this.register.head()?.sites.find(({ id }) => id === reach.siteId)?.name ?? say.siteGone;
    return reach.path === null ? say.ofSite(site) : say.ofPath(reach.path, site);
  }
}
