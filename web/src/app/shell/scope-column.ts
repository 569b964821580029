import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { RouterLink } from '@angular/router';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import type { ScopeCounts } from '../hub/desk';
import { TemplatesService } from '../pages/templates.service';
import { PreparedService } from '../releases/prepared.service';
import { RegisterService } from '../hub/register.service';
import { SessionService } from '../hub/session.service';
import { PlaceService } from '../hub/place.service';
import { say } from '@domatium/core/words/shell';
import { say as common } from '@domatium/core/words/common';

/** The worst that is open in a place, as a shape and in words. */
interface Worst {
  readonly icon: string;
  readonly words: string;
}
interface Site {
  readonly id: number;
  readonly name: string;
  readonly count: number;
  readonly worst: Worst | null;
}
interface Domain {
  readonly name: string;
  readonly count: number;
  readonly sites: readonly Site[];
  readonly worst: Worst | null;
}

/** Where: portfolio, domains, sites, campaigns. What is chosen filters every view. */
@Component({
  selector: 'dm-scope-column',
  imports: [NgbDropdownModule, RouterLink],
  templateUrl: './scope-column.html',
  styleUrl: './scope-column.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ScopeColumn {
  protected readonly common = common;
  protected readonly say = say;
  protected readonly shelves = [
    { what: 'sites', label: say.sitesThemesPieces, icon: 'bi-palette' },
    { what: 'pictures', label: common.pictures, icon: 'bi-image' },
  ];
  protected readonly service = inject(RegisterService);
  protected readonly session = inject(SessionService);
  protected readonly place = inject(PlaceService);
  protected readonly prepared = inject(PreparedService);
  protected readonly templates = inject(TemplatesService);
  private readonly router = inject(Router);
  private readonly folded = signal<ReadonlySet<string>>(new Set());

  /** How many pages there are at the shown moment. */
  protected readonly counts = signal<ScopeCounts | null>(null);
  protected readonly domains = computed<Domain[]>(() => {
    const domains = new Map<string, Site[]>();
    const all = this.service.head()?.sites ?? [];
    const counts = this.counts()?.sites;
    for (const { id, name, domain, isOwn } of all) {
      // Every portfolio has a host of its own; until a page lies there, nobody looks for it here.
      if (isOwn && counts && all.length > 1 && !counts.get(id)) continue;
      const site = { id, name, count: this.counts()?.sites.get(id) ?? 0, worst: this.worst([id]) };
      const sites = domains.get(domain);
      if (sites) sites.push(site);
      else domains.set(domain, [site]);
    }
    return [...domains].map(([name, sites]) => ({
      name,
      sites,
      worst: this.worst(sites.map(({ id }) => id)),
      count: sites.reduce((sum, site) => sum + site.count, 0),
    }));
  });
  protected readonly campaigns = computed(() =>
    (this.service.head()?.campaigns ?? []).map((campaign) => ({
      ...campaign,
      count: this.counts()?.campaigns.get(campaign.id) ?? 0,
    })),
  );

  protected readonly isOwner = computed(() => this.session.mayAct(this.service.portfolioId(), 'manage'));

  constructor() {
    effect(() => {
      const at = this.service.shown();
      if (this.service.version()) void this.service.desk.scopeCounts(at).then((counts) => this.counts.set(counts));
    });
  }

  private worst(siteIds: readonly number[]): Worst | null {
    const found = siteIds.flatMap((id) => this.counts()?.findings.get(id) ?? []);
    const [blocks, worthFixing] = [
      found.reduce((sum, one) => sum + one.blocks, 0),
      found.reduce((sum, one) => sum + one.worthFixing, 0),
    ];
    if (blocks) return { icon: 'bi-square-fill', words: say.wouldBlockARelease(blocks) };
    return worthFixing ? { icon: 'bi-triangle-fill', words: say.worthFixing(worthFixing) } : null;
  }

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
