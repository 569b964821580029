import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { FeedView, NamedView } from '@domatium/contracts';
import { USUAL_COLUMNS, VIEW_PARTS, type ViewParts } from '@domatium/core/register';
import { isoInstant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { refusalOf } from '../hub/answer';
import { api, Api, Refusal } from '../hub/api';
import { NoticeService } from '../hub/notices';
import { PlaceService } from '../hub/place.service';
import { say } from '@domatium/core/words/views';
import { say as common } from '@domatium/core/words/common';

/** Named views, exports and calendar feeds of what is shown. */
@Injectable({ providedIn: 'root' })
export class ViewsService {
  private readonly client = inject(Api);
  private readonly register = inject(RegisterService);
  private readonly notices = inject(NoticeService);
  private readonly place = inject(PlaceService);
  readonly named = signal<readonly NamedView[]>([]);
  readonly feeds = signal<readonly FeedView[]>([]);
  /** The named view that is shown, if it is just that. */
  readonly current = computed(() => {
    const shown = this.place.view();
    // Views from before they had columns are the same with any.
    const isShown = (parts: ViewParts) => keyOf(parts.columns ? shown : { ...shown, columns: '' }) === keyOf(parts);
    return this.named().find(({ parts }) => isShown(parts)) ?? null;
  });

  constructor() {
    effect(() => {
      if (this.register.portfolioId()) untracked(() => void this.load());
    });
  }

  async load(): Promise<void> {
    try {
      this.named.set(await this.client.call(api.namedViews, { params: this.params() }));
      this.feeds.set(await this.client.call(api.feeds, { params: this.params() }));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }

  show({ parts }: NamedView): void {
    this.place.go({
      ...Object.fromEntries(VIEW_PARTS.map((name) => [name, parts[name] ?? null])),
      page: null,
      panel: null,
    });
  }

  keep(name: string, isShared: boolean): Promise<string | null> {
    // Also the usual columns are said: whoever shows the view may be used to others.
    const parts = { columns: USUAL_COLUMNS.join('.'), ...this.place.view() };
    const body = { name, isShared, parts };
    return this.tried(() => this.client.call(api.nameView, { params: this.params(), body }));
  }

  async remove(view: NamedView): Promise<void> {
    const params = { ...this.params(), viewId: view.id };
    const refusal = await this.tried(() => this.client.call(api.removeView, { params }));
    if (refusal) return this.notices.say({ kind: 'trouble', text: refusal });
    const body = { name: view.name, isShared: view.isShared, parts: view.parts };
    const back = () => void this.tried(() => this.client.call(api.nameView, { params: this.params(), body }));
    this.notices.say({
      kind: 'done',
      text: say.theViewIsRemoved(view.name),
      action: { label: common.undo, run: back },
    });
  }

  /** Where the shown view can be fetched as a file. */
  fileOf(kind: 'csv' | 'json'): string {
    const at = this.place.asOf();
    const query = new URLSearchParams({ ...this.place.view(), ...(at === null ? {} : { at: isoInstant(at) }) });
    return `/api/portfolios/${this.register.portfolioId()}/register/export.${kind}?${query.toString()}`;
  }

  /** Makes a feed; gives its private address, told this once, or why it was refused. */
  async newFeed(name: string): Promise<{ address: string } | { refusal: string }> {
    let address = '';
    const refusal = await this.tried(async () => {
      const body = { name, parts: this.place.view() };
      const { path } = await this.client.call(api.newFeed, { params: this.params(), body });
      address = location.origin + path;
    });
    return refusal === null ? { address } : { refusal };
  }

  removeFeed(feedId: number): Promise<string | null> {
    return this.tried(() => this.client.call(api.removeFeed, { params: { ...this.params(), feedId } }));
  }

  private async tried(work: () => Promise<unknown>): Promise<string | null> {
    const refusal = await refusalOf(work);
    void this.load();
    return refusal;
  }

  private params() {
    return { portfolioId: this.register.portfolioId() };
  }
}

const USUAL = USUAL_COLUMNS.join('.');
const keyOf = (parts: ViewParts) =>
  VIEW_PARTS.map((name) => (parts[name] ?? '').replace(name === 'columns' ? USUAL : '', '')).join('\n');
