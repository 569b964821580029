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
import type { StockView } from '@domatium/contracts';
import { writeInstant, type Instant } from '@domatium/core/time';
import {
  BUTTONS,
  darkOf,
  FONTS,
  pairFindings,
  PICTURES,
  ROLES,
  SPACINGS,
  stylesheetOf,
  THEMES,
  type Palette,
  type Theme,
} from '@domatium/core/theme';
import { Canvas, type CanvasWidth } from '../editor/canvas';
import { BringIn } from '../pictures/bring-in';
import { PicturesService } from '../pictures/pictures.service';
import { countOf } from '../pictures/reach-words';
import { SiteChoice } from '../pictures/site-choice';
import { Uploads } from '../pictures/uploads';
import { RegisterService } from '../hub/register.service';
import { OwnCssField } from '../source/own-css-field';
import { measureFont } from './measure-font';
import { DeskTrouble } from './desk-trouble';
import { PageBeside } from './page-beside';
import { StockDesk } from './stock-desk.service';
import { StockRelease } from './stock-release';
import { SiteProfilesService } from '../hub/site-profiles.service';
import { profileOf, StockService, themeOf } from '../hub/stock.service';
import { say as common } from '@domatium/core/words/common';
import { say } from '@domatium/core/words/stock';

const ROLE_WORDS: Readonly<Record<keyof Palette, string>> = {
  ground: common.page,
  ink: common.text,
  quiet: say.captions,
  tint: say.tintedBlocks,
  accent: say.linksButtons,
  onAccent: say.buttonText,
  deep: say.darkBlocks,
  onDeep: say.textOnDark,
};

/** What of a theme is a measure between two ends. */
const RANGES = [
  { key: 'displayWeight', words: say.weight, min: 300, max: 900, step: 20, unit: '' },
  { key: 'scale', words: say.scale, min: 1.15, max: 1.5, step: 0.01, unit: '' },
  { key: 'displaySpacing', words: say.letters, min: -0.05, max: 0, step: 0.005, unit: 'em' },
  { key: 'corner', words: say.corners, min: 0, max: 28, step: 1, unit: 'px' },
] as const;

/** How sites look: changed with a page of theirs beside, and put on all of their pages at once. */
@Component({
  selector: 'dm-theme-desk',
  imports: [Canvas, StockRelease, BringIn, SiteChoice, Uploads, OwnCssField, DeskTrouble],
  providers: [PageBeside],
  templateUrl: './theme-desk.html',
  styleUrls: ['./desk.scss', './theme-desk.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ThemeDesk {
  protected readonly say = say;
  protected readonly common = common;
  readonly item = input.required<string | null>();
  readonly go = output<string | number>();
  protected readonly desk = inject(StockDesk);
  protected readonly stock = inject(StockService);
  protected readonly service = inject(RegisterService);
  private readonly pictures = inject(PicturesService);
  private readonly profiles = inject(SiteProfilesService);
  protected readonly roles = ROLES.map((role) => ({ role, words: ROLE_WORDS[role] }));
  protected readonly ranges = RANGES.map(({ unit, ...range }) => ({
    ...range,
    read: (theme: Theme): number => parseFloat(String(theme[range.key])),
    write: (value: number) => (unit ? `${value}${unit}` : value) as never,
  }));
  protected readonly spacings = SPACINGS;
  protected readonly buttons = BUTTONS;
  protected readonly manners = PICTURES;
  protected readonly side = signal<'colours' | 'dark'>('colours');
  protected readonly width = signal<CanvasWidth>('wide');
  protected readonly beside = inject(PageBeside);
  protected readonly fontTrouble = signal<string | null>(null);
  protected readonly giveTrouble = signal<string | null>(null);
  /** The theme that is open: its draft, or one that ships and nobody changed. */
  protected readonly theme = computed<Theme | null>(() => {
    const draft = this.desk.draft();
    if (draft && this.desk.item()?.kind === 'theme') return draft as Theme;
    const key = this.item();
    return key && !Number(key) ? themeOf(this.stock.held(), key) : null;
  });
  protected readonly isShipped = computed(() => this.theme() !== null && !this.desk.item());
  private readonly key = computed(() => this.desk.item()?.key ?? this.item());
  protected readonly sites = computed(() =>
    (this.service.head()?.sites ?? []).filter(({ id }) => profileOf(this.stock.held(), id).theme === this.key()),
  );
  /** The name that visitors read on the page beside. */
  protected readonly brand = computed(() => profileOf(this.stock.held(), this.sites()[0]?.id).brand);
  protected readonly pages = computed(() => this.desk.item()?.pages.filter(({ isDraft }) => !isDraft) ?? []);
  /** How many pages a change of it touches; of one that ships as it is, the pages that have it. */
  protected readonly touched = computed(() => {
    const shipped = this.stock.themes().find(({ key }) => key === this.key());
    return countOf(this.desk.item() ? this.pages().length : (shipped?.uses ?? 0), 'page');
  });
  protected readonly fonts = computed(() => {
    const shipped = Object.entries(FONTS).map(([key, { family, kind }]) => ({
      ...{ key, kind },
      words: family.replace(' Variable', ''),
    }));
    const own = (this.theme()?.ownFonts ?? []).map(({ key, family }) => ({ key, words: family }));
    return [
      { words: say.sans, fonts: shipped.filter(({ kind }) => kind === 'sans') },
      { words: say.serif, fonts: shipped.filter(({ kind }) => kind === 'serif') },
      { words: say.own, fonts: own },
    ].filter(({ fonts }) => fonts.length);
  });
  protected readonly palette = computed<Palette | null>(() => {
    const theme = this.theme();
    return theme && (this.side() === 'dark' ? theme.dark : theme.colours);
  });
  protected readonly pairs = computed(() => {
    const palette = this.palette();
    return palette ? pairFindings(palette).sort((a, b) => a.ratio / a.least - b.ratio / b.least) : [];
  });
  protected readonly poor = computed(() => this.pairs().filter(({ ratio, least }) => ratio < least).length);
  /** What its own CSS stands over. */
  protected readonly below = computed(() => {
    const theme = this.theme();
    return theme ? stylesheetOf({ ...theme, css: '' }, (file) => file) : '';
  });

  constructor() {
    effect(() => {
      const [pages, key, sites] = [this.pages(), this.key(), this.sites()];
      this.service.version();
      if (key)
        untracked(
          () =>
            void this.beside.showOneOf(
              pages[0]?.pageId ?? null,
              sites.map(({ id }) => id),
            ),
        );
    });
  }

  protected stateOf({ id, periods, draftDiffers }: StockView): string {
    const now = this.service.now();
    const next = periods.find(({ from }) => from > now);
    if (id === null) return say.asItShipsSmall;
    if (next) return say.changes(writeInstant(next.from as Instant, this.service.zone(), now));
    return draftDiffers ? say.draftDiffers : say.changedHere;
  }

  protected set<Key extends keyof Theme>(key: Key, value: Theme[Key]): void {
    const theme = this.theme();
    if (theme && this.desk.item()) this.desk.change({ ...theme, [key]: value });
  }

  protected setColour(role: keyof Palette, colour: string): void {
    const [theme, palette] = [this.theme(), this.palette()];
    if (!theme || !palette || !/^#[0-9a-f]{6}$/i.test(colour)) return;
    this.set(this.side(), { ...palette, [role]: colour.toLowerCase() });
  }

  protected toggleDark(): void {
    const theme = this.theme();
    if (!theme) return;
    if (theme.dark) this.side.set('colours');
    this.set('dark', theme.dark ? null : darkOf(theme.colours));
    if (!theme.dark) this.side.set('dark');
  }

  /** Changes a theme that ships, for this portfolio. */
  protected async change(): Promise<void> {
    const [key, theme] = [this.item(), this.theme()];
    if (!key || !theme) return;
    const id = await this.desk.make({ kind: 'theme', name: theme.label, content: theme, key });
    if (id) this.go.emit(id);
  }

  protected async makeNew(): Promise<void> {
    const base = this.theme() ?? THEMES.ferry;
    const id = await this.desk.make({
      kind: 'theme',
      name: say.newThemeToo,
      content: { ...base, label: say.newThemeToo },
    });
    if (id) this.go.emit(id);
  }

  protected async bringFont([file]: readonly File[]): Promise<void> {
    this.fontTrouble.set(null);
    const measured = file && (await measureFont(file));
    if (!file || !measured) return this.fontTrouble.set(say.cantBeReadAsAFont);
    const received = await this.pictures.bring(file);
    const theme = this.theme();
    if (!received?.file || received.file.ending !== 'woff2' || !theme) return;
    const { id, src } = received.file;
    const font = {
      key: `own-${id}`,
      fileId: id,
      file: /([0-9a-f]{64}\.woff2)/.exec(src)?.[1] ?? '',
      package: null,
      ...measured,
    };
    this.desk.change({
      ...theme,
      ownFonts: [...theme.ownFonts.filter(({ key }) => key !== font.key), font],
      display: font.key,
    });
  }

  protected async giveTo(site: { readonly id: number; readonly name: string }): Promise<void> {
    const theme = this.key();
    if (!theme) return;
    await this.desk.keep();
    this.giveTrouble.set(await this.profiles.change(site, { theme }));
  }

  protected otherSites() {
    const having = new Set(this.sites().map(({ id }) => id));
    return (this.service.head()?.sites ?? []).filter(({ id }) => !having.has(id));
  }
}
