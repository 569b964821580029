import { A11yModule } from '@angular/cdk/a11y';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
  type AfterViewInit,
  type OnDestroy,
} from '@angular/core';
import type { Crop, PictureView } from '@domatium/contracts';
import type { PictureUse } from '@domatium/core/document';
import type { PictureId } from '@domatium/core/plan';
import Cropper from 'cropperjs';
import { Refusal } from '../hub/api';
import { PicturesService } from './pictures.service';
import { say } from '@domatium/core/words/pictures';
import { say as common } from '@domatium/core/words/common';

const WHOLE: Crop = { x: 0, y: 0, width: 1000, height: 1000 };
const SHAPES = [
  { label: say.free, ratio: Number.NaN },
  { label: '16 : 9', ratio: 16 / 9 },
  { label: '3 : 2', ratio: 3 / 2 },
  { label: say.square, ratio: 1 },
  { label: '4 : 5', ratio: 4 / 5 },
];

/** Which part of a picture one place shows, and what must stay in view where it is cut to fit there. */
@Component({
  selector: 'dm-crop-sheet',
  imports: [A11yModule],
  template: `
    <section role="dialog" cdkTrapFocus [attr.aria-label]="say.crop" aria-modal="true" (keydown.escape)="closed.emit()" tabindex="-1" #sheet>
      <div class="head">
        <h2>{{ say.cropForThisPlace(source().name) }}</h2>
        <button type="button" class="btn-link-plain quiet" (click)="closed.emit()">{{ common.close }}</button>
      </div>
      <div class="work"><img #picture [src]="shown()" alt="" /></div>
      <div class="line">
        <span class="form-label">{{ say.shape }}</span>
        <div class="choices" role="group" [attr.aria-label]="say.shape">
          @for (shape of shapes; track shape.label) {
            <button type="button" [attr.aria-pressed]="shaped() === shape.label" (click)="setShape(shape.label, shape.ratio)">
              {{ shape.label }}
            </button>
          }
        </div>
        @for (side of sides; track side.key) {
          <label
            >{{ side.label }}
            <input
              type="number"
              class="form-control number"
              min="0"
              max="100"
              step="0.1"
              [value]="(area()[side.key] / 10).toFixed(1)"
              (change)="type(side.key, $any($event.target).valueAsNumber)"
          /></label>
        }
        <span class="quiet number">{{ pixels() }}</span>
      </div>
      <div class="line">
        <span class="form-label">{{ say.keepInView }}</span>
        <button type="button" class="focus" [attr.aria-label]="say.whatMustStayInView" (click)="point($event)" (keydown)="nudge($event)">
          <img [src]="shown()" alt="" /><i [style.left.%]="focus().x / 10" [style.top.%]="focus().y / 10"></i>
        </button>
        <p class="quiet">{{ say.pressOnWhatMustNotBe(focusWords()) }}</p>
      </div>
      @if (trouble(); as text) {
        <p class="field-error" role="alert">{{ text }}</p>
      }
      <div class="foot">
        <button type="button" class="btn btn-primary" [disabled]="isBusy()" (click)="take()">{{ say.useThisCrop }}</button>
        <span class="quiet">{{ say.otherPlacesThatShowThePicture }}</span>
      </div>
    </section>
  `,
  styleUrl: './crop-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CropSheet implements AfterViewInit, OnDestroy {
  protected readonly say = say;
  protected readonly common = common;
  readonly use = input.required<PictureUse>();
  readonly closed = output();
  readonly taken = output<PictureUse>();
  private readonly pictures = inject(PicturesService);
  private readonly image = viewChild.required<ElementRef<HTMLImageElement>>('picture');
  private readonly sheet = viewChild.required<ElementRef<HTMLElement>>('sheet');
  private cropper: Cropper | null = null;
  protected readonly shapes = SHAPES;
  protected readonly sides = [
    { key: 'x', label: say.left },
    { key: 'y', label: say.top },
    { key: 'width', label: say.wide },
    { key: 'height', label: say.high },
  ] as const;
  private readonly used = computed(() => this.pictures.byId().get(this.use().pictureId) ?? null);
  /** The picture that was brought in: a part of a part is a part of it. */
  protected readonly source = computed<PictureView>(() => {
    const used = this.used() as PictureView;
    return (used.ofId === null ? null : this.pictures.byId().get(used.ofId)) ?? used;
  });
  protected readonly shown = computed(() => {
    const { variants } = this.source();
    return (variants.find(({ width }) => width >= 900) ?? variants.at(-1))?.src ?? '';
  });
  protected readonly area = signal<Crop>(WHOLE);
  protected readonly focus = signal<{ x: number; y: number }>({ x: 500, y: 500 });
  protected readonly shaped = signal(say.free);
  protected readonly isBusy = signal(false);
  protected readonly trouble = signal<string | null>(null);
  protected readonly pixels = computed(() => {
    const { width, height } = this.source();
    const of = (whole: number, part: number) => Math.round((whole * part) / 1000).toLocaleString('en');
    return say.of(
      of(width, this.area().width),
      of(height, this.area().height),
      width.toLocaleString('en'),
      height.toLocaleString('en'),
    );
  });
  protected readonly focusWords = computed(() => say.fromTheLeftFromTheTop(this.focus().x / 10, this.focus().y / 10));

  ngAfterViewInit(): void {
    this.area.set(this.used()?.crop ?? WHOLE);
    this.focus.set(this.use().focus ?? { x: 500, y: 500 });
    this.sheet().nativeElement.focus();
    const image = this.image().nativeElement;
    this.cropper = new Cropper(image, {
      viewMode: 1,
      autoCropArea: 1,
      zoomable: false,
      background: false,
      // Sizes are made upright: there is nothing to turn.
      checkOrientation: false,
      ready: () => this.draw(this.area()),
      crop: ({ detail }) => this.read(detail),
    });
  }

  ngOnDestroy(): void {
    this.cropper?.destroy();
  }

  private read({ x, y, width, height }: { x: number; y: number; width: number; height: number }): void {
    const { naturalWidth, naturalHeight } = this.image().nativeElement;
    const share = (value: number, of: number, most = 1000) =>
      Math.max(0, Math.min(most, Math.round((value / of) * 1000)));
    const [left, top] = [share(x, naturalWidth), share(y, naturalHeight)];
    this.area.set({
      x: left,
      y: top,
      width: share(width, naturalWidth, 1000 - left),
      height: share(height, naturalHeight, 1000 - top),
    });
  }

  private draw({ x, y, width, height }: Crop): void {
    const { naturalWidth, naturalHeight } = this.image().nativeElement;
    this.cropper?.setData({
      x: (x * naturalWidth) / 1000,
      y: (y * naturalHeight) / 1000,
      width: (width * naturalWidth) / 1000,
      height: (height * naturalHeight) / 1000,
    });
  }

  protected setShape(label: string, ratio: number): void {
    this.shaped.set(label);
    this.cropper?.setAspectRatio(ratio);
  }

  protected type(key: keyof Crop, percent: number): void {
    if (Number.isNaN(percent)) return;
    const next = { ...this.area(), [key]: Math.round(Math.max(0, Math.min(100, percent)) * 10) };
    this.draw({
      ...next,
      width: Math.max(20, Math.min(next.width, 1000 - next.x)),
      height: Math.max(20, Math.min(next.height, 1000 - next.y)),
    });
  }

  protected point(event: MouseEvent): void {
    if (!event.clientX && !event.clientY) return;
    const { left, top, width, height } = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const share = (value: number, of: number) => Math.max(0, Math.min(1000, Math.round((value / of) * 1000)));
    this.focus.set({ x: share(event.clientX - left, width), y: share(event.clientY - top, height) });
  }

  protected nudge(event: KeyboardEvent): void {
    const step = { ArrowLeft: [-20, 0], ArrowRight: [20, 0], ArrowUp: [0, -20], ArrowDown: [0, 20] }[event.key];
    if (!step) return;
    event.preventDefault();
    const within = (value: number) => Math.max(0, Math.min(1000, value));
    this.focus.update(({ x, y }) => ({ x: within(x + (step[0] ?? 0)), y: within(y + (step[1] ?? 0)) }));
  }

  protected async take(): Promise<void> {
    const area = this.area();
    const isWhole = area.width >= 995 && area.height >= 995;
    this.isBusy.set(true);
    try {
      const { id } = isWhole ? this.source() : await this.pictures.crop(this.source().id, area);
      const { x, y } = this.focus();
      const { focus: _, ...use } = this.use();
      const isMiddle = Math.abs(x - 500) < 15 && Math.abs(y - 500) < 15;
      this.taken.emit({ ...use, pictureId: id as PictureId, ...(isMiddle ? {} : { focus: { x, y } }) });
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.trouble.set(error.message);
    } finally {
      this.isBusy.set(false);
    }
  }
}
