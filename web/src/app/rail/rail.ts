import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
  viewChild,
  type OnDestroy,
  type AfterViewInit,
} from '@angular/core';
import { NgbDropdownModule, NgbTooltip } from '@ng-bootstrap/ng-bootstrap';
import type { MarkGroup } from '@domatium/core/register';
import {
  DAY,
  dayOf,
  dayOrderOf,
  instantOfWall,
  isoInstant,
  MINUTE,
  parseWhen,
  placeOfZone,
  writeDistance,
  writeInstant,
  type Instant,
} from '@domatium/core/time';
import type { RailView } from '../hub/desk';
import { RegisterService } from '../hub/register.service';
import { PlaceService, USUAL_REACH, type Reach } from '../hub/place.service';
import { fineTicksOn, fraction, keyStepOf, snapOf, ticksOn } from '../shared/scale';
import { say } from '@domatium/core/words/rail';

/** Marks closer than this would touch; on a phone each has the room of a finger. */
const [CLOSEST, CLOSEST_BY_FINGER] = [13, 27];
/** From an hour or two to ten years. */
const [SHORTEST, LONGEST] = [2 / 24, 3650];
const ZOOM = 1.25;

const REACHES: readonly { readonly label: string; readonly reach: Reach }[] = [
  { label: say.n12HoursAboutNow, reach: { back: -0.125, ahead: 0.375 } },
  { label: say.n2DaysBack5Ahead, reach: { back: -2, ahead: 5 } },
  { label: say.n30DaysBack90Ahead, reach: USUAL_REACH },
  { label: say.aYearBackAYearAhead, reach: { back: -365, ahead: 365 } },
  { label: say.n5YearsAboutNow, reach: { back: -1095, ahead: 730 } },
];

/** When: the time rail. Its handle sets the moment the whole application shows; it zooms from hours to years. */
@Component({
  selector: 'dm-rail',
  host: { role: 'region', 'aria-label': 'Time' },
  imports: [NgbTooltip, NgbDropdownModule],
  templateUrl: './rail.html',
  styleUrl: './rail.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Rail implements AfterViewInit, OnDestroy {
  protected readonly say = say;
  protected readonly service = inject(RegisterService);
  protected readonly place = inject(PlaceService);
  private readonly axis = viewChild.required<ElementRef<HTMLElement>>('axis');
  private readonly width = signal(900);
  private readonly observer = new ResizeObserver(([entry]) => entry && this.width.set(entry.contentRect.width));
  private readonly view = signal<RailView>({ marks: [], next: null });
  protected readonly reaches = REACHES;

  protected readonly scale = this.service.scale;
  protected readonly nowAt = computed(() => fraction(this.scale(), this.service.now()) * 100);
  protected readonly shownAt = computed(() =>
    Math.min(100, Math.max(0, fraction(this.scale(), this.service.handle()) * 100)),
  );
  /** "London" of Europe/London: whose clock it is. */
  protected readonly zoneName = computed(() => placeOfZone(this.service.zone()));
  /** What was typed and is no moment. */
  protected readonly wrong = signal<string | null>(null);
  protected readonly shownText = computed(() => this.write(this.service.handle()));
  protected readonly underText = computed(() => {
    if (!this.service.isNow()) return writeDistance(this.service.shown(), this.service.now());
    const { next } = this.view();
    return next === null ? say.nothingIsPlanned : say.nextChange(this.write(next));
  });
  protected readonly ticks = computed(() =>
    ticksOn(this.scale(), this.service.zone()).map((tick) => ({
      ...tick,
      left: fraction(this.scale(), tick.at) * 100,
    })),
  );
  protected readonly fine = computed(() =>
    fineTicksOn(this.scale(), this.service.zone()).map((at) => fraction(this.scale(), at) * 100),
  );
  protected readonly marks = computed(() =>
    this.view().marks.map((group) => ({
      ...group,
      left: fraction(this.scale(), group.at) * 100,
      isPast: group.at <= this.service.now(),
      words: this.words(group),
    })),
  );
  protected readonly reachWords = computed(() => {
    const { back, ahead } = this.place.reach();
    return { back: lengthWords(-back, 'back'), ahead: lengthWords(ahead, 'ahead') };
  });

  constructor() {
    effect(() => {
      const [scope, span] = [this.place.scope(), this.scale()];
      if (!this.service.version()) return;
      const apart = this.width() < 700 && matchMedia('(max-width: 700px)').matches ? CLOSEST_BY_FINGER : CLOSEST;
      const closest = (apart / Math.max(1, this.width())) * (span.until - span.from);
      const now = this.service.now();
      void this.service.desk
        .rail(scope, { from: span.from, until: span.until }, closest, now, now)
        .then((view) => this.view.set(view));
    });
  }

  ngAfterViewInit(): void {
    this.observer.observe(this.axis().nativeElement);
    // Not passive: a wheel that zooms does not scroll.
    this.axis().nativeElement.addEventListener('wheel', (event) => this.wheel(event), { passive: false });
  }

  ngOnDestroy(): void {
    this.observer.disconnect();
  }

  /** Drags the handle: the moment follows at once, the address bar when it is let go. */
  protected grab(event: PointerEvent): void {
    if (event.button !== 0) return;
    event.preventDefault();
    const handle = event.currentTarget as HTMLElement;
    handle.focus({ preventScroll: true });
    handle.setPointerCapture(event.pointerId);
    let isMoved = false;
    const move = (moved: PointerEvent) => {
      isMoved ||= Math.abs(moved.clientX - event.clientX) > 2;
      if (isMoved) this.place.dragged.set(this.snapped(this.momentAt(moved.clientX)));
    };
    const end = (ended: PointerEvent) => {
      handle.removeEventListener('pointermove', move);
      handle.removeEventListener('pointerup', end);
      handle.removeEventListener('pointercancel', end);
      const dragged = this.place.dragged();
      this.place.dragged.set(null);
      if (dragged !== null && ended.type === 'pointerup') this.see(dragged);
    };
    handle.addEventListener('pointermove', move);
    handle.addEventListener('pointerup', end);
    handle.addEventListener('pointercancel', end);
  }

  /** Pans: what is under the pointer stays under it. */
  protected pan(event: PointerEvent): void {
    if (event.button !== 0 || (event.target as HTMLElement).closest('.handle, .happening')) return;
    const axis = this.axis().nativeElement;
    const { back, ahead } = this.place.reach();
    axis.setPointerCapture(event.pointerId);
    const move = (moved: PointerEvent) => {
      const days = ((event.clientX - moved.clientX) / this.width()) * (ahead - back);
      this.reachTo({ back: back + days, ahead: ahead + days });
    };
    const end = () => {
      axis.removeEventListener('pointermove', move);
      axis.removeEventListener('pointerup', end);
      axis.removeEventListener('pointercancel', end);
    };
    axis.addEventListener('pointermove', move);
    axis.addEventListener('pointerup', end);
    axis.addEventListener('pointercancel', end);
  }

  private wheel(event: WheelEvent): void {
    event.preventDefault();
    const at = (event.clientX - this.axis().nativeElement.getBoundingClientRect().left) / this.width();
    if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
      const { back, ahead } = this.place.reach();
      const days = ((event.deltaX || event.deltaY) / this.width()) * (ahead - back);
      this.reachTo({ back: back + days, ahead: ahead + days });
    } else this.zoom(event.deltaY > 0 ? ZOOM : 1 / ZOOM, at);
  }

  /** Zooms about a place of the rail, 0 its start and 1 its end. */
  protected zoom(by: number, about = this.shownAt() / 100): void {
    const { back, ahead } = this.place.reach();
    const length = Math.min(LONGEST, Math.max(SHORTEST, (ahead - back) * by));
    const middle = back + (ahead - back) * about;
    this.reachTo({ back: middle - length * about, ahead: middle + length * (1 - about) });
  }

  protected reachTo({ back, ahead }: Reach): void {
    const round = (days: number) => Number(days.toFixed(Math.abs(ahead - back) > 20 ? 0 : 3));
    const isUsual = round(back) === USUAL_REACH.back && round(ahead) === USUAL_REACH.ahead;
    this.place.go({ rail: isUsual ? null : `${round(back)}~${round(ahead)}` }, true);
  }

  protected key(event: KeyboardEvent): void {
    const step = keyStepOf(this.scale());
    const moves: Record<string, number | undefined> = {
      ArrowLeft: -step,
      ArrowRight: step,
      PageDown: -7 * step,
      PageUp: 7 * step,
    };
    const by = moves[event.key];
    // Dozens of marks would be dozens of stops of Tab: they are gone over from the handle.
    const next = event.altKey && by !== undefined ? this.markBeside(by > 0) : null;
    if (next !== null) this.see(next);
    else if (by !== undefined) this.see(this.snapped((this.service.shown() + by) as Instant));
    else if (event.key === 'Home' || event.key === 'Escape') this.back();
    else if (event.key === '+') this.zoom(1 / ZOOM);
    else if (event.key === '-') this.zoom(ZOOM);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private markBeside(isAhead: boolean): number | null {
    const shown = this.service.shown();
    const ats = this.view().marks.map(({ at }) => at);
    return isAhead ? (ats.find((at) => at > shown) ?? null) : (ats.findLast((at) => at < shown) ?? null);
  }

  /** A moment that was typed; one beyond the rail makes it reach further. */
  protected typed(field: HTMLInputElement): void {
    const text = field.value.trim();
    if (text === this.shownText()) return this.wrong.set(null);
    const [now, zone] = [this.service.now(), this.service.zone()];
    if (!text || text.toLowerCase() === say.theWordNow) {
      this.wrong.set(null);
      field.value = this.shownText();
      return this.back();
    }
    const local = parseWhen(text, dayOf(now, zone), dayOrderOf());
    const at = local && instantOfWall({ local, zone });
    this.wrong.set(at ? null : text);
    if (!at) return;
    const { back, ahead } = this.place.reach();
    const days = (at - now) / DAY;
    if (days > ahead) this.reachTo({ back, ahead: days * 1.1 });
    if (days < back) this.reachTo({ back: days * 1.1, ahead });
    this.see(at);
    // The same moment written otherwise reads as it is written here.
    field.value = this.write(at);
  }

  /** Esc gives back what stood there. */
  protected leave(field: HTMLInputElement): void {
    this.wrong.set(null);
    field.value = this.shownText();
    field.blur();
  }

  /** Shows the whole application as of a moment. */
  protected see(at: number): void {
    this.wrong.set(null);
    const minute = Math.round(at / MINUTE) * MINUTE;
    this.place.go({ at: isoInstant(minute as Instant), panel: null }, !this.service.isNow());
  }

  protected back(): void {
    this.place.go({ at: null, since: null, panel: null });
  }

  private momentAt(x: number): Instant {
    const { left } = this.axis().nativeElement.getBoundingClientRect();
    const { from, until } = this.scale();
    const share = Math.min(1, Math.max(0, (x - left) / this.width()));
    return (from + share * (until - from)) as Instant;
  }

  private snapped(at: Instant): Instant {
    const step = snapOf(this.scale());
    return (Math.round(at / step) * step) as Instant;
  }

  private words({ marks, count }: MarkGroup): string {
    const lines = marks.map(
      ({ at, kind, name }) => `${this.write(at)}: ${name} ${kind === 'live' ? say.goesLive : say.comesOff}`,
    );
    return [...lines, ...(count > marks.length ? [say.andMore(count - marks.length)] : [])].join('\n');
  }

  private write(at: number): string {
    return writeInstant(at as Instant, this.service.zone(), this.service.now());
  }
}

/** "90 days ahead", "3 hours back", "2 years ahead"; of something on the other side of now, the other word. */
function lengthWords(days: number, word: 'back' | 'ahead'): string {
  const side = days < 0 ? (word === 'back' ? 'ahead' : 'back') : word;
  const length = Math.abs(days);
  const [n, unit]: [number, 'year' | 'day' | 'hour' | 'minute'] =
    length >= 730
      ? [length / 365, 'year']
      : length >= 2
        ? [length, 'day']
        : length >= 1 / 24
          ? [length * 24, 'hour']
          : [length * 1440, 'minute'];
  return say.farFrom(Math.round(n), unit, side);
}
