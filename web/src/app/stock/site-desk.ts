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
import type { PictureUse } from '@domatium/core/document';
import type { PictureId } from '@domatium/core/plan';
import type { SiteProfile } from '@domatium/core/stock';
import { writeInstant, type Instant } from '@domatium/core/time';
import { Canvas, type CanvasWidth } from '../editor/canvas';
import { PictureField } from '../editor/picture-field';
import { RegisterService } from '../hub/register.service';
import { siteCssOf, StockService, themeOf } from '../hub/stock.service';
import { DeskTrouble } from './desk-trouble';
import { PageBeside } from './page-beside';
import { StockDesk } from './stock-desk.service';
import { StockRelease } from './stock-release';
import { say } from '@domatium/core/words/stock';
import { say as common } from '@domatium/core/words/common';

/** Languages that are offered; any other can be typed. */
const LANGUAGES =
  'ar bg ca cs cy da de el en en-GB en-US es et eu fa fi fo fr ga gl he hi hr hu id is it ja ko lt lv mk mt nb nl nn pl pt pt-BR ro ru se sk sl sq sr sv th tr uk vi zh';

/** What a site is to its visitors: changed with a page of it beside, and put on all of its pages at once or for a while. */
@Component({
  selector: 'dm-site-desk',
  imports: [Canvas, DeskTrouble, PictureField, StockRelease],
  providers: [PageBeside],
  templateUrl: './site-desk.html',
  styleUrl: './desk.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SiteDesk {
  protected readonly say = say;
  protected readonly common = common;
  readonly item = input.required<string | null>();
  readonly go = output<number>();
  protected readonly desk = inject(StockDesk);
  protected readonly stock = inject(StockService);
  protected readonly service = inject(RegisterService);
  protected readonly beside = inject(PageBeside);
  protected readonly width = signal<CanvasWidth>('wide');
  private readonly names = new Intl.DisplayNames('en', { type: 'language' });
  protected readonly languages = LANGUAGES.split(' ')
    .map((tag) => ({ tag, words: this.names.of(tag) ?? tag }))
    .sort((a, b) => a.words.localeCompare(b.words));
  /** Each site with its profile. */
  protected readonly entries = computed(() => {
    const profiles = (this.stock.items() ?? []).filter(({ kind }) => kind === 'profile');
    return (this.service.head()?.sites ?? []).flatMap((site) => {
      const found = profiles.find(({ siteId }) => siteId === site.id);
      return found?.id ? [{ id: found.id, site, words: this.stateOf(found) }] : [];
    });
  });
  protected readonly profile = computed(() =>
    this.desk.draft() && this.desk.item()?.kind === 'profile' ? (this.desk.draft() as SiteProfile) : null,
  );
  protected readonly site = computed(
    () => this.service.head()?.sites.find(({ id }) => id === this.desk.item()?.siteId) ?? null,
  );
  protected readonly theme = computed(() => themeOf(this.stock.held(), this.profile()?.theme));
  protected readonly siteCss = computed(() => siteCssOf(this.stock.held(), this.site()?.id));
  protected readonly links = computed(() => ({
    ...this.beside.world(),
    language: this.profile()?.language ?? 'en',
  }));
  protected readonly pages = computed(() => this.desk.item()?.pages ?? []);
  protected readonly languageName = computed(() => {
    try {
      return this.names.of(this.profile()?.language ?? '') ?? '';
    } catch {
      // Half a tag has no name yet; the server says what is wrong with it once it is kept.
      return '';
    }
  });
  protected readonly faces = computed(() => {
    const profile = this.profile();
    const use = (id: PictureId | null | undefined): PictureUse | null =>
      id ? { pictureId: id, description: '', isDecorative: true } : null;
    return [
      {
        key: 'iconId' as const,
        label: say.icon,
        use: use(profile?.iconId),
        note: say.croppedSquareAPageCanHave,
      },
      {
        key: 'shareId' as const,
        label: say.pictureWhereItsPagesAreShared,
        use: use(profile?.shareId),
        note: say.croppedTo1200630ShownForPages,
      },
    ];
  });

  constructor() {
    effect(() => {
      const [page, site] = [this.pages()[0]?.pageId ?? null, this.site()];
      if (site) untracked(() => void this.beside.showOneOf(page, [site.id]));
    });
  }

  private stateOf({ periods, draftDiffers }: { periods: readonly { from: number }[]; draftDiffers: boolean }): string {
    const now = this.service.now();
    const next = periods.find(({ from }) => from > now);
    if (next) return say.changes(writeInstant(next.from as Instant, this.service.zone(), now));
    return draftDiffers ? say.draftDiffers : '';
  }

  protected set<Key extends keyof SiteProfile>(key: Key, value: SiteProfile[Key]): void {
    const profile = this.profile();
    if (profile && profile[key] !== value) this.desk.change({ ...profile, [key]: value });
  }
}
