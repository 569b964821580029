import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { privateLinkBody, type PrivateLinkView } from '@domatium/contracts';
import { dayOf, instantOfWall, isoInstant, startOfDay, writeEnd, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { SelectionService } from '../hub/selection.service';
import { DayField } from '../shared/day-field';
import { errorsOf, type FieldErrors } from '../hub/forms';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { ReviewsService } from '../remarks/reviews.service';
import { say } from '@domatium/core/words/reviews';
import { say as common } from '@domatium/core/words/common';

const DAYS_OPEN = 14;

/** Shares pages or a site with people without an account, and lists the links there are. */
@Component({
  selector: 'dm-share-sheet',
  imports: [WideSheet, DayField],
  templateUrl: './share-sheet.html',
  styleUrl: './share-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShareSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly selection = inject(SelectionService);
  private readonly reviews = inject(ReviewsService);
  protected readonly links = signal<readonly PrivateLinkView[]>([]);
  protected readonly errors = signal<FieldErrors>({});
  protected readonly made = signal<string | null>(null);
  protected readonly isCopied = signal(false);
  protected readonly isBusy = signal(false);
  protected readonly lastDay = signal(this.dayIn(DAYS_OPEN));

  /** What is shared: the open page, the chosen ones, or the site of the scope. */
  protected readonly subject = computed(() => {
    const pageId = this.place.pageId();
    if (pageId !== null) return { pages: [pageId], siteId: null, name: this.service.page(pageId)?.name ?? '' };
    const chosen = [...this.selection.ids()];
    if (chosen.length) {
      const name = chosen.length === 1 ? (this.service.page(chosen[0] ?? 0)?.name ?? '') : say.pages(chosen.length);
      return { pages: chosen, siteId: null, name };
    }
    const scope = this.place.scope();
    const site = scope?.kind === 'site' ? this.service.head()?.sites.find(({ id }) => id === scope.id) : undefined;
    return site ? { pages: [], siteId: site.id, name: site.name } : null;
  });

  constructor() {
    effect(() => {
      this.service.version();
      untracked(() => void this.load());
    });
  }

  private dayIn(days: number): string {
    const zone = this.service.zone();
    return dayOf(startOfDay(this.service.now(), zone, days), zone);
  }

  protected setDay(day: string | null): void {
    this.lastDay.set(day ?? this.dayIn(DAYS_OPEN));
  }

  protected ended(link: PrivateLinkView): string {
    const words = writeEnd(link.endsAt as Instant, this.service.zone(), this.service.now());
    return link.isEnded ? say.ended(words.replace(/^the end of /, 'after ')) : say.openTo(words);
  }

  protected shows(link: PrivateLinkView): string {
    if (link.site) return say.allPages(link.site, link.pages.length);
    const [first, ...rest] = link.pages.map(({ name }) => name);
    return first === undefined ? say.noPageAnyMore : rest.length ? say.andMore(first, rest.length) : first;
  }

  private endsAt(): string {
    const zone = this.service.zone();
    const start = instantOfWall({ local: `${this.lastDay()}T12:00`, zone });
    return start === null ? '' : isoInstant(startOfDay(start, zone, 1));
  }

  protected async share(name: string, password: string): Promise<void> {
    const subject = this.subject();
    if (!subject || this.isBusy()) return;
    const { pages, siteId } = subject;
    const body = { name, pages, siteId, endsAt: this.endsAt(), password: password || null };
    const wrong = errorsOf(privateLinkBody, body);
    this.errors.set(wrong);
    if (Object.keys(wrong).length) return;
    this.isBusy.set(true);
    const answer = await this.reviews.share(body).finally(() => this.isBusy.set(false));
    this.isCopied.set(false);
    this.errors.set('errors' in answer ? answer.errors : {});
    this.made.set('value' in answer ? answer.value.address : null);
    await this.load();
  }

  protected async copy(address: string): Promise<void> {
    await navigator.clipboard.writeText(address);
    this.isCopied.set(true);
  }

  protected async revoke(link: PrivateLinkView): Promise<void> {
    const answer = await this.reviews.revoke(link.id);
    this.errors.set('errors' in answer ? answer.errors : {});
    await this.load();
  }

  private async load(): Promise<void> {
    const answer = await this.reviews.links();
    if ('value' in answer) this.links.set(answer.value);
  }
}
