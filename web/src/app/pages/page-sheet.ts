import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { renameBody, type PageLink, type PageSheet, type SheetLine } from '@domatium/contracts';
import { isoInstant, placeOfZone, wallOf, writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import { rowUnfound } from '@domatium/core/register';
import { writeChange } from '@domatium/core/traffic';
import { SEARCH_WORDS } from '@domatium/core/words';
import { PresenceService } from '../presence/presence.service';
import { RegisterService } from '../hub/register.service';
import { PageReview } from '../remarks/page-review';
import { api, Api, Refusal } from '../hub/api';
import { AddressView } from '../shared/copy-address';
import { errorsOf } from '../hub/forms';
import { PlanDrawing, type MovedEnd } from '../shared/plan-drawing';
import { PageTasks } from '../tasks/page-tasks';
import { PlaceService } from '../hub/place.service';
import { PageCondition } from './page-condition';
import { say } from '@domatium/core/words/pages';
import { say as common } from '@domatium/core/words/common';

const PAST_SHOWN = 2;
const LINKS_SHOWN = 6;
/** Where things that lead to pages are changed; all others are headers, footers and bands. */
const ROOMS: Readonly<Record<string, string>> = { menu: 'menus', legal: 'menus', piece: 'pieces' };

/** A page's sheet: first of all what visitors get here, over time. */
@Component({
  selector: 'dm-page-sheet',
  imports: [AddressView, NgbDropdownModule, PageCondition, PageReview, PageTasks, PlanDrawing, RouterLink],
  templateUrl: './page-sheet.html',
  styleUrl: './page-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageSheetView {
  protected readonly say = say;
  readonly pageId = input.required<number>();
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  protected readonly presence = inject(PresenceService);
  private readonly client = inject(Api);
  private readonly router = inject(Router);
  protected readonly sheet = signal<PageSheet | null>(null);
  protected readonly trouble = signal<string | null>(null);
  protected readonly hasAllPast = signal(false);
  protected readonly hasAllLinks = signal(false);
  protected readonly renaming = signal<string | null>(null);

  protected readonly lines = computed(() => {
    const sheet = this.sheet();
    if (!sheet) return [];
    const now = this.service.shown();
    const past = sheet.lines.filter(({ until }) => until !== null && until <= now);
    const shown = this.hasAllPast() ? past : past.slice(-PAST_SHOWN);
    return [...shown, ...sheet.lines.filter(({ until }) => until === null || until > now)].map((line) => ({
      ...line,
      label: this.label(line, now),
      isNow: line.from <= now && (line.until === null || line.until > now),
      isAhead: line.from > now,
      clocks: this.clocksOf(line, sheet),
    }));
  });
  /** Menus, headers and the like that lead here, with where they are changed. */
  protected readonly ledFrom = computed(() =>
    (this.sheet()?.ledFrom ?? []).map(({ itemId, kind, name }) => ({
      ...{ itemId, name },
      path: ['/portfolios', this.service.portfolioId(), 'stock', ROOMS[kind] ?? 'frames'],
    })),
  );
  protected readonly hiddenPast = computed(() => {
    const now = this.service.shown();
    const past = (this.sheet()?.lines ?? []).filter(({ until }) => until !== null && until <= now).length;
    return this.hasAllPast() ? 0 : Math.max(0, past - PAST_SHOWN);
  });
  protected readonly isLive = computed(() => this.lines().some(({ isNow, isThisPage }) => isNow && isThisPage));
  protected readonly changeWords = computed(() => writeChange(this.sheet()?.visits.change ?? null));
  protected readonly notes = computed(() => [...(this.sheet()?.linkedFrom ?? []).filter(({ note }) => note)]);

  constructor() {
    effect((onCleanup) => {
      const pageId = this.pageId();
      onCleanup(untracked(() => this.presence.watch(pageId, false)));
    });
    effect(() => {
      const pageId = this.pageId();
      // Read anew whenever the register was: something in the portfolio changed.
      this.service.version();
      // While the handle of the rail is dragged, what is there stays until it is let go.
      if (this.place.dragged() === null) void this.load(pageId, this.place.asOf());
    });
    effect(() => {
      this.pageId();
      this.hasAllPast.set(false);
      this.hasAllLinks.set(false);
      this.renaming.set(null);
    });
  }

  protected shownLinks(links: readonly PageLink[]): readonly PageLink[] {
    return this.hasAllLinks() ? links : links.slice(0, LINKS_SHOWN);
  }

  protected shownAddresses(all: PageSheet['addresses']): PageSheet['addresses'] {
    return this.hasAllLinks() ? all : all.slice(0, LINKS_SHOWN);
  }

  protected async rename(name: string): Promise<void> {
    const sheet = this.sheet();
    if (!sheet || !name.trim() || name === sheet.name) return this.renaming.set(null);
    const wrong = errorsOf(renameBody, { name, version: sheet.version })['name'];
    if (wrong) return this.trouble.set(wrong);
    try {
      await this.client.call(api.rename, { params: this.params(), body: { name, version: sheet.version } });
      this.renaming.set(null);
      this.trouble.set(null);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.at('name') ?? error.message);
    }
    await this.load(sheet.id);
  }

  protected written(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }

  protected readonly periods = computed(() => this.service.page(this.pageId())?.periods ?? []);
  /** Whether search engines can find it at the shown moment, and why not. */
  protected readonly search = computed(() => {
    const row = this.service.page(this.pageId());
    return row && SEARCH_WORDS[rowUnfound(row, this.service.shown()) ?? 'found'];
  });
  /** Whether a period that is not over can be given other times here. */
  protected readonly mayRetime = computed(() => {
    const sheet = this.sheet();
    const now = this.service.now();
    if (!sheet || sheet.bin || !this.service.isNow() || !this.service.mayRelease()) return false;
    return this.periods().some(({ until }) => until === null || until > now);
  });

  /** An end was dragged: the sheet for times opens with it, and says what that changes. */
  protected retime(moved: MovedEnd): void {
    this.place.movedEnd.set(moved);
    this.place.go({ panel: 'period' });
  }

  protected edit(): void {
    void this.router.navigate(['/portfolios', this.service.portfolioId(), 'pages', this.pageId(), 'edit']);
  }

  private params() {
    return { portfolioId: this.service.portfolioId(), pageId: this.pageId() };
  }

  private async load(pageId: number, at: Instant | null = null): Promise<void> {
    try {
      const sheet = await this.client.call(api.sheet, {
        params: { portfolioId: this.service.portfolioId(), pageId },
        query: at === null ? {} : { at: isoInstant(at) },
      });
      if (pageId !== this.pageId()) return;
      this.sheet.set(sheet);
      this.trouble.set(null);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      if (at !== null) this.sheet.set(null);
      this.trouble.set(at !== null && error.code === 'not-found' ? say.thisPageDidNotExistThen : error.message);
    }
  }

  /** What a start or end says on the clock it was chosen on, where that is not the portfolio's. */
  private clocksOf({ from, until }: SheetLine, { zones }: PageSheet): string {
    return zones
      .filter(({ at }) => at === from || at === until)
      .map(({ at, zone }) => say.onTheClockOf(wallOf(at as Instant, zone).slice(11), placeOfZone(zone)))
      .join(', ');
  }

  private label({ from, until }: SheetLine, now: Instant): string {
    if (until !== null && until <= now) return say.until(writeEnd(until as Instant, this.service.zone(), now));
    if (from <= now) return this.service.isNow() ? common.atPresent : say.then;
    return writeInstant(from as Instant, this.service.zone(), now);
  }
}
