import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { Register } from '@domatium/contracts';
import type { RegisterRow, Touch } from '@domatium/core/register';
import type { Instant } from '@domatium/core/time';
import { toObservable } from '@angular/core/rxjs-interop';
import { auditTime, buffer, filter, firstValueFrom, Subject } from 'rxjs';
import { SessionService } from './session.service';
import { api, Api, Refusal } from './api';
import { NoticeService } from './notices';
import { ClockService } from './clock.service';
import { PortfolioEvents, type PortfolioEvent } from './portfolio-events';
import { DESK } from './desk-token';
import type { Head } from './desk';
import { say } from '@domatium/core/words/hub';

/** Changes that come this close together are fetched together. */
const GATHERED = 40;
/** Asking for this one asks for the lists alone. */
const NO_PAGE = 0;
/** While people type, the list shows it this often. */
const TYPED = 3_000;
/** More changed pages than this are fetched with all the others. */
const FEW = 200;

/** The portfolio's register: its table lies in a worker, kept true by the server's events. */
@Injectable({ providedIn: 'root' })
export class RegisterService {
  private readonly client = inject(Api);
  private readonly session = inject(SessionService);
  private readonly notices = inject(NoticeService);
  private readonly clock = inject(ClockService);
  private readonly wire = inject(PortfolioEvents);
  readonly desk = inject(DESK);
  private readonly stale = new Subject<readonly number[] | 'all'>();
  /** Drafts that were saved: what that changes of the register comes with the event, and nothing is asked for. */
  private readonly saved = new Subject<Touch>();
  private readonly asked = new Set<number>();
  private readonly known = signal<ReadonlyMap<number, RegisterRow | null>>(new Map());

  readonly portfolioId = signal(0);
  /** Rises whenever something in the portfolio changed; 0 until the register is there. */
  readonly version = signal(0);
  private readonly versions = toObservable(this.version);
  readonly head = signal<Head | null>(null, { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) });
  readonly releases = signal<readonly number[]>([]);
  readonly waiting = signal<Register['waiting']>([]);
  readonly unverified = signal<Register['unverified']>(null);
  readonly trouble = signal<string | null>(null);
  readonly events = this.wire.all;

  readonly portfolio = computed(
    () => this.session.session()?.portfolios.find(({ id }) => id === this.portfolioId()) ?? null,
  );
  readonly zone = computed(() => this.portfolio()?.zone ?? 'UTC');
  // Views read the time and the register in one place.
  readonly now = this.clock.now.asReadonly();
  readonly shown = this.clock.shown;
  readonly handle = this.clock.handle;
  readonly isNow = this.clock.isNow;
  readonly scale = this.clock.scale;
  readonly mayWrite = computed(() => this.isNow() && this.session.mayAct(this.portfolioId(), 'write'));
  readonly mayRelease = computed(() => this.isNow() && this.session.mayAct(this.portfolioId(), 'release'));
  readonly mayManage = computed(() => this.session.mayAct(this.portfolioId(), 'manage'));

  constructor() {
    this.events.subscribe((event) => this.hear(event));
    this.stale.pipe(buffer(this.stale.pipe(auditTime(GATHERED)))).subscribe((changes) => {
      const ids = [...new Set(changes.flatMap((change) => (change === 'all' ? [] : change)))];
      void (changes.includes('all') || !ids.length || ids.length > FEW ? this.load() : this.loadSome(ids));
    });
    this.saved.pipe(buffer(this.saved.pipe(auditTime(TYPED)))).subscribe((touches) => void this.touch(touches));
    effect(() => {
      const at = this.shown();
      if (this.version()) untracked(() => void this.lookAgain(at));
    });
  }

  /** Shows a portfolio: loads it and listens to what changes in it. */
  open(portfolioId: number): void {
    if (this.portfolioId() === portfolioId && this.wire.isOpen) return;
    this.close();
    this.portfolioId.set(portfolioId);
    void this.load();
    this.wire.open(portfolioId);
  }

  close(): void {
    this.wire.close();
    this.portfolioId.set(0);
    this.version.set(0);
    this.head.set(null);
    this.asked.clear();
    this.known.set(new Map());
  }

  /** A page as it is shown: `undefined` until it is known, `null` where it is not in the portfolio. */
  page(id: number | null): RegisterRow | null | undefined {
    const known = this.known();
    if (id === null || this.version() === 0) return undefined;
    if (!this.asked.has(id)) {
      this.asked.add(id);
      queueMicrotask(() => void this.lookAgain(untracked(this.shown)));
    }
    return known.get(id);
  }

  /** Pages as they are at the shown moment; a sheet that was opened by its address waits here for the register. */
  async rowsOf(ids: readonly number[]): Promise<RegisterRow[]> {
    await this.ready();
    return this.desk.rows(ids, this.shown());
  }

  async ready(): Promise<void> {
    await firstValueFrom(this.versions.pipe(filter((version) => version > 0)));
  }

  async load(): Promise<void> {
    const portfolioId = this.portfolioId();
    try {
      const text = await this.client.text(api.register, { params: { portfolioId }, query: {} });
      if (portfolioId !== this.portfolioId()) return;
      await this.take(await this.desk.read(text));
    } catch (error) {
      this.refused(error);
    }
  }

  private async loadSome(ids: readonly number[]): Promise<void> {
    const portfolioId = this.portfolioId();
    try {
      const query = { pages: ids.join(',') };
      const register = await this.client.call(api.register, { params: { portfolioId }, query });
      if (portfolioId !== this.portfolioId()) return;
      await this.desk.merge(register.columns, ids);
      await this.take(register);
    } catch (error) {
      this.refused(error);
    }
  }

  private async touch(touches: readonly Touch[]): Promise<void> {
    const last = [...new Map(touches.map((touch) => [touch.id, touch])).values()];
    if (await this.desk.touch(last)) this.version.update((version) => version + 1);
    else this.stale.next(last.map(({ id }) => id));
  }

  private async take({ now, releases, waiting, unverified }: Omit<Register, 'columns'>): Promise<void> {
    this.clock.set(now);
    this.head.set(await this.desk.head(this.shown()));
    this.releases.set(releases);
    this.waiting.set(waiting);
    this.unverified.set(unverified);
    this.trouble.set(null);
    this.version.update((version) => version + 1);
  }

  private refused(error: unknown): void {
    if (!(error instanceof Refusal)) throw error;
    this.trouble.set(error.message);
    if (error.isPassing) setTimeout(() => this.stale.next('all'), 2000);
  }

  /** Fetches the pages somebody looks at once more, as they are at a moment. */
  private async lookAgain(at: Instant): Promise<void> {
    const ids = [...this.asked];
    const [rows, head] = await Promise.all([this.desk.rows(ids, at), this.desk.head(at)]);
    const found = new Map(rows.map((row) => [row.id, row]));
    this.known.set(new Map(ids.map((id) => [id, found.get(id) ?? null])));
    this.head.set(head);
  }

  /** Somebody decided for their own text over this person's: they are told wherever they are. */
  private tellReplaced(pageId: number): void {
    const href = `/portfolios/${this.portfolioId()}/pages/${pageId}/edit`;
    const link = location.pathname === href ? {} : { link: { label: say.readWhatYouHadWritten, href } };
    this.notices.say({ kind: 'trouble', text: say.someoneKeptTheirTextOverYours, ...link });
  }

  private hear(event: PortfolioEvent): void {
    if (['progress', 'presence', 'picture', 'stock', 'trouble'].includes(event.kind)) return;
    if (event.kind === 'failed')
      this.notices.say({
        kind: 'trouble',
        text: say.aReleaseCouldntBePublishedAnd,
      });
    const [pageId] = event.pageIds ?? [];
    if (event.to !== undefined && event.to === this.session.session()?.account.id) this.tellReplaced(pageId ?? 0);
    if (event.kind === 'draft' && pageId !== undefined && event.at !== undefined && event.by)
      return this.saved.next({ id: pageId, at: event.at, by: event.by });
    // That a release is out changes no page, only what is waiting.
    if (event.kind === 'out') return this.waiting.update((all) => all.filter(({ id }) => id !== event.releaseId));
    // Lists alone: no page is asked for, and what they name is found again by its identity.
    this.stale.next(['verified', 'people', 'campaign'].includes(event.kind) ? [NO_PAGE] : (event.pageIds ?? 'all'));
  }
}
