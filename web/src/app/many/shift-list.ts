import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { RegisterRow } from '@domatium/core/register';
import { daysLater, writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { say } from '@domatium/core/words/many';

/** So many pages are shown, the one that moves next first. */
const SHOWN = 3;

/** What a shift makes of the starts and ends that are still to come: as they are, and as they will be. */
@Component({
  selector: 'dm-shift-list',
  template: `
    @if (shifts().length) {
      <h3 class="section-label">{{ say.whatMoves }}</h3>
      <ul>
        @for (one of shown(); track $index) {
          <li>
            <strong>{{ one.name }}</strong>
            @for (move of one.moves; track $index) {
              <span class="number">
                {{ move.isStart ? say.starts : say.ends }} <s class="quiet">{{ move.before }}</s>
                <i class="bi bi-arrow-right" aria-hidden="true"></i
                ><span class="visually-hidden"> {{ say.becomes }} </span> {{ move.after }}
              </span>
            }
          </li>
        }
        @if (shifts().length > shown().length) {
          <li class="quiet">{{ say.andMore(shifts().length - shown().length) }}</li>
        }
      </ul>
    }
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0 0 12px;
      padding: 0;
    }
    h3 {
      margin-top: 14px;
    }
    li {
      padding: 4px 0;
      border-bottom: 1px solid var(--rule-soft);
      font-size: 0.8125rem;
    }
    strong {
      font-weight: 580;
    }
    .number {
      display: block;
      padding-left: 14px;
    }
    i {
      margin-inline: 4px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShiftList {
  protected readonly say = say;
  readonly pages = input.required<readonly RegisterRow[]>();
  readonly days = input.required<number>();
  private readonly service = inject(RegisterService);

  protected readonly shifts = computed(() => {
    const [zone, now, days] = [this.service.zone(), this.service.now(), this.days()];
    if (!Number.isInteger(days) || Math.abs(days) > 3650) return [];
    return this.pages()
      .map(({ name, periods }) => ({
        name,
        moves: periods
          .flatMap(({ from, until }) => [
            { at: from as Instant, isStart: true },
            ...(until === null ? [] : [{ at: until as Instant, isStart: false }]),
          ])
          .filter(({ at }) => at > now)
          .map(({ at, isStart }) => {
            const words = (instant: Instant) => (isStart ? writeInstant : writeEnd)(instant, zone, now);
            return { at, isStart, before: words(at), after: words(daysLater(at, days, zone)) };
          }),
      }))
      .filter(({ moves }) => moves.length)
      .sort((a, b) => (a.moves[0]?.at ?? 0) - (b.moves[0]?.at ?? 0));
  });
  protected readonly shown = computed(() => this.shifts().slice(0, SHOWN));
}
