import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  signal,
  viewChild,
  type OnDestroy,
  type AfterViewInit,
} from '@angular/core';
import { NgbTooltip } from '@ng-bootstrap/ng-bootstrap';
import type { RegisterPage } from '@domatium/contracts';
import { gatherMarks, marksOf, nextChange, type Mark, type MarkGroup } from '@domatium/core/register';
import { writeInstant, type Instant, type Interval } from '@domatium/core/time';
import { RegisterService } from '../register/register.service';
import { defaultScale, fraction, monthsOn, weeksOn } from './scale';

/** Marks closer than this would touch. */
const CLOSEST = 13;

/** When: the time rail, with a mark for each thing that goes live, comes off or is released. */
@Component({
  selector: 'dm-rail',
  imports: [NgbTooltip],
  templateUrl: './rail.html',
  styleUrl: './rail.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Rail implements AfterViewInit, OnDestroy {
  readonly rows = input.required<readonly RegisterPage[]>();
  private readonly service = inject(RegisterService);
  private readonly axis = viewChild.required<ElementRef<HTMLElement>>('axis');
  private readonly width = signal(900);
  private readonly observer = new ResizeObserver(([entry]) => entry && this.width.set(entry.contentRect.width));

  protected readonly scale = computed(() => defaultScale(this.service.now()));
  protected readonly nowAt = computed(() => fraction(this.scale(), this.service.now()) * 100);
  protected readonly nowText = computed(() =>
    writeInstant(this.service.now(), this.service.zone(), this.service.now()),
  );
  protected readonly nextText = computed(() => {
    const next = nextChange(this.rows(), this.service.now());
    return next === null ? 'Nothing is planned' : `Next change ${this.write(next)}`;
  });
  protected readonly months = computed(() =>
    monthsOn(this.scale(), this.service.zone()).map(({ at, label }) => ({
      label,
      left: fraction(this.scale(), at) * 100,
    })),
  );
  protected readonly weeks = computed(() =>
    weeksOn(this.scale(), this.service.zone()).map((at) => fraction(this.scale(), at) * 100),
  );
  protected readonly marks = computed(() => {
    const scale = this.scale();
    const closest = (CLOSEST / Math.max(1, this.width())) * (scale.until - scale.from);
    return gatherMarks(this.allMarks(), closest, this.service.now()).map((group) => ({
      ...group,
      left: fraction(scale, group.at) * 100,
      isPast: group.at <= this.service.now(),
      words: this.words(group),
    }));
  });

  private readonly allMarks = computed<Mark[]>(() => {
    const { from, until } = this.scale();
    return marksOf(this.rows(), { from, until } as Interval);
  });

  ngAfterViewInit(): void {
    this.observer.observe(this.axis().nativeElement);
  }

  ngOnDestroy(): void {
    this.observer.disconnect();
  }

  private words({ marks }: MarkGroup): string {
    const lines = marks
      .slice(0, 8)
      .map(({ at, kind, name }) => `${this.write(at)}: ${name} ${kind === 'live' ? 'goes live' : 'comes off'}`);
    return [...lines, ...(marks.length > 8 ? [`and ${marks.length - 8} more`] : [])].join('\n');
  }

  private write(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }
}
