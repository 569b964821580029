import { computed, inject, Injectable, signal } from '@angular/core';
import type { Register, RegisterPage } from '@domatium/contracts';
import { instant, type Instant } from '@domatium/core/time';
import { debounceTime, Subject } from 'rxjs';
import { api, Api, Refusal } from '../shared/api';
import { NoticeService } from '../shared/notices';
import { SessionService } from '../session/session.service';

export interface PortfolioEvent {
  readonly kind: string;
  readonly pageIds?: readonly number[];
  readonly releaseId?: number;
  readonly by?: number | null;
}

const TICK = 5_000;

/** The portfolio as the register shows it, kept true by the server's events. */
@Injectable({ providedIn: 'root' })
export class RegisterService {
  private readonly client = inject(Api);
  private readonly session = inject(SessionService);
  private readonly notices = inject(NoticeService);
  private readonly stale = new Subject<void>();
  private source: EventSource | null = null;
  private offset = 0;

  readonly portfolioId = signal(0);
  readonly register = signal<Register | null>(null);
  readonly trouble = signal<string | null>(null);
  /** The server's clock, as far as it is known here. */
  readonly now = signal<Instant>(instant(Date.now()));
  readonly events = new Subject<PortfolioEvent>();

  readonly portfolio = computed(
    () => this.session.session()?.portfolios.find(({ id }) => id === this.portfolioId()) ?? null,
  );
  readonly zone = computed(() => this.portfolio()?.zone ?? 'UTC');
  readonly pages = computed<readonly RegisterPage[]>(() => this.register()?.pages ?? []);
  readonly byId = computed(() => new Map(this.pages().map((page) => [page.id, page])));
  readonly mayWrite = computed(() => this.session.mayAct(this.portfolioId(), 'write'));
  readonly mayRelease = computed(() => this.session.mayAct(this.portfolioId(), 'release'));

  constructor() {
    setInterval(() => this.now.set(instant(Date.now() + this.offset)), TICK);
    this.stale.pipe(debounceTime(150)).subscribe(() => void this.load());
  }

  /** Shows a portfolio: loads it and listens to what changes in it. */
  open(portfolioId: number): void {
    if (this.portfolioId() === portfolioId && this.source) return;
    this.source?.close();
    this.portfolioId.set(portfolioId);
    this.register.set(null);
    void this.load();
    const source = (this.source = new EventSource(`/api/portfolios/${portfolioId}/events`));
    for (const kind of ['released', 'out', 'failed', 'draft', 'page', 'again'])
      source.addEventListener(kind, (message: MessageEvent<string>) =>
        this.hear({ ...(JSON.parse(message.data) as PortfolioEvent), kind }),
      );
  }

  close(): void {
    this.source?.close();
    this.source = null;
    this.portfolioId.set(0);
    this.register.set(null);
  }

  async load(): Promise<void> {
    try {
      const register = await this.client.call(api.register, { params: { portfolioId: this.portfolioId() } });
      this.offset = register.now - Date.now();
      this.now.set(instant(register.now));
      this.register.set(register);
      this.trouble.set(null);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
      if (error.isPassing) setTimeout(() => this.stale.next(), 2000);
    }
  }

  private hear(event: PortfolioEvent): void {
    this.events.next(event);
    if (event.kind === 'failed')
      this.notices.say({
        kind: 'trouble',
        text: 'A release could not be published and has been undone. See the history of its page.',
      });
    this.stale.next();
  }
}
