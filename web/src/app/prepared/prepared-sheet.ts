import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import type { Changes, PreparedView, ReleaseChange, ReleasePreview, StockChange } from '@domatium/contracts';
import { instantOfWall, writeEnd, writeInstant, type Instant, type WallTime } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { PreviewView } from '../releases/preview-view';
import { NO_FAULTS, ReleasingService, type Faults } from '../releases/releasing.service';
import { PageReview } from '../remarks/page-review';
import { SessionService } from '../hub/session.service';
import { MomentField } from '../shared/moment-field';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { periodsOf, retimed, withPeriods, type PreparedPeriod } from './periods';
import { PreparedService } from '../releases/prepared.service';
import { say } from '@domatium/core/words/prepared';
import { say as common } from '@domatium/core/words/common';

/** Prepared releases: what each would do as things are now, to be changed, released or dropped. */
@Component({
  selector: 'dm-prepared-sheet',
  imports: [PageReview, WideSheet, MomentField, PreviewView],
  templateUrl: './prepared-sheet.html',
  styleUrl: './prepared-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PreparedSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly session = inject(SessionService);
  protected readonly prepared = inject(PreparedService);
  private readonly releasing = inject(ReleasingService);
  /** The changes as they are being changed; `null` while they are as they were read. */
  protected readonly edited = signal<Required<Changes> | null>(null);
  protected readonly preview = signal<ReleasePreview | null>(null);
  protected readonly faults = signal<Faults>(NO_FAULTS);
  protected readonly refusal = signal<string | null>(null);
  protected readonly isBusy = signal(false);
  protected readonly words = signal('');
  private key = crypto.randomUUID();
  private asked = 0;

  protected readonly chosen = computed<PreparedView | null>(
    () => this.prepared.all().find(({ id }) => id === this.place.preparedId()) ?? null,
  );
  protected readonly changes = computed(() => (this.edited() ?? this.chosen())?.changes ?? []);
  protected readonly stock = computed(() => (this.edited() ?? this.chosen())?.stock ?? []);
  protected readonly rows = computed(() => {
    const names = new Map(this.chosen()?.pages.map(({ id, name }) => [id, name]));
    return this.changes().flatMap((change, index) => {
      const periods: readonly (PreparedPeriod | null)[] = change.act === 'release' ? periodsOf(change) : [null];
      const name = names.get(change.pageId) ?? common.aPage;
      return periods.map((timed, period) => ({
        key: `${index} ${period}`,
        index,
        period,
        name,
        timed,
        words: this.wordsOf(change),
      }));
    });
  });
  /** Things of the stock: with times of their own, like periods of pages. */
  protected readonly things = computed(() => {
    const names = new Map(this.chosen()?.items.map(({ id, name }) => [id, name]));
    return this.stock().map((change, index) => ({
      ...change,
      index,
      name: names.get(change.itemId) ?? say.somethingRemoved,
      words: change.act === 'put' ? say.onItsPages : say.offItsPages,
    }));
  });
  protected readonly blocking = computed(
    () =>
      this.faults().fields.length +
      (this.preview()?.findings ?? []).filter(({ severity }) => severity === 'blocks').length,
  );

  constructor() {
    effect((cleanUp) => {
      const [changes, stock] = [this.changes(), this.stock()];
      this.service.version();
      const question = ++this.asked;
      if (!changes.length && !stock.length) return void this.preview.set(null);
      const timer = setTimeout(
        () =>
          void this.releasing.preview({ changes, stock }).then(({ preview, faults }) => {
            if (question !== this.asked) return;
            this.preview.set(preview);
            // Approvals are told apart: they are given here.
            const fields = faults.fields.filter(({ path }) => path !== 'approvals');
            this.faults.set({ ...faults, fields });
          }),
        180,
      );
      cleanUp(() => clearTimeout(timer));
    });
  }

  protected choose(one: PreparedView): void {
    this.place.go({ prepared: one.id === this.place.preparedId() ? null : String(one.id) });
    this.words.set('');
    this.edited.set(null);
    this.refusal.set(null);
    this.key = crypto.randomUUID();
  }

  protected when(one: PreparedView): string {
    if (one.startsAt === null) return say.withThePress;
    return writeInstant(one.startsAt as Instant, this.service.zone(), this.service.now());
  }

  protected localOf(moment: 'now' | WallTime): string {
    return moment === 'now' ? 'now' : moment.local;
  }

  protected setTime(index: number, period: number, field: 'from' | 'until', local: string | null): void {
    const wall = local === null ? null : { local, zone: this.service.zone() };
    this.edit(index, (periods) => periods.map((one, n) => (n === period ? retimed(one, field, wall) : one)));
  }

  protected leaveOut(index: number, period: number): void {
    this.edit(index, (periods) => periods.filter((_, n) => n !== period));
  }

  private edit(index: number, edit: (periods: readonly PreparedPeriod[]) => readonly PreparedPeriod[]): void {
    const changes = this.changes().flatMap((change, at): ReleaseChange[] => {
      if (at !== index) return [change];
      const next = change.act === 'release' ? withPeriods(change, edit(periodsOf(change))) : null;
      return next ? [next] : [];
    });
    this.edited.set({ changes, stock: this.stock() });
  }

  protected setThing(index: number, change: Partial<StockChange>): void {
    const stock = this.stock().map((one, n) => (n === index ? ({ ...one, ...change } as StockChange) : one));
    this.edited.set({ changes: this.changes(), stock });
  }

  protected leaveOutThing(index: number): void {
    this.edited.set({ changes: this.changes(), stock: this.stock().filter((_, n) => n !== index) });
  }

  protected wall(local: string | null): WallTime | null {
    return local === null ? null : { local, zone: this.service.zone() };
  }

  /** How much it changes, in words. */
  protected sizeOf({ pages, items }: PreparedView): string {
    const parts = [
      ...(pages.length || !items.length ? [pages.length === 1 ? say.onePage : say.pages(pages.length)] : []),
      ...(items.length ? [items.length === 1 ? say.oneThingOfTheStock : say.thingsOfTheStock(items.length)] : []),
    ];
    return parts.join(', ');
  }

  protected async save(): Promise<void> {
    const [one, edited] = [this.chosen(), this.edited()];
    if (!one || !edited) return;
    await this.run(() => this.prepared.change(one, one.name, edited));
    if (!this.refusal()) this.edited.set(null);
  }

  protected async press(): Promise<void> {
    const one = this.chosen();
    if (one) await this.run(() => this.prepared.press(one, this.key));
  }

  /** Approves; the last approval that is wanted releases it too. */
  protected async approve(): Promise<void> {
    const one = this.chosen();
    if (!one) return;
    await this.run(() => this.prepared.approve(one));
    if (!this.refusal() && this.missing(one) === 1) await this.press();
  }

  /** Says something to the others who work on it; with it, whoever may approve sends it back. */
  protected async speak(sendsBack: boolean): Promise<void> {
    const [one, text] = [this.chosen(), this.words().trim()];
    if (!one || !text) return;
    await this.run(() => this.prepared.speak(one, text, sendsBack));
    if (!this.refusal()) this.words.set('');
  }

  /** The draft of a page, in its editor: visitors have not got it yet. */
  protected hrefOf(pageId: number): string {
    return `/portfolios/${this.service.portfolioId()}/pages/${pageId}/edit`;
  }

  protected said(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }

  protected missing({ approvals }: PreparedView): number {
    return Math.max(0, approvals.needed - approvals.given.length);
  }

  protected mayApprove({ approvals }: PreparedView): boolean {
    const me = this.session.session()?.account.id;
    return this.service.mayRelease() && approvals.waitsFor.some(({ id }) => id === me);
  }

  /** Whom it waits for, in words. */
  protected waits(one: PreparedView): string | null {
    const missing = this.missing(one);
    if (!missing) return null;
    const names = one.approvals.waitsFor.map(({ name }) => name);
    const whom = names.length ? names.join(' or ') : say.somebodyWhoMayReleaseNobodyHere;
    return say.by(missing === 1 ? say.waitsForAnApproval : say.waitsForApprovals(missing), whom);
  }

  protected async drop(): Promise<void> {
    const one = this.chosen();
    if (one) await this.run(() => this.prepared.drop(one));
  }

  private async run(work: () => Promise<string | null>): Promise<void> {
    if (this.isBusy()) return;
    this.isBusy.set(true);
    this.refusal.set(await work().finally(() => this.isBusy.set(false)));
  }

  private wordsOf(change: ReleaseChange): string {
    const write = (moment: 'now' | WallTime) => {
      const at = moment === 'now' ? null : instantOfWall(moment);
      return at === null ? say.withThePress : writeInstant(at, this.service.zone(), this.service.now());
    };
    const end = (moment: WallTime | null) => {
      const at = moment && instantOfWall(moment);
      return at ? say.toWithNow(writeEnd(at, this.service.zone(), this.service.now())) : '';
    };
    switch (change.act) {
      case 'release':
        return say.liveFrom(write(change.from), end(change.until));
      case 'take-off':
        return say.offFrom(write(change.from));
      case 'move':
        return say.movesToFrom(change.path, write(change.at));
      case 'retime':
        return say.anotherPeriod(write(change.from ?? 'now'), end(change.until));
      case 'shift':
        return say.shiftedByDays(change.days);
      case 'afterwards':
        return say.anotherAnswerAfterwards;
      case 'bin':
        return say.intoTheBin;
      case 'restore':
        return say.outOfTheBin;
    }
  }
}
