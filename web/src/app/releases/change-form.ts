import { computed, Directive, effect, inject, signal } from '@angular/core';
import {
  previewBody,
  type Changes,
  type ReleaseChange,
  type ReleasePreview,
  type StockChange,
  type WallTimeInput,
} from '@domatium/contracts';
import { instantOfWall, startOfDay, wallOf, writeInstant, DAY, type Instant } from '@domatium/core/time';
import { pathBelow } from '@domatium/core/address';
import type { Holder, Room } from './make-room';
import { PreparedService } from './prepared.service';
import { RegisterService } from '../hub/register.service';
import { SessionService } from '../hub/session.service';
import { errorsOf } from '../hub/forms';
import { Work } from '../shared/work';
import { PlaceService } from '../hub/place.service';
import { NO_FAULTS, ReleasingService, type Faults } from './releasing.service';

const PAUSE = 180;

/** What the sheets that change what visitors get have in common: changes, their preview, their faults, the press. */
@Directive()
export abstract class ChangesForm {
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  protected readonly session = inject(SessionService);
  protected readonly releasing = inject(ReleasingService);
  private readonly prepared = inject(PreparedService);
  protected readonly preview = signal<ReleasePreview | null>(null);
  protected readonly faults = signal<Faults>(NO_FAULTS);
  protected readonly isBusy = signal(false);
  /** Something else is asked for than what was judged last: until the answer is there, nothing is said of either. */
  protected readonly isJudging = signal(false);
  private key = crypto.randomUUID();
  private asked = 0;

  /** What somebody else did to what this rests on since the sheet was opened, until the person has seen it. */
  protected readonly meanwhile = signal<ReleasePreview['latest']>(null);
  /** The last thing of others that was there when the sheet was opened, or that was seen; of which pages and things. */
  private known: { readonly of: string; readonly latest: string } | null = null;

  /** The changes as the fields say them; `null` while something is missing. */
  protected abstract readonly changes: () => readonly ReleaseChange[] | null;
  /** What becomes of things of the stock. */
  protected readonly stock: () => readonly StockChange[] = () => [];
  private readonly wanted = computed<Changes | null>(
    () => {
      const [changes, stock] = [this.changes(), this.stock()];
      return changes && (changes.length || stock.length) ? { changes, stock } : null;
    },
    { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) },
  );
  /** Preview or press under way, for those that take long. */
  protected readonly work = signal<Work | null>(null);
  /** Called with every preview, so that a sheet can take what it proposes. */
  protected previewed?(preview: ReleasePreview): void;

  protected readonly blocking = computed(() => {
    const { fields, whole, isPassing } = this.faults();
    if (this.isJudging()) return 0;
    return (
      fields.length +
      (this.meanwhile() ? 1 : 0) +
      (whole && !isPassing ? 1 : 0) +
      (this.preview()?.findings ?? []).filter(({ severity }) => severity === 'blocks').length
    );
  });
  /** A site of it wants somebody else to approve: it can only be prepared. */
  protected readonly wantsApproval = computed(() => this.faults().fields.some(({ path }) => path === 'approvals'));
  protected readonly mayPress = computed(
    () => !this.isBusy() && !this.isJudging() && this.blocking() === 0 && !!this.preview(),
  );
  /** What can't be pressed yet can be written down, as long as it could be judged. */
  protected readonly mayPrepare = computed(() => !this.isBusy() && !this.isJudging() && !!this.preview());
  protected readonly errorAt = (field: string) => (path: string) => {
    const full = ['changes', 'stock'].map((subject) => `${subject}[0].${field}${path ? `.${path}` : ''}`);
    if (this.isJudging()) return null;
    return this.faults().fields.find((fault) => full.includes(fault.path))?.message ?? null;
  };
  protected readonly errorOf = (field: string) => this.errorAt(field)('');

  /** Asks for a preview whenever the change does; late answers to earlier questions are dropped. */
  protected watch(): void {
    effect(() => {
      this.isJudging.set(this.wanted() !== null);
      // Another change is another press; the same one that was not answered is sent again under its key.
      this.key = crypto.randomUUID();
    });
    effect((cleanUp) => {
      const wanted = this.wanted();
      // What others do may change what this does.
      this.service.version();
      const question = ++this.asked;
      if (!wanted) return void this.preview.set(null);
      // All of them come from the same fields: what is wrong with the first is wrong with all.
      const wrong = Object.entries(errorsOf(previewBody, { ...wanted, changes: wanted.changes.slice(0, 1) }));
      if (wrong.length) {
        this.isJudging.set(false);
        this.preview.set(null);
        this.faults.set({
          fields: wrong.map(([path, message]) => ({ path, message })),
          whole: null,
          isEveryones: true,
        });
        return;
      }
      const work = new Work(this.service.events);
      const timer = setTimeout(() => {
        this.work.set(work);
        void this.releasing.preview(wanted, work).then(({ preview, faults }) => {
          work.end();
          if (question !== this.asked) return;
          this.work.set(null);
          this.isJudging.set(false);
          this.preview.set(preview);
          this.faults.set(faults);
          if (preview) this.notice(wanted, preview);
          if (preview) this.previewed?.(preview);
        });
      }, PAUSE);
      cleanUp(() => {
        clearTimeout(timer);
        if (!this.isBusy()) work.cancel();
      });
    });
  }

  /** The person has seen what others did, and goes on with what is judged now. */
  protected acknowledge(): void {
    if (this.known) this.known = { ...this.known, latest: JSON.stringify(this.meanwhile()) };
    this.meanwhile.set(null);
  }

  private notice({ changes, stock = [] }: Changes, { latest }: ReleasePreview): void {
    const of = JSON.stringify([changes.map(({ pageId }) => pageId), stock.map(({ itemId }) => itemId)]);
    const now = JSON.stringify(latest);
    if (this.known?.of !== of) {
      this.known = { of, latest: now };
      this.meanwhile.set(null);
    } else if (this.known.latest !== now) this.meanwhile.set(latest);
  }

  /** Presses what was looked at; true where it was decided. */
  protected async press(done: string, link?: { label: string; href: string }): Promise<boolean> {
    const wanted = this.wanted();
    if (!wanted || this.isBusy()) return false;
    const seen = new Map(this.preview()?.pages.map(({ pageId, draftVersion }) => [pageId, draftVersion]));
    const things = new Map(this.preview()?.stock.map(({ itemId, draftVersion }) => [itemId, draftVersion]));
    const basis = this.preview()?.basis;
    const changes = {
      ...(basis === undefined ? {} : { basis }),
      changes: wanted.changes.map((change) =>
        change.act === 'release' ? { ...change, draftVersion: seen.get(change.pageId) } : change,
      ),
      stock: (wanted.stock ?? []).map((change) =>
        change.act === 'put' ? { ...change, draftVersion: things.get(change.itemId) } : change,
      ),
    };
    const work = new Work(this.service.events);
    this.work.set(work);
    this.isBusy.set(true);
    const faults = await this.releasing.release(changes, this.key, done, { ...(link ? { link } : {}), work });
    work.end();
    this.work.set(null);
    this.isBusy.set(false);
    if (faults) this.faults.set(faults);
    else this.finished();
    return !faults;
  }

  /** Writes the changes down as a prepared release instead of deciding them. */
  protected async prepare(name: string): Promise<void> {
    const wanted = this.wanted();
    if (!wanted || this.isBusy()) return;
    this.isBusy.set(true);
    const refusal = await this.prepared.prepare(name, wanted).finally(() => this.isBusy.set(false));
    if (refusal) this.faults.set({ fields: [], whole: refusal });
    else this.finished();
  }

  /** What was asked for is done: the sheet closes. */
  protected finished(): void {
    this.place.go({ panel: null });
  }

  protected wall(local: string): WallTimeInput {
    return { local, zone: this.service.zone() };
  }

  /** Tomorrow at nine, and next Monday at nine, as wall-clock times. */
  protected readonly tomorrow = computed(
    () => `${wallOf(startOfDay(this.service.now(), this.service.zone(), 1), this.service.zone()).slice(0, 10)}T09:00`,
  );
  protected readonly nextMonday = computed(() => {
    const zone = this.service.zone();
    const today = startOfDay(this.service.now(), zone);
    const weekday = (new Date(today + DAY / 2).getUTCDay() + 6) % 7;
    return `${wallOf(startOfDay(today, zone, 7 - weekday), zone).slice(0, 10)}T09:00`;
  });

  protected words(local: string): string {
    const at = instantOfWall(this.wall(local));
    return at === null ? '' : writeInstant(at, this.service.zone(), this.service.now());
  }

  /** The next whole hour, as a first suggestion. */
  protected nextHour(): string {
    return wallOf((Math.ceil((this.service.now() + 60_000) / 3_600_000) * 3_600_000) as Instant, this.service.zone());
  }
}

/** A sheet that makes one change to one page, and to those that have its address where they are to make room. */
@Directive()
export abstract class ChangeForm extends ChangesForm {
  /** The change as the fields say it; `null` while something is missing. */
  protected abstract readonly change: () => ReleaseChange | null;
  /** Pages that make room at the same moment. */
  protected readonly rooms = signal<readonly Room[]>([]);
  protected readonly changes = computed(() => {
    const change = this.change();
    return change ? [change, ...this.rooms().flatMap((room) => this.roomMade(change, room) ?? [])] : null;
  });
  /** Pages that have the address when it is wanted. */
  protected readonly holders = computed<readonly Holder[]>(() => {
    if (this.isJudging()) return [];
    const taken = (this.preview()?.faults ?? []).filter(
      ({ code, path }) => code === 'address-taken' && path.startsWith('changes[0].'),
    );
    const all = taken.map(({ params }) => params as { pageId: number; page: string | null });
    return [...new Map(all.map(({ pageId, page }) => [pageId, { pageId, name: page ?? '' }])).values()];
  });

  private roomMade(change: ReleaseChange, { pageId, by }: Room): ReleaseChange | null {
    const from = change.act === 'move' ? change.at : change.act === 'release' ? change.from : null;
    if (from === null) return null;
    if (by === 'taking-off') {
      const until = change.act === 'release' ? change.until : null;
      return { act: 'take-off', pageId, from, until, afterwards: { kind: 'not-found' } };
    }
    const page = this.service.page(change.pageId);
    const site = this.service.head()?.sites.find(({ id }) => id === page?.siteId);
    if (!page || !site) return null;
    const path = pathBelow(site.basePath, page.path);
    return { act: 'move', pageId, at: from, siteId: site.id, path, leaves: null };
  }
}
