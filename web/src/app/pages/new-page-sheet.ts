import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { Router } from '@angular/router';
import { newPageBody, type NewPageBody, type AddressCheck } from '@domatium/contracts';
import { slugOf } from '@domatium/core/address';
import { startDocument, STARTS, starts, type Start } from '@domatium/core/starts';
import { profileOf, StockService, themeOf } from '../hub/stock.service';
import { PreviewFrame } from '../shared/preview-frame';
import { TemplatesService } from './templates.service';
import { RegisterService } from '../hub/register.service';
import { api, Api, Refusal } from '../hub/api';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { say } from '@domatium/core/words/pages';
import { say as common } from '@domatium/core/words/common';

/** A new page: its site, what it starts from, its name and its address, checked while one types. */
@Component({
  selector: 'dm-new-page-sheet',
  imports: [PreviewFrame, WideSheet],
  templateUrl: './new-page-sheet.html',
  styleUrl: './new-page-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewPageSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly client = inject(Api);
  private readonly router = inject(Router);
  protected readonly starts = STARTS.map((value) => ({
    value,
    label: starts[value].label,
    words: starts[value].words,
  }));
  protected readonly siteId = signal<number | null>(null);
  protected readonly start = signal<Start>('offer');
  protected readonly templates = inject(TemplatesService);
  /** A template instead of a start. */
  protected readonly templateId = signal<number | null>(null);
  protected readonly name = signal('');
  private readonly typedPath = signal<string | null>(null);
  protected readonly errors = signal<FieldErrors>({});
  protected readonly check = signal<AddressCheck | null>(null);
  protected readonly isBusy = signal(false);

  protected readonly sites = computed(() => this.service.head()?.sites ?? []);
  private readonly stock = inject(StockService);
  private readonly site = computed(() => this.sites().find(({ id }) => id === this.siteId()) ?? null);
  protected readonly base = computed(() => {
    const site = this.site();
    return site ? `${site.host}${site.basePath === '/' ? '' : site.basePath}/` : '';
  });
  protected readonly words = computed(() => starts[this.start()].words);
  /** The page as it would begin, in the look of its site. */
  protected readonly preview = computed(() => {
    const { theme, brand } = profileOf(this.stock.held(), this.site()?.id);
    let n = 0;
    return {
      document: startDocument(this.start(), this.name() || say.theNameOfThePage, () => `preview${n++}`),
      theme: themeOf(this.stock.held(), theme),
      brand,
    } as const;
  });
  /** Follows the name until somebody writes another. */
  protected readonly path = computed(() => this.typedPath() ?? slugOf(this.name()));
  protected readonly body = computed(() => ({
    siteId: this.siteId(),
    start: this.start(),
    templateId: this.templateId(),
    name: this.name(),
    path: `/${this.path().replace(/^\//, '')}`,
  }));
  protected readonly isFollowing = computed(() => this.typedPath() === null);

  constructor() {
    effect(() => {
      const sites = this.sites();
      untracked(() => {
        if (this.siteId() !== null || !sites.length) return;
        const scope = this.place.scope();
        const chosen =
          scope?.kind === 'site'
            ? scope.id
            : scope?.kind === 'domain'
              ? sites.find(({ domain }) => domain === scope.name)?.id
              : undefined;
        this.siteId.set(chosen ?? sites[0]?.id ?? null);
      });
    });
    effect((cleanUp) => {
      const [siteId, path] = [this.siteId(), this.path()];
      if (siteId === null || (!path && this.isFollowing())) return void this.check.set(null);
      const timer = setTimeout(
        () =>
          void this.client
            .call(api.addressCheck, {
              params: { portfolioId: this.service.portfolioId() },
              query: { siteId, path: `/${path.replace(/^\//, '')}` },
            })
            .then(
              (check) => this.check.set(check),
              () => this.check.set(null),
            ),
        180,
      );
      cleanUp(() => clearTimeout(timer));
    });
  }

  protected typed(path: string): void {
    this.typedPath.set(path === '' ? null : path.replace(/^\//, ''));
  }

  protected leave(field: string): void {
    const message = errorsOf(newPageBody, this.body())[field];
    this.errors.update(({ [field]: _old, ...others }) => (message ? { ...others, [field]: message } : others));
  }

  protected async submit(event: Event): Promise<void> {
    event.preventDefault();
    const errors = errorsOf(newPageBody, this.body());
    this.errors.set(errors);
    if (Object.keys(errors).length || this.isBusy()) return;
    this.isBusy.set(true);
    const portfolioId = this.service.portfolioId();
    try {
      const { id } = await this.client.call(api.newPage, { params: { portfolioId }, body: this.body() as NewPageBody });
      // The list is read beside it: nobody waits for it here. The sheet stays busy, so that a second press makes no second page.
      void this.service.load();
      await this.router.navigate(['/portfolios', portfolioId, 'pages', id, 'edit']);
    } catch (error) {
      this.isBusy.set(false);
      if (!(error instanceof Refusal)) throw error;
      this.errors.set(
        error.problem.fields?.length
          ? Object.fromEntries(error.problem.fields.map(({ path, message }) => [path, message]))
          : { whole: error.message },
      );
    }
  }
}
