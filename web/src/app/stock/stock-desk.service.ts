import { computed, inject, Injectable, signal } from '@angular/core';
import type { StockItem } from '@domatium/contracts';
import { canonical } from '@domatium/core/plan';
import type { StockContent, StockKind } from '@domatium/core/stock';
import { RegisterService } from '../hub/register.service';
import { api, Api, Refusal } from '../hub/api';
import { StockService } from '../hub/stock.service';

type Content = StockContent[StockKind];

const PAUSE = 600;
const MOST_STEPS = 200;

/** Something of the stock while it is changed: its draft with undo, kept by itself; its releases. One for each open desk. */
@Injectable()
export class StockDesk {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly stock = inject(StockService);
  /** The draft as the server has it. */
  readonly version = signal(0);
  private timer: ReturnType<typeof setTimeout> | undefined;
  private keeping: Promise<void> | null = null;
  private readonly done = signal<readonly Content[]>([]);
  private readonly undone = signal<readonly Content[]>([]);

  readonly item = signal<StockItem | null>(null);
  readonly draft = signal<Content | null>(null);
  readonly name = signal('');
  readonly state = signal<'kept' | 'changed' | 'keeping' | 'refused'>('kept');
  readonly trouble = signal<string | null>(null);
  /** Somebody else has kept another text meanwhile. */
  readonly isBehind = signal(false);
  readonly errors = signal<Readonly<Record<string, string>>>({});
  readonly canUndo = computed(() => this.done().length > 0);
  readonly canRedo = computed(() => this.undone().length > 0);

  private params(itemId: number) {
    return { portfolioId: this.register.portfolioId(), itemId };
  }

  async open(id: number): Promise<void> {
    try {
      const item = await this.client.call(api.stockItem, { params: this.params(id) });
      this.item.set(item);
      this.draft.set(item.draft);
      this.name.set(item.name);
      this.version.set(item.draftVersion);
      this.state.set('kept');
      this.trouble.set(null);
      this.isBehind.set(false);
      this.done.set([]);
      this.undone.set([]);
    } catch (error) {
      this.refused(error);
    }
  }

  close(): void {
    void this.keep();
    this.item.set(null);
    this.draft.set(null);
  }

  change(draft: Content): void {
    const before = this.draft();
    if (!before) return;
    this.done.update((all) => [...all.slice(-MOST_STEPS), before]);
    this.undone.set([]);
    this.set(draft);
  }

  differsFrom(content: Content): boolean {
    return canonical(content) !== canonical(this.draft());
  }

  rename(name: string): void {
    this.name.set(name);
    this.later();
  }

  undo(): void {
    this.step(this.done, this.undone);
  }

  redo(): void {
    this.step(this.undone, this.done);
  }

  private step(from: typeof this.done, to: typeof this.done): void {
    const [next, now] = [from().at(-1), this.draft()];
    if (!next || !now) return;
    from.update((all) => all.slice(0, -1));
    to.update((all) => [...all, now]);
    this.set(next);
  }

  private set(draft: Content): void {
    this.draft.set(draft);
    this.later();
  }

  private later(): void {
    this.state.set('changed');
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.keep(), PAUSE);
  }

  async keep(): Promise<void> {
    clearTimeout(this.timer);
    if (this.keeping) await this.keeping;
    if (this.state() === 'kept') return;
    this.keeping = this.send().finally(() => (this.keeping = null));
    await this.keeping;
  }

  private async send(): Promise<void> {
    const [item, content, name] = [this.item(), this.draft(), this.name()];
    if (!item?.id || !content) return;
    this.state.set('keeping');
    try {
      const body = { version: this.version(), name, content };
      const { version } = await this.client.call(api.saveStock, { params: this.params(item.id), body });
      this.version.set(version);
      this.errors.set({});
      this.trouble.set(null);
      this.isBehind.set(false);
      if (this.draft() === content && this.name() === name) this.state.set('kept');
      else this.later();
    } catch (error) {
      this.refused(error);
    }
  }

  private refused(error: unknown): void {
    if (!(error instanceof Refusal)) throw error;
    this.state.set('refused');
    this.errors.set(
      Object.fromEntries(
        (error.problem.fields ?? []).map(({ path, message }) => [path.replace(/^content\./, ''), message]),
      ),
    );
    this.trouble.set(error.message);
    this.isBehind.set(error.code === 'stale');
    if (error.isPassing) this.timer = setTimeout(() => void this.keep(), 2_500);
  }

  /** Somebody else was faster: their text is taken, this one can be had back by undoing. */
  async takeNewest(): Promise<void> {
    const [item, mine] = [this.item(), this.draft()];
    if (!item?.id) return;
    await this.open(item.id);
    if (mine && canonical(mine) !== canonical(this.draft())) this.done.set([mine]);
  }

  /** What is shown after a release or an undo: the draft that is open stays. */
  async reload(): Promise<void> {
    const id = this.item()?.id;
    if (!id) return;
    const item = await this.client.call(api.stockItem, { params: this.params(id) });
    if (this.item()?.id === id) this.item.set(item);
    await this.stock.load();
  }

  /** Puts something new into the stock; its identity, or `null` where it was refused. */
  async make(body: {
    kind: StockKind;
    name: string;
    content: object;
    key?: string;
    siteId?: number | null;
  }): Promise<number | null> {
    try {
      const params = { portfolioId: this.register.portfolioId() };
      const { id } = await this.client.call(api.newStock, { params, body });
      await this.stock.load();
      return id;
    } catch (error) {
      this.refused(error);
      return null;
    }
  }

  async remove(): Promise<boolean> {
    const id = this.item()?.id;
    if (!id) return false;
    try {
      await this.client.call(api.removeStock, { params: this.params(id) });
      this.item.set(null);
      this.draft.set(null);
      await this.stock.load();
      return true;
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
      return false;
    }
  }
}
