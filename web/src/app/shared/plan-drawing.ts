import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { DAY } from '@domatium/core/time';
import { fraction, ticksOn, type Scale } from './scale';
import { RegisterService } from '../hub/register.service';
import { say } from '@domatium/core/words/shared';

interface Drawn {
  readonly from: number;
  readonly until: number | null;
  readonly revision: number | null;
}

/** A page's periods with the one that is being planned, on an axis of their own. */
@Component({
  selector: 'dm-plan-drawing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="drawing" role="img" [attr.aria-label]="say.thePageOverTimeWithWhat">
      @for (bar of bars(); track $index) {
        <span
          class="bar"
          [class.planned]="bar.isPlanned"
          [class.past]="bar.isPast"
          [class.open]="bar.isOpen"
          [style.left.%]="bar.left"
          [style.width.%]="bar.width"
          >{{ bar.width > 4 ? bar.revision : '' }}</span
        >
      }
      <div class="axis"></div>
      @for (month of months(); track month.label) {
        <span class="month" [style.left.%]="month.left">1 {{ month.label }}</span>
      }
      <i class="moment" [style.left.%]="nowAt()"></i>
    </div>
  `,
  styles: `
    .drawing {
      position: relative;
      height: 58px;
      margin-top: 10px;
      overflow: hidden;
    }
    .axis {
      position: absolute;
      inset: auto 0 20px;
      border-top: 1px solid var(--rule);
    }
    .month {
      position: absolute;
      bottom: 0;
      font-size: 0.75rem;
      color: var(--quiet);
      padding-left: 4px;
      border-left: 1px solid var(--stone);
      height: 22px;
      padding-top: 4px;
      line-height: 18px;
    }
    .bar {
      position: absolute;
      top: 10px;
      height: 16px;
      background: var(--moss);
      color: var(--surface);
      font-size: 0.6875rem;
      line-height: 16px;
      padding-left: 6px;
      border-radius: 2px;
      min-width: 4px;
      overflow: hidden;
    }
    .bar.past {
      background: var(--ended);
      color: var(--ink);
    }
    .bar.planned {
      top: 8px;
      height: 20px;
      line-height: 16px;
      background: var(--moss-tint);
      color: var(--ink);
      border: 2px solid var(--moss);
    }
    .bar.open {
      border-top-right-radius: 0;
      border-bottom-right-radius: 0;
      clip-path: polygon(0 0, calc(100% - 7px) 0, 100% 50%, calc(100% - 7px) 100%, 0 100%);
    }
    .moment {
      position: absolute;
      top: 0;
      bottom: 20px;
      border-left: 2px solid var(--ink);
    }
  `,
})
export class PlanDrawing {
  protected readonly say = say;
  readonly periods = input.required<readonly Drawn[]>();
  readonly planned = input.required<Drawn | null>();
  private readonly service = inject(RegisterService);

  private readonly scale = computed<Scale>(() => {
    const now = this.service.now();
    const planned = this.planned();
    return {
      from: now - 21 * DAY,
      until: Math.max(
        now + 75 * DAY,
        planned ? planned.from + 40 * DAY : 0,
        planned?.until ? planned.until + 12 * DAY : 0,
      ),
    };
  });
  protected readonly nowAt = computed(() => fraction(this.scale(), this.service.now()) * 100);
  protected readonly months = computed(() =>
    ticksOn(this.scale(), this.service.zone()).map(({ at, label }) => ({
      label,
      left: fraction(this.scale(), at) * 100,
    })),
  );
  protected readonly bars = computed(() => {
    const planned = this.planned();
    const now = this.service.now();
    const all = [
      ...this.periods().map((period) => ({ ...period, isPlanned: false })),
      ...(planned ? [{ ...planned, isPlanned: true }] : []),
    ];
    return all.flatMap(({ from, until, revision, isPlanned }) => {
      const [start, end] = [
        Math.max(0, fraction(this.scale(), from)),
        Math.min(1, until === null ? 1 : fraction(this.scale(), until)),
      ];
      return end <= 0 || start >= 1 || end <= start
        ? []
        : [
            {
              revision,
              isPlanned,
              isPast: until !== null && until <= now,
              isOpen: until === null,
              left: start * 100,
              width: (end - start) * 100,
            },
          ];
    });
  });
}
