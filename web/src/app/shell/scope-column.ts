import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { RegisterService } from '../register/register.service';
import { SessionService } from '../session/session.service';
import { PlaceService } from './place.service';

interface Domain {
  readonly name: string;
  readonly count: number;
  readonly sites: readonly { readonly id: number; readonly name: string; readonly count: number }[];
}

/** Where: portfolio, domains, sites, campaigns. What is chosen filters every view. */
@Component({
  selector: 'dm-scope-column',
  imports: [NgbDropdownModule],
  templateUrl: './scope-column.html',
  styleUrl: './scope-column.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ScopeColumn {
  protected readonly service = inject(RegisterService);
  protected readonly session = inject(SessionService);
  protected readonly place = inject(PlaceService);
  private readonly router = inject(Router);
  private readonly folded = signal<ReadonlySet<string>>(new Set());

  protected readonly domains = computed<Domain[]>(() => {
    const pages = this.service.pages();
    const count = (siteId: number) => pages.filter((page) => page.siteId === siteId).length;
    const domains = new Map<string, { id: number; name: string; count: number }[]>();
    for (const { id, name, domain, host } of this.service.register()?.sites ?? []) {
      const key = domain ?? host;
      domains.set(key, [...(domains.get(key) ?? []), { id, name, count: count(id) }]);
    }
    return [...domains].map(([name, sites]) => ({
      name,
      sites,
      count: sites.reduce((sum, site) => sum + site.count, 0),
    }));
  });
  protected readonly campaigns = computed(() =>
    (this.service.register()?.campaigns ?? []).map((campaign) => ({
      ...campaign,
      count: this.service.pages().filter(({ campaignId }) => campaignId === campaign.id).length,
    })),
  );

  protected isOpen(domain: Domain): boolean {
    return domain.sites.length > 1 && !this.folded().has(domain.name);
  }

  protected fold(name: string, event: Event): void {
    event.stopPropagation();
    this.folded.update((all) =>
      all.has(name) ? new Set([...all].filter((one) => one !== name)) : new Set([...all, name]),
    );
  }

  protected choose(scope: string): void {
    this.place.go({ scope, page: null, panel: null });
  }

  protected switchTo(portfolioId: number): void {
    void this.router.navigate(['/portfolios', portfolioId, 'pages']);
  }
}
