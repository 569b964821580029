import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, output, signal } from '@angular/core';
import { DAY, writeInstant, type Instant } from '@domatium/core/time';
import { fraction, keyStepOf, snapOf, ticksOn, type Scale } from './scale';
import { RegisterService } from '../hub/register.service';
import { say } from '@domatium/core/words/shared';

interface Drawn {
  readonly from: number;
  readonly until: number | null;
  readonly revision: number | null;
}

/** An end of a period that was taken elsewhere on the drawing; `start`: the start the period has as it is planned. */
export interface MovedEnd {
  readonly start: number;
  readonly end: 'from' | 'until';
  readonly at: number;
}

/**
 * A page's periods with the one that is being planned, on an axis of their own. Where `isMovable` the ends that are still
 * to come can be dragged, or moved by the arrow keys: of the one that is planned, or of all where none is.
 */
@Component({
  selector: 'dm-plan-drawing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="drawing" [attr.role]="isMovable() ? 'group' : 'img'" [attr.aria-label]="say.thePageOverTimeWithWhat">
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
      @for (grip of grips(); track grip.key) {
        <span
          class="grip"
          role="slider"
          tabindex="0"
          [class.held]="held()?.key === grip.key"
          [style.left.%]="grip.left"
          [attr.aria-label]="grip.label"
          [attr.aria-valuemin]="scale().from"
          [attr.aria-valuemax]="scale().until"
          [attr.aria-valuenow]="grip.at"
          [attr.aria-valuetext]="grip.words"
          [title]="grip.label + ': ' + grip.words"
          (pointerdown)="grab($event, grip)"
          (keydown)="key($event, grip)"
        ></span>
      }
      @if (held(); as one) {
        <span class="said number" [style.left.%]="one.left">{{ one.words }}</span>
      }
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
    .grip {
      position: absolute;
      top: 4px;
      height: 28px;
      width: 24px;
      margin-left: -12px;
      cursor: ew-resize;
      touch-action: none;
    }
    .grip::after {
      content: '';
      position: absolute;
      inset: 2px 9px;
      border-radius: 3px;
      background: var(--surface);
      border: 2px solid var(--moss);
    }
    .grip:hover::after,
    .grip.held::after {
      background: var(--moss);
    }
    .grip:focus-visible {
      outline: 0;
    }
    .grip:focus-visible::after {
      outline: 2px solid var(--moss);
      outline-offset: 2px;
    }
    .said {
      position: absolute;
      bottom: 22px;
      transform: translateX(-50%);
      background: var(--ink);
      color: var(--surface);
      font-size: 0.75rem;
      line-height: 18px;
      padding: 0 6px;
      border-radius: 2px;
      white-space: nowrap;
      pointer-events: none;
    }
  `,
})
export class PlanDrawing {
  protected readonly say = say;
  readonly periods = input.required<readonly Drawn[]>();
  readonly planned = input.required<Drawn | null>();
  readonly isMovable = input(false);
  readonly moved = output<MovedEnd>();
  private readonly service = inject(RegisterService);
  private readonly root = inject<ElementRef<HTMLElement>>(ElementRef);
  /** The end that is being dragged, where it would be let go. */
  protected readonly held = signal<Grip | null>(null);

  protected readonly scale = computed<Scale>(() => {
    const now = this.service.now();
    const planned = this.planned();
    const ends = this.isMovable() ? this.periods().map(({ from, until }) => (until ?? from) + 12 * DAY) : [];
    return {
      from: now - 21 * DAY,
      until: Math.max(
        now + 75 * DAY,
        ...ends,
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

  /** The ends that can still be moved; an open end is taken hold of where the drawing ends. */
  protected readonly grips = computed<Grip[]>(() => {
    if (!this.isMovable()) return [];
    const now = this.service.now();
    const [planned, held] = [this.planned(), this.held()];
    const bars = planned ? [planned] : this.periods();
    return bars.flatMap((bar) =>
      (['from', 'until'] as const).flatMap((end): Grip[] => {
        const at = end === 'from' ? bar.from : (bar.until ?? this.scale().until);
        const isOver = bar.until !== null && bar.until <= now;
        if (at <= now || isOver || fraction(this.scale(), at) > 1) return [];
        const key = `${bar.from} ${end}`;
        return [held?.key === key ? held : this.gripOf(key, bar.from, end, at, end === 'until' && bar.until === null)];
      }),
    );
  });

  private gripOf(key: string, start: number, end: MovedEnd['end'], at: number, isOpen = false): Grip {
    const words = isOpen ? say.openEnd : writeInstant(at as Instant, this.service.zone(), this.service.now());
    const left = Math.min(99.5, fraction(this.scale(), at) * 100);
    return { key, start, end, at, words, left, label: end === 'from' ? say.itsStart : say.itsEnd };
  }

  /** Where an end may be taken, to the step of the scale. */
  private taken({ key, start, end }: Grip, at: number): Grip {
    const step = snapOf(this.scale());
    const earliest = Math.max(this.service.now(), end === 'until' ? start : -Infinity);
    const first = (Math.floor(earliest / step) + 1) * step;
    return this.gripOf(key, start, end, Math.max(first, Math.round(at / step) * step));
  }

  protected grab(event: PointerEvent, grip: Grip): void {
    if (event.button !== 0) return;
    event.preventDefault();
    const handle = event.currentTarget as HTMLElement;
    handle.focus({ preventScroll: true });
    handle.setPointerCapture(event.pointerId);
    const { from, until } = this.scale();
    const { left, width } = (this.root.nativeElement.firstElementChild as HTMLElement).getBoundingClientRect();
    const move = ({ clientX }: PointerEvent) => {
      if (!this.held() && Math.abs(clientX - event.clientX) < 3) return;
      this.held.set(this.taken(grip, from + Math.min(1, (clientX - left) / width) * (until - from)));
    };
    const end = (ended: PointerEvent) => {
      handle.removeEventListener('pointermove', move);
      handle.removeEventListener('pointerup', end);
      handle.removeEventListener('pointercancel', end);
      const held = this.held();
      this.held.set(null);
      if (held && ended.type === 'pointerup') this.moved.emit(held);
    };
    handle.addEventListener('pointermove', move);
    handle.addEventListener('pointerup', end);
    handle.addEventListener('pointercancel', end);
  }

  protected key(event: KeyboardEvent, grip: Grip): void {
    const days = { ArrowLeft: -1, ArrowRight: 1, PageDown: -7, PageUp: 7 }[event.key];
    if (days === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    this.moved.emit(this.taken(grip, grip.at + days * keyStepOf(this.scale())));
  }
}

interface Grip extends MovedEnd {
  readonly key: string;
  readonly left: number;
  readonly words: string;
  readonly label: string;
}
