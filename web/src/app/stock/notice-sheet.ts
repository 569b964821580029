import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Changes } from '@domatium/contracts';
import { newBlock, type RichInline } from '@domatium/core/document';
import { PART_LAYOUTS } from '@domatium/core/stock';
import { DAY, instantOfWall, later, startOfDay, wallOf, writeEnd, type Instant } from '@domatium/core/time';
import { say } from '@domatium/core/words/stock';
import { say as common } from '@domatium/core/words/common';
import { newId } from '../editor/chosen-blocks';
import { api, Api, Refusal } from '../hub/api';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { StockService } from '../hub/stock.service';
import { PreparedService } from '../releases/prepared.service';
import { ReleasingService } from '../releases/releasing.service';
import { MomentField } from '../shared/moment-field';
import { PagePicker } from '../shared/page-picker';
import { WideSheet } from '../shared/wide-sheet';

type Tone = keyof (typeof PART_LAYOUTS)['band'];

/** Puts a notice band on chosen sites at once, off again by itself: words, sites, until when, one press. */
@Component({
  selector: 'dm-notice-sheet',
  imports: [MomentField, PagePicker, WideSheet],
  templateUrl: './notice-sheet.html',
  styleUrl: '../releases/release-form.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NoticeSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly place = inject(PlaceService);
  protected readonly register = inject(RegisterService);
  private readonly client = inject(Api);
  private readonly stock = inject(StockService);
  private readonly releasing = inject(ReleasingService);
  private readonly prepared = inject(PreparedService);
  protected readonly words = signal('');
  protected readonly pageId = signal<number | null>(null);
  protected readonly tone = signal<Tone>('warning');
  protected readonly tones = Object.entries(PART_LAYOUTS.band).map(([tone, label]) => ({ tone: tone as Tone, label }));
  protected readonly sites = computed(() => this.register.head()?.sites ?? []);
  /** Chosen sites; `null` for all. One that is looked at is meant first. */
  protected readonly chosen = signal<readonly number[] | null>(this.scoped());
  protected readonly isClosable = signal(true);
  protected readonly until = signal<string | null>(this.wallIn(DAY));
  protected readonly isBusy = signal(false);
  protected readonly errors = signal<readonly string[]>([]);
  protected readonly wantsApproval = signal(false);
  protected readonly tomorrow = computed(() =>
    wallOf(startOfDay(this.register.now(), this.register.zone(), 1), this.register.zone()),
  );
  protected readonly dayOn = computed(() => this.wallIn(DAY));
  protected readonly mayPress = computed(
    () => !this.isBusy() && this.words().trim() !== '' && this.chosen()?.length !== 0,
  );
  protected readonly label = computed(() => {
    const chosen = this.chosen();
    const [first] = chosen ?? [];
    const sites =
      chosen === null
        ? say.allSitesToo
        : chosen.length === 1
          ? (this.sites().find(({ id }) => id === first)?.name ?? '')
          : say.sitesCount(chosen.length);
    const until = this.untilAt();
    const ends = until === null ? '' : say.until(writeEnd(until, this.register.zone(), this.register.now()));
    return this.wantsApproval() ? say.prepareTheNotice(sites, ends) : say.putTheNotice(sites, ends);
  });

  private scoped(): readonly number[] | null {
    const scope = /^site:(\d+)$/.exec(this.place.scopeKey())?.[1];
    return scope ? [Number(scope)] : null;
  }

  private wallIn(ms: number): string {
    return wallOf(later(this.register.now(), ms), this.register.zone());
  }

  private untilAt(): Instant | null {
    const local = this.until();
    return local === null ? null : instantOfWall({ local, zone: this.register.zone() });
  }

  protected toggle(id: number): void {
    const all = this.sites().map((site) => site.id);
    const chosen = this.chosen() ?? all;
    const next = chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id];
    this.chosen.set(next);
  }

  protected async press(): Promise<void> {
    if (!this.mayPress()) return;
    this.isBusy.set(true);
    this.errors.set([]);
    try {
      await this.putUp();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      const { fields } = error.problem;
      this.errors.set(fields?.length ? fields.map(({ message }) => message) : [error.message]);
    } finally {
      this.isBusy.set(false);
    }
  }

  private async putUp(): Promise<void> {
    const params = { portfolioId: this.register.portfolioId() };
    const name = this.words().trim().slice(0, 80);
    const { id } = await this.client.call(api.newStock, { params, body: { kind: 'band', name, content: this.band() } });
    const local = this.until();
    const until = local === null ? null : { local, zone: this.register.zone() };
    const changes: Changes = { changes: [], stock: [{ act: 'put', itemId: id, from: 'now', until }] };
    const refused = this.wantsApproval()
      ? await this.prepared.prepare(name, changes)
      : await this.releasing.release(changes, crypto.randomUUID(), say.theNoticeIsOnItsWay);
    await this.stock.load();
    if (!refused) return this.place.go({ panel: null });
    // Nothing is left behind of what did not go out.
    await this.client.call(api.removeStock, { params: { ...params, itemId: id } });
    if (typeof refused === 'string') return this.errors.set([refused]);
    this.wantsApproval.set(refused.fields.some(({ path }) => path === 'approvals'));
    this.errors.set(refused.fields.length ? refused.fields.map(({ message }) => message) : [refused.whole ?? '']);
  }

  /** The words, and behind them the way to a page. */
  private band() {
    const page = this.register.page(this.pageId());
    const inline: RichInline[] = [{ type: 'text', text: this.words().trim() }];
    if (page)
      inline.push(
        { type: 'text', text: ' ' },
        {
          ...{ type: 'text', text: page.name },
          marks: [{ type: 'link', attrs: { target: { kind: 'page', pageId: page.id as never } } }],
        },
      );
    const body = { type: 'doc' as const, content: [{ type: 'paragraph' as const, content: inline }] };
    return {
      ...{ layout: this.tone(), sites: this.chosen() ?? 'all' },
      ...(this.isClosable() ? { isClosable: true } : {}),
      blocks: [newBlock('text', newId(), { body } as never)],
    };
  }
}
