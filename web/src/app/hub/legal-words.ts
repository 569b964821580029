import { inject, Injectable } from '@angular/core';
import { legalFindings, legalOn, type LegalFinding, type LegalPage } from '@domatium/core/stock';
import { writeEnd, type Instant } from '@domatium/core/time';
import { say } from '@domatium/core/words/menus';
import { RegisterService } from './register.service';
import { StockService } from './stock.service';

export type LegalSaid = LegalFinding & { readonly words: string };

/** What is wrong with the legal pages of sites, in words: none is named, or it is not live, now or from a day on. */
@Injectable({ providedIn: 'root' })
export class LegalWords {
  private readonly register = inject(RegisterService);
  private readonly stock = inject(StockService);

  /** The legal pages of the portfolio, or those a site has of its own, as visitors get them. */
  held(siteId: number | null): readonly LegalPage[] {
    return this.stock.held()?.legal.find((one) => one.siteId === siteId)?.pages ?? [];
  }

  /** Of a site as it is, or with what is being changed. */
  findingsOf(siteId: number, wanted = this.held(null), own = this.held(siteId)): LegalSaid[] {
    const now = this.register.now();
    const periodsOf = (id: number) => {
      const page = this.register.page(id);
      if (page === undefined) return null;
      return page && page.binnedSince === null
        ? page.periods.map(({ from, until }) => ({ from: from as Instant, until: until as Instant | null }))
        : [];
    };
    return legalFindings(legalOn(wanted, own), periodsOf, now).map((one) => ({ ...one, words: this.wordsOf(one) }));
  }

  private wordsOf({ kind, what, pageId, from }: LegalFinding): string {
    const page = this.register.page(pageId)?.name ?? '';
    if (what === 'missing') return say.isMissing(kind);
    if (what === 'not-live' || from === null) return say.isNotLive(kind, page);
    return say.isLeaving(kind, page, writeEnd(from as Instant, this.register.zone(), this.register.now()));
  }
}
