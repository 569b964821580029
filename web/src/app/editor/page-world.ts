import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { HeldPiece, PictureView, StockHeld } from '@domatium/contracts';
import type { KnownPage, SharedSight } from '@domatium/core/checks';
import { listedPagesOf, pageReferencesOf, picturesOf, type Block, type PageDocument } from '@domatium/core/document';
import type { Nav } from '@domatium/core/frame';
import { wholeTitle } from '@domatium/core/metadata';
import { canonical, type PageId } from '@domatium/core/plan';
import { worldOf, type RenderWorld } from '@domatium/core/render';
import { heldMetadata } from '@domatium/core/stock';
import { fillText } from '@domatium/core/text';
import { isoInstant, type Instant } from '@domatium/core/time';
import { PicturesService } from '../pictures/pictures.service';
import type { RegisterRow } from '@domatium/core/register';
import { RegisterService } from '../hub/register.service';
import { api, Api, Refusal } from '../hub/api';
import {
  blocksOf,
  metadataRules,
  partsOf,
  placeOfRow,
  profileOf,
  siteCssOf,
  StockService,
  themeOf,
  valuesOf,
} from '../hub/stock.service';
import { DraftService } from './draft.service';
import type { Seen } from './canvas-sheets';

/** A picture that never arrives: its description stands there. */
const LOST = 'data:image/png,';

/** What of a picture a page shows. */
const shownOf = (picture: PictureView | undefined) =>
  canonical([picture?.variants, picture?.crop, picture?.description, picture?.formerWords]);

/** What of another page this one shows or is judged by. */
const sameOf = (page: RegisterRow | null | undefined) =>
  page && canonical([page.name, page.host, page.path, page.binnedSince, page.redirectsAfter, page.periods]);

/** What the canvas knows of the world: the same shape the renderer on the server gets, now or at a moment one looks at. */
@Injectable()
export class PageWorld {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly pictures = inject(PicturesService);
  private readonly stock = inject(StockService);
  private readonly draft = inject(DraftService);
  /** The document that is shown. */
  readonly document = signal<PageDocument | null>(null);
  readonly seen = signal<Seen>('plain');
  /** The moment the page is looked at, `null` for now. */
  readonly at = signal<Instant | null>(null);
  private readonly heldThen = signal<StockHeld | null>(null);
  private readonly waysThen = signal<Nav | null>(null);
  private readonly ways = computed(() => (this.at() === null ? this.stock.waysOf(this.site()?.id) : this.waysThen()), {
    equal: (a, b) => a === b || canonical(a) === canonical(b),
  });
  private readonly titles = signal<ReadonlyMap<number, string | null>>(new Map());
  readonly held = computed(() => (this.at() === null ? this.stock.held() : (this.heldThen() ?? this.stock.held())));
  readonly site = computed(
    () => this.register.head()?.sites.find(({ id }) => id === this.draft.draft()?.siteId) ?? null,
  );
  /** What the site is, and how it looks. */
  readonly profile = computed(() => profileOf(this.held(), this.site()?.id));
  readonly theme = computed(() => themeOf(this.held(), this.profile().theme));
  /** Own CSS of the site. */
  readonly siteCss = computed(() => siteCssOf(this.held(), this.site()?.id));
  private readonly moment = computed(() => this.at() ?? this.register.now());
  private readonly listed = computed(() => {
    const document = this.document();
    return document
      ? listedPagesOf(this.withPieces(document))
          .sort((a, b) => a - b)
          .join()
      : '';
  });

  /** What stands around the page. */
  readonly place = computed(() => placeOfRow(this.register.page(this.draft.pageId()), this.site()), {
    equal: (a, b) => canonical(a) === canonical(b),
  });
  private readonly own = computed(() => this.document()?.metadata.frame, {
    equal: (a, b) => a === b || canonical(a ?? null) === canonical(b ?? null),
  });
  private readonly parts = computed(() => partsOf(this.held(), this.place(), this.own()), {
    equal: (a, b) => canonical(a) === canonical(b),
  });
  /** The page with all that stands around it, for what both show. */
  private withParts(document: PageDocument): PageDocument {
    const { header, footer, bands } = this.parts();
    const around = [header, footer, ...bands].flatMap((part) => (part && part !== 'none' ? part.blocks : []));
    return this.withPieces({ ...document, blocks: [...document.blocks, ...around] });
  }

  /** The pictures of this page alone, and only where one of them is another: others come in meanwhile. */
  private readonly shownPictures = computed(
    () => {
      const document = this.document();
      const byId = this.pictures.byId();
      const ids = document ? picturesOf(this.withParts(document)).map(({ value }) => value.pictureId) : [];
      return new Map(
        [...new Set(ids)].flatMap((id) => {
          const picture = byId.get(id);
          return picture ? [[id, picture] as const] : [];
        }),
      );
    },
    {
      equal: (a, b) => a.size === b.size && [...a].every(([id, one]) => shownOf(one) === shownOf(b.get(id))),
    },
  );
  /** When the period ends in which the page is live then. */
  private readonly end = computed(() => {
    const at = this.moment();
    const periods = this.register.page(this.draft.pageId())?.periods ?? [];
    return periods.find(({ from, until }) => from <= at && at < (until ?? Infinity))?.until ?? null;
  });
  /** Where the pages lie that this one refers to. */
  private readonly shownPages = computed(
    () => {
      const document = this.document();
      const ids = document ? pageReferencesOf(this.withParts(document)) : [];
      return new Map(ids.map((id) => [id as number, this.register.page(id)]));
    },
    {
      equal: (a, b) =>
        a.size === b.size && [...a].every(([id, page]) => b.has(id) && sameOf(page) === sameOf(b.get(id))),
    },
  );
  /** What a link to a page would lead to now; what is not known yet is not judged. */
  readonly known = (id: PageId): KnownPage | null => {
    const row = this.shownPages().get(id);
    if (!row) return null;
    const now = this.register.now();
    const isComing = row.periods.some(({ until }) => until === null || until > now);
    const ended = row.periods.length ? (row.redirectsAfter ? null : ('ended' as const)) : ('never' as const);
    return { name: row.name, off: row.binnedSince !== null ? 'binned' : isComing ? null : ended };
  };
  /** What the page shows of the stock from now on. */
  readonly shared = computed<SharedSight | null>(() => {
    const held = this.stock.held();
    const items = this.stock.items();
    if (!held || !items) return null;
    const values = valuesOf(held, this.site()?.id ?? null, this.register.now(), this.register.zone());
    return {
      piece: (id) => {
        const piece = held.pieces.find((one) => one.id === id);
        const periods = (items.find((one) => one.id === id)?.periods ?? []).map(({ from, until }) => ({
          from: from as Instant,
          until: until as Instant | null,
        }));
        return piece ? { name: piece.name, periods, blocks: blocksOf(piece) ?? [] } : null;
      },
      values: ({ from }) => [{ from, values }],
    };
  });
  private readonly files = computed(() => this.pictures.files(), { equal: (a, b) => canonical(a) === canonical(b) });

  private readonly language = computed(() => this.document()?.metadata.language ?? this.profile().language);
  private readonly values = computed(() =>
    valuesOf(this.held(), this.site()?.id ?? null, this.moment(), this.register.zone()),
  );
  readonly world = computed<RenderWorld>(() => {
    const pages = this.shownPages();
    const pictures = this.shownPictures();
    const files = new Map(this.files().map((file) => [file.id, file]));
    const pieces = new Map(this.held()?.pieces.map((piece) => [piece.id, this.blocksShown(piece)]));
    const own = this.draft.draft()?.host;
    const titles = this.titles();
    const isWithout = this.seen() === 'no-pictures';
    const at = this.moment();
    const zone = this.register.zone();
    const end = this.end();
    return worldOf({
      pageHref: (id) => {
        const page = pages.get(id);
        return page ? (page.host === own ? page.path : `//${page.host}${page.path}`) : null;
      },
      titleOf: (id) => titles.get(id) ?? null,
      isLive: (id) => pages.get(id)?.periods.some(({ from, until }) => from <= at && at < (until ?? Infinity)) ?? false,
      parts: this.parts(),
      waysAround: { nav: this.ways(), pageId: this.draft.pageId() },
      pictureOf: (id) => {
        const picture = pictures.get(id);
        if (!picture) return null;
        const { variants } = picture;
        return {
          ...picture,
          variants: isWithout ? variants.map((one) => ({ width: one.width, src: LOST })) : variants,
        };
      },
      fileOf: (id) => files.get(id) ?? null,
      pieceOf: (id) => pieces.get(id) ?? null,
      values: this.values(),
      language: this.language(),
      end: end ? { at: end, zone } : null,
      isPast: (moment) => moment <= at,
    });
  });

  /** What is said of the page further up to search engines and where it is shared. */
  readonly said = computed(() => heldMetadata(metadataRules(this.held()), this.place()));
  /** As the page is known elsewhere, with names filled in. */
  readonly knownAs = computed(() => {
    const { title = '', description = '', titleAlone } = this.document()?.metadata ?? {};
    const { brand } = this.profile();
    const said = this.said();
    const [before, after] = [said.titleBefore.value, said.titleAfter.value].map((text) => this.filled(text));
    const filled = this.filled(title);
    const around = wholeTitle(filled, { titleBefore: before ?? '', titleAfter: after ?? '' });
    return {
      title: filled || brand,
      /** With what is said to stand around titles, whether the page wants that or not. */
      around,
      whole: titleAlone || !filled ? filled || brand : around,
      description: this.filled(description || said.description.value),
      siteName: this.filled(said.siteName.value),
    };
  });
  readonly filled = (text: string): string => fillText(text, this.values());

  constructor() {
    effect(() => {
      const at = this.at();
      if (at !== null) untracked(() => void this.lookThen(at));
    });
    effect(() => {
      const [listed, at] = [this.listed(), this.moment()];
      this.register.version();
      if (listed) untracked(() => void this.lookUp(listed, at));
    });
  }

  /** The blocks of a piece as the page would be released with it. */
  piece(id: number): readonly Block[] {
    const piece = this.held()?.pieces.find((one) => one.id === id);
    return (piece && blocksOf(piece)) ?? [];
  }

  /** At another moment nothing but what visitors get then. */
  private blocksShown(piece: HeldPiece): readonly Block[] | null {
    return this.at() === null ? blocksOf(piece) : piece.blocks;
  }

  private withPieces(document: PageDocument): PageDocument {
    const pieces = this.held()?.pieces.flatMap((piece) => this.blocksShown(piece) ?? []) ?? [];
    return pieces.length ? { ...document, blocks: [...document.blocks, ...pieces] } : document;
  }

  private async lookThen(at: Instant): Promise<void> {
    const siteId = this.site()?.id;
    const [held, ways] = await Promise.all([
      this.quietly(this.stock.heldAt(at)),
      siteId ? this.stock.waysAt(siteId, at) : null,
    ]);
    if (this.at() !== at) return;
    this.heldThen.set(held);
    this.waysThen.set(ways);
  }

  private async lookUp(pages: string, at: Instant): Promise<void> {
    const params = { portfolioId: this.register.portfolioId() };
    const titles = await this.quietly(this.client.call(api.titles, { params, query: { pages, at: isoInstant(at) } }));
    if (titles) this.titles.set(new Map(titles));
  }

  /** What can't be had just now is looked for again with the next change. */
  private async quietly<T>(asked: Promise<T>): Promise<T | null> {
    try {
      return await asked;
    } catch (error) {
      if (error instanceof Refusal) return null;
      throw error;
    }
  }
}
