import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  type OnDestroy,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { renameBody } from '@domatium/contracts';
import { pathBelow } from '@domatium/core/address';
import { runsOn } from '@domatium/core/codes';
import { rowUnfound } from '@domatium/core/register';
import { SEARCH_WORDS } from '@domatium/core/words';
import { filter } from 'rxjs';
import { ConflictBar } from '../editor/conflict-bar';
import { DraftFindings } from '../editor/draft-findings';
import { DraftService } from '../editor/draft.service';
import { keepingWords } from '../editor/keeping-words';
import { PageFields } from '../editor/page-fields';
import { PageSearch } from '../editor/page-search';
import { PageWorld } from '../editor/page-world';
import { api, Api, Refusal } from '../hub/api';
import { errorsOf } from '../hub/forms';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';
import { StockService } from '../hub/stock.service';
import { PicturesService } from '../pictures/pictures.service';
import { WideSheet } from '../shared/wide-sheet';
import { say } from '@domatium/core/words/pages';
import { say as codeWords } from '@domatium/core/words/codes';
import { say as common } from '@domatium/core/words/common';

/**
 * Everything a page is beside its blocks, in one sheet: its name and where it lies, what it belongs to, and what its draft
 * says to search engines and those who share it. The same fields as in the editor, over the same draft.
 */
@Component({
  selector: 'dm-settings-sheet',
  imports: [ConflictBar, PageFields, PageSearch, WideSheet],
  providers: [DraftService, PageWorld, DraftFindings],
  templateUrl: './settings-sheet.html',
  styleUrl: './settings-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SettingsSheet implements OnDestroy {
  protected readonly say = say;
  protected readonly common = common;
  readonly pageId = input.required<number>();
  protected readonly draft = inject(DraftService);
  protected readonly place = inject(PlaceService);
  protected readonly service = inject(RegisterService);
  private readonly world = inject(PageWorld);
  private readonly findings = inject(DraftFindings);
  private readonly selection = inject(SelectionService);
  private readonly stock = inject(StockService);
  private readonly pictures = inject(PicturesService);
  private readonly client = inject(Api);
  private readonly router = inject(Router);
  protected readonly trouble = signal<string | null>(null);
  protected readonly nameFault = signal<string | null>(null);
  protected readonly row = computed(() => this.service.page(this.pageId()));
  protected readonly kept = computed(() =>
    keepingWords(this.draft, { zone: this.service.zone(), now: this.service.now() }),
  );
  protected readonly found = computed(() => {
    const row = this.row();
    return row ? SEARCH_WORDS[rowUnfound(row, this.service.shown()) ?? 'found'] : '';
  });
  /** What runs on the page now, for visitors. */
  protected readonly codes = computed(() => {
    const row = this.row();
    const site = this.service.head()?.sites.find(({ id }) => id === row?.siteId);
    if (!row || !site) return [];
    const spot = { siteId: row.siteId, path: pathBelow(site.basePath, row.path), pageId: row.id };
    const href = `/portfolios/${this.service.portfolioId()}/stock/codes?item=`;
    return (this.stock.held()?.codes ?? [])
      .filter(({ code }) => runsOn(code, spot))
      .map(({ id, name, code }) => ({ id, name, purpose: codeWords.purposes[code.purpose], href: href + id }));
  });
  protected readonly belongs = computed(() => {
    const { campaign = null, owner = null, labels = [] } = this.row() ?? {};
    return [campaign, owner, ...labels].filter(Boolean).join(' · ') || say.nothingYet;
  });
  /** What is wrong with what the page says of itself, with what a machine can do about it. */
  protected readonly faults = computed(() =>
    this.findings
      .all()
      .filter(({ place }) => place && 'metadata' in place && place.metadata !== 'css')
      .map((finding) => ({ finding, mends: this.findings.mends(finding) })),
  );

  constructor() {
    effect(() => {
      const [portfolioId, pageId] = [this.service.portfolioId(), this.pageId()];
      if (portfolioId) untracked(() => void this.load(portfolioId, pageId));
    });
    effect(() => this.world.document.set(this.draft.document()));
    this.service.events
      .pipe(
        filter(({ kind, pageIds }) => kind === 'draft' && !!pageIds?.includes(this.pageId())),
        takeUntilDestroyed(),
      )
      .subscribe(({ version }) => void this.draft.follow(version));
  }

  private async load(portfolioId: number, pageId: number): Promise<void> {
    try {
      void this.stock.open(portfolioId);
      await this.pictures.open(portfolioId);
      await this.draft.open(portfolioId, pageId);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
    }
  }

  protected async rename(name: string): Promise<void> {
    const row = this.row();
    if (!row || name === row.name) return this.nameFault.set(null);
    const body = { name, version: row.version };
    const wrong = errorsOf(renameBody, body)['name'];
    if (wrong) return this.nameFault.set(wrong);
    try {
      const params = { portfolioId: this.service.portfolioId(), pageId: this.pageId() };
      await this.client.call(api.rename, { params, body });
      this.nameFault.set(null);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.nameFault.set(error.at('name') ?? error.message);
    }
  }

  /** On to another sheet of the same page, with what was typed kept before. */
  protected async goOn(panel: 'move' | 'release'): Promise<void> {
    await this.draft.keep();
    if (panel === 'move' || !this.draft.isUnsaved()) this.place.go({ panel });
  }

  protected arrange(): void {
    this.selection.ids.set(new Set([this.pageId()]));
    this.place.go({ panel: 'arrange' });
  }

  protected edit(): void {
    void this.router.navigate(['/portfolios', this.service.portfolioId(), 'pages', this.pageId(), 'edit']);
  }

  ngOnDestroy(): void {
    void this.draft.keep();
  }
}
