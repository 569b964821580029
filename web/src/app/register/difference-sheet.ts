import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { readablePath } from '@domatium/core/address';
import type { DifferenceKind } from '@domatium/core/register';
import { instantOfWall, isoInstant, wallOf, writeInstant, type Instant } from '@domatium/core/time';
import { api, Api, Refusal } from '../hub/api';
import { Breakable } from '../shared/breakable';
import { MomentField } from '../shared/moment-field';
import { NoticeService } from '../hub/notices';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import type { DifferenceLine, DifferenceView } from '../hub/desk';
import { RegisterService } from '../hub/register.service';
import { say } from '@domatium/core/words/register';
import { say as common } from '@domatium/core/words/common';

const SHOWN = 300;
/** Pages whose words are asked for at a time. */
const ASKED = 200;
const KINDS: Record<DifferenceKind, string> = {
  comes: say.goLive,
  goes: say.comeOff,
  revision: say.changesIt,
  address: say.movesIt,
};

/** What visitors get that is different at one moment than at another, in order of time. */
@Component({
  selector: 'dm-difference-sheet',
  imports: [WideSheet, MomentField, Breakable],
  templateUrl: './difference-sheet.html',
  styleUrl: './difference-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DifferenceSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly client = inject(Api);
  private readonly notices = inject(NoticeService);
  private readonly view = signal<DifferenceView | null>(null);
  /** What the addresses of pages that come off give then, by page. */
  private readonly instead = signal<ReadonlyMap<number, string>>(new Map());

  /** The two moments in order: now stands in for the one that was not chosen. */
  protected readonly between = computed<readonly [Instant, Instant]>(() => {
    const [a, b] = [this.place.since() ?? this.service.now(), this.service.shown()];
    return a < b ? [a, b] : [b, a];
  });
  protected readonly moments = computed(() => this.between().map((at) => this.write(at)));
  protected readonly walls = computed(() => this.between().map((at) => wallOf(at, this.service.zone()).slice(0, 16)));
  protected readonly isThere = computed(() => this.view() !== null);
  protected readonly summary = computed(() => {
    const counts = this.view()?.counts;
    if (!counts) return '';
    const parts = (Object.keys(KINDS) as DifferenceKind[]).flatMap((kind) =>
      counts[kind] ? [`${counts[kind]} ${KINDS[kind]}`] : [],
    );
    return parts.length ? parts.join(', ') : say.noDifferences;
  });
  protected readonly lines = computed(() => {
    let last = '';
    return (this.view()?.lines ?? []).map((line) => {
      const when = this.write(line.at);
      const shown = when === last ? '' : when;
      last = when;
      return { ...line, when: shown, words: this.words(line), address: readable(line.addresses[1]) };
    });
  });
  protected readonly more = computed(() => {
    const view = this.view();
    const all = view ? Object.values(view.counts).reduce((sum, n) => sum + n, 0) : 0;
    return all - (view?.lines.length ?? 0);
  });
  protected readonly csvHref = computed(() => {
    const [from, until] = this.between().map((at) => isoInstant(at));
    const scope = this.place.scopeKey();
    const query = new URLSearchParams({ from: from ?? '', until: until ?? '', ...(scope ? { scope } : {}) });
    return `/api/portfolios/${this.service.portfolioId()}/register/difference.csv?${query.toString()}`;
  });

  constructor() {
    effect(() => {
      const [scope, between] = [this.place.scope(), this.between()];
      if (this.service.version()) void this.load(scope, between);
    });
  }

  private async load(scope: ReturnType<PlaceService['scope']>, between: readonly [Instant, Instant]): Promise<void> {
    const view = await this.service.desk.differences(scope, between, SHOWN);
    this.view.set(view);
    const going = view.lines.filter(({ kind }) => kind === 'goes').map(({ page }) => page.id);
    if (!going.length) return;
    try {
      const given = await this.client.call(api.registerGiven, {
        params: { portfolioId: this.service.portfolioId() },
        query: { pages: going.slice(0, ASKED).join(','), at: isoInstant(between[1]) },
      });
      this.instead.set(new Map(given));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  protected choose(which: 0 | 1, wall: string | null): void {
    const at = wall === null ? null : instantOfWall({ local: wall, zone: this.service.zone() });
    if (at === null) return;
    const other = this.between()[which === 0 ? 1 : 0];
    const [since, until] = which === 0 ? [at, other] : [other, at];
    this.place.go({ since: isoInstant(since), at: isoInstant(until) }, true);
  }

  protected async copyLink(): Promise<void> {
    const [since, until] = this.between().map((at) => isoInstant(at));
    const link = new URL(location.href);
    link.searchParams.set('since', since ?? '');
    link.searchParams.set('at', until ?? '');
    link.searchParams.set('panel', 'difference');
    await navigator.clipboard.writeText(link.href);
    this.notices.say({ kind: 'done', text: say.linkCopiedItShowsTheSame });
  }

  private words({ kind, revisions: [before, after], addresses: [was, is], page }: DifferenceLine): string {
    switch (kind) {
      case 'comes':
        return say.goesLiveRevision(after);
      case 'goes': {
        const instead = this.instead().get(page.id);
        return say.comesOff(instead ? say.visitorsGet(instead) : '');
      }
      case 'revision':
        return say.revisionBecomes(before, after);
      case 'address':
        return say.movesFromTo(readable(was), readable(is));
    }
  }

  private write(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }
}

const readable = (address: string) => address.replace(/\/.*/, (path) => readablePath(path));
