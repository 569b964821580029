import { computed, inject, Injectable, signal } from '@angular/core';
import type { PageDocument } from '@domatium/core/document';
import type { RegisterRow } from '@domatium/core/register';
import { worldOf, type RenderWorld } from '@domatium/core/render';
import { PicturesService } from '../pictures/pictures.service';
import { RegisterService } from '../hub/register.service';
import { api, Api, Refusal } from '../hub/api';
import { partsOf, placeOfRow, profileOf, siteCssOf, StockService, valuesOf } from '../hub/stock.service';

/** A page to see a change of the stock on. One for each desk. */
@Injectable()
export class PageBeside {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly pictures = inject(PicturesService);
  private readonly stock = inject(StockService);
  readonly document = signal<PageDocument | null>(null);
  readonly pageId = signal<number | null>(null);
  private readonly siteId = signal<number | null>(null);
  private readonly site = computed(() => this.register.head()?.sites.find(({ id }) => id === this.siteId()) ?? null);
  readonly place = computed(() => placeOfRow(this.register.page(this.pageId()), this.site()));
  /** Own CSS of its site, as it holds now. */
  readonly siteCss = computed(() => siteCssOf(this.stock.held(), this.siteId()));
  readonly world = computed<RenderWorld>(() => {
    const byId = this.pictures.byId();
    const pieces = new Map(this.stock.pieces().map(({ id, blocks }) => [id, blocks]));
    return worldOf({
      pageHref: () => '#',
      titleOf: () => 'A page',
      isLive: (id) => this.isLive(this.register.page(id)),
      waysAround: { nav: this.stock.waysOf(this.siteId()), pageId: this.pageId() },
      parts: partsOf(this.stock.held(), this.place(), this.document()?.metadata.frame),
      pictureOf: (id) => byId.get(id) ?? null,
      pieceOf: (id) => pieces.get(id) ?? null,
      values: valuesOf(this.stock.held(), this.siteId(), this.register.now(), this.register.zone()),
      language: profileOf(this.stock.held(), this.siteId()).language,
    });
  });

  /** Shows a page, or without one any page of those sites. */
  async showOneOf(id: number | null, sites: readonly number[]): Promise<void> {
    const row = id === null && sites.length ? await this.oneOf(sites) : null;
    const pageId = id ?? row?.id ?? null;
    if (pageId === null) this.clear();
    else if (pageId !== this.pageId()) await this.show(pageId);
  }

  /** What is not known yet is taken to be live. */
  private isLive(page: RegisterRow | null | undefined): boolean {
    const now = this.register.now();
    return page?.periods.some(({ from, until }) => from <= now && now < (until ?? Infinity)) ?? true;
  }

  /** A page that is live, where there is one. */
  private async oneOf(sites: readonly number[]) {
    const now = this.register.now();
    const pages = (await this.register.desk.pick('', now, null, 400)).filter(({ siteId }) => sites.includes(siteId));
    const live = pages.filter((page) => this.isLive(page));
    return live.find(({ path }) => path === '/') ?? live[0] ?? pages[0];
  }

  async show(pageId: number): Promise<void> {
    this.pageId.set(pageId);
    try {
      const draft = await this.client.call(api.draft, { params: { portfolioId: this.register.portfolioId(), pageId } });
      if (this.pageId() !== pageId) return;
      this.document.set(draft.document);
      this.siteId.set(draft.siteId);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  private clear(): void {
    this.pageId.set(null);
    this.document.set(null);
  }
}
