import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { RegisterRow } from '@domatium/core/register';
import { daysLater, writeEnd, writeInstant, type Instant } from '@domatium/core/time';
import { RegisterService } from '../hub/register.service';
import { say } from '@domatium/core/words/many';

/** So many starts and ends are shown, the next first. */
const SHOWN = 8;

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
            <span class="number">
              {{ one.isStart ? say.starts : say.ends }} <s class="quiet">{{ one.before }}</s>
              <i class="bi bi-arrow-right" aria-hidden="true"></i><span class="visually-hidden"> {{ say.becomes }} </span>
              {{ one.after }}
            </span>
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
    li {
      display: flex;
      flex-wrap: wrap;
      justify-content: space-between;
      gap: 2px 14px;
      padding: 4px 0;
      border-bottom: 1px solid var(--rule-soft);
    }
    strong {
      font-weight: 580;
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
      .flatMap(({ name, periods }) =>
        periods.flatMap(({ from, until }) => [
          { name, at: from, isStart: true },
          ...(until === null ? [] : [{ name, at: until, isStart: false }]),
        ]),
      )
      .filter(({ at }) => at > now)
      .sort((a, b) => a.at - b.at)
      .map(({ name, at, isStart }) => {
        const words = (instant: Instant) => (isStart ? writeInstant : writeEnd)(instant, zone, now);
        return { name, isStart, before: words(at as Instant), after: words(daysLater(at as Instant, days, zone)) };
      });
  });
  protected readonly shown = computed(() => this.shifts().slice(0, SHOWN));
}
