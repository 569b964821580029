import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import type { StockContent } from '@domatium/core/stock';
import { stylesheetOf } from '@domatium/core/theme';
import { Canvas, type CanvasWidth } from '../editor/canvas';
import { RegisterService } from '../hub/register.service';
import { OwnCssField } from '../source/own-css-field';
import { DeskTrouble } from './desk-trouble';
import { PageBeside } from './page-beside';
import { StockDesk } from './stock-desk.service';
import { StockRelease } from './stock-release';
import { profileOf, StockService, themeOf } from '../hub/stock.service';
import { say } from '@domatium/core/words/stock';
import { say as common } from '@domatium/core/words/common';

/** Own CSS of a site: checked as one types, on a page of the site beside, and put on all of its pages at once. */
@Component({
  selector: 'dm-css-desk',
  imports: [Canvas, OwnCssField, DeskTrouble, StockRelease],
  providers: [PageBeside],
  templateUrl: './css-desk.html',
  styleUrls: ['./desk.scss', './css-desk.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CssDesk {
  protected readonly say = say;
  protected readonly common = common;
  readonly item = input.required<string | null>();
  readonly go = output<number>();
  protected readonly desk = inject(StockDesk);
  protected readonly stock = inject(StockService);
  protected readonly service = inject(RegisterService);
  protected readonly beside = inject(PageBeside);
  protected readonly width = signal<CanvasWidth>('wide');
  /** Each site with what is kept for it, if anything. */
  protected readonly owners = computed(() => {
    // Not known yet is not none: one would be made beside it.
    const kept = this.stock.items()?.filter(({ kind }) => kind === 'css');
    if (!kept) return [];
    return (this.service.head()?.sites ?? []).map((site) => ({
      site,
      kept: kept.find(({ siteId }) => siteId === site.id) ?? null,
    }));
  });
  protected readonly css = computed(() =>
    this.desk.draft() && this.desk.item()?.kind === 'css' ? (this.desk.draft() as StockContent['css']).css : null,
  );
  protected readonly site = computed(
    () => this.service.head()?.sites.find(({ id }) => id === this.desk.item()?.siteId) ?? null,
  );
  protected readonly profile = computed(() => profileOf(this.stock.held(), this.site()?.id));
  protected readonly theme = computed(() => themeOf(this.stock.held(), this.profile().theme));
  protected readonly below = computed(() => stylesheetOf(this.theme(), (file) => file));
  protected readonly pages = computed(() => this.desk.item()?.pages ?? []);

  constructor() {
    effect(() => {
      const [page, site] = [this.pages()[0]?.pageId ?? null, this.site()];
      if (site) untracked(() => void this.beside.showOneOf(page, [site.id]));
    });
  }

  protected set(css: string): void {
    if (css !== this.css()) this.desk.change({ css });
  }

  protected async open({ site, kept }: ReturnType<CssDesk['owners']>[number]): Promise<void> {
    const { id: siteId, name } = site;
    const id = kept?.id ?? (await this.desk.make({ kind: 'css', name: say.cSSOf(name), content: { css: '' }, siteId }));
    if (id) this.go.emit(id);
  }
}
