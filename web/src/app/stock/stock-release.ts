import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { ReleaseChange, StockChange } from '@domatium/contracts';
import { PART_KINDS, partsNamed, type Standing } from '@domatium/core/stock';
import { readablePath } from '@domatium/core/address';
import { later, wallOf, writeEnd, writeInstant, DAY, type Instant } from '@domatium/core/time';
import { MomentField } from '../shared/moment-field';
import { ChangesForm } from '../releases/change-form';
import { PreviewView } from '../releases/preview-view';
import { StockService } from '../hub/stock.service';
import { StockDesk } from './stock-desk.service';
import { say } from '@domatium/core/words/stock';
import { say as common } from '@domatium/core/words/common';

/**
 * When which revision holds, where it is used, and putting the draft on all of its pages, or taking a piece off them: now,
 * later, or for a while. Previewed, prepared and undone like any release.
 */
@Component({
  selector: 'dm-stock-release',
  imports: [MomentField, PreviewView],
  templateUrl: './stock-release.html',
  styleUrl: './stock-release.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StockRelease extends ChangesForm {
  protected readonly common = common;
  protected readonly say = say;
  protected readonly desk = inject(StockDesk);
  private readonly shelves = inject(StockService);
  protected readonly act = signal<StockChange['act']>('put');
  protected readonly from = signal<string | null>(null);
  protected readonly until = signal<string | null>(null);
  protected readonly pages = computed(() => this.desk.item()?.pages.filter(({ isDraft }) => !isDraft) ?? []);
  protected readonly drafts = computed(() => this.desk.item()?.pages.filter(({ isDraft }) => isDraft) ?? []);
  protected readonly changes = (): readonly ReleaseChange[] => [];
  /** Asked about once the draft is kept: what is released is what is seen. */
  protected override readonly stock = computed<readonly StockChange[]>(() => {
    const [item, from, until] = [this.desk.item(), this.from(), this.until()];
    // Each draft that is kept is looked at anew.
    this.desk.version();
    if (!item?.id || this.desk.state() !== 'kept') return [];
    const times = {
      from: from === null ? ('now' as const) : this.wall(from),
      until: until === null ? null : this.wall(until),
    };
    const act = this.mayTakeOff() ? this.act() : 'put';
    // Parts that never went out go with what says where they stand.
    const along = act === 'put' ? this.unreleased() : [];
    return [
      ...along.map((itemId) => ({ ...times, act: 'put' as const, itemId, until: null })),
      { ...times, act, itemId: item.id },
    ];
  });
  private readonly unreleased = computed(() => {
    const [item, draft] = [this.desk.item(), this.desk.draft()];
    if (item?.kind !== 'standing' || !draft) return [];
    const named = new Set(partsNamed(draft as Standing));
    return (this.shelves.items() ?? []).flatMap(({ id, periods }) =>
      id !== null && named.has(id) && !periods.length ? [id] : [],
    );
  });
  /** Others always hold something. */
  protected readonly mayTakeOff = computed(() =>
    ['piece', 'standing', 'menu', 'metadata', 'code', 'root', ...PART_KINDS].includes(this.desk.item()?.kind ?? ''),
  );
  protected readonly pressWords = computed(() => {
    const count = this.pages().length;
    const pages = count === 1 ? say.onePage : say.pages(count.toLocaleString('en'));
    const begins = this.from() === null ? say.now : say.from((this.from() ?? '').replace('T', ', '));
    // Files of the root are on no page.
    if (this.desk.item()?.kind === 'root')
      return this.act() === 'put' ? say.putFilesLive(begins) : say.takeFilesOff(begins);
    return this.act() === 'put' ? say.putOn(pages, begins) : say.takeOff(pages, begins);
  });
  protected readonly preparedName = computed(() => {
    const name = this.desk.name();
    return this.act() === 'put' ? say.putOnItsPages(name) : say.takeOffItsPages(name);
  });
  /** Whether the draft as it is typed says something else than what visitors get. */
  protected readonly differs = computed(() => {
    const [item, now] = [this.desk.item(), this.service.now()];
    const held = item?.periods.find(({ from, until }) => from <= now && now < (until ?? Infinity));
    const revision = item?.revisions.find(({ number }) => number === held?.revision);
    return revision ? this.desk.differsFrom(revision.content) : (item?.draftDiffers ?? false);
  });
  protected readonly holds = computed(() => {
    const [zone, now] = [this.service.zone(), this.service.now()];
    return (this.desk.item()?.periods ?? [])
      .filter(({ until }) => until === null || until > now)
      .map(({ from, until, revision }) => {
        const begins = from <= now ? say.now : say.from(writeInstant(from as Instant, zone, now));
        const ends = until === null ? '' : say.until(writeEnd(until as Instant, zone, now));
        return { revision, words: begins + ends, isNow: from <= now };
      });
  });

  constructor() {
    super();
    this.watch();
  }

  protected write(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }
  protected readable(address: string): string {
    return readablePath(address);
  }

  protected askFrom(): void {
    this.from.set(wallOf(later(this.service.now(), DAY), this.service.zone()).replace(/T.*/, 'T09:00'));
  }
  protected askUntil(): void {
    this.until.set(wallOf(later(this.service.now(), 14 * DAY), this.service.zone()).replace(/T.*/, 'T00:00'));
  }

  protected async release(): Promise<void> {
    const name = this.desk.name();
    await this.press(this.act() === 'put' ? say.isOnItsWayToVisitors(name) : say.isOffItsPages(name));
  }

  protected async undo(releaseId: number): Promise<void> {
    if (!(await this.releasing.undo(releaseId))) await this.desk.reload();
  }

  protected override finished(): void {
    this.from.set(null);
    this.until.set(null);
    this.act.set('put');
    void this.desk.reload();
  }
}
