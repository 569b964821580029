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
import { picturesOf, type Robots } from '@domatium/core/document';
import { wholeTitle } from '@domatium/core/metadata';
import {
  byReach,
  heldMetadata,
  NO_METADATA,
  placeOnSite,
  ruleFor,
  ruleKeyOf,
  SAID_TEXTS,
  saidOfPage,
  type SaidText,
  type SharedMetadata,
} from '@domatium/core/stock';
import { fillText } from '@domatium/core/text';
import { say as common } from '@domatium/core/words/common';
import { say } from '@domatium/core/words/metadata';
import { say as stockWords } from '@domatium/core/words/stock';
import { RegisterService } from '../hub/register.service';
import { RuleWords } from '../hub/rule-words';
import { metadataRules, profileOf, StockService, valuesOf } from '../hub/stock.service';
import { PicturesService } from '../pictures/pictures.service';
import { HeadElements } from '../search/head-elements';
import { ResultDrawings, type KnownAs } from '../search/result-drawings';
import { RobotsFields } from '../search/robots-fields';
import { elementsWords, robotsWords } from '../search/said-words';
import { DeskTrouble } from './desk-trouble';
import { PageBeside } from './page-beside';
import { StockDesk } from './stock-desk.service';
import { StockRelease } from './stock-release';

const LABELS: Readonly<Record<SaidText, string>> = {
  titleBefore: say.titleBefore,
  titleAfter: say.titleAfter,
  description: say.description,
  siteName: say.siteName,
  organization: say.organization,
};
const TEXTS = Object.keys(SAID_TEXTS) as SaidText[];

/** What is said to search engines, and where pages are shared, of the portfolio, a site or a path: with a page it reaches. */
@Component({
  selector: 'dm-metadata-desk',
  imports: [DeskTrouble, HeadElements, ResultDrawings, RobotsFields, StockRelease],
  providers: [PageBeside],
  templateUrl: './metadata-desk.html',
  styleUrls: ['./desk.scss', './metadata-desk.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MetadataDesk {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly stockWords = stockWords;
  readonly item = input.required<string | null>();
  readonly go = output<number>();
  protected readonly desk = inject(StockDesk);
  private readonly stock = inject(StockService);
  protected readonly service = inject(RegisterService);
  private readonly rules = inject(RuleWords);
  private readonly pictures = inject(PicturesService);
  protected readonly beside = inject(PageBeside);
  protected readonly most = SAID_TEXTS;
  /** A path is being added. */
  protected readonly isAdding = signal(false);
  protected readonly isBusy = signal(false);
  protected readonly path = signal('');
  private readonly chosenSite = signal<number | null>(null);
  protected readonly sites = computed(() => this.service.head()?.sites ?? []);
  protected readonly pathSite = computed(() => this.chosenSite() ?? this.sites()[0]?.id ?? null);
  /** Of whom something is said or can be: the portfolio, each site, and below it its paths. */
  protected readonly owners = computed(() => {
    // Not known yet is not none: others would be made beside them.
    const kept = this.stock.items()?.filter(({ kind }) => kind === 'metadata');
    if (!kept) return [];
    const of = (siteId: number | null) => kept.find((one) => one.siteId === siteId && one.key === null) ?? null;
    return [
      {
        siteId: null,
        name: this.service.portfolio()?.name ?? '',
        note: say.wholePortfolio,
        item: of(null),
        isPath: false,
      },
      ...this.sites().flatMap(({ id, name, host }) => [
        { siteId: id as number | null, name, note: host, item: of(id), isPath: false },
        ...kept
          .flatMap((item) => {
            const about = item.siteId === id ? ruleFor(item.key, id) : null;
            return about?.scope === 'path' ? [{ item, path: about.of }] : [];
          })
          .sort((a, b) => a.path.localeCompare(b.path))
          .map(({ item, path }) => ({ siteId: id as number | null, name: path, note: '', item, isPath: true })),
      ]),
    ];
  });
  protected readonly said = computed<SharedMetadata | null>(() =>
    this.desk.draft() && this.desk.item()?.kind === 'metadata' ? (this.desk.draft() as SharedMetadata) : null,
  );
  private readonly about = computed(() => {
    const item = this.desk.item();
    return item?.kind === 'metadata' ? ruleFor(item.key, item.siteId) : null;
  });
  protected readonly aboutWords = computed(() => {
    const about = this.about();
    return about ? this.rules.about(about) : '';
  });
  private readonly siteId = computed(() => this.desk.item()?.siteId ?? null);
  /** What is said further up, by others. */
  private readonly above = computed(() => {
    const [about, id] = [this.about(), this.desk.item()?.id ?? 0];
    const place = placeOnSite(this.siteId(), '', about?.scope === 'path' ? about.of : null);
    const rules = metadataRules(this.stock.held()).filter(
      (rule) => about && rule.id !== id && byReach(rule, { id, for: about }) < 0,
    );
    return heldMetadata(rules, place);
  });
  /** Each text: what is said here, and who says what further up. */
  protected readonly texts = computed(() => {
    const said = this.said();
    return TEXTS.map((key) => {
      const { value, by } = this.above()[key];
      const rule = by ? this.rules.about(by.for) : '';
      const own = said?.[key] ?? null;
      const words = !by || !value ? say.notSaidAnywhere : say.saysThere(rule, value);
      const note = own === null ? words : by && value && own === '' ? say.emptyHere(rule, value) : '';
      return { key, label: LABELS[key], own, note, above: value, isOver: own !== null && by !== null && value !== '' };
    });
  });
  protected readonly robotsAbove = computed(() => {
    const { value, by } = this.above().robots;
    return value && by ? say.saysThere(this.rules.about(by.for), robotsWords(value)) : say.notSaidAnywhere;
  });
  protected readonly elementsAbove = computed(() =>
    elementsWords(this.above().elements, (rule) => this.rules.about(rule)),
  );
  protected readonly pages = computed(() => this.desk.item()?.pages ?? []);
  /** The page beside as it would be known with the draft. */
  protected readonly known = computed<KnownAs | null>(() => {
    const [document, about, said] = [this.beside.document(), this.about(), this.said()];
    const place = this.beside.place();
    const row = this.service.page(this.beside.pageId());
    if (!document || !about || !said || !row) return null;
    const item = this.desk.item();
    const others = metadataRules(this.stock.held()).filter(({ id }) => id !== item?.id);
    const whole = saidOfPage(heldMetadata([...others, { id: item?.id ?? 0, for: about, metadata: said }], place));
    const held = this.stock.held();
    const values = valuesOf(held, place.siteId, this.service.now(), this.service.zone());
    const fill = (text: string) => fillText(text, values);
    const { title, description, titleAlone, shareTitle, shareDescription, sharePictureId } = document.metadata;
    const brand = profileOf(held, place.siteId).brand;
    const around = titleAlone
      ? fill(title)
      : wholeTitle(fill(title), { titleBefore: fill(whole.titleBefore), titleAfter: fill(whole.titleAfter) });
    const words = fill(description || whole.description);
    const picture = sharePictureId ?? picturesOf(document)[0]?.value.pictureId ?? profileOf(held, place.siteId).shareId;
    return {
      title: title ? around : brand,
      description: words,
      shareTitle: fill(shareTitle || title) || brand,
      shareDescription: fill(shareDescription ?? '') || words,
      siteName: fill(whole.siteName),
      ...{ host: row.host, path: row.path },
      picture: (picture ? this.pictures.byId().get(picture)?.variants.at(-1)?.src : null) ?? null,
    };
  });
  constructor() {
    effect(() => {
      const [page, id] = [this.pages()[0]?.pageId ?? null, this.desk.item()?.id];
      if (id) untracked(() => void this.beside.showOneOf(page, []));
    });
  }

  protected countOf(owner: ReturnType<MetadataDesk['owners']>[number]): string {
    return owner.item ? owner.note : say.nothingSaid;
  }

  protected set<Key extends keyof SharedMetadata>(key: Key, value: SharedMetadata[Key]): void {
    const said = this.said();
    if (said) this.desk.change({ ...said, [key]: value });
  }

  /** An empty text says that there is nothing, where somebody says something further up; else it says nothing. */
  protected type(key: SaidText, value: string): void {
    this.set(key, value === '' && !this.above()[key].value ? null : value);
  }

  protected askHere(): void {
    this.set('robots', this.above().robots.value ?? {});
  }

  protected setRobots(robots: Robots): void {
    this.set('robots', robots);
  }

  protected async open(owner: ReturnType<MetadataDesk['owners']>[number]): Promise<void> {
    const { siteId, name, item } = owner;
    this.isAdding.set(false);
    const id = item?.id ?? (await this.make(name, siteId, null));
    if (id) this.go.emit(id);
  }

  protected async addPath(): Promise<void> {
    const [siteId, path] = [this.pathSite(), this.path().trim()];
    if (!path || this.isBusy()) return;
    this.isBusy.set(true);
    const id = await this.make(path, siteId, ruleKeyOf({ scope: 'path', of: path }));
    this.isBusy.set(false);
    if (!id) return;
    this.isAdding.set(false);
    this.path.set('');
    this.go.emit(id);
  }

  protected beginPath(): void {
    this.desk.errors.set({});
    this.desk.trouble.set(null);
    this.chosenSite.set(this.siteId());
    this.isAdding.set(true);
  }

  protected chooseSite(id: number): void {
    this.chosenSite.set(id);
  }

  private make(name: string, siteId: number | null, key: string | null): Promise<number | null> {
    const content = NO_METADATA;
    return this.desk.make({ kind: 'metadata', name, content, siteId, ...(key === null ? {} : { key }) });
  }
}
