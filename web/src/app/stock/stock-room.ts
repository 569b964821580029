import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router } from '@angular/router';
import { FilesDesk } from '../pictures/files-desk';
import { PicturesService } from '../pictures/pictures.service';
import { PicturesDesk } from '../pictures/pictures-desk';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { TroubleBar } from '../troubles/trouble-bar';
import { CodesDesk } from './codes-desk';
import { CssDesk } from './css-desk';
import { StockDesk } from './stock-desk.service';
import { StockService } from '../hub/stock.service';
import { FrameDesk } from './frame-desk';
import { MetadataDesk } from './metadata-desk';
import { MenusDesk } from './menus-desk';
import { PieceDesk } from './piece-desk';
import { RootDesk } from './root-desk';
import { SiteDesk } from './site-desk';
import { ThemeDesk } from './theme-desk';
import { ValuesDesk } from './values-desk';
import { say } from '@domatium/core/words/stock';
import { say as searching } from '@domatium/core/words/metadata';
import { say as codes } from '@domatium/core/words/codes';
import { say as root } from '@domatium/core/words/root';
import { say as common } from '@domatium/core/words/common';

const SHELVES = [
  { what: 'sites', label: say.sites },
  { what: 'search', label: searching.search },
  { what: 'codes', label: codes.codes },
  { what: 'root', label: root.rootFiles },
  { what: 'frames', label: say.headersAndFooters },
  { what: 'menus', label: say.menusAndLegalPages },
  { what: 'themes', label: say.themes },
  { what: 'pieces', label: say.pieces },
  { what: 'values', label: say.sharedValues },
  { what: 'css', label: say.ownCSS },
  { what: 'pictures', label: common.pictures },
  { what: 'files', label: say.files },
] as const;
type What = (typeof SHELVES)[number]['what'];

/** What many pages use: what their site is, how they look, pieces of content, values in their texts, own CSS of sites, pictures, files. */
@Component({
  selector: 'dm-stock-room',
  imports: [
    TroubleBar,
    CodesDesk,
    FrameDesk,
    MenusDesk,
    MetadataDesk,
    RootDesk,
    SiteDesk,
    ThemeDesk,
    PieceDesk,
    ValuesDesk,
    CssDesk,
    PicturesDesk,
    FilesDesk,
  ],
  providers: [StockDesk],
  templateUrl: './stock-room.html',
  styleUrl: './stock-room.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StockRoom {
  protected readonly say = say;
  protected readonly common = common;
  readonly portfolioId = input.required<string>();
  readonly what = input.required<string>();
  /** The open thing, or the key of a theme that ships. */
  readonly item = input<string>();
  protected readonly service = inject(RegisterService);
  protected readonly stock = inject(StockService);
  protected readonly desk = inject(StockDesk);
  private readonly pictures = inject(PicturesService);
  private readonly router = inject(Router);
  private readonly place = inject(PlaceService);
  private readonly title = inject(Title);
  protected readonly shelves = SHELVES;
  protected readonly shelf = computed<What>(() => SHELVES.find(({ what }) => what === this.what())?.what ?? 'themes');
  protected readonly keptWords = computed(
    () => ({ kept: say.saved, changed: say.saving, keeping: say.saving, refused: say.notSaved })[this.desk.state()],
  );

  constructor() {
    effect(() => {
      const portfolioId = Number(this.portfolioId());
      untracked(() => {
        this.service.open(portfolioId);
        void this.stock.open(portfolioId);
        void this.pictures.open(portfolioId);
      });
    });
    effect(() => {
      // Pictures and files have no drafts: they open by themselves.
      const id = ['pictures', 'files'].includes(this.shelf()) ? 0 : Number(this.item());
      untracked(() => {
        this.desk.close();
        if (id) void this.desk.open(id);
      });
    });
    effect(() => this.title.setTitle(say.domatium(SHELVES.find(({ what }) => what === this.shelf())?.label ?? '')));
  }

  protected go(what: string, item: string | number | null = null): void {
    void this.router.navigate(['/portfolios', this.portfolioId(), 'stock', what], { queryParams: { item } });
  }

  protected back(): void {
    void this.place.toPages(this.portfolioId());
  }

  async leave(): Promise<boolean> {
    await this.desk.keep();
    return true;
  }
}
