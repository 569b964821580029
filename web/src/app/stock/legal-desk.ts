import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { PageId } from '@domatium/core/plan';
import type { LegalPage } from '@domatium/core/stock';
import { say } from '@domatium/core/words/menus';
import { LegalWords } from '../hub/legal-words';
import { RegisterService } from '../hub/register.service';
import { PagePicker } from '../shared/page-picker';
import { DeskTrouble } from './desk-trouble';
import { StockDesk } from './stock-desk.service';
import { StockRelease } from './stock-release';

/** Legal pages: which a portfolio wants on every site, or the pages of one site that are they. */
@Component({
  selector: 'dm-legal-desk',
  imports: [DeskTrouble, PagePicker, StockRelease],
  templateUrl: './legal-desk.html',
  styleUrls: ['./desk.scss', './legal-desk.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LegalDesk {
  protected readonly say = say;
  readonly pages = input.required<readonly LegalPage[]>();
  /** The site whose pages these are, `null` for the portfolio. */
  readonly site = input<{ readonly id: number; readonly name: string } | null>(null);
  protected readonly desk = inject(StockDesk);
  protected readonly service = inject(RegisterService);
  private readonly legal = inject(LegalWords);
  /** What is to be filled in: of a portfolio its kinds, of a site a page for each that is wanted. */
  protected readonly rows = computed(() =>
    this.site()
      ? this.legal.held(null).map(({ key, name, pageId }) => ({
          ...{ key, name: name || key, forAll: pageId },
          pageId: this.pages().find((one) => one.key === key)?.pageId ?? null,
        }))
      : [],
  );
  protected readonly offered = computed(() =>
    Object.entries(say.legalKinds).filter(([key]) => !this.pages().some((one) => one.key === key)),
  );
  /** Sites where something is missing, with the draft as it is. */
  protected readonly wrong = computed(() => {
    const site = this.site();
    const sites = site ? [site] : (this.service.head()?.sites ?? []);
    return sites.flatMap(({ id, name }) => {
      const found = site
        ? this.legal.findingsOf(id, this.legal.held(null), this.pages())
        : this.legal.findingsOf(id, this.pages());
      return found.length ? [{ id, name, found }] : [];
    });
  });

  protected set(index: number, change: Partial<LegalPage>): void {
    const one = this.pages()[index];
    if (one) this.desk.change(this.pages().with(index, { ...one, ...change }));
  }

  protected choose(index: number, pageId: number): void {
    this.set(index, { pageId: pageId as PageId });
  }

  protected add(key: string, name: string): void {
    this.desk.change([...this.pages(), { key, name, pageId: null }]);
  }

  protected addOther(): void {
    let n = this.pages().length + 1;
    while (this.pages().some(({ key }) => key === say.otherKind(n))) n++;
    this.add(say.otherKind(n), '');
  }

  protected remove(index: number): void {
    this.desk.change(this.pages().toSpliced(index, 1));
  }

  /** Names the page of the site that is one of the wanted. */
  protected name(key: string, pageId: number | null): void {
    const others = this.pages().filter((one) => one.key !== key);
    this.desk.change(pageId === null ? others : [...others, { key, name: '', pageId: pageId as PageId }]);
  }
}
