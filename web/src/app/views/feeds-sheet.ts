import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { WideSheet } from '../shared/wide-sheet';
import { PlaceService } from '../hub/place.service';
import { ViewsService } from './views.service';
import { say } from '@domatium/core/words/views';

/** Calendar feeds: what goes live and comes off in a view, for any calendar that can follow an address. */
@Component({
  selector: 'dm-feeds-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet
      [heading]="say.calendarFeeds"
      [lead]="say.whatGoesLiveAndComesOff"
      (closed)="place.go({ panel: null })"
    >
      @for (feed of views.feeds(); track feed.id) {
        <section>
          <div>
            <strong>{{ feed.name }}</strong>
            <div class="quiet number">{{ say.made(words(feed.parts), written(feed.madeAt)) }}</div>
          </div>
          <button type="button" class="btn btn-plain" (click)="end(feed.id)">{{ say.endIt }}</button>
        </section>
      } @empty {
        <p>{{ say.youHaveNoFeedsYet }}</p>
      }
      @if (made(); as address) {
        <div class="made" role="status">
          <p>{{ say.theAddressShownOnlyOnce }}</p>
          <p class="mono">{{ address }}</p>
          <button type="button" class="btn btn-plain" (click)="copy(address)">{{ isCopied() ? say.copied : say.copyIt }}</button>
        </div>
      }
      @if (error(); as text) {
        <p class="field-error" role="alert">{{ text }}</p>
      }
      <h3 class="section-label">{{ say.aFeedOfWhatIsShown(words(place.view())) }}</h3>
      <form (submit)="$event.preventDefault(); make(field)">
        <input #field class="form-control" [attr.aria-label]="say.nameOfTheFeed" maxlength="100" [value]="views.current()?.name ?? ''" />
        <button type="submit" class="btn btn-primary">{{ say.createTheFeed }}</button>
      </form>
    </dm-wide-sheet>
  `,
  styles: `
    section {
      display: flex;
      justify-content: space-between;
      align-items: center;
      gap: 12px;
      border-bottom: 1px solid var(--rule-soft);
      padding: 8px 0;
    }
    h3 {
      margin-top: 20px;
    }
    form {
      display: flex;
      gap: 8px;
      button {
        flex: none;
      }
    }
    .made {
      margin-top: 14px;
      padding: 10px 12px;
      background: var(--moss-tint);
      border-radius: var(--corner);
      p {
        margin: 0 0 4px;
        overflow-wrap: anywhere;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FeedsSheet {
  protected readonly say = say;
  protected readonly views = inject(ViewsService);
  protected readonly place = inject(PlaceService);
  private readonly service = inject(RegisterService);
  protected readonly made = signal<string | null>(null);
  protected readonly isCopied = signal(false);
  protected readonly error = signal<string | null>(null);
  private readonly sites = computed(() => this.service.head()?.sites ?? []);
  private readonly campaigns = computed(() => this.service.head()?.campaigns ?? []);

  protected words(parts: Readonly<Record<string, string | undefined>>): string {
    const [kind = '', value = ''] = (parts['scope'] ?? '').split(':');
    const named = (all: readonly { id: number; name: string }[]) => all.find(({ id }) => id === Number(value))?.name;
    const scope =
      kind === 'site'
        ? named(this.sites())
        : kind === 'campaign'
          ? named(this.campaigns())
          : kind
            ? value || kind
            : null;
    const others = Object.entries(parts).flatMap(([name, set]) =>
      set && name !== 'scope' && name !== 'sort' && name !== 'group' ? [`${name} ${set}`] : [],
    );
    return [scope ?? say.theWholePortfolio, ...others].join(', ');
  }

  protected written(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }

  protected async make(field: HTMLInputElement): Promise<void> {
    const answer = await this.views.newFeed(field.value.trim());
    this.isCopied.set(false);
    this.error.set('refusal' in answer ? answer.refusal : null);
    this.made.set('address' in answer ? answer.address : null);
  }

  protected async copy(address: string): Promise<void> {
    await navigator.clipboard.writeText(address);
    this.isCopied.set(true);
  }

  protected async end(id: number): Promise<void> {
    this.error.set(await this.views.removeFeed(id));
  }
}
