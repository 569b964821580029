import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { type PageAnywhere, type ResponseOf } from '@domatium/contracts';
import { STATE_FILTERS, type StateFilter } from '@domatium/core/register';
import { writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import { api, Api, Refusal } from '../hub/api';
import { PlaceService } from '../hub/place.service';
import { RegisterService } from '../hub/register.service';
import { SessionService } from '../hub/session.service';
import { WideSheet } from '../shared/wide-sheet';
import { say } from '@domatium/core/words/everywhere';
import { say as common } from '@domatium/core/words/common';

const PAUSE = 250;

/** One list over all portfolios one works in; a page opens in its own. */
@Component({
  selector: 'dm-everywhere-sheet',
  imports: [WideSheet],
  template: `
    <dm-wide-sheet
      [heading]="say.pagesOfAllPortfolios"
      [lead]="say.everyPageWhereYouWork(portfolios())"
      (closed)="place.go({ panel: null })"
    >
      <input
        type="search"
        class="form-control"
        [attr.aria-label]="say.find"
        [placeholder]="say.find"
        spellcheck="false"
        [value]="find()"
        (input)="find.set($any($event.target).value)"
      />
      <div class="suggestions" role="group" [attr.aria-label]="say.states">
        @for (one of filters; track one) {
          <button type="button" class="chip" [attr.aria-pressed]="one === state()" (click)="state.set(one)">
            {{ say.state[one] }} {{ answer()?.states?.[one]?.toLocaleString('en-GB') }}
          </button>
        }
      </div>
      @if (trouble(); as text) {
        <p class="field-error" role="alert">{{ text }}</p>
      }
      @if (answer(); as found) {
        <table class="sheet-rows" [attr.aria-busy]="isLoading()">
          <thead>
            <tr>
              <th class="quiet">{{ common.page }}</th>
              <th class="quiet">{{ say.whenAndWhere }}</th>
              <th class="quiet end">{{ say.visits }}</th>
            </tr>
          </thead>
          <tbody>
            @for (page of found.pages; track page.id) {
              <tr>
                <td>
                  <button type="button" class="btn-link-plain" [class.live]="page.state === 'live'" (click)="open(page)">
                    {{ page.name }}
                  </button>
                  <div class="mono quiet">{{ page.host }}{{ page.path }}</div>
                </td>
                <td class="number when">
                  {{ when(page) }}
                  <div class="quiet">{{ page.portfolio }}</div>
                </td>
                <td class="number end">{{ page.visits ? page.visits.toLocaleString('en-GB') : '–' }}</td>
              </tr>
            } @empty {
              <tr>
                <td colspan="3" class="quiet">{{ say.noPage }}</td>
              </tr>
            }
          </tbody>
        </table>
        @if (found.all > found.pages.length) {
          <p class="quiet">{{ say.theFirstOf(found.pages.length, found.all.toLocaleString('en-GB')) }}</p>
        }
      } @else {
        <div class="skeleton" style="width: 70%" aria-busy="true"></div>
      }
    </dm-wide-sheet>
  `,
  styles: `
    .suggestions {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      margin: 10px 0;
    }
    th {
      font-weight: 400;
      text-align: left;
      padding: 0 10px 0 0;
    }
    .when {
      white-space: nowrap;
    }
    .end {
      text-align: right;
    }
    .live {
      font-weight: 650;
    }
    .mono {
      overflow-wrap: anywhere;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EverywhereSheet {
  protected readonly say = say;
  protected readonly common = common;
  protected readonly place = inject(PlaceService);
  private readonly client = inject(Api);
  private readonly session = inject(SessionService);
  private readonly service = inject(RegisterService);
  private readonly router = inject(Router);
  protected readonly filters = STATE_FILTERS;
  protected readonly find = signal('');
  protected readonly state = signal<StateFilter>('all');
  protected readonly answer = signal<ResponseOf<typeof api.everywhere> | null>(null);
  protected readonly isLoading = signal(true);
  protected readonly trouble = signal<string | null>(null);
  protected readonly portfolios = computed(() => this.session.session()?.portfolios.length ?? 0);
  private asked = 0;

  constructor() {
    effect((cleanUp) => {
      const query = { find: this.find().trim(), state: this.state() };
      const timer = setTimeout(() => void this.load(query), query.find ? PAUSE : 0);
      cleanUp(() => clearTimeout(timer));
    });
  }

  private async load(query: { find: string; state: StateFilter }): Promise<void> {
    const question = ++this.asked;
    this.isLoading.set(true);
    try {
      const answer = await this.client.call(api.everywhere, { query });
      if (question !== this.asked) return;
      this.answer.set(answer);
      this.trouble.set(null);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
    } finally {
      if (question === this.asked) this.isLoading.set(false);
    }
  }

  /** When it is on the air, on the clock of its portfolio. */
  protected when({ state, from, until, zone }: PageAnywhere): string {
    const now = this.service.now();
    const end = until === null ? '' : writeEnd(until as Instant, zone, now);
    if (state === 'live') return until === null ? say.liveNoEnd : say.liveTo(end);
    if (state === 'coming' && from !== null) return say.fromOn(writeInstant(from as Instant, zone, now));
    return state === 'ended' ? say.ended(end) : say.draft;
  }

  protected open({ portfolioId, id }: PageAnywhere): void {
    void this.router.navigate(['/portfolios', portfolioId, 'pages'], { queryParams: { page: id } });
  }
}
