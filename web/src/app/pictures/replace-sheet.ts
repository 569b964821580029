import { A11yModule } from '@angular/cdk/a11y';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
  type AfterViewInit,
  type OnDestroy,
} from '@angular/core';
import type { PictureUses, PictureView } from '@domatium/contracts';
import { heaviest, PicturesService, writeBytes } from './pictures.service';
import { countOf, namesOf, reachWords } from './reach-words';
import { say } from '@domatium/core/words/pictures';
import { say as common } from '@domatium/core/words/common';

/** What replacing a picture everywhere does, before it is done: the one that is there, the new one, and who will see it. */
@Component({
  selector: 'dm-replace-sheet',
  imports: [A11yModule],
  template: `
    <section role="dialog" cdkTrapFocus [attr.aria-label]="say.replaceEverywhere" aria-modal="true" (keydown.escape)="closed.emit()" tabindex="-1" #sheet>
      <div class="head">
        <h2>{{ say.replaceEverywhereWithName(picture().name) }}</h2>
        <button type="button" class="btn-link-plain quiet" (click)="closed.emit()">{{ common.close }}</button>
      </div>
      <div class="pair">
        <figure>
          @if (picture().variants.at(-1); as large) {
            <img [src]="large.src" [alt]="picture().description" />
          }
          <figcaption class="number"><strong>{{ common.now }}</strong> {{ nowWords() }}</figcaption>
        </figure>
        <figure>
          @if (isShown()) {
            <img [src]="address()" [alt]="say.theNewOne" #fresh (load)="measure(fresh)" (error)="isShown.set(false)" />
          } @else {
            <p class="quiet">{{ say.itAppearsOnceItsSizesAre }}</p>
          }
          <figcaption class="number"><strong>{{ say.new }}</strong> {{ newWords() }}</figcaption>
        </figure>
      </div>
      @if (uses(); as all) {
        <p>{{ reachWords(all) }}</p>
        @if (namesOf(all); as text) {
          <p class="quiet">{{ text }}</p>
        }
        @if (isOtherShape() && parts()) {
          <p class="quiet">{{ say.itsShapeIsAnotherCutAt(partWords()) }}</p>
        }
        <fieldset>
          <legend class="form-label">{{ say.howIsItDescribed }}</legend>
          <label class="form-check">
            <input type="radio" class="form-check-input" name="described" [checked]="fits() === true" (change)="fits.set(true)" />
            <span class="form-check-label">{{ say.asBefore }} <span class="quiet">{{ picture().description || say.itHasNoDescription }}</span></span>
          </label>
          <label class="form-check">
            <input type="radio" class="form-check-input" name="described" [checked]="fits() === false" (change)="fits.set(false)" />
            <span class="form-check-label">{{ say.withNewWords }}</span>
          </label>
          @if (fits() === false) {
            <textarea
              class="form-control"
              rows="2"
              maxlength="500"
              [attr.aria-label]="say.describeTheNewOne"
              [value]="words()"
              (input)="words.set($any($event.target).value)"
            ></textarea>
            <p class="field-note">{{ say.placesWithWordsOfTheirOwn }}</p>
          }
        </fieldset>
        @if (all.refusal; as text) {
          <p class="field-error" role="alert">{{ say.bringItInAsAPicture(text) }}</p>
        }
      } @else {
        <p class="quiet" role="status">{{ say.checkingWhereItIsUsed }}</p>
      }
      <div class="foot">
        <button type="button" class="btn btn-primary" [disabled]="!uses() || !!uses()?.refusal || !isDescribed()" (click)="replace()">
          {{ say.replaceEverywhere }}
        </button>
        <span class="quiet">{{ say.theCurrentOneIsKeptAnd }}</span>
      </div>
    </section>
  `,
  styleUrls: ['./crop-sheet.scss', './replace-sheet.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReplaceSheet implements AfterViewInit, OnDestroy {
  protected readonly say = say;
  protected readonly common = common;
  readonly picture = input.required<PictureView>();
  /** What takes its place: a file that is brought in, or a picture from the shelf. */
  readonly fresh = input.required<File | PictureView>();
  readonly closed = output();
  /** Whether the description still fits; `null` until that is said. */
  protected readonly fits = signal<boolean | null>(null);
  protected readonly words = signal('');
  protected readonly isDescribed = computed(
    () => this.fits() === true || (this.fits() === false && !!this.words().trim()),
  );
  private readonly pictures = inject(PicturesService);
  private readonly sheet = viewChild.required<ElementRef<HTMLElement>>('sheet');
  private readonly before = document.activeElement as HTMLElement | null;
  protected readonly address = signal('');
  protected readonly uses = signal<PictureUses | null>(null);
  protected readonly isShown = signal(false);
  private readonly size = signal<{ readonly width: number; readonly height: number } | null>(null);
  protected readonly parts = computed(
    () => this.pictures.pictures().filter(({ ofId }) => ofId === this.picture().id).length,
  );
  protected readonly isOtherShape = computed(() => {
    const [{ width, height }, size] = [this.picture(), this.size()];
    return size !== null && Math.abs((size.width * height) / (size.height * width) - 1) > 0.03;
  });
  protected readonly nowWords = computed(() => {
    const { width, height } = this.picture();
    const bytes = heaviest(this.picture());
    return `${sides({ width, height })}${bytes ? say.visitorsFetchAtMost(writeBytes(bytes)) : ''}`;
  });
  protected readonly newWords = computed(() => {
    const size = this.size();
    const [fresh, shape] = [this.fresh(), size ? `${sides(size)} · ` : ''];
    return fresh instanceof File
      ? say.beforeItIsMadeLight(shape, writeBytes(fresh.size))
      : say.staysHereToo(`${fresh.name} · ${sides(fresh)}`);
  });

  constructor() {
    effect(() => {
      const id = this.picture().id;
      untracked(() => void this.pictures.usesOf(id).then((uses) => this.uses.set(uses)));
    });
    effect(() => {
      const fresh = this.fresh();
      untracked(() => {
        this.release();
        this.address.set(fresh instanceof File ? URL.createObjectURL(fresh) : (fresh.variants.at(-1)?.src ?? ''));
        this.isShown.set(this.address() !== '');
        this.size.set(fresh instanceof File ? null : fresh);
        if (!(fresh instanceof File)) this.words.set(fresh.description);
      });
    });
  }

  ngAfterViewInit(): void {
    this.sheet().nativeElement.focus();
  }

  ngOnDestroy(): void {
    this.release();
    this.before?.focus();
  }

  private release(): void {
    if (this.address().startsWith('blob:')) URL.revokeObjectURL(this.address());
  }

  protected measure({ naturalWidth, naturalHeight }: HTMLImageElement): void {
    if (naturalWidth && naturalHeight && this.fresh() instanceof File)
      this.size.set({ width: naturalWidth, height: naturalHeight });
  }

  protected partWords(): string {
    return this.parts() === 1 ? say.thePartThatIsUsedOf : say.thePartsThatAreUsedOf(this.parts());
  }

  protected reachWords(uses: PictureUses): string {
    const faces = uses.sites.length ? say.itIsTheFaceOfToo(countOf(uses.sites.length, 'site')) : '';
    return `${reachWords(uses, say.asSoonAsItsSizesAre)}${faces}`;
  }

  protected readonly namesOf = namesOf;

  protected replace(): void {
    void this.pictures.replace(this.picture(), this.fresh(), this.fits() === false ? this.words() : null);
    this.closed.emit();
  }
}

const sides = ({ width, height }: { readonly width: number; readonly height: number }) =>
  `${width.toLocaleString('en')} × ${height.toLocaleString('en')}`;
