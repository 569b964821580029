import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { PART_TYPES } from '@domatium/core/blocks';
import { EMPTY_DOCUMENT, pageReferencesOf } from '@domatium/core/document';
import type { PageId } from '@domatium/core/plan';
import { rowState } from '@domatium/core/register';
import {
  byReach,
  PART_CHOICES,
  PART_KINDS,
  PART_LAYOUTS,
  partsAt,
  ruleFor,
  type Part,
  type PartChoice,
  type PartKind,
  type PartSeeds,
  type Standing,
} from '@domatium/core/stock';
import { Canvas, type CanvasWidth } from '../editor/canvas';
import { onKeys } from '../shared/keys';
import { RegisterService } from '../hub/register.service';
import { profileOf, StockService, themeOf } from '../hub/stock.service';
import { whenWords } from '../shared/when-drawing';
import { DeskTrouble } from './desk-trouble';
import type { Drafted } from './before-after';
import { FourPages } from './four-pages';
import { FramesTable } from './frames-table';
import { PageBeside } from './page-beside';
import { PartStarts } from './part-starts';
import { PhoneShare } from './phone-share';
import { RuleForm } from './rule-form';
import { RuleWords } from '../hub/rule-words';
import { StockBlocks } from './stock-blocks';
import { StockDesk } from './stock-desk.service';
import { StockRelease } from './stock-release';
import { say } from '@domatium/core/words/stock';
import { say as common } from '@domatium/core/words/common';

const NOTHING: Standing = { header: null, footer: null, bands: null, isLocked: false };

/** Where parts stand: on all sites, on one, or by a rule. */
interface Place {
  readonly key: string | null;
  readonly siteId: number | null;
  /** Of what is said of it, `null` where nothing is. */
  readonly id: number | null;
  readonly name: string;
  readonly words: string;
}

/** Headers, footers and notice bands, and where they stand: changed around a page of a site, and put on all pages at once. */
@Component({
  selector: 'dm-frame-desk',
  imports: [Canvas, DeskTrouble, FourPages, FramesTable, PartStarts, PhoneShare, RuleForm, StockBlocks, StockRelease],
  providers: [PageBeside],
  templateUrl: './frame-desk.html',
  styleUrl: './desk.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FrameDesk {
  protected readonly say = say;
  protected readonly common = common;
  readonly item = input.required<string | null>();
  readonly go = output<number | null>();
  protected readonly desk = inject(StockDesk);
  protected readonly stock = inject(StockService);
  protected readonly service = inject(RegisterService);
  protected readonly beside = inject(PageBeside);
  private readonly ruleWords = inject(RuleWords);
  protected readonly types = PART_TYPES;
  protected readonly width = signal<CanvasWidth>('wide');
  protected readonly chosen = signal<string | null>(null);
  protected readonly siteId = signal<number | null>(null);
  protected readonly sites = computed(() => this.service.head()?.sites ?? []);
  /** The site whose page is seen: the one that is asked about, or any. */
  protected readonly site = computed(() => {
    const of = this.desk.item()?.siteId ?? this.siteId();
    return this.sites().find(({ id }) => id === of) ?? this.sites()[0] ?? null;
  });
  private readonly ofKind = (kind: string) => (this.stock.items() ?? []).filter((one) => one.kind === kind);
  protected readonly bands = computed(() => this.ofKind('band'));
  protected readonly shelves = computed(() =>
    (
      [
        ['header', say.headers, say.newHeader],
        ['footer', say.footers, say.newFooter],
        ['band', say.noticeBands, say.newBand],
      ] as const
    ).map(([kind, label, makes]) => ({ kind, label, makes, items: this.ofKind(kind) })),
  );
  protected readonly places = computed<Place[]>(() => {
    const said = this.ofKind('standing');
    const placeOf = (siteId: number | null, name: string, otherwise: string): Place => {
      const found = said.find((one) => one.siteId === siteId && one.key === null);
      const words = !found?.periods.length ? otherwise : found.draftDiffers ? say.draftDiffers : say.onItsPages;
      return { key: null, siteId, id: found?.id ?? null, name, words };
    };
    return [
      placeOf(null, say.allSites, say.theNameOfTheSiteAlone),
      ...this.sites().map(({ id, name }) => placeOf(id, name, say.asAllSites)),
    ];
  });
  /** Rules for a domain, a path, a label, a kind of pages or one page, from the whole to the single. */
  protected readonly rules = computed(() =>
    this.ofKind('standing')
      .flatMap((item) => {
        const about = item.key === null ? null : ruleFor(item.key, item.siteId);
        return about && item.id !== null ? [{ ...item, id: item.id, for: about }] : [];
      })
      .sort(byReach)
      .map((item) => ({ ...item, about: this.ruleWords.about(item.for) })),
  );
  protected readonly isRule = computed(() => this.kind() === 'standing' && this.desk.item()?.key !== null);
  protected readonly title = computed(() => {
    const item = this.desk.item();
    return item?.key ? this.ruleWords.ofItem(item) : this.desk.name();
  });
  /** The page a rule is seen on, where it covers any. */
  protected readonly coveredName = computed(() => {
    const covered = this.isRule() ? this.beside.pageId() : null;
    return covered === null ? null : (this.service.page(covered)?.name ?? null);
  });
  protected readonly isMaking = signal(false);
  /** The kind of part that a start is chosen for. */
  protected readonly starting = signal<PartKind | null>(null);
  protected readonly livePages = signal<PartSeeds['pages'] | null>(null);
  private readonly kind = computed(() => this.desk.item()?.kind ?? null);
  protected readonly part = computed(() => {
    const [draft, kind] = [this.desk.draft(), this.kind()];
    return draft && isPartKind(kind) ? (draft as Part) : null;
  });
  protected readonly standing = computed(() =>
    this.desk.draft() && this.kind() === 'standing' ? (this.desk.draft() as Standing) : null,
  );
  protected readonly kindLabel = computed(() => {
    const kind = this.kind();
    return isPartKind(kind) ? { header: say.header, footer: say.footer, band: say.noticeBand }[kind] : '';
  });
  protected readonly layoutLabel = computed(() => (this.kind() === 'band' ? say.tone : say.layout));
  protected readonly layouts = computed(() => {
    const kind = this.kind();
    return isPartKind(kind) ? Object.entries(PART_LAYOUTS[kind]).map(([value, label]) => ({ value, label })) : [];
  });
  /** What else is said of a part: where it stands, whether it stays in view, and at which widths it is shown. */
  protected readonly choices = computed(() => {
    const [part, kind] = [this.part(), this.kind()];
    if (!part || !isPartKind(kind)) return [];
    const labels = { place: say.placeOfIt, stays: say.whileScrolling, shownAt: say.shownAt };
    return (Object.entries(PART_CHOICES[kind]) as [keyof typeof labels, Record<string, string>][]).map(
      ([key, options]) => ({
        ...{ key, label: labels[key], value: part[key] ?? '' },
        options: Object.entries(options).map(([value, label]) => ({ value, label })),
      }),
    );
  });
  /** Whether anything that would stand around the page stays in view. */
  protected readonly stays = computed(() => {
    const { header, footer, bands = [] } = this.world().parts ?? {};
    return [header, footer, ...bands].some((one) => one && one !== 'none' && one.stays);
  });
  /** Where its links lead, those that are dead or will be first. */
  protected readonly links = computed(() => {
    const part = this.part();
    const [now, zone] = [this.service.now(), this.service.zone()];
    const ids = part ? [...new Set(pageReferencesOf({ ...EMPTY_DOCUMENT, blocks: part.blocks }))] : [];
    return ids
      .flatMap((id) => {
        const page = this.service.page(id);
        if (!page) return [];
        const isLive = rowState(page, now) === 'live';
        const end = page.periods.find(({ from, until }) => from <= now && now < (until ?? Infinity))?.until ?? null;
        const isDead = page.binnedSince !== null || !isLive;
        return [{ id, name: page.name, isDead, isEnding: end !== null, words: whenWords(page, now, zone) }];
      })
      .sort((a, b) => Number(b.isDead) - Number(a.isDead) || Number(b.isEnding) - Number(a.isEnding));
  });
  protected readonly isBand = computed(() => this.kind() === 'band');
  protected readonly fields = computed(() => [
    { key: 'header' as const, label: say.header, items: this.ofKind('header') },
    { key: 'footer' as const, label: say.footer, items: this.ofKind('footer') },
  ]);
  protected readonly elsewhere = computed(() =>
    this.isRule()
      ? say.asSaidFurtherUp
      : this.desk.item()?.siteId === null
        ? say.theNameOfTheSiteAlone
        : say.asAllSites,
  );
  protected readonly profile = computed(() => profileOf(this.stock.held(), this.site()?.id));
  protected readonly theme = computed(() => themeOf(this.stock.held(), this.profile().theme));
  /** As it is shown to whoever makes it: where visitors would get nothing it says so. */
  protected readonly made = computed(() => ({ ...this.world(), saysEmpty: true }));
  /** The page with what is being changed around it, as visitors would get it once that is out. */
  protected readonly world = computed(() => {
    const [world, drafted] = [this.beside.world(), this.drafted()];
    if (!drafted) return world;
    const around = partsAt(drafted, this.beside.place(), this.beside.document()?.metadata.frame);
    return { ...world, language: this.profile().language, parts: { ...around, ...drafted.own } };
  });
  protected readonly isComparing = signal(false);
  protected readonly usedOn = computed(() => this.desk.item()?.pages.map(({ pageId }) => pageId) ?? []);
  /** What would hold with the draft. */
  protected readonly drafted = computed<Drafted | null>(() => {
    const [held, item] = [this.stock.held(), this.desk.item()];
    const [part, standing, kind] = [this.part(), this.standing(), this.kind()];
    if (!held || !item) return null;
    return {
      // Parts that never went out go along with what says where they stand.
      parts: held.parts.map((one) => ({
        id: one.id,
        part: part && one.id === item.id ? part : (one.part ?? (standing && this.isNew(one.id) ? one.draft : null)),
      })),
      standings: standing
        ? [
            ...held.standings.filter(({ id }) => id !== item.id),
            { id: item.id ?? 0, key: item.key, siteId: item.siteId, standing },
          ]
        : held.standings,
      own: part && kind === 'band' ? { bands: [part] } : part && isPartKind(kind) ? { [kind]: part } : {},
    };
  });

  constructor() {
    effect(() => {
      const isOpen = this.item() !== null;
      untracked(() => {
        this.chosen.set(null);
        if (!isOpen) return;
        this.isMaking.set(false);
        this.starting.set(null);
      });
    });
    effect(() => {
      const site = this.site();
      const about = this.isRule() ? ruleFor(this.desk.item()?.key ?? null, this.desk.item()?.siteId ?? null) : null;
      const covered = this.desk.item()?.pages[0]?.pageId ?? null;
      // A rule about pages is seen on one of them.
      const shown = about?.scope === 'page' ? Number(about.of) : about ? covered : null;
      if (site) untracked(() => void this.beside.showOneOf(shown, [site.id]));
    });
  }

  private isNew(id: number): boolean {
    return this.stock.items()?.find((one) => one.id === id)?.periods.length === 0;
  }

  protected beginRule(): void {
    this.starting.set(null);
    this.isMaking.update((is) => !is);
    if (this.isMaking()) this.go.emit(null);
  }

  protected async openPlace({ id, siteId, name }: Place): Promise<void> {
    const made =
      id ??
      (await this.desk.make({ kind: 'standing', name, content: NOTHING, ...(siteId === null ? {} : { siteId }) }));
    if (made) this.go.emit(made);
  }

  protected beginPart(kind: PartKind): void {
    this.isMaking.set(false);
    this.starting.set(kind);
    this.livePages.set(null);
    void this.lookUpPages();
    this.go.emit(null);
  }

  /** Pages of the site that is seen, for menus to begin with: live ones, the most visited first. */
  private async lookUpPages(): Promise<void> {
    await this.service.ready();
    const [site, now] = [this.site(), this.service.now()];
    const rows = site ? await this.service.desk.pick('', now, null, 400) : [];
    const live = rows
      .filter(({ siteId, path }) => siteId === site?.id && path !== site.basePath)
      .filter(({ periods }) => periods.some(({ from, until }) => from <= now && now < (until ?? Infinity)))
      .sort((one, other) => other.visits - one.visits);
    this.livePages.set(live.slice(0, 5).map(({ id, name }) => ({ name, pageId: id as PageId })));
  }

  protected async makePart(
    kind: PartKind,
    { name, part }: { readonly name: string; readonly part: Part },
  ): Promise<void> {
    const label = { header: say.header, footer: say.footer, band: say.noticeBand }[kind];
    const id = await this.desk.make({ kind, name: `${label}: ${name}`, content: part });
    if (!id) return;
    this.starting.set(null);
    this.go.emit(id);
  }

  protected async removePart(): Promise<void> {
    if (await this.desk.remove()) this.go.emit(null);
  }

  private setStanding(change: Partial<Standing>): void {
    const standing = this.standing();
    if (standing) this.desk.change({ ...standing, ...change });
  }

  protected choose(key: 'header' | 'footer', value: string): void {
    const choice: PartChoice = value === '' ? null : value === 'none' || value === 'name' ? value : Number(value);
    this.setStanding({ [key]: choice });
  }

  protected chooseOf(key: 'place' | 'stays' | 'shownAt', value: string): void {
    const part = this.part();
    if (!part) return;
    const { [key]: _, ...rest } = part;
    this.desk.change((value ? { ...rest, [key]: value } : rest) as Part);
  }

  protected isOn({ sites }: Part, siteId: number): boolean {
    return sites !== undefined && sites !== 'all' && sites.includes(siteId);
  }

  protected toggleSite(part: Part, siteId: number): void {
    const sites = part.sites === 'all' ? [] : (part.sites ?? []);
    this.setSites(part, sites.includes(siteId) ? sites.filter((id) => id !== siteId) : [...sites, siteId]);
  }

  protected setSites({ sites: _, ...part }: Part, sites: NonNullable<Part['sites']>): void {
    this.desk.change(sites.length ? { ...part, sites } : part);
  }

  protected toggleClosable({ isClosable, ...part }: Part): void {
    this.desk.change(isClosable ? part : { ...part, isClosable: true });
  }

  protected toggleBand(id: number): void {
    const bands = this.standing()?.bands ?? [];
    const next = bands.includes(id) ? bands.filter((one) => one !== id) : [...bands, id];
    this.setStanding({ bands: next.length ? next : null });
  }

  protected toggleLock(): void {
    this.setStanding({ isLocked: !this.standing()?.isLocked });
  }

  private readonly keys = onKeys({ undo: () => this.desk.undo(), redo: () => this.desk.redo() });

  @HostListener('document:keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    this.keys(event);
  }
}

const isPartKind = (kind: string | null): kind is PartKind => (PART_KINDS as readonly unknown[]).includes(kind);
