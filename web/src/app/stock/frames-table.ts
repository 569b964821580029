import { ChangeDetectionStrategy, Component, computed, effect, inject, output, signal, untracked } from '@angular/core';
import type { FramedPages, StockHeld, StockView } from '@domatium/contracts';
import {
  byReach,
  isCovered,
  isOfPages,
  placeOnSite,
  ruleFor,
  rulesOf,
  standingOf,
  type Held,
  type Said,
} from '@domatium/core/stock';
import { DAY, instantOfWall, isoInstant, wallOf, writeInstant, type Instant } from '@domatium/core/time';
import { say as common } from '@domatium/core/words/common';
import { say } from '@domatium/core/words/stock';
import { api, Api, Refusal } from '../hub/api';
import { RegisterService } from '../hub/register.service';
import { RuleWords } from '../hub/rule-words';
import { StockService } from '../hub/stock.service';
import { MomentField } from '../shared/moment-field';
import { fraction, ticksOn, type Scale } from '../shared/scale';

/** How far back and ahead the when column reaches, in days. */
const [BACK, AHEAD] = [7, 30];
/** Things of one row that are drawn, those that change first at the top. */
const MOST_TRACKS = 4;
/** Where ticks have room between the name of the column and its end. */
const [FIRST_TICK, LAST_TICK] = [20, 94];
const SOON = 7;
const FILTERS = ['all', 'none', 'own', 'locked', 'soon'] as const;
type Filter = (typeof FILTERS)[number];

interface Cell {
  readonly words: string;
  /** Who said so, and since when. */
  readonly by: string;
  readonly why: string;
  readonly isNone: boolean;
}

interface Row {
  readonly key: string;
  readonly siteId: number;
  readonly isSite: boolean;
  readonly name: string;
  readonly more: string;
  readonly pages: number;
  readonly cells: readonly Cell[];
  readonly isOwn: boolean;
  readonly lockedBy: string;
  /** What begins or ends from the shown moment on. */
  readonly changes: readonly { readonly at: number; readonly words: string }[];
  /** Lines of the when column, one for each thing that begins or ends on it. */
  readonly tracks: readonly (readonly Bar[])[];
  readonly whenWords: string;
}

/** A stretch on the when column, in hundredths of it. */
interface Bar {
  readonly left: number;
  readonly width: number;
  readonly looks: string;
}

/** What stands around the pages of each site at a moment, who said so, and what changes when. */
@Component({
  selector: 'dm-frames-table',
  imports: [MomentField],
  templateUrl: './frames-table.html',
  styleUrl: './frames-table.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FramesTable {
  protected readonly say = say;
  protected readonly common = common;
  readonly open = output<number>();
  private readonly client = inject(Api);
  protected readonly register = inject(RegisterService);
  private readonly stock = inject(StockService);
  private readonly words = inject(RuleWords);
  protected readonly filter = signal<Filter>('all');
  /** The shown moment as it is typed; `null` for now. */
  protected readonly local = signal<string | null>(null);
  protected readonly nowLocal = computed(() => wallOf(this.register.now(), this.register.zone()));
  protected readonly at = computed(() => {
    const local = this.local();
    return (local && instantOfWall({ local, zone: this.register.zone() })) || this.register.now();
  });
  protected readonly scale = computed((): Scale => ({ from: this.at() - BACK * DAY, until: this.at() + AHEAD * DAY }));
  protected readonly momentAt = computed(() => 100 * fraction(this.scale(), this.at()));
  protected readonly ticks = computed(() =>
    ticksOn(this.scale(), this.register.zone())
      .map(({ at, label }) => ({ at, label, left: 100 * fraction(this.scale(), at) }))
      .filter(({ left }) => left > FIRST_TICK && left < LAST_TICK),
  );
  private readonly held = signal<StockHeld | null>(null);
  private readonly groups = signal<readonly FramedPages[] | null>(null);
  protected readonly isKnown = computed(() => this.held() !== null && this.groups() !== null);
  protected readonly rows = computed(() => {
    const groups = this.groups() ?? [];
    return (this.register.head()?.sites ?? []).flatMap((site) => {
      const own = groups.filter(({ siteId }) => siteId === site.id);
      const plain = own.find(({ rules, own: chosen }) => !rules.length && !chosen);
      const base = { siteId: site.id, rules: [], own: null, pages: 0, some: [] };
      return [
        this.row(plain ?? base, site, true),
        ...own.filter((group) => group !== plain).map((group) => this.row(group, site, false)),
      ];
    });
  });
  protected readonly filters = computed(() =>
    FILTERS.map((filter) => ({
      ...{ filter, label: say.frameFilters[filter] },
      count: this.rows().filter((row) => this.isIn(row, filter)).length,
    })),
  );
  protected readonly shown = computed(() => this.rows().filter((row) => this.isIn(row, this.filter())));
  protected readonly pages = computed(() => this.shown().reduce((sum, { pages }) => sum + pages, 0));

  constructor() {
    effect(() => {
      const at = this.local() === null ? null : this.at();
      this.stock.items();
      this.register.version();
      untracked(() => void this.load(at ?? this.register.now()));
    });
  }

  private async load(at: Instant): Promise<void> {
    const params = { portfolioId: this.register.portfolioId() };
    if (!params.portfolioId) return;
    try {
      const [held, groups] = await Promise.all([
        this.stock.heldAt(at),
        this.client.call(api.framedPages, { params, query: { at: isoInstant(at) } }),
      ]);
      this.held.set(held);
      this.groups.set(groups);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  private isIn(row: Row, filter: Filter): boolean {
    switch (filter) {
      case 'all':
        return true;
      case 'none':
        return row.cells.some(({ isNone }) => isNone);
      case 'own':
        return row.isOwn;
      case 'locked':
        return row.lockedBy !== '';
      case 'soon':
        return row.changes.some(({ at }) => at < this.at() + SOON * DAY);
    }
  }

  private row(group: FramedPages, site: { id: number; name: string; host: string }, isSite: boolean): Row {
    const place = placeOnSite(site.id, site.host);
    const covers = (id: number, about: NonNullable<ReturnType<typeof ruleFor>>) =>
      isOfPages(about) ? group.rules.includes(id) : isCovered(about, place);
    const rules = rulesOf({ standings: this.held()?.standings ?? [] })
      .filter((rule) => covers(rule.id, rule.for))
      .sort(byReach);
    const said: Said[] = rules.map(({ standing, ...rule }) => ({ rule, standing }));
    if (group.own) said.push({ rule: null, standing: { ...group.own, isLocked: false } });
    const standing = standingOf(said);
    const about = group.rules.flatMap((id) => {
      const item = this.stock.items()?.find((one) => one.id === id);
      return item ? [this.words.ofItem(item)] : [];
    });
    const names = group.some.map(({ name }) => name).join(', ');
    const hidden = group.pages - group.some.length;
    const locked = standing.lockedBy?.rule;
    return {
      ...{ key: `${site.id} ${JSON.stringify([group.rules, group.own])}`, siteId: site.id, isSite, pages: group.pages },
      name: isSite ? site.name : about.join(', ') || say.pagesThatChoose,
      more: isSite ? site.host : hidden > 0 ? say.andMoreOf(names, hidden) : names,
      cells: [
        this.cell(standing.header, this.words.choice(standing.header.value), standing.header.value === 'none'),
        this.cell(standing.footer, this.words.choice(standing.footer.value), standing.footer.value === 'none'),
        this.cell(standing.bands, this.bandWords(standing.bands.value, site.id), false),
      ],
      isOwn: !isSite || said.some(({ rule }) => rule?.for.scope === 'site'),
      lockedBy: locked ? this.words.about(locked.for) : '',
      ...this.whenOf((item) => {
        const rule = item.kind === 'standing' ? ruleFor(item.key, item.siteId) : null;
        if (rule) return covers(item.id ?? 0, rule);
        const { header, footer, bands } = standing;
        return item.id === header.value || item.id === footer.value || this.isBandHere(item, bands.value, site.id);
      }),
    };
  }

  private cell(held: Held<unknown>, words: string, isNone: boolean): Cell {
    const { by } = held;
    const short = !by ? '' : by.rule ? this.words.about(by.rule.for) : say.thisPageItself;
    return { words, isNone, by: short, why: by ? this.words.why(held) : '' };
  }

  /** Bands that are said, and those that stand there by themselves; of each only while it holds. */
  private bandWords(said: readonly number[], siteId: number): string {
    const bands = (this.held()?.parts ?? []).filter(
      ({ id, kind, part }) =>
        kind === 'band' &&
        part &&
        (said.includes(id) || part.sites === 'all' || (part.sites !== undefined && part.sites.includes(siteId))),
    );
    return bands.map(({ name }) => name).join(', ') || say.noneAtAll;
  }

  private isBandHere({ kind, id }: StockView, said: readonly number[], siteId: number): boolean {
    if (kind !== 'band' || id === null) return false;
    const part = this.held()?.parts.find((one) => one.id === id);
    const sites = (part?.part ?? part?.draft)?.sites;
    return said.includes(id) || sites === 'all' || sites?.includes(siteId) === true;
  }

  private whenOf(isMeant: (item: StockView) => boolean): Pick<Row, 'changes' | 'tracks' | 'whenWords'> {
    const [at, scale] = [this.at(), this.scale()];
    const names = new Map<number, Set<string>>();
    const lines: { readonly first: number; readonly bars: Bar[] }[] = [];
    for (const item of (this.stock.items() ?? []).filter(isMeant)) {
      const edges = item.periods
        .flatMap(({ from, until }) => [from, until ?? Infinity])
        .filter((moment) => moment > scale.from && moment < scale.until);
      if (edges.length) lines.push({ first: Math.min(...edges), bars: item.periods.flatMap((one) => this.barOf(one)) });
      for (const moment of edges)
        if (moment > at)
          names.set(moment, (names.get(moment) ?? new Set()).add(item.key ? this.words.ofItem(item) : item.name));
    }
    const changes = [...names]
      .sort(([a], [b]) => a - b)
      .map(([moment, what]) => ({
        at: moment,
        words: `${writeInstant(moment as Instant, this.register.zone(), this.register.now())}: ${[...what].join(', ')}`,
      }));
    const tracks = lines.sort((a, b) => a.first - b.first).map(({ bars }) => bars);
    return {
      changes,
      // What goes on as it is.
      tracks: tracks.length ? tracks.slice(0, MOST_TRACKS) : [this.barOf({ from: scale.from - DAY, until: null })],
      whenWords: changes.map(({ words }) => words).join('; ') || say.noChange,
    };
  }

  private barOf({ from, until }: { readonly from: number; readonly until: number | null }): Bar[] {
    const [at, scale] = [this.at(), this.scale()];
    const [start, end] = [fraction(scale, from), until === null ? 2 : fraction(scale, until)];
    if (end <= 0 || start >= 1) return [];
    const state = until !== null && until <= at ? 'ended' : from > at ? 'coming' : 'live';
    const left = Math.max(0, start) * 100;
    // A hair between those that follow each other, so that a change is seen.
    const width = Math.max(1, Math.min(1, end) * 100 - left - (end < 1 ? 0.6 : 0));
    return [{ left, width, looks: [state, ...(end > 1 ? ['open'] : [])].join(' ') }];
  }

  protected openSite(siteId: number): void {
    const item = this.stock
      .items()
      ?.find((one) => one.kind === 'standing' && one.siteId === siteId && one.key === null);
    if (item?.id) this.open.emit(item.id);
  }

  protected openRow(row: Row): void {
    const group = this.groups()?.find((one) => `${one.siteId} ${JSON.stringify([one.rules, one.own])}` === row.key);
    const rule = group?.rules.at(-1);
    if (row.isSite) this.openSite(row.siteId);
    else if (rule !== undefined) this.open.emit(rule);
  }
}
