import { computed, inject, Injectable, signal } from '@angular/core';
import { api } from '@domatium/contracts';
import { RegisterService } from '../hub/register.service';
import type { PortfolioEvent } from '../hub/portfolio-events';
import { Api } from '../hub/api';
import { say } from '@domatium/core/words/presence';

/** How often a window says that it still has its page open, and after how long a silent one counts as closed. */
const HEARTBEAT = 20_000;
const PATIENCE = 45_000;

interface Other {
  readonly pageId: number;
  readonly name: string;
  readonly isEditing: boolean;
  readonly blockId: string | null;
  readonly heardAt: number;
}

/** Who else has the page open that this window has open. */
@Injectable({ providedIn: 'root' })
export class PresenceService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly window = crypto.randomUUID();
  private readonly others = signal<ReadonlyMap<string, Other>>(new Map());
  private open: { readonly pageId: number; readonly isEditing: boolean } | null = null;
  private blockId: string | null = null;

  /** In words, one for each other window on the page; `null` where there is none. */
  readonly words = computed(() => {
    const here = [...this.others().values()].filter(({ pageId }) => pageId === this.pageId());
    const editing = new Set(here.filter(({ isEditing }) => isEditing).map(({ name }) => name));
    const looking = new Set(here.map(({ name }) => name).filter((name) => !editing.has(name)));
    const parts = [
      ...(editing.size ? [say.editingThisPage(listed(editing), editing.size === 1 ? say.is : say.are)] : []),
      ...(looking.size ? [say.itOpen(listed(looking), looking.size === 1 ? say.has : say.have)] : []),
    ];
    return parts.length ? parts.join('; ') : null;
  });
  private readonly pageId = signal<number | null>(null);
  /** Who is at which block of this page. */
  readonly atBlocks = computed(() => {
    const here = [...this.others().values()].filter(({ pageId, isEditing }) => isEditing && pageId === this.pageId());
    return new Map(here.flatMap(({ blockId, name }) => (blockId ? [[blockId, name] as const] : [])));
  });

  constructor() {
    this.register.events.subscribe((event) => this.hear(event));
    setInterval(() => {
      const now = Date.now();
      this.others.update((all) => new Map([...all].filter(([, { heardAt }]) => now - heardAt < PATIENCE)));
      if (this.open) this.say(false);
    }, HEARTBEAT);
  }

  /** Says that this window has a page open from now on; what it gives back says that it no longer has. */
  watch(pageId: number, isEditing: boolean): () => void {
    if (this.open && this.open.pageId !== pageId) this.say(true);
    const open = (this.open = { pageId, isEditing });
    this.pageId.set(pageId);
    this.say(false);
    return () => {
      // A view that opens before the last one is gone has taken over already.
      if (this.open !== open) return;
      this.say(true);
      this.open = null;
      this.pageId.set(null);
    };
  }

  /** Says at which block one is. */
  at(blockId: string | null): void {
    if (this.blockId === blockId) return;
    this.blockId = blockId;
    if (this.open?.isEditing) this.say(false);
  }

  private hear({ kind, pageIds, presence }: PortfolioEvent): void {
    // After a gap of the stream one may have missed others, and they this window.
    if (kind === 'again' && this.open) this.say(false);
    const pageId = pageIds?.[0];
    if (kind !== 'presence' || !presence || pageId === undefined || presence.window === this.window) return;
    const { window, name, isEditing, isLeaving, blockId = null } = presence;
    const isNew = this.others().get(window)?.pageId !== pageId;
    this.others.update((all) => {
      const next = new Map(all);
      if (isLeaving) next.delete(window);
      else next.set(window, { pageId, name, isEditing, blockId, heardAt: Date.now() });
      return next;
    });
    // Whoever comes in learns at once who is there already.
    if (isNew && !isLeaving && this.open?.pageId === pageId) this.say(false);
  }

  private say(isLeaving: boolean): void {
    const { open } = this;
    const portfolioId = this.register.portfolioId();
    if (!open || !portfolioId) return;
    const at = this.blockId ? { blockId: this.blockId } : {};
    const body = { window: this.window, isEditing: open.isEditing, isLeaving, ...at };
    // Nobody is told of a message that got lost: the next one follows soon.
    void this.client
      .call(api.sayPresence, { params: { portfolioId, pageId: open.pageId }, body })
      .catch(() => undefined);
  }
}

function listed(names: ReadonlySet<string>): string {
  const all = [...names].sort();
  return all.length < 2 ? all.join('') : say.and(all.slice(0, -1).join(', '), all.at(-1) ?? '');
}
