import { inject, Injectable } from '@angular/core';
import type { StockView } from '@domatium/contracts';
import { ruleFor, type Held, type PartChoice, type RuleFor, type Said } from '@domatium/core/stock';
import { writeInstant, type Instant } from '@domatium/core/time';
import { say } from '@domatium/core/words/stock';
import { RegisterService } from './register.service';
import { StockService } from './stock.service';

/** Says who put what around a page, and since when. */
@Injectable({ providedIn: 'root' })
export class RuleWords {
  private readonly register = inject(RegisterService);
  private readonly stock = inject(StockService);

  siteName(id: number | null): string {
    return this.register.head()?.sites.find((site) => site.id === id)?.name ?? '';
  }

  /** Which pages a rule is about. */
  about({ scope, of, siteId }: RuleFor): string {
    switch (scope) {
      case 'portfolio':
        return say.allSites;
      case 'domain':
        return say.ofDomain(of);
      case 'site':
        return say.ofSite(this.siteName(siteId));
      case 'path':
        return say.ofPath(of, this.siteName(siteId));
      case 'label':
        return say.ofLabel(of);
      case 'role':
        return say.ofRole(say.roles[of as keyof typeof say.roles]);
      case 'page':
        return say.ofPage(this.register.page(Number(of))?.name ?? say.aPageThatIsGone);
    }
  }

  ofItem({ key, siteId }: Pick<StockView, 'key' | 'siteId'>): string {
    const about = ruleFor(key, siteId);
    return about ? this.about(about) : '';
  }

  /** A part by its name. */
  choice(value: PartChoice): string {
    if (value === 'none') return say.noneAtAll;
    if (typeof value !== 'number') return say.nameOnly;
    return this.stock.items()?.find(({ id }) => id === value)?.name ?? say.nameOnly;
  }

  /** Who said so: a rule, and since when it does, or the page itself. */
  why({ by }: Pick<Held<unknown>, 'by'>): string {
    if (!by) return say.nobodyHasSaid;
    return by.rule ? `${say.fromRule(this.about(by.rule.for))}${this.sinceOf(by)}` : say.fromRule(say.thisPageItself);
  }

  private sinceOf({ rule }: Said): string {
    const now = this.register.now();
    const item = this.stock.items()?.find(({ id }) => id === rule?.id);
    const period = item?.periods.find(({ from, until }) => from <= now && now < (until ?? Infinity));
    if (!period) return '';
    const when = writeInstant(period.from as Instant, this.register.zone(), now);
    return `, ${period.by ? say.sinceBy(when, period.by) : say.since(when)}`;
  }
}
